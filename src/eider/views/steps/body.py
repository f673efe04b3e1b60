"""Body: the 3D body on its lands."""

import msgspec

from eider.bodies.body_solids import body_solids, on_lands
from eider.errors import EiderError
from eider.geometry.solids import Solid
from eider.views.body_alignment import Agreement, body_alignment
from eider.views.part_state import PartState, ViewOptions
from eider.views.step_registry import StepSpec


class BodyOptions(msgspec.Struct, frozen=True):
    """Whether the body is shown on its lands."""

    on_lands: bool = True


class BodyView(msgspec.Struct, frozen=True):
    """What Body shows: where the body comes from, its solids, those of the picture, and what must agree."""

    origin: str
    solids: tuple[Solid, ...]
    pictured: tuple[Solid, ...]
    agreements: tuple[Agreement, ...]


def body_view(state: PartState, options: ViewOptions) -> BodyView:
    """The generated body of a part; without solids while its sheet is not complete."""
    bundle = state.bundle
    try:
        solids = body_solids(bundle.sheet, bundle.body)
    except EiderError as fault:
        return BodyView(f"Generated from the package sheet, which is not complete: {fault}", (), (), ())
    origin = (
        f"Generated from the package sheet {bundle.sheet.name}. Each length of the sheet is true in it; the STEP file "
        "is written at release and by Export."
    )
    pattern = bundle.footprint.pattern if options.of_step.on_lands else None
    return BodyView(origin, solids, on_lands(solids, pattern), tuple(body_alignment(bundle, options.unit)))


STEP = StepSpec(
    key="body",
    title="Body",
    order=50,
    areas=("body",),
    is_begun=lambda bundle: bundle.body.result is not None,
    view=body_view,
    options=BodyOptions,
    widget="eider.desktop.part.body.step:BodyStep",
)
