from pathlib import Path

from eider.datasheets import Datasheet
from eider.demo.build import converter_part
from eider.library import Library
from eider.model.part import DatasheetLink
from eider.reports.proof import write_proof
from eider.rulebooks import standard_rulebook
from eider.workbench import edits
from eider.workbench.generate import Rules, evaluate


def test_the_proof_has_everything_on_one_page(library: Library, tmp_path: Path) -> None:
    made = edits.set_dimension(converter_part(library, DatasheetLink("0" * 64, "x.pdf")), "b", "0.20–0.30")
    outcome = evaluate(made, Rules(standard_rulebook(), library.settings))
    document = Datasheet(write_proof(outcome.bundle, outcome.findings, standard_rulebook(), tmp_path))
    text = document.text(1)
    assert document.pages == 1
    for expected in (
        "NVK-1216T",
        "PWRDN (active low)",
        "Norrvik Semi",
        "SOP65P640X120-16N",
        "no evidence for b",
        "draft",
    ):
        assert expected in text
    # Z of the land pattern drawing, with the unit once for the drawing.
    assert "7.3" in text
    assert "dimensions in mm" in text
    document.close()


def test_an_unfinished_part_has_a_proof_too(library: Library, tmp_path: Path) -> None:
    new = edits.new_part("NVK-1", "ic", library.settings)
    path = write_proof(new, (), standard_rulebook(), tmp_path)
    assert "missing" in Datasheet(path).text(1)
