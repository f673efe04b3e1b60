"""The maker's suggested pattern: its numbers in their own form, laid in place of the computed, and the difference."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import msgspec

from eider.errors import InputError
from eider.geometry.lengths import LengthError, parse_length
from eider.geometry.rounding import NOISE, tidy
from eider.lands.land_layout import LaidLands
from eider.lands.pads import require_land, row_pads
from eider.lands.solver import Lands
from eider.model.footprint import SuggestedLands
from eider.model.pattern import Derivation, Hole, Pad, SizeDerivation
from eider.packages.family import LandRecipe
from eider.rulebooks import Rulebook

# The forms in which sheets give two opposing rows: which lengths each needs, besides X, the width of a land.
FORMS: Mapping[str, tuple[str, ...]] = {
    "outer and inner": ("Z", "G", "X"), "centres and length": ("C", "Y", "X"), "gap and length": ("G", "Y", "X"),
    "outer and length": ("Z", "Y", "X"),
}  # fmt: skip
SIZE, HOLE = "width and height", "hole and land"
MEANINGS: Mapping[str, str] = {
    "Z": "over both rows, outside", "G": "gap between the rows", "C": "centre to centre of the rows",
    "Y": "length of a land", "X": "width of a land", "width": "width of the land", "height": "height of the land",
    "hole": "diameter of the hole", "land": "diameter of the land",
}  # fmt: skip
SUGGESTED = "As the manufacturer suggests"
replace = msgspec.structs.replace


class PadDifference(NamedTuple):
    """How a pad differs from the computed one: of its place and its size, in mm."""

    number: str
    dx: float
    dy: float
    dwidth: float
    dheight: float

    @property
    def words(self) -> str:
        """For a table."""
        named = zip(("x", "y", "width", "height"), self[1:], strict=True)
        return ", ".join(f"{name} {value:+.3f}" for name, value in named if abs(value) > 5e-4) or "the same"


def groups_of(laid: LaidLands) -> dict[str, tuple[str, ...]]:
    """What can be suggested for each group of lands: its forms."""
    rows = {d.group: tuple(FORMS) for d in laid.derivation}
    return rows | {s.group: (HOLE,) if "hole" in s.values else (SIZE,) for s in laid.sizes}


def needed(form: str) -> tuple[str, ...]:
    """The lengths that a form asks for."""
    return {**FORMS, SIZE: ("width", "height"), HOLE: ("hole", "land")}.get(form, ())


def with_suggested(
    recipe: LandRecipe,
    laid: LaidLands,
    suggested: Sequence[SuggestedLands],
    names: Mapping[str, float],
    rulebook: Rulebook,
) -> LaidLands:
    """The lands with those groups replaced for which the manufacturer's numbers are complete; the others stay computed.

    Raises:
        InputError: a number cannot be read, or gives no land.
    """
    pads = {pad.number: pad for pad in laid.pads}
    derivation, sizes = list(laid.derivation), list(laid.sizes)
    rows = {pair.group: pair for pair in recipe.rows}
    for given in suggested:
        lengths = _lengths(given, names)
        if lengths is None:
            continue
        if given.form in FORMS and given.group in rows:
            lands = _lands(given.form, lengths)
            require_land(rows[given.group], lands)
            pads |= {pad.number: pad for pad in row_pads(rows[given.group], lands, rulebook)}
            derivation = [_told(d, lands) if d.group == given.group else d for d in derivation]
        else:
            sized = next((s for s in sizes if s.group == given.group), None)
            if sized is not None:
                pads |= {n: _sized(pads[n], given.form, lengths) for n in sized.numbers if n in pads}
                sizes = [_resized(s, lengths) if s is sized else s for s in sizes]
    ordered = tuple(pads.get(pad.number, pad) if pad.plated else pad for pad in laid.pads)
    return replace(laid, pads=ordered, derivation=tuple(derivation), sizes=tuple(sizes))


def land_lengths(given: SuggestedLands, names: Mapping[str, float]) -> dict[str, float] | None:
    """What the manufacturer's numbers give (mm): Z, G and X of rows, the lengths of its form of another group.

    None while a number is missing.

    Raises:
        InputError: a number cannot be read.
    """
    lengths = _lengths(given, names)
    if lengths is None or given.form not in FORMS:
        return lengths
    lands = _lands(given.form, lengths)
    return {"Z": lands.Z, "G": lands.G, "X": lands.X}


def _lengths(given: SuggestedLands, names: Mapping[str, float]) -> dict[str, float] | None:
    """The lengths of a group in mm; None while one is missing."""
    found: dict[str, float] = {}
    for key in needed(given.form):
        value = given.lengths.get(key)
        if value is None or not value.text.strip():
            return None
        try:
            found[key] = parse_length(value.text, names)
        except LengthError as fault:
            raise InputError(f"suggested {key} of {given.group}: {fault}") from fault
    return found


def _lands(form: str, lengths: Mapping[str, float]) -> Lands:
    """Z, G and X from the lengths of a form."""
    y = lengths.get("Y", 0.0)
    if form == "centres and length":
        z, g = lengths["C"] + y, lengths["C"] - y
    elif form == "gap and length":
        z, g = lengths["G"] + 2 * y, lengths["G"]
    elif form == "outer and length":
        z, g = lengths["Z"], lengths["Z"] - 2 * y
    else:
        z, g = lengths["Z"], lengths["G"]
    return Lands(Z=tidy(z), G=tidy(g), X=tidy(lengths["X"]))


def _told(derivation: Derivation, lands: Lands) -> Derivation:
    computed = f"computed would be Z {derivation.Z:g}, G {derivation.G:g}, X {derivation.X:g} mm"
    # What these lands reach is told by the joints.
    notes = (*derivation.notes, SUGGESTED, computed)
    return replace(derivation, Z=lands.Z, G=lands.G, X=lands.X, notes=notes, reached=None)


def _resized(size: SizeDerivation, lengths: Mapping[str, float]) -> SizeDerivation:
    words = ", ".join(f"{name} {value:g}" for name, value in size.values.items())
    return replace(size, values=dict(lengths), notes=(*size.notes, SUGGESTED, f"computed would be {words} mm"))


def _sized(pad: Pad, form: str, lengths: Mapping[str, float]) -> Pad:
    if form == HOLE:
        hole, land = lengths["hole"], lengths["land"]
        if hole <= 0 or land <= 0:
            raise InputError(f"the hole ({hole:g} mm) and the land ({land:g} mm) must both be above 0")
        return replace(pad, width=tidy(land), height=tidy(land), hole=Hole(tidy(hole), tidy(hole)))
    width, height = lengths["width"], lengths["height"]
    if width <= 0 or height <= 0:
        raise InputError(f"land size {width:g} × {height:g} mm. Enter a width and a height.")
    return replace(pad, width=tidy(width), height=tidy(height))


def differences(pads: Sequence[Pad], computed: Sequence[Pad]) -> list[PadDifference]:
    """Pad by pad, how a pattern differs from the computed one; pads that are in both alone."""
    others = {pad.number: pad for pad in computed if pad.plated}
    found = []
    for pad in pads:
        other = others.get(pad.number)
        if other is not None and pad.plated:
            dx, dy, dw, dh = (tidy(a - b) for a, b in zip(_sides(pad), _sides(other), strict=True))
            found.append(PadDifference(pad.number, dx, dy, dw, dh))
    return found


def _sides(pad: Pad) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = pad.box
    return (x0 + x1) / 2, (y0 + y1) / 2, x1 - x0, y1 - y0


def is_same(difference: PadDifference) -> bool:
    """Whether two pads are alike within the noise of sums."""
    return max(map(abs, difference[1:])) <= NOISE
