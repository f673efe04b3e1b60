"""Leads that are one piece of metal over several positions, as power packages have them: one wide terminal each.

The sheet names them in its option `fused`: `5-8` are the positions with these numbers, which stand next to each
other on one side. Their terminal bears the first of the numbers; the pins of the others belong to its land.
"""

from collections.abc import Iterator, Mapping, Sequence

from eider.model.package_sheet import PackageSheet
from eider.packages.family import FamilyField, SheetError
from eider.packages.forms.dual import Dual, Numbered

FUSED = "fused"
FIELD = FamilyField(
    key=FUSED,
    title="fused leads",
    kind="numbers",
    help="Leads that are one piece: the first and the last number of each, such as 5-8. Its land bears the first.",
)


def fused_numbers(sheet: PackageSheet) -> tuple[tuple[str, ...], ...]:
    """The numbers of each fused lead, in the order in which its positions stand.

    Raises:
        SheetError: a text names no two numbers, or a position belongs to two leads.
    """
    groups = sheet.option(FUSED)
    found = tuple(_between(sheet, text) for text in (groups if isinstance(groups, tuple) else ()))
    numbers = [number for group in found for number in group]
    if doubled := sorted({n for n in numbers if numbers.count(n) > 1}):
        raise SheetError(f"pin {doubled[0]} belongs to two fused leads; correct the fused leads", FUSED)
    return found


def _between(sheet: PackageSheet, text: str) -> tuple[str, ...]:
    first, dash, last = (piece.strip() for piece in text.partition("-"))
    for side in _sides(sheet):
        if dash and first in side and last in side:
            low, high = sorted((side.index(first), side.index(last)))
            if high > low:
                run = tuple(number for number in side[low : high + 1] if number)
                return run if run[0] == first else run[::-1]
    raise SheetError(f"“{text}” are no leads of one side; enter the first and the last, such as 5-8", FUSED)


def _sides(sheet: PackageSheet) -> tuple[Sequence[str], Sequence[str]]:
    if sheet.left or sheet.right:
        return sheet.left, sheet.right
    half = sheet.pins // 2
    return [str(i + 1) for i in range(half)], [str(i + 1) for i in range(half, 2 * half)]


def terminal_of_pin(sheet: PackageSheet) -> Mapping[str, str]:
    """For each pin of a fused lead, the number that its terminal bears; nothing where the sheet is at fault."""
    try:
        return {number: group[0] for group in fused_numbers(sheet) for number in group}
    except SheetError:
        return {}


def split_fused(rows: Dual, sheet: PackageSheet) -> tuple[tuple[str, Dual], ...]:
    """Leads that are alike, each kind with its name: the plain ones, and each fused lead by itself."""
    groups = fused_numbers(sheet)
    if not groups:
        return (("row 1 and row 2", rows),)
    taken = {number for group in groups for number in group}
    plain = rows._replace(
        left=tuple(p for p in rows.left if p.number not in taken),
        right=tuple(p for p in rows.right if p.number not in taken),
    )
    parts = [("row 1 and row 2", plain)] if plain.left or plain.right else []
    return (*parts, *_wide(rows, groups))


def _wide(rows: Dual, groups: tuple[tuple[str, ...], ...]) -> Iterator[tuple[str, Dual]]:
    for group in groups:
        on_left = any(place.number == group[0] for place in rows.left)
        at = [place.at for place in (rows.left if on_left else rows.right) if place.number in group]
        alone = (Numbered(group[0], (min(at) + max(at)) / 2),)
        left, right = (alone, ()) if on_left else ((), alone)
        wide = rows.lead.less(min(at) - max(at))
        yield f"fused lead {group[0]}", rows._replace(left=left, right=right, lead=wide, pitch=0.0)
