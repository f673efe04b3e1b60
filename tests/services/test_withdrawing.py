"""A withdrawn part stays readable, is found only when asked for, says so everywhere, and can be used again."""

from pathlib import Path

import pytest

from command_line import answer, eider
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import InputError, NotFoundError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.part import DatasheetLink
from eider.services.facts.bills import bill_columns, make_bill, open_list
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import export_part
from eider.services.releasing.part_releasing import release_part
from eider.services.releasing.withdrawing import reinstate_part, withdraw_part, withdrawn_words


@pytest.fixture
def stocked(library: Library) -> Library:
    series = chips()
    for size in series.sizes[:2]:
        release_part(
            library, chip_part(library, series, size, "100 nF", DatasheetLink("0" * 64, "LYN-C.pdf", 2)), "first"
        )
    return library


def test_it_is_found_only_when_asked_for_and_can_be_used_again(stocked: Library, tmp_path: Path) -> None:
    part = stocked.find("LYN-C1005-100N")
    made = withdraw_part(stocked, part.id, "the maker stopped", "LYN-C1608-100N")
    assert made.revision == 2
    assert [row.name for row in stocked.search("100 nF")] == ["LYN-C1608-100N"]
    assert len(stocked.find_parts("100 nF", with_withdrawn=True).rows) == 2
    assert [row.name for row in stocked.find_parts("", {"state": ["withdrawn"]}).rows] == ["LYN-C1005-100N"]
    bundle = stocked.load(part.id)
    words = withdrawn_words(bundle)
    assert words.endswith(": the maker stopped; use LYN-C1608-100N in its place")
    assert export_part(bundle, ["csv"], tmp_path / "out", rules_for(stocked, bundle)).log[0].endswith(words)
    assert stocked.load_release(part.id, 1).part.withdrawn is None, "the first revision is as it was"
    (tmp_path / "list.csv").write_text("Reference,Part\nC1,LYN-C1005-100N\n", encoding="utf-8")
    bill = make_bill(stocked, open_list(stocked, tmp_path / "list.csv"), bill_columns(stocked))
    assert any("is withdrawn; choose its successor" in text for text in bill.table.findings)
    assert reinstate_part(stocked, part.id, "a stock was found").revision == 3
    assert stocked.find("LYN-C1005-100N").state == "released"
    assert withdrawn_words(stocked.load(part.id)) == ""


def test_what_cannot_be_withdrawn_says_why(stocked: Library) -> None:
    part, other = stocked.find("LYN-C1005-100N"), stocked.find("LYN-C1608-100N")
    with pytest.raises(InputError, match="say why"):
        withdraw_part(stocked, part.id, " ")
    with pytest.raises(NotFoundError):
        withdraw_part(stocked, part.id, "x", "unheard-of")
    with pytest.raises(InputError, match="cannot follow"):
        withdraw_part(stocked, part.id, "x", part.name)
    with pytest.raises(InputError, match="is not withdrawn"):
        reinstate_part(stocked, part.id, "x")
    withdraw_part(stocked, part.id, "x")
    with pytest.raises(InputError, match="withdrawn already"):
        withdraw_part(stocked, part.id, "y")
    with pytest.raises(InputError, match="cannot follow"):
        withdraw_part(stocked, other.id, "y", part.name)
    stocked.copies.save(WorkingCopy(bundle=stocked.load(other.id)))
    with pytest.raises(InputError, match="is being worked on"):
        withdraw_part(stocked, other.id, "y")


def test_the_command(stocked: Library) -> None:
    folder = str(stocked.folder)
    made = answer("withdraw", folder, "LYN-C1005-100N", "--note", "stopped", "--successor", "LYN-C1608-100N")
    assert (made["state"], made["revision"]) == ("withdrawn", 2)
    assert answer("search", folder, "100 nF")["count"] == 1
    assert answer("search", folder, "100 nF", "--withdrawn")["count"] == 2
    assert answer("withdraw", folder, "LYN-C1005-100N", "--note", "found", "--undo")["state"] == "released"
    assert "is not withdrawn" in eider("withdraw", folder, "LYN-C1005-100N", "--note", "x", "--undo", status=2).stderr
