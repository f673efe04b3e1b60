"""Family and lengths of a draft from the lines of an outline drawing, where no table gives them."""

from collections.abc import Mapping, Sequence

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.datasheets.datasheet_draft import sheet_of
from eider.commands.datasheets.drafted_pitch import PITCH, unwritten_pitch
from eider.commands.datasheets.family_guess import guess_family
from eider.datasheets.figures.drawn_pitch import points_of
from eider.datasheets.figures.land_drawings import LetterValue
from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing
from eider.datasheets.tables.value_reading import is_number
from eider.evidence.evidence_changes import put_value
from eider.geometry.plane import Box
from eider.model.address import DimensionAddress, FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.wording import counted
from eider.packages.letters.drawing_witness import DrawnSpan
from eider.packages.letters.letter_proposals import DatasheetLetter
from eider.packages.registry import family_of

replace = msgspec.structs.replace
NO_VALUES: Mapping[str, LetterValue] = {}
# A drawing with fewer lengths at its lines says nothing of its family.
FEWEST_LENGTHS = 3
# Lengths (mm) that differ by less are one.
SAME_LENGTH = 0.005
# And lines that are drawn as long, in points.
DRAWN_ALIKE = 0.8
FAMILY, DIMS = str(FieldAddress("sheet", "family")), str(FieldAddress("sheet", "dims"))


class PlacedDrawing(msgspec.Struct, frozen=True):
    """A drawing that was read, with the page (from 1) and the box (PDF points) in which it is."""

    page: int
    box: Box
    drawing: OutlineDrawing


class NamedPackage(msgspec.Struct, frozen=True):
    """What else is known of the package: its name, the document's title, how many pins there are and their numbers, and
    whether it is surface mounted."""

    name: str = ""
    title: str = ""
    pins: int = 0
    numbers: tuple[str, ...] = ()
    is_surface: bool = False


class _PlacedLength(msgspec.Struct, frozen=True):
    """A length of a drawing, with the place that gives it: at its line, or in the table for its letter."""

    of: PlacedDrawing
    length: DrawnLength
    page: int
    box: Box
    seen: str


def with_drawn_lengths(
    bundle: Bundle,
    drawings: Sequence[PlacedDrawing],
    package: NamedPackage,
    document: str,
    who: str,
    values: Mapping[str, LetterValue] = NO_VALUES,
) -> tuple[Bundle, list[Doubt]]:
    """The part with the family that fits the lengths at the lines best, and these under the standard's letters.

    Each is a doubt: the line tells which length it is, and no letter or table does. `values` are those that a table
    gives for letters at other lines.
    """
    lengths = [found for placed in drawings for found in _written(placed, values)]
    rows = tuple(
        DatasheetLetter(str(index), found.length.limits) for index, found in enumerate(lengths) if found.length.limits
    )
    if len(rows) < FEWEST_LENGTHS:
        return bundle, []
    spans = tuple(
        DrawnSpan(str(index), found.length.view, found.length.span.axis, found.length.reach)
        for index, found in enumerate(lengths)
        if found.length.view >= 0 and not found.length.doubt
    )
    guess = guess_family(
        package.name,
        package.pins,
        rows,
        are_balls=False,
        title=package.title,
        drawn=spans,
        is_surface=package.is_surface,
    )
    made = replace(bundle, sheet=sheet_of(bundle.sheet, guess.key, guess.pins, package.numbers))
    first = drawings[0]
    family = family_of(guess.key)
    told = guess.doubt or "no table of dimensions was found: told by the package's name and the lengths in its drawing"
    doubts = [Doubt(FAMILY, family.title, told, document, first.page, first.box)]
    taken = guess.proposal.letters if guess.proposal else {}
    for index, found in enumerate(lengths):
        standard, where = taken.get(str(index), ""), (document, found.page, found.box)
        letter = family.letter(standard) if standard else None
        # A pitch is basic: what a note says of lengths without a tolerance is not meant for it.
        is_basic = letter is not None and letter.meaning.startswith("pitch")
        text = found.length.printed if is_basic and found.length.printed else found.length.text
        if letter is None:
            told = "a length at a line of the drawing for which this family has no use"
            doubts.append(Doubt(DIMS, text, told, *where))
            continue
        made = put_value(made, DimensionAddress(standard), text, datasheet_evidence(*where, found.seen, who))
        made = _with_alias(made, found.length.letter, standard)
        told = f"taken as {standard}, the {letter.meaning}: told by its line in the drawing"
        doubts.append(Doubt(str(DimensionAddress(standard)), text, told, *where))
    missing = guess.proposal.missing if guess.proposal else ()
    named = {standard: lengths[int(index)] for index, standard in taken.items()}
    made, shown = _with_unwritten_pitch(made, named, document, who) if PITCH in missing else (made, [])
    left = [key for key in missing if not (key == PITCH and shown)]
    return made, [*doubts, *shown, *_of_missing(left, first, document)]


def _of_missing(letters: Sequence[str], drawing: PlacedDrawing, document: str) -> list[Doubt]:
    """A doubt for each letter that the family needs and the drawing does not give."""
    told = "no length of the drawing gives it"
    return [Doubt(str(DimensionAddress(key)), "", told, document, drawing.page, drawing.box) for key in letters]


def _with_unwritten_pitch(
    bundle: Bundle, taken: Mapping[str, _PlacedLength], document: str, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the pitch that a drawing shows without writing it, and the doubt about it."""
    drawings = {id(found.of): found.of for found in taken.values()}
    for placed in drawings.values():
        here = {standard: found.length for standard, found in taken.items() if found.of is placed}
        found = unwritten_pitch(family_of(bundle.sheet.family), bundle.sheet, placed.drawing, here)
        if found is not None:
            text, kind, told = found
            evidence = replace(datasheet_evidence(document, placed.page, placed.box, told, who), kind=kind)
            made = put_value(bundle, DimensionAddress(PITCH), text, evidence)
            return made, [Doubt(str(DimensionAddress(PITCH)), text, told, document, placed.page, placed.box)]
    return bundle, []


def _with_alias(bundle: Bundle, letter: str, standard: str) -> Bundle:
    """The part with the datasheet's letter for a length, where it has one of its own."""
    if letter in ("", standard):
        return bundle
    return replace(bundle, sheet=replace(bundle.sheet, aliases={**bundle.sheet.aliases, letter: standard}))


def _written(placed: PlacedDrawing, values: Mapping[str, LetterValue]) -> list[_PlacedLength]:
    """The lengths that are written at lines, one of each length and line's reach: a view may repeat another's.

    A reference length that others of its axis add up to says nothing new, and has no letter.
    """
    lengths = [_valued(length, values) for length in placed.drawing.lengths]
    found: dict[tuple[str, str, str], _PlacedLength] = {}
    for length in lengths:
        is_known = length.limits is not None and (not length.letter or length.letter in values)
        if is_known and not _says_nothing_new(length, lengths):
            value = values.get(length.letter)
            place = (value.page, value.box, value.seen) if value else (placed.page, length.box, length.text)
            found.setdefault((length.text, length.span.axis, length.reach), _PlacedLength(placed, length, *place))
    return list(found.values())


def _valued(length: DrawnLength, values: Mapping[str, LetterValue]) -> DrawnLength:
    value = values.get(length.letter) if length.letter else None
    return replace(length, text=value.text, limits=value.limits) if value is not None else length


def _says_nothing_new(length: DrawnLength, lengths: Sequence[DrawnLength]) -> bool:
    """Whether a length follows from others: as a reference, or as the pitches of a whole row."""
    return _follows(length, lengths) or _is_row(length, lengths)


def _is_row(length: DrawnLength, lengths: Sequence[DrawnLength]) -> bool:
    """Whether a length within a view is so many times a shorter one beside it, as drawn and as written."""
    if length.limits is None or length.reach != "inner" or not is_number(length.printed or length.text):
        return False
    return any(
        other.limits is not None
        and (other.view, other.span.axis, other.reach) == (length.view, length.span.axis, "inner")
        and is_number(other.printed or other.text)
        and _is_multiple(length.limits.middle, other.limits.middle, SAME_LENGTH)
        and _is_multiple(points_of(length), points_of(other), DRAWN_ALIKE)
        for other in lengths
    )


def _is_multiple(whole: float, part: float, room: float) -> bool:
    """Whether a length is two or more times another."""
    count = round(whole / part) if part > 0 else 0
    return count > 1 and abs(whole - count * part) < room * count


def _follows(length: DrawnLength, lengths: Sequence[DrawnLength]) -> bool:
    """Whether a reference length is what one or two of another leave of the whole."""
    if not length.is_reference or length.limits is None:
        return False
    along = [
        found.limits.middle
        for found in lengths
        if found.limits is not None and found is not length and found.span.axis == length.span.axis
    ]
    rest = length.limits.middle
    return any(abs(whole - n * part - rest) < SAME_LENGTH for whole in along for part in along for n in (1, 2))


def with_family_of_name(bundle: Bundle, package: NamedPackage, document: str) -> tuple[Bundle, list[Doubt]]:
    """The part with the family that its package's name means; without one a doubt that says so."""
    guess = guess_family(package.name, package.pins, (), are_balls=False, title=package.title)
    if guess.is_named:
        made = replace(bundle, sheet=sheet_of(bundle.sheet, guess.key, guess.pins, package.numbers))
        told = f"told by the name {package.name} alone: no dimensions were found"
        return made, [Doubt(FAMILY, family_of(guess.key).title, told, document)]
    pins = f", {counted(package.pins, 'pin')}" if package.pins else ""
    told = f"neither a name nor dimensions tell the family{pins}: choose it under Package"
    return bundle, [Doubt(FAMILY, family_of(bundle.sheet.family).title, told, document)]
