"""Checks of a body, wherever it comes from: does it stand on its lands, and is it what the package sheet says?"""

from collections.abc import Iterator

import msgspec

from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.checks.check_inputs import Input
from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.errors import EiderError
from eider.geometry.plane import Box, bounds, inside_by, join_boxes
from eider.geometry.rounding import NOISE
from eider.model.address import FieldAddress
from eider.model.body import ImportedModel, ModelMeasure
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.pattern import Pad
from eider.model.wording import counted, named
from eider.packages.orientation import extreme_terminals

PLACE = FieldAddress("body")
# Where the sheet does not limit the height, a model may be higher or lower than the generated body by this share.
ABOUT = 0.3
# A model that lies farther from its own origin than this (mm) was cut out of a larger assembly.
FARTHEST = 200.0
PLACED: tuple[Input, ...] = ("sheet", "body", "lands", "rulebook")


def _model(view: PartUnderCheck) -> ImportedModel | None:
    return view.bundle.body.model


def _put_down(view: PartUnderCheck, _finding: Finding) -> Bundle:
    """Put the body down on the board; a generated one is there by itself."""
    body, model = view.bundle.body, _model(view)
    if model is None:
        by = view.body_measure.seating if view.body_measure else 0.0
        rows = tuple(msgspec.structs.replace(row, z=f"({row.z or 0})-({by:g})") for row in body.composed)
        return msgspec.structs.replace(view.bundle, body=msgspec.structs.replace(body, composed=rows))
    by, (low, high) = model.measure.seating, model.measure.bounds
    measure = msgspec.structs.replace(
        model.measure, seating=0.0, bounds=((*low[:2], low[2] - by), (*high[:2], high[2] - by))
    )
    x, y, z = model.offset
    moved = msgspec.structs.replace(model, offset=(x, y, z - by), measure=measure)
    return msgspec.structs.replace(view.bundle, body=msgspec.structs.replace(body, model=moved))


@check(
    "body.seating",
    Severity.BLOCKER,
    reads=("sheet", "body", "rulebook"),
    quick_fix=QuickFix("Put the body on the board", _put_down),
)
def seating_plane(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The body sits on the board: its seating plane is at zero.

    A body that floats or sinks gives wrong heights in the enclosure.
    """
    measure = view.body_measure
    if measure and abs(measure.seating) > view.rulebook.bodies.standing:
        where = "above" if measure.seating > 0 else "below"
        message = f"The body stands {abs(measure.seating):.3f} mm {where} the board."
        yield CheckHit(PLACE, message, f"{measure.seating:.3f} mm", "0 mm")


@check("body.height", Severity.CAUTION, reads=("sheet", "body", "rulebook"))
def height_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The body is as high as the package sheet says.

    The height decides whether the part fits under a lid.
    """
    measure, expected = view.body_measure, _height_limits(view)
    if measure is None or expected is None:
        return
    (low, high), beyond = expected, view.rulebook.bodies.beyond
    top = measure.bounds[1][2]
    if not low - beyond <= top <= high + beyond:
        shown = f"{high:g} mm" if low == high else f"{low:g} to {high:g} mm"
        yield CheckHit(PLACE, f"The body is {top:.3f} mm high; the sheet says {shown}.", f"{top:.3f} mm", shown)


def _height_limits(view: PartUnderCheck) -> tuple[float, float] | None:
    """The limits of the height above the board: A, where the generated body ends at it; else about that body's."""
    try:
        top = measure_body(body_solids(view.bundle.sheet)).bounds[1][2]
    except EiderError:
        return None
    limits = view.dims["A"] if view.dims is not None and "A" in view.dims else None
    if limits is None or abs(limits.upper - top) > NOISE:
        return (1 - ABOUT) * top, (1 + ABOUT) * top
    # A maximum alone does not say how low a part may be.
    return (limits.lower if limits.lower < limits.upper else (1 - ABOUT) * limits.upper), limits.upper


@check("body.extents", Severity.CAUTION, reads=PLACED)
def extents_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """In top view the body is as large as the package with its tolerances.

    A body of another package or variant has the same look and another size.
    """
    measure, limits = view.body_measure, _outline_limits(view)
    if measure is None or limits is None:
        return
    x0, y0, x1, y1 = _box_of(measure, view)
    beyond = view.rulebook.bodies.beyond
    for letter, size, (low, high) in zip("xy", (x1 - x0, y1 - y0), limits, strict=True):
        if not low - beyond <= size <= high + beyond:
            yield CheckHit(
                PLACE,
                f"The body measures {size:.3f} mm in {letter}; the package is {low:g} to {high:g} mm there.",
                f"{size:.3f} mm",
                f"{low:g} to {high:g} mm",
            )


def _outline_limits(view: PartUnderCheck) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Least and most extent in x and y of body and terminals together, as the package lies in the footprint."""
    if view.recipe is None or view.pattern is None or view.recipe.bare:
        return None
    least, most = extreme_terminals(view.bundle.sheet, view.pattern)
    body, largest = view.recipe.body, view.recipe.body_max
    # The least body is as much smaller than the nominal one as the largest is larger.
    smallest = tuple(2 * n - m for n, m in zip(body, largest, strict=True))
    # Of pads by hand only the copper is known; what stands on them may end anywhere between body and copper.
    by_hand = {manual.pad.number for manual in view.recipe.manual_pads}
    inside = [terminal for terminal in least or view.terminals if terminal.number not in by_hand]
    low = _size([smallest, *(terminal.whole for terminal in inside)])  # type: ignore[list-item]  # four values
    pads = [manual.pad.box for manual in view.recipe.manual_pads]
    high = _size([largest, *(terminal.whole for terminal in most or view.terminals), *pads])
    return (low[0], high[0]), (low[1], high[1])


def _size(boxes: list[Box]) -> tuple[float, float]:
    x0, y0, x1, y1 = join_boxes(boxes)
    return x1 - x0, y1 - y0


def _box_of(measure: ModelMeasure, view: PartUnderCheck) -> Box:
    """The body from above, as it lies in the footprint."""
    (x0, y0, _), (x1, y1, _) = measure.bounds
    return view.orientation.box((x0, y0, x1, y1))


@check("body.terminal-off-land", Severity.BLOCKER, reads=PLACED)
def terminals_on_lands(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Each terminal of the body is on the pad of its number.

    A body that is shifted or turned looks right from afar and misleads anyone who measures on it.
    """
    measure = view.body_measure
    if measure is None or view.pattern is None:
        return
    pads: dict[str, list[Pad]] = {}
    for pad in view.pads:
        pads.setdefault(pad.number, []).append(pad)
    off = [
        t.number
        for t in measure.terminals
        if t.number in pads and not any(_touches(view.orientation.box(t.box), pad.box) for pad in pads[t.number])
    ]
    if off:
        yield CheckHit(
            PLACE,
            f"{named('terminal', off).capitalize()} of the body miss their pads.",
            f"{len(off)} beside",
            "0 beside",
        )


def _touches(foot: Box, land: Box) -> bool:
    """Whether the middle of a foot lies on a land."""
    x, y = (foot[0] + foot[2]) / 2, (foot[1] + foot[3]) / 2
    return land[0] <= x <= land[2] and land[1] <= y <= land[3]


@check("body.terminal-count", Severity.CAUTION, reads=PLACED)
def terminal_for_each_pad(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The body has a terminal for each terminal of the package.

    One that is missing belongs to another variant, or could not be told from the body.
    """
    measure = view.body_measure
    # A generated body without any metal is of a family that shows no terminals.
    is_plain = not view.bundle.body.model and not view.bundle.body.composed and measure and not measure.terminals
    if measure is None or not view.terminals or is_plain:
        return
    have = {terminal.number for terminal in measure.terminals}
    # Of a body that stands on feet the tabs that go through the board are not looked for.
    through = view.recipe.plated_holes if view.recipe and view.recipe.is_mixed else ()
    have |= {pad.number for pad in through}
    missing = [terminal.number for terminal in view.terminals if terminal.number not in have]
    if missing:
        yield CheckHit(
            PLACE,
            f"The body has no terminal at {named('pad', missing)}.",
            counted(len(have), "terminal"),
            counted(len(view.terminals), "terminal"),
        )


@check("body.pin-one", Severity.CAUTION, reads=PLACED)
def pin_one_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A mark on the model, or a person, tells which end is pin 1.

    A symmetric model fits just as well rotated by 180°.
    """
    model, recipe = _model(view), view.recipe
    if model is None or model.chosen or model.measure.pin1 == "found" or (recipe and not recipe.polarised):
        return
    if model.measure.mark_at:
        # A check of its own speaks of a mark at another pin.
        return
    yield CheckHit(PLACE, "Pin 1 could not be found on the model; choose the placement.", model.measure.pin1, "found")


@check("body.mirrored", Severity.BLOCKER, reads=("sheet", "body"))
def model_not_mirrored(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The mark on the body lies at pin 1, not at another pin.

    A mirrored body, or one that is numbered another way, has its mark at a wrong corner however it is turned.
    """
    model, measure = _model(view), view.body_measure
    if measure and measure.mark_at and measure.pin1 != "found" and not (model and model.chosen):
        yield CheckHit(
            PLACE,
            f"The mark on the body lies at pin {measure.mark_at}: it is mirrored, or numbered another way.",
            f"pin {measure.mark_at}",
            "pin 1",
        )


@check("body.unit", Severity.CAUTION, reads=("body",))
def unit_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The model fits in the unit that its file says.

    A file that took inches for millimetres is wrong for everybody else who uses it.
    """
    model = _model(view)
    if model and model.scale != 1.0:
        yield CheckHit(
            PLACE,
            f"{model.file} fits only {model.scale:.6g} times as large: its unit, {model.unit}, is wrong.",
            f"× {model.scale:.6g}",
            "× 1",
        )


@check("body.not-closed", Severity.CAUTION, reads=("body",))
def solids_closed(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every solid of the model is closed and sound.

    Programs that cut or measure with it fail on one that is not.
    """
    model = _model(view)
    if model and model.measure.unsound:
        names = [name or "without a name" for name in model.measure.unsound]
        yield CheckHit(
            PLACE, f"Not closed or not sound: {named('solid', names)}.", counted(len(names), "solid"), "0 solids"
        )


@check("body.no-colours", Severity.NOTE, reads=("body",))
def colours_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The model has colours.

    A grey body cannot be told from its terminals in a picture.
    """
    model = _model(view)
    if model and model.measure.colours == 0:
        yield CheckHit(PLACE, f"{model.file} has no colours.", "0 colours", "1 colour or more")


@check("body.too-heavy", Severity.CAUTION, reads=("body", "rulebook"))
def weight_of_model(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The model is light enough for a board with hundreds of parts.

    Threads, texts and rounded edges that nobody sees make a view of the board slow.
    """
    model, most = _model(view), view.rulebook.bodies.most_triangles
    if model and model.measure.triangles > most:
        yield CheckHit(
            PLACE,
            f"The model has {model.measure.triangles:,} triangles; ask the manufacturer for a simpler one.",
            f"{model.measure.triangles:,}",
            f"≤ {most:,.0f}",
        )


@check("body.outside-courtyard", Severity.CAUTION, reads=PLACED)
def model_in_courtyard(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The body stays within the courtyard.

    What reaches beyond it collides with a neighbour that was placed by the courtyard.
    """
    measure = view.body_measure
    if measure is None or view.pattern is None or not view.pattern.courtyard:
        return
    box, yard = _box_of(measure, view), bounds(view.pattern.courtyard)
    beyond = -inside_by(box, yard)
    if beyond > NOISE:
        yield CheckHit(
            PLACE, f"The body reaches {beyond:.3f} mm beyond the courtyard.", f"{beyond:.3f} mm beyond", "within"
        )


@check("body.far-from-origin", Severity.NOTE, reads=("body",))
def model_near_origin(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The model lies near the origin of its file.

    One far away was cut out of an assembly; other programs show it beside the board.
    """
    model = _model(view)
    if model and max(map(abs, model.offset)) > FARTHEST:
        far = max(map(abs, model.offset))
        yield CheckHit(
            PLACE, f"In {model.file} the body lies {far:.0f} mm from the origin.", f"{far:.0f} mm", f"≤ {FARTHEST:g} mm"
        )
