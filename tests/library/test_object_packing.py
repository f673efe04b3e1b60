"""Packing git's objects: nothing is lost, and little is left to pack."""

import subprocess
from pathlib import Path

import pytest

from eider.commands.facts import fact_edits
from eider.demo.parts import converter_part
from eider.library import Library, open_library
from eider.library.git.housekeeping import pack_objects
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import release_part


def _release(library: Library, count: int) -> str:
    """So many revisions of one part; its id."""
    bundle = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    for number in range(count):
        changed = bundle if number == 0 else library.load_release(bundle.part.id)
        release_part(library, fact_edits.set_fact(changed, "Compliance", f"lot {number}"), f"lot {number}")
    return bundle.part.id


def _lots(folder: Path, part_id: str) -> list[str]:
    library = open_library(folder)
    revisions = library.history(part_id)
    return [library.load_release(part_id, r.revision).part.facts["Compliance"].value for r in revisions]


def _loose(folder: Path) -> int:
    return sum(path.is_file() for path in (folder / ".git/objects").glob("[0-9a-f][0-9a-f]/*"))


def test_packing_takes_nothing_away(library: Library, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("eider.library.git.housekeeping.PACKS", 3)
    git, folder = library.folder / ".git", library.folder
    part_id = _release(library, 2)
    pack_objects(git)
    assert _loose(folder) == 0
    for number in (2, 3):
        changed = fact_edits.set_fact(library.load_release(part_id), "Compliance", f"lot {number}")
        release_part(library, changed, f"lot {number}")
        pack_objects(git)
    assert len(list((git / "objects/pack").glob("*.idx"))) == 3
    # With nothing loose, the three become one; once more, and the one that holds all is not taken for one of them.
    pack_objects(git)
    packs = {path.name for path in (git / "objects/pack").iterdir()}
    assert len([name for name in packs if name.endswith(".idx")]) == 1
    monkeypatch.setattr("eider.library.git.housekeeping.PACKS", 1)
    pack_objects(git)
    assert {path.name for path in (git / "objects/pack").iterdir()} == packs
    assert _lots(folder, part_id) == ["lot 0", "lot 1", "lot 2", "lot 3"]
    subprocess.run(["git", "fsck", "--strict"], cwd=folder, check=True, capture_output=True)


@pytest.mark.parametrize("name", ["pack-x.keep", "pack-x.promisor", "multi-pack-index"])
def test_packs_that_git_keeps_for_a_reason_stay(library: Library, name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("eider.library.git.housekeeping.PACKS", 1)
    part_id = _release(library, 1)
    pack_objects(library.folder / ".git")
    folder = library.folder / ".git/objects/pack"
    before = {path.name for path in folder.glob("*.idx")}
    (folder / name).touch()
    changed = fact_edits.set_fact(library.load_release(part_id), "Compliance", "lot 1")
    release_part(library, changed, "lot 1")
    pack_objects(library.folder / ".git")
    assert before < {path.name for path in folder.glob("*.idx")}
