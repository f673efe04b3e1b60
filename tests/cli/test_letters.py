"""What a family asks for, and what a draft says of the packages of its document, from the command line."""

import json
from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.platypus import Paragraph, SimpleDocTemplate, Table

from command_line import answer, eider
from drawn_tables import DUAL_ROWS
from eider.library import Library
from eider.packages.registry import all_families


def test_the_letters_of_a_family_are_listed_with_what_is_required() -> None:
    (family,) = answer("letters", "gullwing-dual")
    letters = {letter["key"]: letter for letter in family["letters"]}
    assert (family["family"], family["title"]) == ("gullwing-dual", all_families()["gullwing-dual"].title)
    assert letters["E"]["required"] and letters["E"]["view"] == "top" and "span" in letters["E"]["meaning"]
    assert not letters["D2"]["required"]
    assert [found["family"] for found in answer("letters")] == list(all_families())
    assert "no-such" in eider("letters", "no-such", status=2).stderr


def test_packages_of_a_document_are_named_where_one_has_to_be_chosen(library: Library, tmp_path: Path) -> None:
    text, grid = getSampleStyleSheet(), [("GRID", (0, 0), (-1, -1), 0.5, colors.black)]
    story = []
    for package in ("SOIC-8", "MSOP-8"):
        story += [Paragraph(f"{package} package dimensions, all lengths in mm", text["Heading2"])]
        story += [Table(DUAL_ROWS, style=grid)]
    SimpleDocTemplate(str(tmp_path / "LYN-OP2.pdf")).build(story)
    said = eider("draft", library.folder, tmp_path / "LYN-OP2.pdf", "--json", status=2)
    assert "several packages: MSOP-8, SOIC-8" in said.stderr
    packages = json.loads(said.stdout)["packages"]
    assert [(p["name"], p["pins"], p["tables"]) for p in packages] == [("SOIC-8", 8, 1), ("MSOP-8", 8, 1)]
    made = answer("draft", library.folder, tmp_path / "LYN-OP2.pdf", "--package", "SOIC-8", status=1)
    assert (made["package"], made["lands"], made["orders"]) == ("SOIC-8", "none", [])
