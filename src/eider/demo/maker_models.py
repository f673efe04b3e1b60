"""The STEP files that come with the demo, as their makers deliver them."""

import lzma
from functools import cache
from importlib import resources

from eider.model.body import ImportedModel
from eider.model.codec import decode

CONVERTER, CONNECTOR_4 = "nvk-1216t", "ohc-125-04r"


def step_of(name: str) -> bytes:
    """The STEP file of a model."""
    return lzma.decompress((resources.files("eider.demo") / "models" / f"{name}.step.xz").read_bytes())


@cache
def placed_model(name: str) -> ImportedModel:
    """A model as it was read and placed on its package; made by `tools/demo_models`, and a test holds it true."""
    path = f"{name}.model.json"
    return decode((resources.files("eider.demo") / "models" / path).read_bytes(), ImportedModel, path)
