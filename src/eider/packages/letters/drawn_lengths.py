"""Lengths that stand at the lines of an outline drawing without letters: which length each is, by how its line lies.

Each view of a drawing shows the package from above or below, or from a side; a view from above may be turned by a
quarter. For every way to take the views, each line speaks for the lengths that Eider's own views draw so, and against
the others; the lengths then have to make a possible package, as those of letters have.
"""

from collections.abc import Iterator, Mapping, Sequence
from itertools import product

import msgspec

from eider.geometry.limits import Limits
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.family import Family, SheetError
from eider.packages.letters.drawing_witness import DrawnReach, DrawnSpan, PlaceAxis, letter_places
from eider.packages.letters.letter_proposals import BEST, DatasheetLetter, Proposal, propose_letters
from eider.packages.letters.typical_dimensions import usual_share

# In the points of `letter_proposals`: a line that lies as its length does, to the letter; one over all of a view for
# one over a part of it, as views of bodies without their leads have it; one that runs the other way; a height from
# above, or a flat length upright from a side.
LIES_SO, SAME_REACH, OTHER_REACH, OTHER_WAY, OTHER_SIDE = 1.5, 0.3, -1.5, -4.0, -6.0
# A flat length that lies across a side view is seen there, too, though it tells little.
SEEN_FROM_SIDE = 0.3
# Among lengths with tolerances one without is basic, as pitches are and sizes are not.
BASIC, MOSTLY = -1.0, 0.6
# Pitch and width of terminals lie along the rows that Eider draws upright, their length across: this little tells rows
# on two sides where the family may have them on all.
ALONG, ROWS = 0.2, {"e": "E", "b": "E", "L": "D"}
# With more views than this the ones with fewest lengths are taken as sides.
MOST_PLANS = 3
Place = tuple[PlaceAxis, DrawnReach]
Spoken = Mapping[tuple[str, str], float]


class _Places(msgspec.Struct, frozen=True):
    """Where a family draws its letters: from above, and from a side."""

    above: Mapping[str, Place]
    side: Mapping[str, Place]

    @property
    def heights(self) -> frozenset[str]:
        return frozenset(letter for letter, (axis, _reach) in self.side.items() if axis == "vertical")


def propose_drawn_lengths(
    family: Family, sheet: PackageSheet, rows: Sequence[DatasheetLetter], spans: Sequence[DrawnSpan]
) -> tuple[Proposal, ...]:
    """The assignments of lengths without letters that a drawing speaks for most, the best first.

    Args:
        family: the family of the package.
        sheet: its pins and options.
        rows: the lengths, under names that mean nothing.
        spans: their lines in the drawing, by these names.

    Empty where the family draws nothing.
    """
    places = _places_of(family, sheet, rows)
    if not places.above:
        return ()
    found: list[Proposal] = []
    for plans, is_turned in _ways(spans):
        spoken = _with_basic(family, _spoken(family, places, spans, plans, is_turned), rows)
        found += propose_letters(family, sheet, rows, spoken=spoken, most=2)
    distinct = {tuple(sorted(p.letters.items())): p for p in sorted(found, key=lambda p: p.score)}
    return tuple(sorted(distinct.values(), key=lambda p: -p.score))[:BEST]


def letter_along_rows(family: Family, sheet: PackageSheet) -> str:
    """The letter that goes over the whole package along its rows of terminals; empty where the family draws none."""
    above = _places_of(family, sheet, [DatasheetLetter("", Limits(nom=1.0))]).above
    pitch = above.get("e")
    along = (letter for letter, (axis, reach) in above.items() if pitch and reach == "whole" and axis == pitch[0])
    return next(along, "")


def _places_of(family: Family, sheet: PackageSheet, rows: Sequence[DatasheetLetter]) -> _Places:
    """Where the family draws its letters, at usual sizes; empty where it cannot draw these."""
    known = {letter.key: max(row.limits.middle for row in rows) for letter in family.letters if not letter.reference}
    waiting = [letter for letter in family.letters if letter.reference]
    while ready := [letter for letter in waiting if letter.reference in known]:
        known |= {letter.key: known[letter.reference] * usual_share(letter) for letter in ready}
        waiting = [letter for letter in waiting if letter not in ready]
    dims = {key: Dimension(limits=Limits(nom=round(value, 3))) for key, value in known.items()}
    try:
        tried = msgspec.structs.replace(sheet, dims=dims)
        views = family.views(tried, family.dims(tried))
    except (SheetError, ValueError, ZeroDivisionError):
        return _Places({}, {})
    above: dict[str, Place] = {}
    side: dict[str, Place] = {}
    for view in views:
        (above if view.name == "top" else side).update(letter_places(view))
    return _Places(above, side)


def _ways(spans: Sequence[DrawnSpan]) -> Iterator[tuple[frozenset[int], bool]]:
    """Which views of a drawing are seen from above or below, and whether these are turned by a quarter."""
    counts: dict[int, int] = {}
    for span in spans:
        counts[span.view] = counts.get(span.view, 0) + 1
    views = sorted(counts, key=lambda view: -counts[view])[:MOST_PLANS]
    for chosen in product((True, False), repeat=len(views)):
        plans = frozenset(view for view, is_plan in zip(views, chosen, strict=True) if is_plan)
        for is_turned in (False, True) if plans else (False,):
            yield plans, is_turned


def _spoken(
    family: Family, places: _Places, spans: Sequence[DrawnSpan], plans: frozenset[int], is_turned: bool
) -> Spoken:
    """What each line says for or against each letter of the family, in points."""
    found: dict[tuple[str, str], float] = {}
    for span in spans:
        for letter in family.letters:
            points = (
                _from_above(places, span, letter.key, is_turned)
                if span.view in plans
                else _from_side(places, span, letter.key, is_turned)
            )
            if points:
                found[span.letter, letter.key] = points
    return found


def _with_basic(family: Family, spoken: Spoken, rows: Sequence[DatasheetLetter]) -> Spoken:
    """What is said for letters, less for sizes that would be basic where nearly all lengths have tolerances."""
    basic = [row.letter for row in rows if row.limits.is_exact]
    if len(rows) - len(basic) < MOSTLY * len(rows):
        return spoken
    sizes = [letter.key for letter in family.letters if not letter.meaning.startswith("pitch")]
    against = {(own, key): spoken.get((own, key), 0.0) + BASIC for own in basic for key in sizes}
    return {**spoken, **against}


def _from_above(places: _Places, span: DrawnSpan, letter: str, is_turned: bool) -> float:
    if letter in places.heights:
        return OTHER_SIDE
    place = places.above.get(letter)
    if place is None:
        return 0.0
    axis, reach = place
    if axis != "either" and (axis == span.axis) == is_turned:
        return OTHER_WAY
    row = places.above.get(ROWS.get(letter, ""))
    is_along = axis == "either" and row is not None and (row[0] == span.axis) != is_turned
    return _reaching(reach, span.reach) + (ALONG if is_along else 0.0)


def _from_side(places: _Places, span: DrawnSpan, letter: str, is_turned: bool) -> float:
    is_height = letter in places.heights
    if (span.axis == "vertical") != is_height:
        return OTHER_SIDE
    place = places.side.get(letter)
    if place is not None:
        return _reaching(place[1], span.reach)
    # A side view stands under the one from above: what runs across in one does so in the other.
    flat = places.above.get(letter)
    if flat is not None and flat[1] == span.reach == "whole":
        # From one end of the package to the other, as front and end views show it.
        return LIES_SO + SAME_REACH
    flat = places.above.get(ROWS.get(letter, "")) if flat is not None and flat[0] == "either" else flat
    is_along = letter in ROWS and flat is not None and (flat[0] == "horizontal") != is_turned
    return SEEN_FROM_SIDE + (ALONG if is_along else 0.0)


def _reaching(own: DrawnReach, drawn: DrawnReach) -> float:
    if (own == "whole") != (drawn == "whole"):
        return OTHER_REACH
    return LIES_SO + (SAME_REACH if own == drawn else 0.0)
