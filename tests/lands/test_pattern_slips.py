"""Slips planted in patterns of every family: each is named, and nothing is named in what the equations give."""

import math
from collections.abc import Callable

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck, run_checks
from eider.checks.pattern_slips import slips_of
from eider.cli.packages.lands import bare_bundle
from eider.geometry.limits import Limits
from eider.lands.pattern import make_pattern
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level, Pad
from eider.packages.family import LandRecipe, OpposedRows
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

RULES = standard_rulebook()
Pads = tuple[Pad, ...]
Plant = Callable[[Pads, LandRecipe], Pads | None]


def view_of(sheet: PackageSheet, pads: Pads | None = None, level: Level = "B") -> PartUnderCheck:
    """A sheet with its pattern of a level, or with these pads in place of its own."""
    pattern = make_pattern(sheet, level, RULES)
    shown = replace(pattern, pads=pattern.pads if pads is None else pads)
    return PartUnderCheck(bare_bundle(sheet, shown, "B"), RULES, LibrarySettings(name=""))


def scaled(by: float) -> Plant:
    def plant(pads: Pads, _recipe: LandRecipe) -> Pads:
        sizes = ("x", "y", "width", "height")
        return tuple(replace(p, **{name: getattr(p, name) * by for name in sizes}) for p in pads)

    return plant


def mirrored(pads: Pads, _recipe: LandRecipe) -> Pads:
    return tuple(replace(p, x=-p.x) for p in pads)


def turned(pads: Pads, _recipe: LandRecipe) -> Pads:
    return tuple(replace(p, x=-p.y, y=p.x, width=p.height, height=p.width) for p in pads)


def numbered(change: Callable[[int, int], int], fewest: int = 1) -> Plant:
    """Other numbers by the number and the count; only where all are whole numbers."""

    def plant(pads: Pads, _recipe: LandRecipe) -> Pads | None:
        numbers = [p.number for p in pads if p.number]
        if not all(n.isdecimal() for n in numbers) or len(set(numbers)) < max(fewest, len(numbers)):
            return None
        return tuple(replace(p, number=str(change(int(p.number), len(numbers)))) if p.number else p for p in pads)

    return plant


def longest_row(recipe: LandRecipe) -> OpposedRows | None:
    rows = [rows for rows in recipe.rows if len(rows.first) > 2 and rows.pitch]
    return max(rows, key=lambda r: len(r.first), default=None)


def along(change: Callable[[float, str, OpposedRows], float]) -> Plant:
    """Other places along the longest row: by the place, the number and the row."""

    def plant(pads: Pads, recipe: LandRecipe) -> Pads | None:
        rows = longest_row(recipe)
        if rows is None:
            return None
        axis = "y" if rows.axis == "x" else "x"
        mine = {*rows.first, *rows.second}
        return tuple(
            replace(p, **{axis: change(getattr(p, axis), p.number, rows)}) if p.number in mine else p for p in pads
        )

    return plant


def spans_between_centres(pads: Pads, recipe: LandRecipe) -> Pads | None:
    found = list(pads)
    for rows in recipe.rows:
        axis, size = ("x", "width") if rows.axis == "x" else ("y", "height")
        for k, p in enumerate(found):
            if p.number in (*rows.first, *rows.second) and rows.first and rows.second:
                at = getattr(p, axis)
                found[k] = replace(p, **{axis: at + math.copysign(getattr(p, size) / 2, at)})
    return tuple(found) if recipe.rows else None


def of_pads(change: Callable[[Pad], Pad], wanted: Callable[[Pad, LandRecipe], bool]) -> Plant:
    """A change of all pads of a kind; None where there is none."""

    def plant(pads: Pads, recipe: LandRecipe) -> Pads | None:
        changed = tuple(change(p) if p.number and wanted(p, recipe) else p for p in pads)
        return None if changed == pads else changed

    return plant


def is_drilled(pad: Pad, _recipe: LandRecipe) -> bool:
    return pad.hole is not None and pad.plated


def is_thermal(pad: Pad, recipe: LandRecipe) -> bool:
    return pad.hole is None and bool(recipe.laid_numbers) and pad.number not in recipe.laid_numbers


# What is planted, and by which of these slips it may be told first.
PLANTED: dict[str, tuple[Plant, set[str]]] = {
    "in mil": (scaled(1000 / 25.4), {"unit"}),
    "in inches": (scaled(1 / 25.4), {"unit"}),
    "mm read as mil": (scaled(0.0254), {"unit"}),
    "mm read as inches": (scaled(25.4), {"unit"}),
    "from below": (mirrored, {"mirrored", "clockwise", "turned", "pads exchanged"}),
    "turned": (turned, {"turned", "begun elsewhere", "clockwise"}),
    "counted from 0": (numbered(lambda n, _count: n - 1), {"off by one"}),
    "begun at the third": (numbered(lambda n, count: (n + 1) % count + 1, 5), {"begun elsewhere"}),
    "two exchanged": (
        numbered(lambda n, _count: {1: 3, 3: 1}.get(n, n), 8), {"pads exchanged"},
    ),
    "moved as a whole": (of_pads(lambda p: replace(p, x=p.x + 0.2), lambda _p, _r: True), {"moved as a whole"}),
    "row moved by 0.1": (
        along(lambda at, n, rows: at + 0.1 * (n in rows.first)), {"row moved", "moved as a whole"},
    ),
    "row moved by its pitch": (
        along(lambda at, n, rows: at + rows.pitch * (n in rows.first)), {"row moved", "moved as a whole"},
    ),
    "pitch": (along(lambda at, _n, _rows: 1.025 * at), {"pitch"}),
    "under the next": (along(lambda at, n, rows: at + rows.pitch * (n == rows.first[0])), {"under the next lead"}),
    "spans between centres": (spans_between_centres, {"span between centres"}),
    "no holes": (of_pads(lambda p: replace(p, hole=None), is_drilled), {"no holes"}),
    "unplated": (of_pads(lambda p: replace(p, plated=False), is_drilled), {"unplated holes"}),
    "thermal land halved": (
        of_pads(lambda p: replace(p, width=p.width / 2, height=p.height / 2), is_thermal), {"thermal land size"},
    ),
    "thermal land moved": (of_pads(lambda p: replace(p, y=p.y + 0.4), is_thermal), {"thermal land place"}),
    "balls halved": (
        of_pads(lambda p: replace(p, width=p.width / 2, height=p.height / 2), lambda _p, r: bool(r.grids)),
        {"grid land size"},
    ),
    "no mask opening": (of_pads(lambda p: replace(p, mask=()), lambda p, _r: bool(p.mask)), {"no mask opening"}),
    "no paste": (of_pads(lambda p: replace(p, paste=()), lambda p, _r: bool(p.paste)), {"no paste"}),
}  # fmt: skip
# A shell of four like legs is the same mirrored and turned.
SYMMETRIC = {"coaxial-socket"}


@pytest.mark.parametrize("key", list(SAMPLES))
def test_every_slip_planted_in_a_family_is_named(key: str) -> None:
    sheet = sample(key)
    good = view_of(sheet)
    assert good.recipe is not None
    for name, (plant, names) in PLANTED.items():
        pads = plant(good.pads, good.recipe)
        if pads is None or pads == good.pads or (key in SYMMETRIC and len(names) > 1):
            continue
        slips = slips_of(view_of(sheet, pads))
        assert slips, f"{name} passes in silence"
        assert slips[0].slip in names or any(s.slip in names for s in slips), (name, [s.message for s in slips])
        assert all(s.message.endswith(".") and s.action.endswith(".") for s in slips)


@pytest.mark.parametrize("key", list(SAMPLES))
@pytest.mark.parametrize("level", ["A", "B", "C"])
def test_what_the_equations_give_has_no_slip(key: str, level: Level) -> None:
    assert slips_of(view_of(sample(key), level=level)) == ()


def test_a_pattern_in_mil_is_told_before_its_fillets() -> None:
    sheet = sample("gullwing-dual")
    good = view_of(sheet)
    assert good.recipe is not None
    pads = scaled(1000 / 25.4)(good.pads, good.recipe)
    view = view_of(sheet, pads)
    (slip,) = slips_of(view)
    assert slip.message == "The pattern is in mil and was read in mm: it is 39.37 times as large as the package."
    assert slip.action == "Read it again in mil."
    first = next(f for f in run_checks(view, areas=("lands",)) if f.check == "lands.slip")
    assert first.severity == "blocker"


@pytest.mark.parametrize("by", [0.1, 0.2, 0.4, 0.8])
def test_sides_moved_round_the_package_are_told(by: float) -> None:
    sheet = sample("gullwing-quad")
    good = view_of(sheet)
    assert good.recipe is not None
    sides = {}
    for rows in good.recipe.rows:
        axis = "y" if rows.axis == "x" else "x"
        # Down at the left, to the right at the bottom, up at the right, to the left at the top.
        sides |= dict.fromkeys(rows.first, (axis, -by)) | dict.fromkeys(rows.second, (axis, by))
    pads = tuple(
        replace(p, **{sides[p.number][0]: getattr(p, sides[p.number][0]) + sides[p.number][1]})
        if p.number in sides
        else p
        for p in good.pads
    )
    messages = [s.message for s in slips_of(view_of(sheet, pads)) if s.slip == "moved round"]
    assert messages == [f"All four sides are moved counter-clockwise round the package by {by:.3f} mm."]


def test_lands_from_nominal_lengths_are_told_with_their_level() -> None:
    sheet = sample("gullwing-dual")
    good = view_of(sheet)
    plain = {key: replace(d, limits=Limits(nom=d.limits.middle)) for key, d in sheet.dims.items() if d.limits}
    nominal = make_pattern(replace(sheet, dims=plain), "C", RULES)
    assert nominal.pads != good.pads
    slips = [s for s in slips_of(view_of(sheet, nominal.pads)) if s.slip == "nominal lengths"]
    assert [s.message for s in slips] == [
        "The lands are those of level C computed from nominal lengths: tolerances were left out."
    ]
