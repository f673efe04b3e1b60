"""IPC-2581: what it can carry comes back from every family, files after the standard are read, damaged ones refused."""

from pathlib import Path
from xml.etree.ElementTree import Element, fromstring

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from command_line import answer
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.parts.new_parts import new_part
from eider.errors import InputError
from eider.exchange.formats.ipc2581.reader import read_ipc2581
from eider.exchange.formats.ipc2581.writer import ipc2581_file
from eider.exchange.found_parts import FoundPart
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.pattern import Opening, Pad
from eider.packages.registry import all_families
from eider.rulebooks import standard_rulebook
from eider.symbols.pin_table import make_pin
from family_samples import each_family, sample
from shared_libraries import capacitor

FILES = Path(__file__).parent / "foreign"


def _part(library: Library, family: str) -> Bundle:
    made = new_part(f"PART-{family}", "ic", library.settings)
    sheet = replace(sample(family), id=made.sheet.id)
    pattern = _evaluated(library, replace(made, sheet=sheet)).footprint.pattern
    numbers = [pad.number for pad in pattern.pads] if pattern else []
    pins = tuple(make_pin(number, f"N{number}")[0] for number in dict.fromkeys(filter(None, numbers)))
    return _evaluated(library, replace(made, sheet=sheet, symbol=replace(made.symbol, pins=pins, graphic="")))


def _evaluated(library: Library, bundle: Bundle) -> Bundle:
    return evaluate_part(bundle, EvaluationRules(standard_rulebook(), library.settings)).bundle


def _read(tmp_path: Path, data: bytes) -> dict[str, FoundPart]:
    path = tmp_path / "x.xml"
    path.write_bytes(data)
    return {part.name: part for part in read_ipc2581(path).parts}


def _rounded(pads: tuple[Pad, ...]) -> list[object]:
    """What the format carries of pads, to a micrometre."""
    return [
        (p.number, *_mm(p.x, p.y, p.width, p.height, p.rotation, p.corner_radius), p.shape, _points(p), p.plated,
         _layers(p),
         _mm(p.hole.width, p.hole.height, p.hole.x, p.hole.y) if p.hole else None,
         sorted(map(_opening, p.mask)), sorted(map(_opening, p.paste)))
        for p in pads
    ]  # fmt: skip


def _layers(pad: Pad) -> str:
    """A hole without copper goes through the board, on whichever side someone counts it."""
    return pad.layers if pad.plated else "all"


def _opening(opening: Opening) -> tuple[object, ...]:
    turn = opening.rotation % 180 if opening.shape != "outline" else opening.rotation
    return (*_mm(opening.x, opening.y, opening.width, opening.height, turn), opening.shape, _points(opening))


def _points(form: Pad | Opening) -> tuple[tuple[float, ...], ...]:
    return tuple(_mm(*point) for point in form.outline)


def _mm(*values: float) -> tuple[float, ...]:
    return tuple(round(value, 3) + 0.0 for value in values)


@pytest.mark.parametrize("family", each_family(sorted(all_families())))
def test_lands_and_pins_of_every_family_come_back(library: Library, family: str, tmp_path: Path) -> None:
    part = _part(library, family)
    assert part.footprint.pattern is not None
    found = _read(tmp_path, ipc2581_file([part]))[part.part.name]
    assert _rounded(found.pads) == _rounded(part.footprint.pattern.pads)
    assert [(p.number, p.name) for p in found.pins] == [(p.number, p.name) for p in part.symbol.pins]


def test_levels_are_packages_and_parts_that_name_pins_otherwise_do_not_share(library: Library, tmp_path: Path) -> None:
    part = _part(library, "gullwing-dual")
    both = _evaluated(library, replace(part, footprint=replace(part.footprint, also_levels=("A", "C"))))
    other = replace(both, part=replace(both.part, name="OTHER"))
    renamed = replace(other, symbol=replace(other.symbol, pins=tuple(replace(p, name="X") for p in other.symbol.pins)))
    data = ipc2581_file([both, replace(other, part=replace(other.part, name="TWIN")), renamed])
    names = [e.get("name") for e in fromstring(data).iter() if e.tag.endswith("}Package")]
    assert len(names) == len(set(names)) == 6
    found = _read(tmp_path, data)
    assert found["OTHER"].pins[0].name == "X" and found["TWIN"].pins[0].name == part.symbol.pins[0].name
    patterns = {pattern.level: pattern for pattern in both.footprint.patterns}
    level_a = next(part for name, part in found.items() if name.endswith("-A"))
    assert _rounded(level_a.pads) == _rounded(patterns["A"].pads)


def test_facts_and_vendors_come_back(library: Library, tmp_path: Path) -> None:
    part = _evaluated(library, capacitor(library))
    found = _read(tmp_path, ipc2581_file([part]))[part.part.name]
    assert found.facts == {name: fact.value for name, fact in part.part.facts.items()}
    assert found.description == part.part.description
    assert ipc2581_file([part]) == ipc2581_file([part])


def test_a_board_in_inches_of_revision_b_is_read() -> None:
    read = read_ipc2581(FILES / "inch-board.xml")
    parts = {part.name: part for part in read.parts}
    assert set(parts) == {"NVK-5", "nowhere"}
    part = parts["NVK-5"]
    assert part.facts == {
        "Output voltage": "5 V", "Lifecycle": "active", "Part number": "NVK-5T", "Manufacturer": "Norrvik Semi"
    }  # fmt: skip
    one, two, tab = part.pads
    # 0.1 in is 2.54 mm, 0.07 in 1.778 mm, 0.035 in 0.889 mm.
    assert (one.x, one.width, one.shape, one.hole and one.hole.width, one.layers) == (
        -2.54,
        1.778,
        "circle",
        0.889,
        "all",
    )
    assert (two.shape, two.width, two.height, two.rotation) == ("rectangle", 1.524, 2.032, 90.0)
    # From x = −0.1 in to 0.1 in and a half circle of 0.05 in to the right.
    assert tab.shape == "outline" and tab.box == pytest.approx((-2.54, 7.62 - 1.27, 3.81, 7.62 + 1.27), abs=0.001)
    assert "neither it nor its pad stack gone has a shape" in part.log[0] and "does not name the pins" in part.log[1]
    assert any("package nowhere is not in the file" in told for told in read.log)
    assert any("shape THERM: the shape Thermal is not read" in told for told in read.log)


def test_a_package_alone_in_micrometres_is_read() -> None:
    read = read_ipc2581(FILES / "micron-package.xml")
    (part,) = read.parts
    assert part.name == "FN-3" and [(pin.number, pin.name) for pin in part.pins] == [("A1", "VDD")]
    first, second = part.pads
    assert (first.x, first.y, first.rotation) == (-1.0, 0.5, 90.0)
    # Two corners stay square, and two are rounded.
    assert {(-0.3, 0.2), (-0.3, -0.2), (0.3, 0.1), (0.2, 0.2)} <= set(first.outline) and (0.3, 0.2) not in first.outline
    assert (first.paste[0].x, first.paste[0].y, first.paste[0].rotation) == pytest.approx((-1.0, 0.55, 90.0))
    assert len(second.outline) == 8 and (second.width, second.height) == (0.6, 0.4)
    assert [told.split(" is left out: ")[1] for told in part.log] == [
        "neither it nor its pad stack P3 has a shape",
        "it is mirrored or scaled, which is not read",
    ]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "not XML, or is damaged"),
        (b"<Board/>", "begins with Board"),
        (b'<!DOCTYPE a [<!ENTITY b "c">]><IPC-2581>&b;</IPC-2581>', "has a DTD or entities"),
        (b'<IPC-2581><Ecad><CadHeader units="CUBIT"/></Ecad></IPC-2581>', "unit CUBIT"),
        (b'<?xml version="1.0" encoding="smell"?><IPC-2581/>', "not XML"),
    ],
)
def test_what_is_no_ipc2581_says_why(data: bytes, says: str, tmp_path: Path) -> None:
    with pytest.raises(InputError, match=says):
        _read(tmp_path, data)


@pytest.mark.parametrize("text", ["nan", "1e999", "1e9", "wide", ""])
def test_a_length_that_is_none_leaves_out_its_pad(text: str, tmp_path: Path) -> None:
    data = (FILES / "micron-package.xml").read_text().replace('x="-1000"', f'x="{text}"')
    pads = _read(tmp_path, data.encode())["FN-3"].pads
    assert [pad.number for pad in pads] == ["A2"]


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_damaged_file_is_read_or_refused(tmp_path: Path, data: st.DataObject) -> None:
    text = bytearray((FILES / data.draw(st.sampled_from(["inch-board.xml", "micron-package.xml"]))).read_bytes())
    for _ in range(data.draw(st.integers(1, 5))):
        at = data.draw(st.integers(0, len(text) - 1))
        text[at : at + data.draw(st.integers(0, 6))] = data.draw(st.binary(max_size=6))
    try:
        found = _read(tmp_path, bytes(text))
    except InputError:
        return
    assert all(abs(pad.x) <= 1000 and pad.width <= 1000 for part in found.values() for pad in part.pads)


# The grammar of what Eider writes, from the standard: which elements are in which, in this order, and what they need.
GRAMMAR = {
    "IPC-2581": ("Content LogisticHeader HistoryRecord Bom Ecad Avl", "revision"),
    "Content": ("FunctionMode StepRef LayerRef* BomRef AvlRef", "roleRef"),
    "LogisticHeader": ("Role Enterprise* Person", ""),
    "HistoryRecord": ("FileRevision", "number origination software lastChange"),
    "FileRevision": ("SoftwarePackage", "fileRevisionId comment"),
    "SoftwarePackage": ("Certification", "name vendor revision"),
    "Bom": ("BomHeader BomItem*", "name"),
    "BomHeader": ("StepRef", "assembly revision"),
    "BomItem": ("RefDes* Characteristics", "OEMDesignNumberRef quantity category"),
    "RefDes": ("", "name packageRef populate layerRef"),
    "Characteristics": ("Textual*", "category"),
    "Textual": ("", "definitionSource textualCharacteristicName textualCharacteristicValue"),
    "Ecad": ("CadHeader CadData", "name"),
    "CadHeader": ("", "units"),
    "CadData": ("Layer* Step", ""),
    "Layer": ("", "name layerFunction side polarity"),
    "Step": ("PadStackDef* Package* Component*", "name"),
    "PadStackDef": ("PadstackHoleDef* PadstackPadDef*", "name"),
    "PadstackHoleDef": ("", "name diameter platingStatus plusTol minusTol x y"),
    "PadstackPadDef": ("Xform* Location SHAPE", "layerRef padUse"),
    "Package": (
        "Outline PickupPoint LandPattern SilkScreen AssemblyDrawing Pin*",
        "name type pinOne pinOneOrientation",
    ),
    "Outline": ("Polygon LineDesc", ""),
    "Polygon": ("PolyBegin PolyStepSegment*", ""),
    "Polyline": ("PolyBegin PolyStepSegment* LineDesc", ""),
    "LandPattern": ("Pad*", ""),
    "Pad": ("Xform* Location SHAPE PinRef*", "padstackDefRef"),
    "SilkScreen": ("Marking*", ""),
    "AssemblyDrawing": ("Marking*", ""),
    "Marking": ("Polyline", "markingUsage"),
    "Pin": ("Location* SHAPE*", "number type electricalType"),
    "Component": ("Location", "refDes packageRef layerRef part mountType"),
    "Contour": ("Polygon", ""),
    "Avl": ("AvlHeader AvlItem*", "name"),
    "AvlItem": ("AvlVmpn*", "OEMDesignNumber"),
    "AvlVmpn": ("AvlMpn AvlVendor", "qualified chosen"),
}
SHAPES = {"RectCenter", "RectRound", "Circle", "Oval", "Contour"}


def _grammar_faults(element: Element) -> list[str]:
    name = element.tag.rpartition("}")[2]
    wanted, needed = GRAMMAR.get(name, ("", ""))
    faults = [f"{name} has no {key}" for key in needed.split() if key not in element.attrib]
    inside = [child.tag.rpartition("}")[2] for child in element]
    rest = ["SHAPE" if child in SHAPES else child for child in inside]
    for word in wanted.split():
        if word.endswith("*"):
            while rest[:1] == [word[:-1]]:
                rest.pop(0)
        elif rest[:1] == [word]:
            rest.pop(0)
        else:
            faults.append(f"{name} has no {word} before {rest[:1]}")
    faults += [f"{name} has {child}" for child in rest]
    return [*faults, *(fault for child in element for fault in _grammar_faults(child))]


@pytest.mark.parametrize("family", ["gullwing-dual", "custom", "header", "ball-grid", "no-lead-quad", "mounting-hole"])
def test_what_is_written_follows_the_standards_grammar(library: Library, family: str) -> None:
    part = _part(library, family)
    root = fromstring(ipc2581_file([part, _evaluated(library, capacitor(library))]))
    assert root.tag == "{http://webstds.ipc.org/2581}IPC-2581"
    assert _grammar_faults(root) == []
    stacks = {e.get("name") for e in root.iter() if e.tag.endswith("}PadStackDef")}
    assert {e.get("padstackDefRef") for e in root.iter() if e.tag.endswith("}Pad")} <= stacks


def test_a_design_is_taken_in_from_the_command_line(library: Library) -> None:
    told = answer("intake", library.folder, FILES / "inch-board.xml", "--accept", "NVK-5")
    assert [(part["name"], part["state"]) for part in told["found"]] == [("NVK-5", "new")]
    assert told["taken"] == ["NVK-5"] and any("nowhere" in line for line in told["log"])
    assert library.load(library.find("NVK-5").id).part.facts["Output voltage"].value == "5 V"
