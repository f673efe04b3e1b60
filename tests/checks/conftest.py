"""The demo's flawed library, made once for all tests of the checks."""

import pytest

from eider.demo.build import build_flawed
from eider.library import Library


@pytest.fixture(scope="package")
def flawed_demo(tmp_path_factory: pytest.TempPathFactory) -> Library:
    return build_flawed(tmp_path_factory.mktemp("flawed"))
