"""The timeline of a library, written for an audit; an old revision restored as the next one."""

from pathlib import Path

import pytest

from command_line import answer, eider
from eider.commands.facts.fact_edits import set_fact
from eider.errors import InputError, NotFoundError
from eider.exchange.table_files import read_table
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.services.releasing.library_history import TimelineFilter, item_name, library_timeline, restore_revision
from eider.services.releasing.part_releasing import release_part


@pytest.fixture
def two_revisions(library: Library, sound: Bundle) -> Library:
    release_part(library, sound, "first release")
    release_part(library, set_fact(library.load(sound.part.id), "Shelf", "A7"), "it lies in A7")
    return library


def test_revisions_are_listed_and_filtered(two_revisions: Library) -> None:
    found = library_timeline(two_revisions)
    assert sorted((item_name(r), r.revision) for r in found) == [("NVK-1216T", 1), ("NVK-1216T", 2)]
    everything = library_timeline(two_revisions, TimelineFilter(()))
    assert {r.kind for r in everything} == {"part", "package", "symbol", "footprint", "body"}
    for wanted, count in (
        (TimelineFilter(words="a7"), 1),
        (TimelineFilter(words="nvk first"), 1),
        (TimelineFilter(by="librarian"), 2),
        (TimelineFilter(by="nobody"), 0),
        (TimelineFilter(since="2999-01-01"), 0),
        (TimelineFilter(since="2000-01-01"), 2),
    ):
        assert len(library_timeline(two_revisions, wanted)) == count, wanted


def test_an_old_revision_is_restored_as_the_next_one(two_revisions: Library) -> None:
    part_id = two_revisions.find("NVK-1216T").id
    with pytest.raises(InputError, match="is the newest"):
        restore_revision(two_revisions, part_id, 2)
    with pytest.raises(NotFoundError):
        restore_revision(two_revisions, part_id, 9)
    restore_revision(two_revisions, part_id, 1)
    with pytest.raises(InputError, match="being worked on"):
        restore_revision(two_revisions, part_id, 1)
    release_part(two_revisions, two_revisions.load(part_id), "back to the first")
    parts = [two_revisions.load_release(part_id, n).part for n in (1, 2, 3)]
    assert ["Shelf" in part.facts for part in parts] == [False, True, False]
    assert parts[2].package == parts[0].package, "what did not change is not a new revision"


def test_the_commands(two_revisions: Library, tmp_path: Path) -> None:
    folder = two_revisions.folder
    assert [r["revision"] for r in answer("history", folder, "NVK-1216T")["revisions"]] == [1, 2]
    assert len(answer("history", folder, "--words", "A7")["revisions"]) == 1
    eider("history", folder, "--all-kinds", "--out", tmp_path / "audit.csv")
    rows = read_table(tmp_path / "audit.csv").rows
    assert rows[0][:4] == ("At", "Who", "Kind", "Item") and len(rows) == 7
    assert answer("restore", folder, "NVK-1216T", "1")["restored"] == 1
    two_revisions.copies.save(WorkingCopy(bundle=two_revisions.load(two_revisions.find("NVK-1216T").id)))
    assert "being worked on" in eider("restore", folder, "NVK-1216T", "1", status=2).stderr
