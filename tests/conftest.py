"""Shared fixtures. Core tests come before those of the window, so that a fault is told where it is."""

import atexit
import os
import shutil
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import settings

from eider.demo.parts import converter_part
from eider.library import Library, init_library
from eider.library.git.commit_reading import Person
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.model.part import DatasheetLink
from helpers import make_sheet

# Settings, logs and caches of tests, and of the processes that they start, are not the user's.
APART = Path(tempfile.mkdtemp(prefix="eider-tests-"))
atexit.register(shutil.rmtree, APART, ignore_errors=True)
for name in ("CONFIG", "STATE", "CACHE", "DATA"):
    os.environ[f"XDG_{name}_HOME"] = str(APART / name.lower())

# The same examples every time; tools/fuzz searches at random, and what it finds becomes an @example.
settings.register_profile("eider", deadline=None, max_examples=60, derandomize=True, database=None)
settings.register_profile("fuzz", deadline=None, max_examples=400, print_blob=False)
settings.load_profile("eider")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    items.sort(key=lambda item: "/desktop/" in str(item.path))


@pytest.fixture
def so8() -> PackageSheet:
    """The dual gull-wing of the worked values."""
    return make_sheet(
        "gullwing-dual",
        8,
        E="5.80–6.20",
        E1="3.80–4.00",
        D="4.80–5.00",
        e="1.27",
        b="0.31–0.51",
        L="0.40–1.27",
        A="max 1.75",
        A1="0.10–0.25",
        c="0.17–0.25",
    )


@pytest.fixture
def chip2012() -> PackageSheet:
    """The chip of the worked values."""
    return make_sheet("chip", 2, "resistor", D="1.85–2.15", E="1.10–1.40", L="0.25–0.75", A="max 0.65")


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Test", Person("Skerry librarian", "librarian@skerry.example"))


@pytest.fixture
def sound(library: Library) -> Bundle:
    """A part without any finding: the demo's converter."""
    return converter_part(library, DatasheetLink("0" * 64, "NVK-1216T.pdf", 4))
