"""Cited values read again: the demo's read the same; another text, a missing document and a wrong page are told."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.demo.build import attach
from eider.demo.parts import converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.evidence.evidence_changes import set_evidence
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.library.documents.working_copies import WorkingCopy
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.services.datasheets.evidence_verification import verify_parts
from eider.services.releasing.part_releasing import release_part
from eider.services.tasks import CancelledError, Task

E = DimensionAddress("E")


@pytest.fixture
def cited(library: Library, tmp_path: Path) -> Library:
    write_converter_datasheet(tmp_path / "NVK-1216T.pdf")
    release_part(library, converter_part(library, attach(library, tmp_path / "NVK-1216T.pdf", 4)), "first")
    return library


def _with_evidence(library: Library, **changes: object) -> Bundle:
    bundle = library.load(library.find("NVK-1216T").id)
    evidence = bundle.sheet.dims["E"].evidence
    assert evidence is not None
    made = set_evidence(bundle, {E: replace(evidence, **changes)})
    library.copies.save(WorkingCopy(bundle=made))
    return made


def test_all_values_of_a_sound_part_read_the_same(cited: Library) -> None:
    found = list(verify_parts(cited, cited.search()))
    assert {v.outcome for v in found} == {"same"}
    # Nine dimensions and sixteen pins are in tables.
    assert len(found) == 25


def test_what_reads_otherwise_is_told_with_both_texts(cited: Library) -> None:
    _with_evidence(cited, text="H | lead span | 6.30 | 6.60")
    result = eider("verify", cited.folder, status=1)
    assert "NVK-1216T sheet.dims.E, page 3" in result.stdout
    (differs,) = answer("verify", cited.folder, "NVK-1216T", status=1)["differs"]
    assert (differs["address"], differs["page"]) == ("sheet.dims.E", 3)
    assert "6.30" in differs["was"] and "6.20" in differs["reads"]


def test_an_empty_place_whose_text_stands_elsewhere_on_the_page_has_moved(cited: Library) -> None:
    _with_evidence(cited, box=(1.0, 1.0, 3.0, 3.0))
    assert [v.outcome for v in verify_parts(cited, cited.search()) if v.address == E] == ["moved"]


@pytest.mark.parametrize(("changes", "why"), [({"page": 99}, "page 99 is cited"), ({"document": "f" * 64}, "")])
def test_what_cannot_be_read_says_why(cited: Library, changes: dict[str, object], why: str) -> None:
    _with_evidence(cited, **changes)
    data = answer("verify", cited.folder)
    assert data["unreadable"] == 1 and why in data["why"][0]["why"]
    assert data["same"] == data["values"] - 1


def test_a_damaged_document_is_no_crash(cited: Library) -> None:
    made = _with_evidence(cited)
    evidence = made.sheet.dims["E"].evidence
    assert evidence is not None
    cited.attachments.path(DocumentKind.DATASHEET, evidence.document).write_bytes(b"no PDF at all")
    data = answer("verify", cited.folder)
    assert data["unreadable"] == data["values"] == 25


def test_it_is_cancelled(cited: Library) -> None:
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError):
        list(verify_parts(cited, cited.search(), task))
