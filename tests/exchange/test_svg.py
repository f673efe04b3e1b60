"""SVG: outlines of copper and graphics of symbols; what would do harm, or is a picture of Eider's own, is refused."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from carried_lands import family_part
from eider.commands.datasheets.found_parts import draft_of_found
from eider.errors import InputError
from eider.exchange.formats.svg.reader import read_svg
from eider.exchange.reading_hints import ReadingHints
from eider.library import Library
from eider.model.symbol import Pin
from eider.services.intake.arrivals import look_into
from eider.services.parts.part_evaluation import EvaluationRun
from eider.services.publishing.exporting import export_part

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{size}" height="{size}" viewBox="-5 -5 10 10">'


def _file(tmp_path: Path, body: str, size: str = "10mm", name: str = "P.svg") -> Path:
    path = tmp_path / name
    path.write_text(HEAD.format(size=size) + body + "</svg>")
    return path


def test_shapes_outside_of_any_layer_are_copper_if_they_are_filled(tmp_path: Path) -> None:
    path = _file(tmp_path, '<rect width="2" height="1"/><rect y="3" width="2" height="1" fill="none" stroke="#000"/>')
    (part,) = look_into([path], tmp_path / "u").parts
    assert [pad.box for pad in part.pads] == [(0, -1, 2, 0)]
    assert "closed shapes that are filled are taken as copper" in "\n".join(part.log)


@pytest.mark.parametrize(
    ("size", "unit", "width"), [("10mm", "", 2.0), ("1in", "", 5.08), ("10", "mil", 0.0508), ("10", "", 2 * 25.4 / 96)]
)
def test_lengths_are_those_of_the_file_or_as_the_user_said(tmp_path: Path, size: str, unit: str, width: float) -> None:
    path = _file(tmp_path, '<g id="pads"><rect x="-1" y="-.5" width="2" height="1"/></g>', size)
    (found,) = read_svg(path, ReadingHints(unit=unit)).parts  # type: ignore[arg-type]
    assert found.shapes.forms[0].opening.width == pytest.approx(width, abs=1e-6)
    assert any("names no unit" in words for words in found.log) is (size == "10" and not unit)


def test_a_path_that_is_turned_or_crosses_itself(tmp_path: Path) -> None:
    body = (
        '<g id="copper"><circle id="pad-1" r="1" transform="rotate(30) translate(2 0)"/>'
        '<path id="pad-2" d="M0 0 L2 2 L2 0 L0 2 z"/><path id="pad-3" d="M0 0h1v1z M3 3h1v1z"/></g>'
    )
    (part,) = look_into([_file(tmp_path, body)], tmp_path / "u").parts
    assert [(pad.number, pad.shape) for pad in part.pads] == [("1", "circle")]
    assert "2 shapes left out" in part.log[0]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ('<g id="a"><use href="#a"/></g>', "a use draws itself"),
        ("<g>" * 220 + "</g>" * 220, "nested too deeply"),
        (
            '<g id="a0"><rect width="1" height="1"/></g>'
            + "".join(f'<g id="a{n}">' + f'<use href="#a{n - 1}"/>' * 10 + "</g>" for n in range(1, 8)),
            "unfolds to more than 50,000 elements",
        ),
        ("", "has no shapes that can be read"),
        ('<g id="notes"><line x1="0" y1="0" x2="1" y2="1"/></g>', "has no closed shape in a group"),
        ('<rect width="1e9" height="1"/>', "more than a metre"),
    ],
)
def test_what_would_do_harm_or_is_nothing_is_refused(tmp_path: Path, body: str, says: str) -> None:
    with pytest.raises(InputError, match=says):
        read_svg(_file(tmp_path, body))


def test_entities_are_refused(tmp_path: Path) -> None:
    (tmp_path / "x.svg").write_text('<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>')
    with pytest.raises(InputError, match="has entities"):
        read_svg(tmp_path / "x.svg")


def test_a_drawing_by_eider_is_no_source_of_lands(library: Library, tmp_path: Path) -> None:
    bundle = family_part(library, "chip")
    made = export_part(bundle, ["svg"], tmp_path, EvaluationRun(library).rules_of(bundle))
    arrival = look_into([Path(name) for name in made.files], tmp_path / "u")
    assert arrival.parts == () and all("a drawing by Eider" in words for words in arrival.log)


SYMBOL = (
    '<line id="pin-K" x1="-5.08" y1="0" x2="-2.54" y2="0" stroke="#000"/>'
    '<line id="pin-A" x1="5.08" y1="0" x2="2.54" y2="0" stroke="#000"/><circle r="2.54" fill="none" stroke="#000"/>'
)


def test_a_graphic_is_kept_with_its_pins_in_the_order_of_the_table(library: Library, tmp_path: Path) -> None:
    path = _file(tmp_path, SYMBOL, name="D-symbol.svg")
    (found,) = read_svg(path).parts
    draft = draft_of_found(found, "ic", library.settings, "x").bundle
    assert [(pin.number, pin.name) for pin in draft.symbol.pins] == [("1", "K"), ("2", "A")]
    other = replace(found, pins=(Pin("1", "A"), Pin("2", "K")))
    made = draft_of_found(other, "ic", library.settings, "x").bundle.symbol
    assert made.custom is not None and made.graphic == "custom"
    assert [row.points for row in made.custom.strokes if row.kind == "pin"] == ["2,0", "-2,0"]


def test_a_graphic_of_other_pins_is_left_and_said(library: Library, tmp_path: Path) -> None:
    (found,) = read_svg(_file(tmp_path, SYMBOL, name="D-symbol.svg")).parts
    made = draft_of_found(replace(found, pins=(Pin("1", "A"),)), "ic", library.settings, "x")
    assert made.doubts[0] == "the symbol's graphic has 2 pins, the part 1: a box is drawn"
    named = draft_of_found(replace(found, pins=(Pin("1", "A"), Pin("2", "B"))), "ic", library.settings, "x")
    assert "a box is drawn" in named.doubts[0] and named.bundle.symbol.custom is None
