"""Changes to the package sheet: family, counts, dimensions, pads and outlines by hand, pictures."""

from collections.abc import Sequence
from contextlib import suppress
from itertools import count

import msgspec

from eider.errors import InputError
from eider.evidence.evidence_changes import typed_dimension
from eider.geometry.lengths import parse_limits
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.outline import OutlineSpec, PadSpec
from eider.model.package_sheet import DatasheetPicture, Dimension, PackageSheet
from eider.packages.registry import all_families, family_of
from eider.packages.sheet_parsing import with_dimension

replace = msgspec.structs.replace


def set_family(bundle: Bundle, family: str) -> Bundle:
    """Another package family; dimensions with letters that it has too stay."""
    chosen = family_of(family)
    sheet = bundle.sheet
    pins = sheet.pins if not chosen.pin_fault(sheet.pins) else chosen.default_pins
    kind = sheet.kind or (bundle.part.category if bundle.part.category in chosen.kinds else "")
    # What the new family does not ask for would act unseen.
    own, before = {field.key for field in chosen.fields}, all_families().get(sheet.family)
    for field in before.fields if before else ():
        sheet = sheet if field.key in own else sheet.with_option(field.key, None)
    # Pads that were the whole package would lie beside what another family lays, and the other way round.
    stays = before is not None and before.any_letters == chosen.any_letters
    pads = sheet.pads if stays else ()
    return replace(bundle, sheet=replace(sheet, family=family, pins=pins, kind=kind, pads=pads))


def set_pins(bundle: Bundle, text: str) -> Bundle:
    """Another number of pins of the package.

    Raises:
        InputError: the text is not a whole number from 0 to 5000, or 0 where the family has pins.
    """
    if not text.strip().isdecimal() or not 0 <= int(text) <= 5000:
        raise InputError(f"“{text}” is not a number of pins; enter a whole number from 0 to 5000")
    family = all_families().get(bundle.sheet.family)
    if family and int(text) == 0 and (fault := family.pin_fault(0)):
        raise InputError(f"0 is not a number of pins of this family: {fault}")
    return replace(bundle, sheet=replace(bundle.sheet, pins=int(text)))


def set_field(bundle: Bundle, key: str, text: str) -> Bundle:
    """What a family has besides lengths: a count, numbers with commas between, or a choice; empty takes it away.

    Raises:
        InputError: the family has no such option, or the text is not a value of it.
    """
    field = next((f for f in family_of(bundle.sheet.family).fields if f.key == key), None)
    if field is None:
        raise InputError(f"the family {bundle.sheet.family} has no {key}")
    return replace(bundle, sheet=bundle.sheet.with_option(key, field.read(text)))


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


def add_picture(bundle: Bundle, picture: DatasheetPicture) -> Bundle:
    """A drawing of the datasheet more."""
    return replace(bundle, sheet=replace(bundle.sheet, pictures=(*bundle.sheet.pictures, picture)))


def set_picture(bundle: Bundle, index: int, picture: DatasheetPicture | None) -> Bundle:
    """Another state of a drawing of the datasheet, or none of it any more."""
    pictures = [picture if i == index else p for i, p in enumerate(bundle.sheet.pictures)]
    return replace(bundle, sheet=replace(bundle.sheet, pictures=tuple(p for p in pictures if p is not None)))


def set_units(bundle: Bundle, unit: str) -> Bundle:
    """The unit of bare numbers in the sheet."""
    return replace(bundle, sheet=replace(bundle.sheet, units=unit))


def set_pads(bundle: Bundle, pads: Sequence[PadSpec]) -> Bundle:
    """Other pads by hand; a package that has no others has as many pins as they bear numbers."""
    sheet = replace(bundle.sheet, pads=tuple(pads))
    family = family_of(sheet.family)
    if not family.any_letters:
        return replace(bundle, sheet=sheet)
    try:
        numbers = {terminal.number for terminal in family.terminals(sheet, family.dims(sheet))}
    except InputError:
        return replace(bundle, sheet=sheet)
    return replace(bundle, sheet=replace(sheet, pins=max(len(numbers), 1)))


def add_pad(bundle: Bundle) -> Bundle:
    """One more pad by hand, with the next number that is free."""
    sheet = bundle.sheet
    family = family_of(sheet.family)
    taken = {pad.number for pad in sheet.pads}
    if not family.any_letters:
        taken |= {str(number) for number in range(1, sheet.pins + 1)}
    with suppress(InputError):
        taken |= {terminal.number for terminal in family.terminals(sheet, family.dims(sheet))}
    number = next(str(n) for n in count(1) if str(n) not in taken)
    return set_pads(bundle, [*sheet.pads, PadSpec(number, width="1", height="1")])


def set_outline(bundle: Bundle, name: str, outline: OutlineSpec | None) -> Bundle:
    """Another state of a named outline, or none of it any more.

    Raises:
        InputError: the name is empty.
    """
    if not name.strip():
        raise InputError("an outline needs a name, which pads refer to")
    kept = {key: value for key, value in bundle.sheet.outlines.items() if key != name}
    outlines = {**kept, name: outline} if outline is not None else kept
    return replace(bundle, sheet=replace(bundle.sheet, outlines=outlines))
