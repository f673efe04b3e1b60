"""A 3D body: its recipe, and what is known of the STEP file made from it."""

import msgspec

from eider.model.item_ref import ItemId, Ref

BODY_FORMAT = "eider-body/1"
Corner = tuple[float, float, float]


class BodyResult(msgspec.Struct, frozen=True):
    """The box round the solids in mm (seating plane at z = 0), and how many solids with instances there are."""

    solids: int
    bounds: tuple[Corner, Corner]


class Body(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe (package sheet, materials) and result; `materials` overrides the family's choice per solid."""

    format: str = BODY_FORMAT
    id: ItemId
    name: str
    package: Ref
    materials: dict[str, str] = {}
    result: BodyResult | None = None
