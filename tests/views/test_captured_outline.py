"""What a captured table would make of the package, or why it would make none."""

from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.demo.parts import captures
from eider.drawings.primitives import DimensionLine
from eider.library import Library
from eider.views.captured_outline import captured_outline

LETTERS = {"H": "E", "E": "E1", "D": "D", "e": "e", "b": "b", "L": "L", "A": "A", "A1": "A1", "c": "c"}


def test_each_letter_is_in_the_view_that_shows_it(library: Library) -> None:
    bundle = new_parts.new_part("NVK-9", "ic", library.settings)
    found = next(table for table in captures("NVK-1216T") if table.kind == "dimensions")
    made = captured_outline(bundle, found, LETTERS, "", "mm")
    assert made.fault == ""

    def letters(letter: str) -> set[str]:
        drawing = made.drawing_of(letter)
        assert drawing is not None
        return {p.letter for p in drawing.primitives if isinstance(p, DimensionLine)}

    assert "E" in letters("E")
    assert "E" not in letters("A1")
    assert {"A", "A1"} <= letters("A1")
    # A letter of no view, and none at all, give the first.
    assert letters("") == letters("E")


def test_a_table_without_letters_says_why_nothing_is_drawn(library: Library) -> None:
    bundle = package_edits.set_family(new_parts.new_part("NVK-9", "ic", library.settings), "gullwing-dual")
    found = next(table for table in captures("NVK-1216T") if table.kind == "dimensions")
    made = captured_outline(bundle, found, {}, "", "mm")
    assert made.drawings == ()
    assert made.fault != ""
    assert made.drawing_of("E") is None
