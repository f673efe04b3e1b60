from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.pins import pin_edits
from eider.datasheets import Datasheet
from eider.demo.parts import converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.library import Library
from eider.model.address import DimensionAddress, FactAddress
from eider.model.part import DatasheetLink
from eider.reports import cut_outs
from eider.reports.proof import proof_pdf, write_proof
from eider.reports.proof_changes import ProofChanges, former_texts
from eider.rulebooks import standard_rulebook


def test_the_proof_has_everything_and_each_values_place(library: Library, tmp_path: Path) -> None:
    made = package_edits.set_dimension(converter_part(library, DatasheetLink("0" * 64, "x.pdf")), "b", "0.20–0.30")
    outcome = evaluate_part(made, EvaluationRules(standard_rulebook(), library.settings))
    document = Datasheet(write_proof(outcome.bundle, outcome.findings, standard_rulebook(), tmp_path))
    text = document.text(1)
    assert document.pages == 3
    for expected in (
        "NVK-1216T",
        "PWRDN (active low)",
        "Norrvik Semi",
        "SOP65P640X120-16N",
        "No evidence for b",
        "draft",
    ):
        assert expected in text
    # Z of the land pattern drawing, with the unit once for the drawing.
    assert "7.3" in text
    assert "dimensions in mm" in text
    places = document.text(2)
    for expected in ("30 of 31 values with evidence, 0 confirmed", "E1 (sheet: E)", "0.19–0.30, page 3", "pin 16"):
        assert expected in places
    pinout = document.text(3)
    for expected in ("Pinout of NVK-1216T", "9 PWRDN: right row, first from the bottom", "AVDD"):
        assert expected in pinout
    document.close()


def test_the_cut_outs_are_drawn_from_the_datasheet(library: Library, tmp_path: Path) -> None:
    write_converter_datasheet(tmp_path / "x.pdf")
    made = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    rules = EvaluationRules(standard_rulebook(), library.settings)
    pixels = []
    for documents in ({}, {"0" * 64: tmp_path / "x.pdf"}, {"0" * 64: tmp_path / "gone.pdf"}):
        folder = tmp_path / str(len(pixels))
        folder.mkdir()
        outcome = evaluate_part(made, rules)
        proof = Datasheet(write_proof(outcome.bundle, outcome.findings, rules.rulebook, folder, documents))
        # The column of cut-outs: from 186 points right of the margin on, 210 wide.
        pixels.append(proof.picture(2, 1.0)[100:700, 225:420].astype(int))
        proof.close()
    assert (pixels[0] == pixels[2]).all()
    assert (abs(pixels[0] - pixels[1]) > 60).sum() > 2000


def test_an_unfinished_part_has_a_proof_too(library: Library, tmp_path: Path) -> None:
    new = new_parts.new_part("NVK-1", "ic", library.settings)
    path = write_proof(new, (), standard_rulebook(), tmp_path)
    assert "missing" in Datasheet(path).text(1)


def test_a_datasheet_is_opened_once_for_all_its_values(
    library: Library, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    sheet = tmp_path / "x.pdf"
    write_converter_datasheet(sheet)
    made = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    opened: list[Path] = []

    def opening(path: Path) -> Datasheet:
        opened.append(path)
        return Datasheet(path)

    monkeypatch.setattr(cut_outs, "Datasheet", opening)
    proof_pdf(made, (), standard_rulebook(), {"0" * 64: sheet})
    assert opened == [sheet]


def test_what_a_part_changes_in_its_revision_is_marked(library: Library, tmp_path: Path) -> None:
    rules = EvaluationRules(standard_rulebook(), library.settings)
    before = evaluate_part(converter_part(library, DatasheetLink("0" * 64, "x.pdf")), rules).bundle
    made = package_edits.set_dimension(fact_edits.set_fact(before, "Shelf", "A7"), "D", "5.1±0.1")
    outcome = evaluate_part(pin_edits.change_pin(made, 0, replace(made.symbol.pins[0], name="AVCC")), rules)
    changes = ProofChanges(before, "revision 1", ("Shelf added: A7", "Dimension D changed from 4.90–5.10 to 5.1±0.1"))
    former = former_texts(changes, outcome.bundle)
    assert former.values[DimensionAddress("D")] == "4.90–5.10" and former.values[FactAddress("Shelf")] == ""
    assert former.facts == {"Shelf": ""} and former.pins == {"1": "AVDD power input"}
    pages = write_proof(outcome.bundle, outcome.findings, rules.rulebook, tmp_path, changes=changes)
    document = Datasheet(pages)
    first, values, last = (document.text(page) for page in (1, 2, document.pages))
    assert "2 changes since revision 1: a bar marks them" in first and "begun from revision 1, not released" in first
    assert "Package, top, changed" in first and "Package, side, changed" not in first
    assert "was 4.90–5.10" in values and values.count("new") == 1
    assert "changed since revision 1" in last and "Dimension D changed from 4.90–5.10 to 5.1±0.1" in last
    document.close()
