"""How commands end, as a shell sees it: 0 done, 1 blockers found, 2 not done; a closed pipe, a full disk."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from command_line import answer, eider
from eider.commands.facts.fact_edits import set_fact
from eider.demo.build import write_inbox
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part

CLOSED_PIPE = 141


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    path = tmp_path / "lyn-r.json"
    dims = '{"D": "1.85-2.15", "E": "1.10-1.40", "L": "0.25-0.75", "A": "max 0.65"}'
    path.write_text(f'{{"format": "eider-package/1", "name": "R", "family": "chip", "pins": 2, "dims": {dims}}}')
    return path


def _process(*arguments: str | Path, stdout: int = subprocess.PIPE) -> tuple[int, str]:
    environment = {**os.environ, "PYTHONPATH": "src"}
    command = [sys.executable, "-m", "eider", *map(str, arguments)]
    done = subprocess.run(command, stdout=stdout, stderr=subprocess.PIPE, text=True, env=environment, check=False)
    return done.returncode, done.stderr


def test_a_refused_release_ends_with_1(library: Library, sound: Bundle) -> None:
    library.copies.save(WorkingCopy(bundle=set_fact(sound, "Manufacturer", "")))
    said = eider("release", library.folder, "NVK-1216T", "--note", "first", status=1)
    assert "Manufacturer is empty" in said.stdout and "eider: " in said.stderr
    assert answer("release", library.folder, "NVK-1216T", "--note", "first", status=1)["revision"] is None


def test_a_draft_with_blockers_ends_with_1(library: Library, tmp_path: Path) -> None:
    write_inbox(tmp_path)
    made = answer("draft", library.folder, tmp_path / "NVK-1216T.pdf", "--category", "ic", status=1)
    assert "facts.Operating temperature" in {
        value["place"] for value in answer("evidence", library.folder, made["part"])["values"]
    }
    assert "blocker" in {finding["severity"] for finding in made["findings"]}
    # What was cited a moment ago reads the same.
    assert answer("verify", library.folder)["differs"] == []


def test_the_reader_of_the_output_is_gone(sheet: Path) -> None:
    for arguments in (("lands", sheet, "--json"), ("--help",)):
        reading, writing = os.pipe()
        os.close(reading)
        try:
            assert _process(*arguments, stdout=writing) == (CLOSED_PIPE, "")
        finally:
            os.close(writing)


@pytest.mark.skipif(not Path("/dev/full").exists(), reason="needs the device that is always full")
def test_the_disk_of_the_output_is_full(sheet: Path) -> None:
    with Path("/dev/full").open("wb") as full:
        status, said = _process("lands", sheet, "--json", stdout=full.fileno())
    assert status == 2 and said.count("\n") == 1
    assert said.startswith("eider: the output: No space left on device")


def test_the_window_on_a_first_start_asks_for_a_library(tmp_path: Path) -> None:
    script = (
        "import sys; from PyQt6.QtWidgets import QFileDialog; "
        "QFileDialog.getExistingDirectory = lambda *_: (QFileDialog(), '')[1]; "
        "sys.argv = ['eider', 'open']; from eider.cli.main import main; main()"
    )
    environment = {k: v for k, v in os.environ.items() if not k.startswith("XDG_")}
    environment |= {"HOME": str(tmp_path), "PYTHONPATH": "src", "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, env=environment, timeout=60, check=False
    )
    assert (done.returncode, done.stdout) == (2, "")
    assert "no library was chosen; create one with `eider init`" in done.stderr


def test_items_narrow_what_changed_since_a_commit(library: Library, sound: Bundle) -> None:
    before = library.versions.head
    release_part(library, sound, "first")
    since = ("check", library.folder, "--since")
    assert "1 part: " in eider(*since, before, "NVK-1216T").stdout
    assert "0 parts: " in eider(*since, library.versions.head, "NVK-1216T").stdout
    assert "NONE-1" in eider(*since, before, "NONE-1", status=2).stderr
