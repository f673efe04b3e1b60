"""The changes that people make to a part, each a function from part to part; results follow by `regenerate`."""

import secrets
from collections.abc import Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.evidence.changes import now, typed_dimension, typed_fact, typed_pin
from eider.geometry.lengths import parse_limits
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.finding import Finding
from eider.model.footprint import Adjustment, Dressing, Footprint
from eider.model.library import LibrarySettings
from eider.model.outline import OutlineSpec, PadSpec
from eider.model.part import DatasheetLink, Part, Waiver
from eider.model.pattern import LEVELS, Level
from eider.model.ref import Ref
from eider.model.sheet import Dimension, PackageSheet, SheetPicture
from eider.model.symbol import Pin, Symbol
from eider.packages.reading import with_dimension
from eider.packages.registry import all_families, family_of
from eider.symbols.graphics import graphic_pins
from eider.symbols.pin_table import PinReading, read_pins, split_table

replace = msgspec.structs.replace


def new_id() -> str:
    """A permanent id: 64 random bits."""
    return secrets.token_hex(8)


def new_part(name: str, category: str, settings: LibrarySettings) -> Bundle:
    """An empty part with all that will belong to it; the category gives reference letter and graphic."""
    name = name.strip()
    if not name:
        raise InputError("a part needs a name, for instance the maker's part number")
    known = settings.categories.get(category)
    if known is None:
        raise InputError(f"there is no category “{category}”; choose one of {', '.join(settings.categories)}")
    pins = graphic_pins(known.graphic) if known.graphic else ()
    family = family_of("chip" if len(pins) == 2 else "gullwing-dual")
    kind = category if category in family.kinds else next(iter(family.kinds), "")
    sheet = PackageSheet(id=new_id(), name="", family=family.key, pins=family.default_pins, kind=kind)
    symbol = Symbol(
        id=new_id(),
        name=name,
        reference=known.reference,
        graphic=known.graphic,
        measures=settings.symbols,
        pins=pins,
    )
    footprint = Footprint(id=new_id(), name="", package=Ref(sheet.id))
    body = Body(id=new_id(), name="", package=Ref(sheet.id))
    part = Part(
        id=new_id(),
        name=name,
        category=category,
        package=Ref(sheet.id),
        symbol=Ref(symbol.id, symbol.name),
        footprint=Ref(footprint.id),
        body=Ref(body.id),
    )
    return Bundle(part=part, sheet=sheet, symbol=symbol, footprint=footprint, body=body)


def start_from(bundle: Bundle, name: str) -> Bundle:
    """A new part that begins as a copy: facts and all else come along; it is shared with nothing until released."""
    if not name.strip():
        raise InputError("the new part needs a name of its own")
    ids = {kind: new_id() for kind in ("part", "package", "symbol", "footprint", "body")}
    sheet = Ref(ids["package"], bundle.sheet.name)
    part = replace(
        bundle.part,
        id=ids["part"],
        name=name.strip(),
        release=None,
        waivers=(),
        origin=origin_of(bundle),
        package=sheet,
        symbol=Ref(ids["symbol"]),
        footprint=Ref(ids["footprint"]),
        body=Ref(ids["body"]),
    )
    return replace(
        bundle,
        part=part,
        sheet=replace(bundle.sheet, id=ids["package"]),
        symbol=replace(bundle.symbol, id=ids["symbol"]),
        footprint=replace(bundle.footprint, id=ids["footprint"], package=sheet),
        body=replace(bundle.body, id=ids["body"], package=sheet),
    )


def origin_of(bundle: Bundle) -> Ref:
    """A link to a part from which another is begun: its newest release, or the part as it is being worked on."""
    release = bundle.part.release
    return Ref(bundle.part.id, bundle.part.name, release.revision if release else None)


def set_also_level(bundle: Bundle, level: Level, *, on: bool) -> Bundle:
    """Whether the part has a footprint at this level besides the chosen one."""
    others = {*bundle.footprint.also_levels} - {level}
    kept = tuple(x for x in LEVELS if x in (others | {level} if on else others))
    return replace(bundle, footprint=replace(bundle.footprint, also_levels=kept))


def set_placing(bundle: Bundle, turn: int, *, mirrored: bool) -> Bundle:
    """How the package lies in the footprint, beyond the rulebook's orientation.

    Raises:
        InputError: the turn is no quarter.
    """
    if turn not in (0, 90, 180, 270):
        raise InputError(f"a footprint is turned by 0, 90, 180 or 270 degrees, not {turn}")
    footprint = replace(bundle.footprint, turn=turn, mirrored=mirrored)
    return replace(bundle, footprint=footprint)


def set_family(bundle: Bundle, family: str) -> Bundle:
    """Another package family; dimensions with letters that it has too stay."""
    chosen = family_of(family)
    sheet = bundle.sheet
    pins = sheet.pins if not chosen.pin_fault(sheet.pins) else chosen.default_pins
    kind = sheet.kind or (bundle.part.category if bundle.part.category in chosen.kinds else "")
    # What the new family does not ask for would act unseen.
    empty = PackageSheet(name="", family=family, pins=pins)
    own = {field.key for field in chosen.fields}
    before = all_families().get(sheet.family)
    dropped = {f.key: getattr(empty, f.key) for f in (before.fields if before else ()) if f.key not in own}
    return replace(bundle, sheet=replace(sheet, family=family, pins=pins, kind=kind, **dropped))


def set_pins(bundle: Bundle, text: str) -> Bundle:
    """Another number of pins of the package."""
    if not text.strip().isdecimal() or not 1 <= int(text) <= 5000:
        raise InputError(f"“{text}” is no number of pins; expected a whole number from 1 to 5000")
    return replace(bundle, sheet=replace(bundle.sheet, pins=int(text)))


def set_field(bundle: Bundle, key: str, text: str) -> Bundle:
    """What a family has besides lengths: a count, numbers with commas between, or a choice; empty takes it away."""
    field = next((f for f in family_of(bundle.sheet.family).fields if f.key == key), None)
    if field is None:
        raise InputError(f"the family {bundle.sheet.family} has no {key}")
    value: object = text.strip()
    if field.kind == "count":
        if text.strip() and not (text.strip().isdecimal() and 0 <= int(text) <= 5000):
            raise InputError(f"“{text}” is no count for {field.title}; expected a whole number, or nothing")
        value = int(text) if text.strip() else None
    elif field.kind == "numbers":
        value = tuple(piece.strip() for piece in text.split(",")) if text.strip() else ()
    elif isinstance(getattr(bundle.sheet, key), bool):
        value = text == "yes"
    return replace(bundle, sheet=replace(bundle.sheet, **{key: value}))


def set_dimension(bundle: Bundle, letter: str, text: str) -> Bundle:
    """Type a dimension; an empty text takes it away. A sum of letters is evidence of its own: calculated."""
    if not text.strip():
        return replace(bundle, sheet=with_dimension(bundle.sheet, letter, None))
    old = bundle.sheet.dims.get(letter, Dimension())
    made = typed_dimension(old, text, _evidence_of_text(bundle.sheet, letter, text) if old.text != text else None)
    return replace(bundle, sheet=with_dimension(bundle.sheet, letter, made))


def _evidence_of_text(sheet: PackageSheet, letter: str, text: str) -> Evidence | None:
    """A text that can be read only with the help of other letters was calculated."""
    try:
        parse_limits(text, {}, sheet.units)
    except InputError:
        names = {k: d.limits.middle for k, d in sheet.dims.items() if d.limits and k != letter}
        try:
            parse_limits(text, names, sheet.units)
        except InputError:
            return None
        return Evidence(EvidenceKind.CALCULATED, text=text)
    return None


def set_alias(bundle: Bundle, letter: str, alias: str) -> Bundle:
    """The datasheet's own letter for one of the standard's."""
    kept = {
        own: standard for own, standard in bundle.sheet.aliases.items() if standard != letter and own != alias.strip()
    }
    added = {alias.strip(): letter} if alias.strip() else {}
    return replace(bundle, sheet=replace(bundle.sheet, aliases={**kept, **added}))


def set_kind(bundle: Bundle, kind: str) -> Bundle:
    """What a two-terminal package holds."""
    return replace(bundle, sheet=replace(bundle.sheet, kind=kind))


def set_level(bundle: Bundle, level: Level) -> Bundle:
    """Another density level."""
    return replace(bundle, footprint=replace(bundle.footprint, level=level))


def set_rulebook(bundle: Bundle, name: str) -> Bundle:
    """Another rulebook for the footprint."""
    return replace(bundle, footprint=replace(bundle.footprint, rulebook=name))


def adjust(bundle: Bundle, adjustment: Adjustment) -> Bundle:
    """Record a hand change on a pad; a further one of the same thing takes its place, an empty value takes it back."""
    kept = [a for a in bundle.footprint.adjustments if (a.pad, a.what) != (adjustment.pad, adjustment.what)]
    added = [adjustment] if adjustment.value.strip() else []
    return replace(bundle, footprint=replace(bundle.footprint, adjustments=(*kept, *added)))


def set_adjustments(bundle: Bundle, adjustments: Sequence[Adjustment]) -> Bundle:
    """Replace the whole list of adjustments."""
    return replace(bundle, footprint=replace(bundle.footprint, adjustments=tuple(adjustments)))


def set_dressing(bundle: Bundle, dressing: Sequence[Dressing]) -> Bundle:
    """Other changes of what surrounds the lands."""
    return replace(bundle, footprint=replace(bundle.footprint, dressing=tuple(dressing)))


def set_pin_table(bundle: Bundle, pins: Sequence[Pin]) -> Bundle:
    """Replace the pin table."""
    return replace(bundle, symbol=replace(bundle.symbol, pins=tuple(pins)))


def change_pin(bundle: Bundle, index: int, pin: Pin) -> Bundle:
    """Another pin in a row of the table; with another number or name its evidence is the one of before.

    Where it was moved by hand, the move follows its number.
    """
    pins = list(bundle.symbol.pins)
    before = pins[index].number
    pins[index] = typed_pin(pins[index], pin)
    bundle = set_pin_table(bundle, pins)
    if pin.number == before or not bundle.symbol.moves:
        return bundle
    moves = tuple(
        replace(m, pin=pin.number if m.pin == before else m.pin, after=pin.number if m.after == before else m.after)
        for m in bundle.symbol.moves
    )
    return replace(bundle, symbol=replace(bundle.symbol, moves=moves))


def read_pin_text(text: str) -> PinReading:
    """Pins from pasted text or CSV."""
    return read_pins(split_table(text))


def set_match(bundle: Bundle, pin: str, pads: Sequence[str]) -> Bundle:
    """Which pads belong to a pin; its own number alone is the rule and needs no entry."""
    match: Mapping[str, tuple[str, ...]] = {**bundle.part.match, pin: tuple(pads)}
    kept = {key: value for key, value in match.items() if value and value != (key,)}
    return replace(bundle, part=replace(bundle.part, match=kept))


def set_fact(bundle: Bundle, name: str, value: str, evidence: Evidence | None = None) -> Bundle:
    """Fill in a fact; an empty value takes it away."""
    facts = {**bundle.part.facts, name: typed_fact(bundle.part.facts.get(name), value.strip(), evidence)}
    return replace(bundle, part=replace(bundle.part, facts={k: f for k, f in facts.items() if f.value}))


def rename_fact(bundle: Bundle, old: str, new: str) -> Bundle:
    """Another name for a fact, in its place."""
    facts = {new if key == old else key: fact for key, fact in bundle.part.facts.items() if key == old or key != new}
    return replace(bundle, part=replace(bundle.part, facts=facts))


def set_about(bundle: Bundle, **changes: str) -> Bundle:
    """Name, category or description of the part."""
    return replace(bundle, part=replace(bundle.part, **changes))


def attach_datasheet(bundle: Bundle, link: DatasheetLink) -> Bundle:
    """A document more; the same one is not attached twice."""
    others = tuple(d for d in bundle.part.datasheets if d.sha256 != link.sha256)
    return replace(bundle, part=replace(bundle.part, datasheets=(*others, link)))


def set_material(bundle: Bundle, solid: str, material: str) -> Bundle:
    """What a solid of the body is made of."""
    return replace(bundle, body=replace(bundle.body, materials={**bundle.body.materials, solid: material}))


def waive(bundle: Bundle, finding: Finding, reason: str, by: str) -> Bundle:
    """Accept a finding with a reason; a blocker cannot be accepted."""
    if finding.severity == "blocker":
        raise InputError(f"{finding.check} is a blocker: it must be mended, it cannot be accepted")
    if not reason.strip():
        raise InputError("a waiver needs a reason, for whoever reads the part in a year")
    entry = Waiver(finding.check, finding.key, reason.strip(), by, now())
    return replace(bundle, part=replace(bundle.part, waivers=(*bundle.part.waivers, entry)))


def withdraw_waiver(bundle: Bundle, key: str) -> Bundle:
    """Take a waiver back."""
    kept = tuple(waiver for waiver in bundle.part.waivers if waiver.key != key)
    return replace(bundle, part=replace(bundle.part, waivers=kept))


def add_picture(bundle: Bundle, picture: SheetPicture) -> Bundle:
    """A drawing of the datasheet more."""
    return replace(bundle, sheet=replace(bundle.sheet, pictures=(*bundle.sheet.pictures, picture)))


def set_picture(bundle: Bundle, index: int, picture: SheetPicture | None) -> Bundle:
    """Another state of a drawing of the datasheet, or none of it any more."""
    pictures = [picture if i == index else p for i, p in enumerate(bundle.sheet.pictures)]
    return replace(bundle, sheet=replace(bundle.sheet, pictures=tuple(p for p in pictures if p is not None)))


def set_units(bundle: Bundle, unit: str) -> Bundle:
    """The unit of bare numbers in the sheet."""
    return replace(bundle, sheet=replace(bundle.sheet, units=unit))


def fill_facts(bundle: Bundle, facts: Mapping[str, str], evidence: Evidence) -> Bundle:
    """Fill in facts that are still empty; what somebody entered stays."""
    for name, value in facts.items():
        if name not in bundle.part.facts:
            bundle = set_fact(bundle, name, value, evidence)
    return bundle


def set_pads(bundle: Bundle, pads: Sequence[PadSpec]) -> Bundle:
    """Other pads by hand; the package has as many pins as they bear numbers."""
    sheet = replace(bundle.sheet, pads=tuple(pads))
    family = family_of(sheet.family)
    try:
        numbers = {terminal.number for terminal in family.terminals(sheet, family.dims(sheet))}
    except InputError:
        return replace(bundle, sheet=sheet)
    return replace(bundle, sheet=replace(sheet, pins=max(len(numbers), 1)))


def set_outline(bundle: Bundle, name: str, outline: OutlineSpec | None) -> Bundle:
    """Another state of a named outline, or none of it any more."""
    if not name.strip():
        raise InputError("an outline needs a name, by which pads take it")
    kept = {key: value for key, value in bundle.sheet.outlines.items() if key != name}
    outlines = {**kept, name: outline} if outline is not None else kept
    return replace(bundle, sheet=replace(bundle.sheet, outlines=outlines))
