"""Checks of the package sheet."""

import re
from collections.abc import Iterator
from difflib import get_close_matches
from itertools import combinations

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.geometry.expressions import MM_PER_UNIT, UNIT
from eider.geometry.lengths import format_limits
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress, FieldAddress, dimension_letter
from eider.model.bundle import Bundle
from eider.model.evidence import EvidenceKind
from eider.model.finding import Finding, Severity
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.wording import counted
from eider.packages.family import Family, letter_of
from eider.packages.letters.letter_proposals import DatasheetLetter, propose_letters
from eider.packages.letters.usual_sizes import unusual_sizes
from eider.packages.pads.further_pads import letters_in_sums
from eider.packages.sheet_parsing import with_dimension

replace = msgspec.structs.replace
# A proposal that moves more letters than this is a guess.
MOST_MOVED = 3


@check("sheet.family", Severity.BLOCKER, reads=("sheet",))
def family(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The package has a family, and a number of pins that fits it.

    Without both neither lands nor body can follow from the dimensions.
    """
    sheet = view.bundle.sheet
    if view.family is None:
        yield CheckHit(
            FieldAddress("sheet", "family"),
            f"“{sheet.family}” is not a package family; choose one in Package",
            sheet.family,
        )
    elif fault := view.family.pin_fault(sheet.pins):
        yield CheckHit(FieldAddress("sheet", "pins"), f"{counted(sheet.pins, 'pin')}: {fault}", str(sheet.pins))


@check("sheet.unknown-kind", Severity.BLOCKER, reads=("sheet",))
def unknown_kind(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The kind of the part is one that its family knows.

    By its kind a part has a mark of polarity or none, and its name begins; one that is not known has neither right.
    """
    kind = view.bundle.sheet.kind
    if view.family and kind and view.family.kinds and kind not in view.family.kinds:
        known = ", ".join(view.family.kinds)
        near = get_close_matches(kind, view.family.kinds, 1)
        message = f"“{kind[:40]}” is not a kind of {view.family.title}{f'; {near[0]} is' if near else ''}"
        yield CheckHit(FieldAddress("sheet", "kind"), message, kind[:40], known)


@check("sheet.unusual-size", Severity.CAUTION, reads=("sheet",))
def unusual_size(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Body, span and pitch are as large as packages of the family are.

    A whole column read in the wrong unit fits together as well as the right one: only its size gives it away.
    """
    if view.dims is None:
        return
    for size in unusual_sizes(view.bundle.sheet.family, view.dims):
        meant = f"; read in {size.unit} it would fit" if size.unit else ""
        message = f"{size.letter} = {format_limits(size.limits)} is unusual for {view.bundle.sheet.family}{meant}"
        usual = f"{size.low:g} to {size.high:g} mm"
        yield CheckHit(DimensionAddress(size.letter), message, format_limits(size.limits), usual)


@check("sheet.missing-dimension", Severity.BLOCKER, reads=("sheet",))
def missing_dimension(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every dimension that lands and body need is given.

    A length that is not there is not zero. Where only the body needs it, Eider assumes one and says so.
    """
    for letter in view.family.letters if view.family else ():
        is_needed = not letter.optional and view.bundle.sheet.pins >= letter.needed_from
        if letter.key in view.bundle.sheet.dims or not is_needed:
            continue
        message = f"{letter.key} ({letter.meaning}) is not in the sheet"
        if letter.assumed is None:
            yield CheckHit(DimensionAddress(letter.key), message, "missing", "a length")
        else:
            shown = f"{letter.assumed:g} mm assumed"
            yield CheckHit(
                DimensionAddress(letter.key), f"{message}; the body takes {shown}", shown, "a length", Severity.NOTE
            )


@check("sheet.unreadable", Severity.BLOCKER, reads=("sheet",))
def unreadable(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every dimension can be read as a length.

    The last good drawing stays until it can.
    """
    for letter, fault in view.reading.faults.items():
        yield CheckHit(DimensionAddress(letter), f"{letter}: {fault}", view.bundle.sheet.dims[letter].text, "a length")


@check("sheet.unknown-letter", Severity.CAUTION, reads=("sheet",))
def unknown_letter(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every letter of the sheet means something in its family.

    A letter that the family does not have takes part in nothing: often it is the datasheet's own letter.
    """
    used = letters_in_sums(view.bundle.sheet)
    for letter in view.bundle.sheet.dims:
        if view.family and not view.family.any_letters and view.family.letter(letter) is None and letter not in used:
            known = ", ".join(x.key for x in view.family.letters)
            yield CheckHit(DimensionAddress(letter), f"{letter} is not a letter of {view.family.title}", letter, known)


@check("sheet.not-read", Severity.CAUTION, reads=("sheet",))
def not_read(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every key in the text of a sheet is known.

    A misspelt or misplaced key changes nothing, so what it was meant to say is missing.
    """
    for key, told in view.bundle.sheet.unread.items():
        yield CheckHit(FieldAddress("sheet"), f"“{key[:40]}” of the sheet is not read: {told}", key[:40], "a known key")


def _swap(view: PartUnderCheck, finding: Finding) -> Bundle:
    sheet, letter = view.bundle.sheet, dimension_letter(finding.address)
    old = sheet.dims[letter]
    if old.limits is None:
        return view.bundle
    limits = Limits(min=old.limits.max, nom=old.limits.nom, max=old.limits.min)
    text = format_limits(limits, sheet.units, with_unit=False)
    return replace(view.bundle, sheet=with_dimension(sheet, letter, replace(old, text=text, limits=limits)))


@check(
    "sheet.max-below-min", Severity.BLOCKER, reads=("sheet",), quick_fix=QuickFix("Exchange minimum and maximum", _swap)
)
def max_below_min(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No maximum lies below its minimum.

    A slipped digit or two exchanged columns; the tolerance would count as nothing, and the land would be too small.
    """
    for letter, dimension in view.bundle.sheet.dims.items():
        limits = dimension.limits
        if limits and limits.min is not None and limits.max is not None and limits.min > limits.max:
            message = f"{letter}: the maximum is below the minimum"
            yield CheckHit(DimensionAddress(letter), message, format_limits(limits), f"max ≥ {limits.min:g} mm")
        elif limits and limits.nom is not None and not limits.lower <= limits.nom <= limits.upper:
            message = f"{letter}: the nominal value lies outside its limits"
            yield CheckHit(DimensionAddress(letter), message, format_limits(limits), "min ≤ nom ≤ max")


@check("sheet.not-positive", Severity.BLOCKER, reads=("sheet",))
def not_positive(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every length is above zero; a stand-off may be zero, a distance from pin 1 anything.

    A length of zero or less is a slip: no package has it. Letters that a sheet by hand names itself may be any.
    """
    family = view.family
    if family is None or family.any_letters:
        return
    used = letters_in_sums(view.bundle.sheet)
    for letter, dimension in view.bundle.sheet.dims.items():
        declared = family.letter(letter)
        is_own = declared is None and letter in used
        if dimension.limits is None or is_own or (declared and declared.signed):
            continue
        low = dimension.limits.lower
        if low < 0 or (low == 0 and letter != "A1"):
            yield CheckHit(DimensionAddress(letter), f"{letter} is not greater than zero", f"{low:g} mm", "> 0 mm")


@check("sheet.implausible", Severity.BLOCKER, reads=("sheet",))
def implausible(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The lengths make a possible package of their family.

    The datasheet's letters often differ from the standard's: a span under the body's letter shows here first.
    """
    if view.family is None or view.dims is None:
        return
    for hit in view.family.implausible(view.bundle.sheet, view.dims):
        message = hit.message + _in_sheet_letters(view, hit.letters)
        yield CheckHit(DimensionAddress(hit.letters[0]), message, hit.measured, hit.expected, hit.severity)


def _in_sheet_letters(view: PartUnderCheck, letters: tuple[str, ...]) -> str:
    """What the datasheet calls the lengths at fault, where it calls them otherwise."""
    named = [
        f"{letter} is {sheet_letter} in the sheet"
        for letter in letters
        if (sheet_letter := view.bundle.sheet.datasheet_letter(letter))
    ]
    return f" ({', '.join(named)})" if named else ""


def _meanings(view: PartUnderCheck) -> dict[str, str]:
    """What each of the sheet's letters is taken for."""
    return {view.bundle.sheet.datasheet_letter(k) or k: k for k in view.bundle.sheet.dims}


def _better_meanings(view: PartUnderCheck) -> dict[str, str]:
    """The meaning of the sheet's letters under which its values pass every check of sizes; empty where they do now.

    The one pair that is to be exchanged, or the proposal for all letters; empty as well where several pairs would do
    or none: a proposal that is only possible does harm.
    """
    sheet, family = view.bundle.sheet, view.family
    if family is None or view.dims is None or not family.implausible(sheet, view.dims):
        return {}
    present = _meanings(view)
    sound = [
        pair
        for pair in combinations(sheet.dims, 2)
        if _is_sound(family, _with_meanings(sheet, _swapped(present, pair)))
    ]
    if len(sound) == 1:
        return _swapped(present, sound[0])
    rows = [
        DatasheetLetter(sheet_letter, limits)
        for sheet_letter, k in present.items()
        if (limits := sheet.dims[k].limits) is not None
    ]
    best = next(iter(propose_letters(family, sheet, rows)), None)
    if sound or best is None or set(best.letters.values()) != set(sheet.dims):
        return {}
    moved = sum(present[letter] != standard for letter, standard in best.letters.items())
    return best.letters if moved <= MOST_MOVED and _is_sound(family, _with_meanings(sheet, best.letters)) else {}


def _swapped(meanings: dict[str, str], pair: tuple[str, str]) -> dict[str, str]:
    other = {pair[0]: pair[1], pair[1]: pair[0]}
    return {sheet_letter: other.get(standard, standard) for sheet_letter, standard in meanings.items()}


def _with_meanings(sheet: PackageSheet, meanings: dict[str, str]) -> PackageSheet:
    """The sheet with its values under other letters."""
    present = {sheet.datasheet_letter(k) or k: k for k in sheet.dims}
    dims = {standard: sheet.dims[present[sheet_letter]] for sheet_letter, standard in meanings.items()}
    aliases = {sheet_letter: standard for sheet_letter, standard in meanings.items() if sheet_letter != standard}
    return replace(sheet, dims=dims, aliases=aliases)


def _is_sound(family: Family, sheet: PackageSheet) -> bool:
    """Whether the values of a sheet pass every check of sizes, each beside the others."""
    dims = family.dims(sheet)
    if family.implausible(sheet, dims) or any(unusual_sizes(sheet.family, dims)):
        return False
    shares = (
        (letter.typical, dims[letter.key].middle / max(dims[letter.reference].middle, 1e-9))
        for letter in family.letters
        if letter.reference and {letter.key, letter.reference} <= set(dims)
    )
    return all(low <= share <= high for (low, high), share in shares)


def _take_meanings(view: PartUnderCheck, _finding: Finding) -> Bundle:
    better = _better_meanings(view)
    return replace(view.bundle, sheet=_with_meanings(view.bundle.sheet, better)) if better else view.bundle


@check(
    "sheet.letters-exchanged",
    Severity.CAUTION,
    reads=("sheet",),
    quick_fix=QuickFix("Use these meanings", _take_meanings),
)
def letters_exchanged(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The sheet's letters have the meaning under which its values make a possible package.

    Sheets call the span H or HE and the body E, or the other way round; under the wrong letters each value is right,
    and the land pattern is wrong.
    """
    present = _meanings(view)
    moved = {
        sheet_letter: standard
        for sheet_letter, standard in _better_meanings(view).items()
        if present[sheet_letter] != standard
    }
    if moved:
        meant = ", ".join(f"{sheet_letter} = {standard}" for sheet_letter, standard in moved.items())
        held = ", ".join(f"{sheet_letter} = {present[sheet_letter]}" for sheet_letter in moved)
        reason = view.family.implausible(view.bundle.sheet, view.dims)[0].message if view.family and view.dims else ""
        message = f"{reason}; with {meant} the values pass every check"
        yield CheckHit(DimensionAddress(next(iter(moved.values()))), message, held, meant)


# Slips of unit, by how much the number is then off, and the unit that was meant.
_SLIPS = tuple((unit, MM_PER_UNIT[unit]) for unit in ("mil", "in"))


def _meant_unit(view: PartUnderCheck, letter: str) -> str:
    """The unit that would make a dimension typical of its family; empty where the value as read is."""
    if view.family is None or view.dims is None:
        return ""
    declared = view.family.letter(letter)
    if declared is None or not declared.reference or not {letter, declared.reference} <= set(view.dims):
        return ""
    low, high = declared.typical
    share = view.dims[letter].middle / max(view.dims[declared.reference].middle, 1e-9)
    if low <= share <= high:
        return ""
    return next((unit for unit, factor in _SLIPS if low <= share * factor <= high), "")


def _take_unit(view: PartUnderCheck, finding: Finding) -> Bundle:
    sheet, letter = view.bundle.sheet, dimension_letter(finding.address)
    unit, old = _meant_unit(view, letter), sheet.dims[letter]
    if not unit or old.limits is None:
        return view.bundle
    text = old.text or format_limits(old.limits, "mm", with_unit=False)
    bare = re.sub(rf"\s*{UNIT}", "", text)
    return replace(view.bundle, sheet=with_dimension(sheet, letter, replace(old, text=f"{bare} {unit}")))


@check(
    "sheet.mixed-unit", Severity.CAUTION, reads=("sheet",), quick_fix=QuickFix("Read it in the other unit", _take_unit)
)
def mixed_unit(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No length is off by the factor between millimetre, mil and inch.

    Sheets give several units side by side; one value of the wrong column makes a package that does not exist.
    """
    for letter in view.bundle.sheet.dims:
        if unit := _meant_unit(view, letter):
            declared = view.family.letter(letter) if view.family else None
            value = format_limits(view.dims[letter]) if view.dims else ""
            beside = declared.reference if declared else ""
            message = f"{letter} = {value} does not go with {beside}; read in {unit} it would fit"
            yield CheckHit(DimensionAddress(letter), message, value, f"{letter} in {unit}")


@check("sheet.no-tolerance", Severity.NOTE, reads=("sheet", "lands", "rulebook"))
def no_tolerance(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Span, foot and width have tolerances.

    The solder-joint equations live on them; without, the rulebook's own is taken.
    """
    if view.recipe is None or view.dims is None:
        return
    for rows in view.recipe.rows:
        for limits in (rows.length, rows.foot, rows.width):
            letter = letter_of(limits)
            if letter and limits.is_exact:
                basic = f"{view.rulebook.tolerances.basic:g} mm of the rulebook"
                yield CheckHit(
                    DimensionAddress(letter), f"{letter} has no tolerance; {basic} taken", "±0 mm", "min and max"
                )


@check("sheet.no-evidence", Severity.NOTE, reads=("sheet",))
def no_evidence(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every value says where it came from.

    A reviewer goes to that place; a value without one must be searched for again.
    """
    bare = [k for k, d in view.bundle.sheet.dims.items() if not _has_evidence(d)]
    if bare:
        total = len(view.bundle.sheet.dims)
        message = f"no evidence for {', '.join(bare)}"
        yield CheckHit(
            DimensionAddress(bare[0]), message, f"{total - len(bare)} of {total} values", f"{total} of {total}"
        )


def _has_evidence(dimension: Dimension) -> bool:
    return dimension.evidence is not None and dimension.evidence.kind != EvidenceKind.ASSUMED
