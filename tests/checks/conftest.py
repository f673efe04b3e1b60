import pytest

from eider.demo.parts import converter_part
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink


@pytest.fixture
def sound(library: Library) -> Bundle:
    """A part without any finding: the demo's converter."""
    return converter_part(library, DatasheetLink("0" * 64, "NVK-1216T.pdf", 4))
