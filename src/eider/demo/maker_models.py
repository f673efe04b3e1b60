"""The STEP files that come with the demo, as their makers deliver them."""

import lzma
from functools import cache

from eider.model.body import ImportedModel
from eider.model.codec import decode
from eider.packaged_data import packaged_path

CONVERTER, CONNECTOR_4 = "nvk-1216t", "ohc-125-04r"


def step_of(name: str) -> bytes:
    """The STEP file of a model."""
    return lzma.decompress(packaged_path(f"demo/models/{name}.step.xz").read_bytes())


@cache
def placed_model(name: str) -> ImportedModel:
    """A model as it was read and placed on its package; made by `tools/demo_models`, and a test holds it true."""
    path = f"{name}.model.json"
    return decode(packaged_path(f"demo/models/{path}").read_bytes(), ImportedModel, path)
