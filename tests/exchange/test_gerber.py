"""Gerber and XNC: lands of every family come back; layers of strangers are read or told."""

from pathlib import Path

import pytest

from carried_lands import carried_pad, family_part
from eider.exchange.found_parts import FoundPart
from eider.exchange.gerber.writer import gerber_files
from eider.library import Library
from eider.packages.registry import all_families
from eider.services.arrivals import Arrival, look_into


def _arrived(tmp_path: Path, files: dict[str, str]) -> Arrival:
    folder = tmp_path / "in"
    folder.mkdir(exist_ok=True)
    for name, text in files.items():
        (folder / name).write_text(text)
    return look_into([folder], tmp_path / "unpacked")


def _part(tmp_path: Path, files: dict[str, str]) -> FoundPart:
    (part,) = _arrived(tmp_path, files).parts
    return part


@pytest.mark.parametrize("family", sorted(all_families()))
def test_lands_of_every_family_come_back(library: Library, family: str, tmp_path: Path) -> None:
    bundle = family_part(library, family)
    pattern = bundle.footprint.pattern
    assert pattern is not None
    files = {f"P-{name}": text for name, text in gerber_files(pattern, bundle).items()}
    found = sorted(carried_pad(pad) for pad in _part(tmp_path, files).pads)
    assert found == sorted(carried_pad(pad) for pad in pattern.pads)
