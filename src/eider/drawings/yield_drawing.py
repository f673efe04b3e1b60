"""Three histograms of one joint: how its toe, heel and side fillet vary, with the goals of the levels marked."""

from collections.abc import Iterator

from eider.drawings.primitives import Area, Drawing, Line, Primitive, Text
from eider.geometry.plane import box_outline
from eider.lands.joint_yield import FILLETS, FilletYield, PadYield
from eider.model.pattern import LEVELS, Goals, Level

# Each histogram is drawn in a frame of this size, with so much between frames; the scale is that of the figure alone.
WIDTH, HEIGHT, GAP = 34.0, 3.0, 3.4
# How much room there is beside the values and goals, as a share of their range.
MARGIN = 0.06


def yield_drawing(pad: PadYield, goals: dict[Level, Goals], level: Level) -> Drawing:
    """The fillets of a pad one below the other; bars left of the goal of the chosen level are joints that miss it."""
    primitives: list[Primitive] = []
    for index, name in enumerate(FILLETS):
        y = -index * (HEIGHT + GAP)
        fillet: FilletYield = getattr(pad, name)
        primitives += _histogram(name, fillet, {key: float(getattr(goals[key], name)) for key in LEVELS}, level, y)
    low = -2 * (HEIGHT + GAP) - 1.1
    return Drawing(tuple(primitives), (0.0, low, WIDTH, HEIGHT + 2.0))


def _histogram(
    name: str, fillet: FilletYield, goals: dict[Level, float], level: Level, y: float
) -> Iterator[Primitive]:
    low, high = min(fillet.edges[0], *goals.values(), 0.0), max(fillet.edges[1], *goals.values(), 0.0)
    margin = MARGIN * max(high - low, 1e-6)
    low, high = low - margin, high + margin

    def place(value: float) -> float:
        return (value - low) / (high - low) * WIDTH

    most = max(fillet.counts, default=0) or 1
    step = (fillet.edges[1] - fillet.edges[0]) / max(len(fillet.counts), 1)
    for index, count in enumerate(fillet.counts):
        start = fillet.edges[0] + index * step
        if count:
            role = "solder" if start >= goals[level] else "hatched wrong"
            yield Area(box_outline((place(start), y, place(start + step), y + HEIGHT * count / most)), role)
    yield Line(((0.0, y), (WIDTH, y)), "board")
    for key, goal in goals.items():
        is_chosen = key == level
        yield Line(((place(goal), y), (place(goal), y + HEIGHT)), "hand" if is_chosen else "dimension")
        yield Text((place(goal), y + HEIGHT + 0.5), key, 7.4, "hand text" if is_chosen else "note", in_points=True)
    yield Line(((place(0.0), y), (place(0.0), y + HEIGHT)), "centre")
    yield Text((place(0.0), y - 0.6), "0", 7.0, "note soft", in_points=True)
    share = fillet.below[level]
    told = f"{name}: {fillet.mean:+.3f} ± {fillet.sd:.3f} mm; {share:,.0f} of a million below {level}"
    yield Text((0.0, y + HEIGHT + 1.5), told, 7.6, "note", horizontal="left", in_points=True)
