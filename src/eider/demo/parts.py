"""The parts of the demo, each made as a librarian would make it from its datasheet."""

import json
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from msgspec.structs import replace

from eider.commands.datasheets.captured_values import proposals, use_dimensions, use_pin_reading, use_pins
from eider.commands.datasheets.drafted_lands import use_suggestion
from eider.commands.facts import fact_edits
from eider.commands.lands.kept_distances import keep_distance
from eider.commands.packages import package_edits
from eider.commands.parts import body_edits, new_parts, review_edits
from eider.commands.parts.evaluation import EvaluatedPart, evaluate_part, rerun_recipes
from eider.commands.pins import pin_edits, symbol_edits
from eider.commands.pins.pinout_figure_edits import use_pinout_figure
from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.figures.pinout_figures import ReadFigure, read_pinout_figure
from eider.datasheets.tables.table_capture import TableCapture, capture_table
from eider.demo.catalogue import chip_facts
from eider.demo.data import ChipSeries, ChipSize, buffer_text, converter, pin_table_text, printed_pins, sheet_data
from eider.demo.scan import scan_text
from eider.demo.sheets import DATASHEETS
from eider.evidence.evidence_changes import put_value, utc_now
from eider.exchange.formats.bsdl import read_bsdl
from eider.exchange.formats.ibis import read_ibis
from eider.facts.categories import category_of
from eider.library import Library
from eider.library.git.commit_reading import Person
from eider.model.address import KeptDistanceAddress
from eider.model.body import ComposedSolid
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.footprint import KeptDistance
from eider.model.outline import OutlinePart, OutlineSpec, PadSpec, Step
from eider.model.part import DatasheetLink
from eider.model.symbol import Pin
from eider.services.datasheets.suggested_lands import lands_of_sheet, suggested_lands
from eider.services.parts.part_rules import rules_for
from eider.symbols.pin_columns import MORE, with_column

LIBRARIAN = Person("Skerry librarian", "librarian@skerry.example")
BRIMFALL, LYNG, OSTHOLM = "Brimfall", "Lyng Passive", "Ostholm Connect"
NORRVIK = {"Manufacturer": "Norrvik Semi"}


@contextmanager
def _drawn(name: str) -> Iterator[tuple[Datasheet, dict[str, Any]]]:
    """A datasheet of the demo, drawn again, and what is in it."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / f"{name}.pdf"
        DATASHEETS[name](path)
        datasheet = Datasheet(path)
        try:
            yield datasheet, json.loads(path.with_suffix(".truth.json").read_text(encoding="utf-8"))
        finally:
            datasheet.close()


@cache
def captures(name: str) -> tuple[TableCapture, ...]:
    """What is read of a datasheet in each box in which the demo's own program draws a table."""
    with _drawn(name) as (datasheet, truth):
        places = [table["places"][0] for table in truth["tables"]]
        return tuple(capture_table(datasheet, place["page"], tuple(place["box"])) for place in places)


@cache
def _figure_of(name: str) -> tuple[ReadFigure, int]:
    """What is read of the pinout figure of a datasheet, and its page."""
    with _drawn(name) as (datasheet, truth):
        page = truth["pinout"]["page"]
        return read_pinout_figure(datasheet, page, tuple(truth["pinout"]["box"])), page


def with_pinout_figure(bundle: Bundle, name: str, link: DatasheetLink) -> Bundle:
    """Hold the part against the pinout figure of its datasheet."""
    read, page = _figure_of(name)
    return use_pinout_figure(bundle, read, link.sha256, page)


def with_lands_of_sheet(library: Library, bundle: Bundle, name: str, link: DatasheetLink) -> Bundle:
    """Keep the lands that the datasheet suggests beside the computed ones, read from its drawing."""
    laid = lands_of_sheet(bundle.sheet, bundle.footprint.level, library.rulebook())
    with _drawn(name) as (datasheet, _truth):
        for _place, suggestion in suggested_lands(datasheet, tuple(survey(datasheet)), laid):
            bundle = use_suggestion(bundle, suggestion, link.sha256, LIBRARIAN.name)
    return bundle


def chip_part(library: Library, series: ChipSeries, size: ChipSize, value: str, sheet: DatasheetLink) -> Bundle:
    """One capacitor or resistor of a series."""
    bundle = new_parts.new_part(series.part_name(size.size, value), series.category, library.settings)
    bundle = fact_edits.set_about(bundle, description=series.described(size, value))
    bundle = fact_edits.attach_datasheet(package_edits.set_kind(bundle, series.category), sheet)
    bundle = with_captured(bundle, series.name, sheet, size.size)
    facts = {**chip_facts(series, size, value), "Lifecycle": "active"}
    return rerun_recipes(with_facts(bundle, facts, sheet, 1), library.rulebook())


def converter_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-1216T, made as a librarian would make it."""
    part = converter()
    bundle = new_parts.new_part(part.name, part.category, library.settings)
    bundle = fact_edits.set_about(bundle, description=part.description)
    bundle = fact_edits.attach_datasheet(bundle, sheet)
    # Groups are not in the datasheet; they come from the table of pins beside it.
    bundle = pin_edits.set_pin_table(bundle, pin_edits.read_pin_text(pin_table_text()).pins)
    bundle = package_edits.set_pins(package_edits.set_family(bundle, part.family), str(part.pins))
    bundle = with_pinout_figure(with_captured(bundle, part.name, sheet), part.name, sheet)
    return rerun_recipes(with_facts(bundle, part.facts, sheet, 1), library.rulebook())


def gates_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-4GT: pins from its buffer model, four equal gates and a supply."""
    bundle = _sheet_part(library, "nvk-4gt", sheet, "ic", NORRVIK)
    bundle = use_pin_reading(bundle, read_ibis(buffer_text())[0].reading, "NVK-4GT.ibs")
    bundle = symbol_edits.set_graphic(symbol_edits.split_units(bundle, "equal"), "nand")
    return rerun_recipes(bundle, library.rulebook())


def controller_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-U100P: pins from its boundary-scan description, whose doubts the librarian has settled."""
    bundle = _sheet_part(library, "nvk-u100p", sheet, "ic", NORRVIK)
    bundle = use_pin_reading(bundle, read_bsdl(scan_text())[0].reading, "NVK-U100P.bsd")
    settled = [
        replace(p, type="passive" if p.type == "undecided" else p.type, assumed=False) for p in bundle.symbol.pins
    ]
    return rerun_recipes(pin_edits.set_pin_table(bundle, settled), library.rulebook())


def transformer_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-PT6: two windings with centre taps, their starts marked as in phase."""
    facts = {"Manufacturer": BRIMFALL, "Turns ratio": "1:1.3", "Isolation voltage": "1500 V"}
    bundle = _sheet_part(library, "brm-pt6", sheet, "transformer", facts)
    pins = next(c for c in captures("BRM-PT6") if c.kind == "pins")
    bundle = use_pins(bundle, pins, sheet.sha256, LIBRARIAN.name)
    bundle = pin_edits.set_pin_table(bundle, [replace(pin, type="passive") for pin in bundle.symbol.pins])
    outcome = evaluate_part(symbol_edits.set_graphic(bundle, "transformer-tapped"), rules_for(library, bundle))
    return _accepted(outcome, "sheet.missing-dimension", "the maker does not give it; it shapes the picture alone")


def transistor_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-N2S: a small MOSFET, two leads on one side and one on the other."""
    facts = {**NORRVIK, "Drain voltage": "20 V", "Drain current": "0.9 A"}
    return _with_pins(library, "nvk-n2s", sheet, "mosfet", facts)


def front_end_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-3301Q: no leads, a thermal pad with paste in windows and vias between."""
    return with_lands_of_sheet(library, _with_pins(library, "nvk-3301q", sheet, "ic", NORRVIK), "NVK-3301Q", sheet)


def memory_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-M64B: a grid of balls with four positions empty."""
    bundle = with_pinout_figure(_with_pins(library, "nvk-m64b", sheet, "ic", NORRVIK), "NVK-M64B", sheet)
    # What Norrvik Semi tells on request: how long the traces of the data pins are inside the package.
    pins = [
        with_column(with_column(pin, f"{MORE}Package length", _package_length(pin)), f"{MORE}Swap group", "data")
        if pin.type == "bidirectional"
        else pin
        for pin in bundle.symbol.pins
    ]
    return rerun_recipes(pin_edits.set_pin_table(bundle, pins), library.rulebook())


def _package_length(pin: Pin) -> str:
    """Invented: the way from the die in the middle to the ball."""
    row, column = ord(pin.number[0]) - ord("A"), int(pin.number[1:]) - 1
    return f"{0.8 * (abs(row - 3.5) + abs(column - 3.5)):.2f} mm"


def oscillator_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """LYN-X25: four terminals in the corners."""
    bundle = _with_pins(library, "lyn-x25", sheet, "oscillator", {"Manufacturer": LYNG, "Frequency": "25 MHz"})
    return rerun_recipes(package_edits.set_kind(bundle, "oscillator"), library.rulebook())


def power_switch_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-S40: the four leads of the drain are one piece with the pad under the body."""
    facts = {"Manufacturer": BRIMFALL, "Drain voltage": "40 V", "Drain current": "60 A"}
    bundle = _with_pins(library, "brm-s40", sheet, "mosfet", facts)
    # With its drain on four pins it is drawn as a box, not as a transistor of three.
    bundle = package_edits.set_field(symbol_edits.set_graphic(bundle, ""), "fused", "5-8")
    drain = PadSpec("5", x="o", width="w", height="k", paste="windows")
    return rerun_recipes(package_edits.set_pads(bundle, (drain,)), library.rulebook())


def socket_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """OHC-S5: contacts on the board, a shield with tabs in slots, two posts."""
    bundle = _with_pins(
        library, "ohc-s5", sheet, "connector", {"Manufacturer": OSTHOLM, "Ways": "5", "Pitch": "0.65 mm"}
    )
    bundle = package_edits.set_field(bundle, "left", "1, 2, 3, 4, 5")
    tabs = PadSpec("SH", x="u/2", y="g/2", hole="m", slot="n", ring="0.35", mirror="both")
    posts = PadSpec("", x="-0.5", y="q/2", hole="d", plated=False, mirror="x")
    return rerun_recipes(package_edits.set_pads(bundle, (tabs, posts)), library.rulebook())


def tantalum_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """LYN-T3528: moulded, its plus side marked."""
    facts = {"Manufacturer": LYNG, "Capacitance": "10 µF", "Rated voltage": "16 V", "Tolerance": "±10 %"}
    return _polarised(library, "lyn-t", sheet, facts)


def diode_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """LYN-D5226: moulded, its cathode marked and pin 1."""
    facts = {"Manufacturer": LYNG, "Reverse voltage": "40 V", "Forward current": "1 A"}
    bundle = package_edits.set_kind(_sheet_part(library, "lyn-d", sheet, "diode", facts), "diode")
    # The land of the cathode, pin 1, lies left; the graphic begins with the anode.
    cathode_first = [Pin("2", "A", "passive"), Pin("1", "K", "passive")]
    return rerun_recipes(pin_edits.set_pin_table(bundle, cathode_first), library.rulebook())


def regulator_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-L18: five leads, the sixth position empty."""
    return _with_pins(library, "brm-l18", sheet, "ic", {"Manufacturer": BRIMFALL})


def terminals_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """OHC-350-04: flat pins through the board, the body off the row's middle."""
    facts = {"Manufacturer": OSTHOLM, "Ways": "4", "Pitch": "3.5 mm"}
    bundle = _sheet_part(library, "ohc-350", sheet, "connector", facts)
    return rerun_recipes(symbol_edits.set_graphic(bundle, "connector-pins/1x4"), library.rulebook())


def electrolytic_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-E100: radial, plus is pin 1."""
    facts = {"Manufacturer": BRIMFALL, "Capacitance": "100 µF", "Rated voltage": "25 V", "Tolerance": "±20 %"}
    return _polarised(library, "brm-e100", sheet, facts)


def choke_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-ECH47: axial, lying."""
    facts = {"Manufacturer": BRIMFALL, "Inductance": "47 µH", "Rated current": "0.5 A"}
    bundle = package_edits.set_kind(_sheet_part(library, "brm-ech", sheet, "inductor", facts), "inductor")
    return rerun_recipes(bundle, library.rulebook())


def _polarised(library: Library, key: str, sheet: DatasheetLink, facts: dict[str, str]) -> Bundle:
    """A capacitor with a plus side."""
    bundle = package_edits.set_kind(_sheet_part(library, key, sheet, "capacitor", facts), "capacitor polarised")
    return rerun_recipes(symbol_edits.set_graphic(bundle, "capacitor-polarised"), library.rulebook())


def _with_pins(library: Library, key: str, sheet: DatasheetLink, category: str, facts: dict[str, str]) -> Bundle:
    """A part with the pins of its datasheet, whose types the librarian has settled."""
    bundle = _sheet_part(library, key, sheet, category, facts)
    pins = next(c for c in captures(sheet_data(key).name) if c.kind == "pins")
    bundle = use_pins(bundle, pins, sheet.sha256, LIBRARIAN.name)
    types = {pin.number: pin.type for pin in printed_pins(key)}
    settled = [replace(p, type=types[p.number], assumed=False) for p in bundle.symbol.pins]
    return rerun_recipes(pin_edits.set_pin_table(bundle, settled), library.rulebook())


def connector_part(library: Library, ways: int, sheet: DatasheetLink) -> Bundle:
    """OHC-125 with so many ways: its own lengths and those of the family table; hold-downs are one pin, the shield."""
    data = sheet_data("ohc-125")
    bundle = new_parts.new_part(f"OHC-125-{ways:02d}R", "connector", library.settings)
    bundle = fact_edits.set_about(bundle, description=f"{data.description.split(',')[0]}, {ways} ways")
    bundle = fact_edits.attach_datasheet(package_edits.set_family(bundle, data.family), sheet)
    own, by_ways, lands = captures(data.name)
    for found, member in ((own, ""), (by_ways, str(ways)), (lands, "")):
        bundle = use_dimensions(bundle, found, data.letters, sheet.sha256, LIBRARIAN.name, member)
    contacts = PadSpec("1", y="g/2", width="a", height="l", count=str(ways), dx="e")
    hold_downs = PadSpec("MP", x="-(row/2 + q)", y="-g/2", width="m", height="k", mirror="y")
    bundle = package_edits.set_pads(bundle, (contacts, hold_downs))
    pins = [*(Pin(str(i), type="passive") for i in range(1, ways + 1)), Pin("MP", "hold-down", "passive")]
    bundle = pin_edits.set_pin_table(bundle, pins)
    bundle = symbol_edits.set_graphic(bundle, f"connector-pins/1x{ways}-shield")
    # The sum of the pitch over the row is what the assembler checks first.
    kept = KeptDistance("pad 1 centre", f"pad {ways} centre", "x")
    length = bundle.sheet.dims["row"]
    bundle = keep_distance(rerun_recipes(bundle, library.rulebook()), kept, length.text)
    if length.evidence is not None:
        bundle = put_value(bundle, KeptDistanceAddress(kept.key), length.text, length.evidence)
    facts = {
        "Manufacturer": OSTHOLM,
        "Part number": bundle.part.name,
        "Ways": str(ways),
        "Pitch": "1.25 mm",
        "Lifecycle": "active",
    }
    return rerun_recipes(with_facts(bundle, facts, sheet, 2), library.rulebook())


# The holder of a coin cell of 16 mm: a frame with a well and a way in, two contacts under it, two posts.
HOLDER = (
    ComposedSolid(
        name="frame", material="housing", z="0.2", length="D", width="E", height="Amax-0.2", edges="upright", corner="2"
    ),
    ComposedSolid(name="well", shape="cylinder", z="1.2", length="16.2", height="Amax", cuts=True),
    ComposedSolid(name="way in", z="1.2", y="-E/2", length="12", width="E", height="Amax", cuts=True),
    ComposedSolid(name="contact +", material="tin", x="-c", length="u", width="w", height="0.2"),
    ComposedSolid(name="contact -", material="tin", x="c", length="k", width="2*p+o", height="0.2"),
    ComposedSolid(name="spring", shape="strip", material="tin", x="1.5", z="1.2", width="5",
                  outline="-5,0 4,0 4,0.2 0,0.2 -5,2.4 -5.2,2.2 -0.4,0.2 -5,0.2"),
    ComposedSolid(
        name="post", shape="cylinder", material="housing", y="P/2", z="-1.4", length="d-0.1", height="1.6", mirror="x"
    ),
)  # fmt: skip


def holder_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """BRM-CH16: a holder for a coin cell, its lands a T and a comb from sums, two posts in holes without copper."""
    data = sheet_data("brm-ch16")
    bundle = new_parts.new_part(data.name, "battery", library.settings)
    bundle = fact_edits.attach_datasheet(fact_edits.set_about(bundle, description=data.description), sheet)
    bundle = package_edits.set_family(bundle, data.family)
    for found in captures(data.name):
        bundle = use_dimensions(bundle, found, data.letters, sheet.sha256, LIBRARIAN.name)
    # The T, its bar outside: half of it from the tip of the stem, mirrored at the x axis.
    tee = OutlineSpec(
        "t + u - s",
        "0",
        (Step("up", "v/2"), Step("left", "u"), Step("up", "(w - v)/2"), Step("left", "t"), Step("down", "w/2")),
        mirror="x",
    )
    teeth = tuple(OutlinePart("rectangle", "-(k + r)/2", f"{n}*p", "r", "o") for n in (-1, 0, 1))
    comb = OutlineSpec(parts=(OutlinePart("rectangle", "0", "0", "k", "2*p + o"), *teeth))
    for name, outline in (("tee", tee), ("comb", comb)):
        bundle = package_edits.set_outline(bundle, name, outline)
    pads = (
        PadSpec("1", x="-c", outline="tee"),
        PadSpec("2", x="c", outline="comb"),
        PadSpec("", x="0", y="P/2", hole="d", plated=False, mirror="x"),
    )
    bundle = package_edits.set_pads(bundle, pads)
    bundle = pin_edits.set_pin_table(bundle, [Pin("1", "+", "passive"), Pin("2", "-", "passive")])
    bundle = package_edits.set_field(bundle, "device", "battery holder")
    bundle = body_edits.compose(bundle, HOLDER)
    facts = {"Manufacturer": BRIMFALL, "Part number": data.name, "Lifecycle": "active"}
    return rerun_recipes(with_facts(bundle, facts, sheet, 1), library.rulebook())


def _accepted(outcome: EvaluatedPart, check: str, reason: str) -> Bundle:
    """A part with what one check found accepted."""
    bundle = outcome.bundle
    for finding in outcome.findings:
        if finding.check == check:
            bundle = review_edits.waive(bundle, finding, reason, LIBRARIAN.name)
    return bundle


def crystal_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """LYN-Y32: a crystal with two terminals."""
    facts = {"Manufacturer": LYNG, "Frequency": "32.768 kHz", "Load capacitance": "9 pF", "Package": "3.2 by 1.5"}
    bundle = _sheet_part(library, "lyn-y32", sheet, "crystal", facts)
    bundle = fact_edits.compose_description(bundle, category_of(library.settings, "crystal"))
    return rerun_recipes(bundle, library.rulebook())


def _sheet_part(library: Library, key: str, sheet: DatasheetLink, category: str, facts: dict[str, str]) -> Bundle:
    """A part of `datasheets.toml` with the dimensions of its datasheet."""
    data = sheet_data(key)
    bundle = new_parts.new_part(data.name, category, library.settings)
    bundle = fact_edits.attach_datasheet(fact_edits.set_about(bundle, description=data.description), sheet)
    bundle = package_edits.set_pins(package_edits.set_family(bundle, data.family), str(data.pins))
    bundle = replace(bundle, sheet=replace(bundle.sheet, missing=data.missing))
    found = next(c for c in captures(data.name) if c.kind == "dimensions")
    # As someone leaves them who knows the drawing: a proposal gives no row a meaning that nothing speaks for.
    bundle = use_dimensions(bundle, found, data.letters, sheet.sha256, LIBRARIAN.name)
    return with_facts(bundle, {**facts, "Part number": data.name, "Lifecycle": "active"}, sheet, 1)


def with_captured(bundle: Bundle, name: str, link: DatasheetLink, member: str = "") -> Bundle:
    """Take the tables of a datasheet over, as someone does who draws a rectangle around each of them."""
    for found in captures(name):
        if found.kind == "pins":
            bundle = use_pins(bundle, found, link.sha256, LIBRARIAN.name)
        else:
            letters = proposals(bundle, found, member)[0].letters
            bundle = use_dimensions(bundle, found, letters, link.sha256, LIBRARIAN.name, member)
    return bundle


def with_facts(bundle: Bundle, facts: dict[str, str], sheet: DatasheetLink, page: int) -> Bundle:
    """Fill in facts, and say on which page they stand."""
    evidence = Evidence(EvidenceKind.DATASHEET, document=sheet.sha256, page=page, by=LIBRARIAN.name, at=utc_now())
    for name, value in facts.items():
        bundle = fact_edits.set_fact(bundle, name, value, evidence)
    return bundle
