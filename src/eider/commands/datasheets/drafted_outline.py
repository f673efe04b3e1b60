"""Family and lengths of a draft from the lines of an outline drawing, where no table gives them."""

from collections.abc import Sequence

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.datasheets.datasheet_draft import sheet_of
from eider.commands.datasheets.family_guess import guess_family
from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing
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
# A drawing with fewer lengths at its lines says nothing of its family.
FEWEST_LENGTHS = 3
FAMILY, DIMS = str(FieldAddress("sheet", "family")), str(FieldAddress("sheet", "dims"))


class PlacedDrawing(msgspec.Struct, frozen=True):
    """A drawing that was read, with the page (from 1) and the box (PDF points) in which it is."""

    page: int
    box: Box
    drawing: OutlineDrawing


class NamedPackage(msgspec.Struct, frozen=True):
    """What else is known of the package: its name, the document's title, how many pins there are and their numbers."""

    name: str = ""
    title: str = ""
    pins: int = 0
    numbers: tuple[str, ...] = ()


def with_drawn_lengths(
    bundle: Bundle, drawings: Sequence[PlacedDrawing], package: NamedPackage, document: str, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the family that fits the lengths at the lines best, and these under the standard's letters.

    Each is a doubt: the line tells which length it is, and no letter or table does.
    """
    lengths = [(placed, found) for placed in drawings for found in _written(placed.drawing)]
    rows = tuple(DatasheetLetter(str(index), found.limits) for index, (_, found) in enumerate(lengths) if found.limits)
    if len(rows) < FEWEST_LENGTHS:
        return bundle, []
    spans = tuple(
        DrawnSpan(str(index), found.view, found.span.axis, found.reach)
        for index, (_, found) in enumerate(lengths)
        if found.view >= 0 and not found.doubt
    )
    guess = guess_family(package.name, package.pins, rows, are_balls=False, title=package.title, drawn=spans)
    made = replace(bundle, sheet=sheet_of(bundle.sheet, guess.key, guess.pins, package.numbers))
    first = drawings[0]
    family = family_of(guess.key)
    told = guess.doubt or "no table of dimensions was found: told by the package's name and the lengths in its drawing"
    doubts = [Doubt(FAMILY, family.title, told, document, first.page, first.box)]
    taken = guess.proposal.letters if guess.proposal else {}
    for index, (placed, found) in enumerate(lengths):
        standard = taken.get(str(index), "")
        letter = family.letter(standard) if standard else None
        if letter is None:
            told = "a length at a line of the drawing for which this family has no use"
            doubts.append(Doubt(DIMS, found.text, told, document, placed.page, found.box))
            continue
        evidence = datasheet_evidence(document, placed.page, found.box, found.text, who)
        made = put_value(made, DimensionAddress(standard), found.text, evidence)
        told = f"taken as {standard}, the {letter.meaning}: told by its line in the drawing"
        doubts.append(Doubt(str(DimensionAddress(standard)), found.text, told, document, placed.page, found.box))
    missing = guess.proposal.missing if guess.proposal else ()
    doubts += [
        Doubt(str(DimensionAddress(key)), "", "no length of the drawing gives it", document, first.page, first.box)
        for key in missing
    ]
    return made, doubts


def _written(drawing: OutlineDrawing) -> list[DrawnLength]:
    """The lengths that are written at lines, one of each length and line's reach: a view may repeat another's."""
    found: dict[tuple[str, str, str], DrawnLength] = {}
    for length in drawing.lengths:
        if length.limits is not None and not length.letter:
            found.setdefault((length.text, length.span.axis, length.reach), length)
    return list(found.values())


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
