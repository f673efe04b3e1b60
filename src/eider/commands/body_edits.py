"""Changes to the 3D body."""

import msgspec

from eider.model.bundle import Bundle

replace = msgspec.structs.replace


def set_material(bundle: Bundle, solid: str, material: str) -> Bundle:
    """What a solid of the body is made of."""
    return replace(bundle, body=replace(bundle.body, materials={**bundle.body.materials, solid: material}))
