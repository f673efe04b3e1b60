"""Single lands that do not suit what stands on them: holes, thermal lands, lands of balls, openings."""

from collections.abc import Callable, Iterator

from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip, listed, offset
from eider.model.pattern import Pad

# Shares of the wanted length within which a thermal land or one of a ball suits the package: makers differ so far.
LEAST_SIZE, MOST_SIZE = 0.8, 1.25
# A thermal land is in its place within so many mm.
IN_PLACE = 0.1


def land_slips(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """What is wrong with lands by themselves, each kind told once with all of its pads."""
    for kind in (_holes, _plating, _thermal, _balls, _openings):
        yield from kind(compared)


def _told(
    compared: ComparedPattern, is_wrong: Callable[[Pad, Pad], bool], slip: str, words: str, action: str
) -> Iterator[PatternSlip]:
    """One slip for all pads of which something is wrong; `words` are those for one of them."""
    numbers = [number for number, (have, want) in compared.pairs.items() if is_wrong(have, want)]
    if numbers:
        told = f"Pad {numbers[0]} has" if len(numbers) == 1 else f"Pads {listed(numbers)} have"
        yield PatternSlip(slip, f"{told} {words}", action, tuple(numbers))


def _holes(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Leads through the board need holes, and leads on it none."""
    yield from _told(
        compared,
        lambda have, want: want.hole is not None and have.hole is None,
        "no holes",
        "no hole, and the leads of the package go through the board.",
        "Drill them as the package asks for.",
    )
    yield from _told(
        compared,
        lambda have, want: want.hole is None and have.hole is not None,
        "holes under surface leads",
        "a hole, and the package is soldered on the surface.",
        "Leave the holes out.",
    )


def _plating(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Holes that carry a lead are plated."""
    yield from _told(
        compared,
        lambda have, want: want.hole is not None and want.plated and have.hole is not None and not have.plated,
        "unplated holes",
        "a hole without plating, and a lead is soldered in it.",
        "Plate the holes.",
    )


def _thermal(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Lands under thermal pads and tabs are as large as these, and lie under them; of lands alone the size is told."""
    leads = compared.recipe.laid_numbers
    noun = "Thermal land" if leads else "Land"
    for number, (have, want) in compared.pairs.items():
        if number in leads or want.hole is not None:
            continue
        own, wanted = _lengths(have), _lengths(want)
        if _differs(have, want):
            told = f"{own[0]:.3g} × {own[1]:.3g} mm; {wanted[0]:.3g} × {wanted[1]:.3g} mm suit the package"
            message, action = f"{noun} {number} is {told}.", "Give it the size that the package asks for."
            yield PatternSlip("thermal land size", message, action, (number,))
        dx, dy = (a - b for a, b in zip(offset(have, want), compared.shift, strict=True))
        if leads and max(abs(dx), abs(dy)) > IN_PLACE:
            message = f"Thermal land {number} lies {dx:+.3g} mm in x and {dy:+.3g} mm in y beside the thermal pad."
            yield PatternSlip("thermal land place", message, "Move it under the thermal pad.", (number,))


def _balls(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Lands of balls are as large as the ball asks for."""
    numbers = {number for grid in compared.recipe.grids for number in grid.numbers}
    wrong = [number for number, pair in compared.pairs.items() if number in numbers and _differs(*pair)]
    if wrong:
        have, want = compared.pairs[wrong[0]]
        message = f"Lands {listed(wrong)} are {have.width:.3g} mm wide; the package asks for {want.width:.3g} mm."
        yield PatternSlip("grid land size", message, "Give them the size that the rulebook gives.", tuple(wrong))


def _openings(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Lands of surface leads are open in the mask, and have paste where the recipe prints it."""
    yield from _told(
        compared,
        lambda have, want: bool(want.mask) and not have.mask,
        "no mask opening",
        "no opening in the solder mask.",
        "Open the mask over them.",
    )
    yield from _told(
        compared,
        lambda have, want: bool(want.paste) and not have.paste and want.hole is None,
        "no paste",
        "no opening for paste.",
        "Open the stencil over them.",
    )


def _lengths(pad: Pad) -> tuple[float, float]:
    x0, y0, x1, y1 = pad.box
    return x1 - x0, y1 - y0


def _differs(have: Pad, want: Pad) -> bool:
    """Whether a land is much larger or smaller than the wanted one in either direction."""
    return not all(LEAST_SIZE * b <= a <= MOST_SIZE * b for a, b in zip(_lengths(have), _lengths(want), strict=True))
