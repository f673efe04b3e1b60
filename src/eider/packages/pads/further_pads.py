"""Pads by hand beside those that follow from a family's lengths: shields, hold-downs, thermal pads anywhere, posts.

Every family takes them: its own lands, terminals, solids and drawing are joined by those of the sheet's pads.
"""

import re
from collections.abc import Collection
from functools import lru_cache

import msgspec

from eider.geometry.plane import box_outline
from eider.geometry.rounding import tidy
from eider.geometry.solids import Cylinder, Prism, Shape, Solid
from eider.model.outline import OutlineSpec, PadSpec
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.packages.family import Dims, Family, LandRecipe, ManualPad, Terminal, View, ViewShape
from eider.packages.forms import leaded
from eider.packages.pads.manual_pads import make_manual_pads
from eider.packages.pads.pad_shapes import pad_outline

replace = msgspec.structs.replace
_WORD = re.compile(r"[A-Za-z_][A-Za-z_0-9]*")
# How thick a pad under the body is, how far it stays inside of its land, and how much play a lead or post has (mm).
THICK, INSIDE, PLAY = 0.1, 0.05, 0.2


def with_further_pads(family: Family) -> Family:
    """The family whose sheets can add pads by hand; sums may name every letter of the sheet."""
    if family.any_letters:
        return family

    def lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
        recipe = family.lands(sheet, dims)
        return replace(recipe, manual_pads=(*recipe.manual_pads, *_pads(sheet, dims))) if sheet.pads else recipe

    def terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
        own = family.terminals(sheet, dims)
        known = {terminal.number for terminal in own}
        return (*own, *_terminals(known, _pads(sheet, dims))) if sheet.pads else own

    def solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
        own = family.solids(sheet, dims)
        return (*own, *_solids(_pads(sheet, dims))) if sheet.pads else own

    def views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
        own = family.views(sheet, dims)
        return tuple(_seen(view, _pads(sheet, dims)) for view in own) if sheet.pads else own

    return replace(family, lands=lands, terminals=terminals, solids=solids, views=views)


def letters_in_sums(sheet: PackageSheet) -> set[str]:
    """The words that the sums of pads and outlines name: a sheet may have further lengths for them."""
    texts = [str(text) for pad in sheet.pads for text in msgspec.structs.astuple(pad)]
    texts += [str(text) for outline in sheet.outlines.values() for text in msgspec.structs.astuple(outline)]
    return set(_WORD.findall(" ".join(texts)))


def further_count(sheet: PackageSheet, dims: Dims, own: Collection[str]) -> int:
    """How many terminals the pads by hand add to those of the family, which are numbered `own`."""
    return len(_terminals(own, _pads(sheet, dims))) if sheet.pads else 0


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    names = tuple((letter, limits.middle) for letter, limits in dims.items())
    return _made(sheet.pads, tuple(sheet.outlines.items()), names)


# Lands, terminals, body and drawing of one state all ask for the same pads.
@lru_cache(maxsize=16)
def _made(
    pads: tuple[PadSpec, ...], outlines: tuple[tuple[str, OutlineSpec], ...], names: tuple[tuple[str, float], ...]
) -> tuple[ManualPad, ...]:
    return make_manual_pads(pads, dict(outlines), dict(names))


def _is_terminal(pad: Pad) -> bool:
    return bool(pad.number) and pad.plated


def _terminals(known: Collection[str], pads: tuple[ManualPad, ...]) -> tuple[Terminal, ...]:
    """One for each number that the family does not have: its first pad."""
    found: dict[str, Terminal] = {}
    for pad in (manual.pad for manual in pads):
        if _is_terminal(pad) and pad.number not in known:
            found.setdefault(pad.number, Terminal(pad.number, pad.box, pad.box))
    return tuple(found.values())


def _solids(pads: tuple[ManualPad, ...]) -> tuple[Solid, ...]:
    """A flat pad under the body, a lead through a plated hole, a post in a bare one."""
    made = []
    for index, pad in enumerate((manual.pad for manual in pads), start=1):
        if pad.hole is not None:
            name, material = ("lead", "tin") if pad.plated else ("post", "housing")
        else:
            name, material = "pad", "tin"
        if shape := _shape(pad):
            made.append(Solid(f"{name} {pad.number or index}", material, shape))
    return tuple(made)


def _shape(pad: Pad) -> Shape | None:
    if pad.hole is None:
        outline = pad_outline(pad, -INSIDE)
        return Prism(outline, 0.0, THICK) if outline else None
    (x, y), play = pad.hole_centre, min(PLAY, pad.hole.width / 4, pad.hole.height / 4)
    width, height = pad.hole.width - play, pad.hole.height - play
    deep = leaded.THROUGH if pad.plated else leaded.THROUGH / 2
    if pad.hole.width == pad.hole.height:
        return Cylinder(tidy(x), tidy(y), width / 2, -deep, THICK)
    # A quarter turn exchanges the sides of a slot; other turns keep a lead of the slot's width.
    if pad.rotation % 180 == 90:
        width, height = height, width
    elif pad.rotation % 180:
        width = height = min(width, height)
    return Prism(box_outline((x - width / 2, y - height / 2, x + width / 2, y + height / 2)), -deep, THICK)


def _seen(view: View, pads: tuple[ManualPad, ...]) -> View:
    if view.name != "top":
        return view
    shapes = tuple(
        ViewShape("terminal" if _is_terminal(manual.pad) else "mark", outline)
        for manual in pads
        if (outline := pad_outline(manual.pad))
    )
    return View(view.name, (*view.shapes, *shapes), view.dimensions)
