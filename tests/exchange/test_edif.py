"""EDIF 2 0 0: pins, units and facts come back, files after the standard are read, damaged ones refused."""

import re
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from command_line import answer
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.demo.parts import converter_part
from eider.errors import InputError
from eider.exchange.formats.edif.expressions import Form, Quoted, identifier, quoted, read_expression
from eider.exchange.formats.edif.reader import read_edif
from eider.exchange.formats.edif.writer import edif_file
from eider.exchange.found_parts import FoundPart
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from shared_libraries import capacitor

STRANGER = Path(__file__).parent / "foreign" / "stranger.edn"


@pytest.fixture
def converter(library: Library) -> Bundle:
    return _evaluated(library, converter_part(library, DatasheetLink("0" * 64, "x.pdf")))


def _evaluated(library: Library, bundle: Bundle) -> Bundle:
    return evaluate_part(bundle, EvaluationRules(standard_rulebook(), library.settings)).bundle


def _read(tmp_path: Path, data: bytes) -> dict[str, FoundPart]:
    (tmp_path / "x.edif").write_bytes(data)
    return {part.name: part for part in read_edif(tmp_path / "x.edif").parts}


def _pins(part: Bundle | FoundPart) -> list[tuple[object, ...]]:
    pins = part.symbol.pins if isinstance(part, Bundle) else part.pins
    return sorted((p.number, p.name, p.type, p.active_low, p.group, p.unit) for p in pins)


def test_pins_and_facts_come_back(library: Library, converter: Bundle, tmp_path: Path) -> None:
    other = _evaluated(library, capacitor(library))
    data = edif_file([converter, other])
    found = _read(tmp_path, data)
    assert data == edif_file([converter, other]) and set(found) == {converter.part.name, other.part.name}
    for part in (converter, other):
        assert _pins(found[part.part.name]) == _pins(part)
        assert found[part.part.name].facts == {name: fact.value for name, fact in part.part.facts.items()}


def test_units_are_cells_and_come_back_as_one_part(library: Library, converter: Bundle, tmp_path: Path) -> None:
    pins = [replace(pin, unit="AB"[index % 2]) for index, pin in enumerate(converter.symbol.pins)]
    part = _evaluated(library, replace(converter, symbol=replace(converter.symbol, pins=tuple(pins))))
    assert len(part.symbol.units) == 2
    data = edif_file([part])
    assert data.count(b"(cell ") == 2
    assert _pins(_read(tmp_path, data)[part.part.name]) == _pins(part)


def test_connection_points_are_where_the_symbol_has_them(converter: Bundle) -> None:
    text = edif_file([converter]).decode()
    dots = re.findall(r"\(portImplementation (P\d+) \(connectLocation \(figure PINS \(dot \(pt (-?\d+) (-?\d+)\)", text)
    places = [(pin.x, pin.y) for pin in converter.symbol.units[0].pins]
    # Whole micrometres, as the scale of the file says.
    assert [(int(x) / 1000, int(y) / 1000) for _port, x, y in dots] == places
    assert "(scale 1 (e 1 -6) (unit distance))" in text


# The grammar of what Eider writes, from the standard: which forms may be in which.
GRAMMAR = {
    "edif": {"edifversion", "ediflevel", "keywordmap", "status", "library"},
    "keywordmap": {"keywordlevel"},
    "status": {"written"},
    "written": {"timestamp", "program"},
    "program": {"version"},
    "library": {"ediflevel", "technology", "cell"},
    "technology": {"numberdefinition", "figuregroup"},
    "numberdefinition": {"scale"},
    "scale": {"e", "unit"},
    "cell": {"rename", "celltype", "view", "property"},
    "view": {"viewtype", "interface"},
    "interface": {"port", "symbol"},
    "port": {"rename", "direction", "designator", "property"},
    "property": {"rename", "string", "boolean"},
    "boolean": {"true"},
    "symbol": {"boundingbox", "figure", "portimplementation", "keyworddisplay"},
    "boundingbox": {"rectangle"},
    "rectangle": {"pt"},
    "figure": {"path", "circle", "dot"},
    "path": {"pointlist"},
    "pointlist": {"pt"},
    "circle": {"pt"},
    "dot": {"pt"},
    "portimplementation": {"connectlocation", "figure"},
    "connectlocation": {"figure"},
    "keyworddisplay": {"display"},
    "display": {"justify", "origin"},
    "origin": {"pt"},
}


def _faults(form: Form) -> list[str]:
    allowed = GRAMMAR.get(form.keyword, set())
    own = [f"{form.keyword} has {inside.keyword}" for inside in form.forms() if inside.keyword not in allowed]
    if form.keyword == "pt" and not all(isinstance(i, str) and re.fullmatch(r"-?\d+", i) for i in form.items):
        own.append("a point is not a pair of integers")
    return [*own, *(fault for inside in form.forms() for fault in _faults(inside))]


def test_what_is_written_follows_the_standards_grammar(library: Library, converter: Bundle) -> None:
    root = read_expression(edif_file([converter, _evaluated(library, capacitor(library))]).decode())
    assert _faults(root) == []
    names = [item for form in _all(root) if form.keyword == "rename" for item in form.items[:1]]
    assert all(isinstance(name, str) and re.fullmatch(r"[A-Za-z]\w*", name, re.ASCII) for name in names)
    assert edif_file([converter]).isascii()


def _all(form: Form) -> list[Form]:
    return [form, *(found for inside in form.forms() for found in _all(inside))]


def test_a_strangers_file_is_read_and_what_is_not_understood_is_told() -> None:
    read = read_edif(STRANGER)
    (part,) = read.parts
    assert part.name == "74x00 quad gate" and part.facts == {"Manufacturer": "Norrvik Semi", "PRICE": "12"}
    assert [(p.number, p.name, p.type) for p in part.pins[:3]] == [
        ("1", "A", "input"),
        ("2", "B", "input"),
        ("3", "Y", "output"),
    ]
    assert part.pins[2].active_low and part.pins[3].name == 'V"SS' and part.pins[3].number == "7"
    assert "the ports D[7:0] are an array" in part.log[0] and "NODES has no designator" in part.log[1]
    assert read.log == (
        "1 times (oddform: not understood, skipped",
        "1 symbol without a graphic that can be kept: drawn again",
    )


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "no form in the file"),
        ("edif", "expected a form in brackets"),
        ("(edif x", "ends within a form"),
        ("(edif x))", "expected a form|more after the end"),
        ("(netlist x)", r"begins with \(netlist"),
        ("(edif x (edifVersion 4 0 0))", "another version"),
        ("(" * 300 + ")" * 300, "nested more than 200"),
    ],
)
def test_what_is_no_edif_says_why(text: str, says: str, tmp_path: Path) -> None:
    with pytest.raises(InputError, match=says):
        _read(tmp_path, text.encode())


@given(st.text(st.characters(exclude_characters="\x00", exclude_categories=["Cs"]), max_size=40))
def test_any_text_comes_back_as_a_string_and_as_a_name(text: str) -> None:
    root = read_expression(f"(a {quoted(text)} {identifier(text, 'N1')})")
    assert root.items[0] == Quoted(text)
    inner = root.items[1]
    assert (inner.items[1] if isinstance(inner, Form) else Quoted(str(inner))) == Quoted(text)


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_damaged_file_is_read_or_refused(tmp_path: Path, data: st.DataObject) -> None:
    text = bytearray(STRANGER.read_bytes())
    for _ in range(data.draw(st.integers(1, 5))):
        at = data.draw(st.integers(0, len(text) - 1))
        text[at : at + data.draw(st.integers(0, 6))] = data.draw(st.binary(max_size=6))
    try:
        found = _read(tmp_path, bytes(text))
    except InputError:
        return
    assert all(pin.number for part in found.values() for pin in part.pins)


def test_symbols_are_taken_in_from_the_command_line(library: Library) -> None:
    told = answer("intake", library.folder, STRANGER, "--accept", "all")
    assert told["taken"] == ["74x00 quad gate"] and any("array" in line for line in told["log"])
    made = library.load(library.find("74x00 quad gate").id)
    assert [pin.name for pin in made.symbol.pins] == ["A", "B", "Y", 'V"SS'] and made.symbol.units
