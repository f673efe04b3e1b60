"""A library on disk: release, history, sharing, conflicts, and what must survive."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pygit2
import pytest
from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.pins import pin_edits
from eider.demo.build import attach
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part, converter_part
from eider.demo.sheets import write_chip_datasheet
from eider.errors import EiderError, NotFoundError
from eider.library import Library, LibraryError, init_library, open_library
from eider.library.documents.stored_rulebooks import rulebook_history, rulebook_text, save_rulebook
from eider.library.documents.working_copies import WorkingCopy
from eider.library.errors import ConflictError, ReadOnlyError
from eider.library.git.housekeeping import keep_house
from eider.model.bundle import Bundle
from eider.model.codec import DocumentError, encode
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import BlockedError, release_part, release_parts
from eider.services.tasks import CancelledError, Task

LINK = DatasheetLink("0" * 64, "NVK-1216T.pdf", 4)


@pytest.fixture
def converter(library: Library) -> Bundle:
    return converter_part(library, LINK)


def test_a_release_is_one_commit_that_names_its_revisions(library: Library, converter: Bundle) -> None:
    released = release_part(library, converter, "first")
    assert released.revision == 1
    assert {item.kind for item in released.items} == {"part", "package", "symbol", "footprint", "body"}
    repository = pygit2.Repository(str(library.folder))
    commit = repository.head.peel(pygit2.Commit)
    assert str(commit.id) == released.commit
    assert commit.message.startswith("first\n\nEider-Revision: ")
    path = next(item.path for item in released.items if item.kind == "part")
    assert f"Eider-Revision: part {converter.part.id} 1 {path}\n" in commit.message
    assert commit.author.name == "Skerry librarian"
    assert keep_house(library) == ""
    assert repository.status() == {}


def test_history_says_who_when_and_why(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    changed = package_edits.set_dimension(library.load_release(converter.part.id), "b", "0.19–0.34")
    release_part(library, changed, "wider leads")
    history = library.history(converter.part.id)
    assert [(r.revision, r.note, r.by) for r in history] == [
        (1, "first", "Skerry librarian"),
        (2, "wider leads", "Skerry librarian"),
    ]
    assert all(r.at.endswith("Z") for r in history)


def test_a_released_revision_stays_as_it_was(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    before = encode(library.load_release(converter.part.id, 1))
    changed = package_edits.set_dimension(library.load_release(converter.part.id), "b", "0.19–0.34")
    release_part(library, changed, "wider leads")
    assert encode(library.load_release(converter.part.id, 1)) == before
    lands = library.load_release(converter.part.id, 2).footprint.pattern
    assert lands is not None
    assert lands.derivation[0].X == 0.45


def test_items_that_did_not_change_keep_their_revision(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    changed = fact_edits.set_fact(library.load_release(converter.part.id), "Compliance", "RoHS")
    released = release_part(library, changed, "compliance")
    assert [item.kind for item in released.items] == ["part"]
    part = library.load_release(converter.part.id).part
    assert (part.footprint.revision, part.symbol.revision) == (1, 1)


def test_nothing_new_is_not_released(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    with pytest.raises(EiderError, match="nothing to release"):
        release_part(library, library.load_release(converter.part.id), "again")


def test_parts_share_what_is_the_same(library: Library, tmp_path: Path) -> None:
    write_chip_datasheet(tmp_path / "LYN-C.pdf")
    link, series = attach(library, tmp_path / "LYN-C.pdf", 2), chips()
    one, two = (chip_part(library, series, series.sizes[0], value, link) for value in series.values[:2])
    release_part(library, one, "first")
    released = release_part(library, two, "second")
    assert [item.kind for item in released.items] == ["part"]
    first, second = library.load_release(one.part.id).part, library.load_release(two.part.id).part
    assert first.footprint == second.footprint
    library.index.refresh()
    assert library.index.users_of(first.footprint.id) == [one.part.name, two.part.name]


def test_a_shared_item_released_meanwhile_is_a_conflict(library: Library, tmp_path: Path) -> None:
    write_chip_datasheet(tmp_path / "LYN-C.pdf")
    link, series = attach(library, tmp_path / "LYN-C.pdf", 2), chips()
    made = [chip_part(library, series, series.sizes[0], value, link) for value in series.values[:2]]
    for bundle in made:
        release_part(library, bundle, "first")
    one, two = (library.load_release(bundle.part.id) for bundle in made)
    release_part(library, footprint_edits.set_level(one, "A"), "more copper")
    with pytest.raises(ConflictError, match="revision 2 by Skerry librarian"):
        release_part(library, footprint_edits.set_level(two, "C"), "less copper")
    # The part that was released with revision 1 keeps it.
    assert library.load_release(made[1].part.id).footprint.level == "B"


def test_another_part_of_the_same_name_is_refused(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    other = new_parts.start_from_part(fact_edits.set_fact(converter, "Compliance", "RoHS"), converter.part.name)
    with pytest.raises(ConflictError, match="another part named NVK-1216T"):
        release_part(library, other, "double")


def test_renaming_keeps_links_and_history(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    renamed = fact_edits.set_about(library.load_release(converter.part.id), name="NVK-1216TX")
    release_part(library, renamed, "the maker's new number")
    assert library.find("NVK-1216TX").id == converter.part.id
    assert not list(library.folder.glob("parts/ic/**/NVK-1216T.part.json"))
    assert library.load_release(converter.part.id, 1).part.name == "NVK-1216T"
    with pytest.raises(NotFoundError):
        library.find("NVK-1216T")


def test_blockers_stop_a_release_and_nothing_is_written(library: Library, converter: Bundle) -> None:
    head = library.versions.head
    with pytest.raises(BlockedError, match="b \\(lead width\\)"):
        release_part(library, package_edits.set_dimension(converter, "b", ""), "too early")
    assert library.versions.head == head


def test_a_release_needs_a_note(library: Library, converter: Bundle) -> None:
    with pytest.raises(EiderError, match="needs a note"):
        release_part(library, converter, "  ")


def test_the_files_are_one_record_per_line(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    changed = pin_edits.set_pin_table(
        converter, [replace(p, name="RDY") if p.number == "14" else p for p in converter.symbol.pins]
    )
    before, after = (encode(b.symbol).splitlines() for b in (converter, changed))
    assert len(before) == len(after)
    assert sum(a != b for a, b in zip(before, after, strict=True)) == 1


def test_search_by_pieces_in_any_order(library: Library, tmp_path: Path) -> None:
    write_chip_datasheet(tmp_path / "LYN-C.pdf")
    link, series = attach(library, tmp_path / "LYN-C.pdf", 2), chips()
    for value in ("100 nF", "1 µF"):
        release_part(library, chip_part(library, series, series.sizes[0], value, link), "first")

    def names(words: str) -> list[str]:
        return [row.name for row in library.search(words)]

    assert names("") == ["LYN-C1005-100N", "LYN-C1005-1U"]
    assert names("25V 0.1u".replace("25V", "25")) == ["LYN-C1005-100N"]
    assert names("0.1u 25v") == ["LYN-C1005-100N"]
    assert names("x7r lyn") == ["LYN-C1005-100N", "LYN-C1005-1U"]
    assert names("lyn*100n") == ["LYN-C1005-100N"]
    assert names("1µ") == ["LYN-C1005-1U"]
    assert names("no such thing") == []
    assert names("100%") == []


def test_a_damaged_index_is_made_anew(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    library.close()
    (library.folder / ".eider/index.sqlite").write_bytes(b"not a database at all, but long enough to be read as one")
    assert [row.name for row in open_library(library.folder).search("nvk")] == ["NVK-1216T"]


def test_a_working_copy_is_found_again_and_shown_as_changed(library: Library, converter: Bundle) -> None:
    release_part(library, converter, "first")
    changed = package_edits.set_dimension(library.load_release(converter.part.id), "b", "0.19–0.3")
    library.copies.save(WorkingCopy(bundle=changed, findings={"note": 1}))
    row = open_library(library.folder).find("NVK-1216T")
    assert (row.state, row.revision, row.notes) == ("changed", 1, 1)
    assert library.load(converter.part.id).sheet.dims["b"].text == "0.19–0.3"
    library.copies.discard(converter.part.id)
    assert library.find("NVK-1216T").state == "released"


def test_a_damaged_working_copy_is_moved_aside_not_lost(library: Library, converter: Bundle) -> None:
    library.copies.save(WorkingCopy(bundle=converter))
    path = library.copies.path(converter.part.id)
    data = path.read_bytes()[:500]
    path.write_bytes(data)
    with pytest.raises(DocumentError, match="moved to"):
        library.copies.load(converter.part.id)
    assert [aside.read_bytes() for aside in library.copies.damaged()] == [data]


@pytest.mark.parametrize("share", [0.0, 0.3, 0.99])
def test_a_truncated_document_is_refused_in_words(library: Library, converter: Bundle, share: float) -> None:
    text = encode(WorkingCopy(bundle=converter)).encode()
    library.copies.save(WorkingCopy(bundle=converter))
    library.copies.path(converter.part.id).write_bytes(text[: int(len(text) * share)])
    with pytest.raises(DocumentError):
        library.copies.load(converter.part.id)


SAVER = """
import sys
from pathlib import Path
from eider.library import open_library
from eider.library.documents.working_copies import WorkingCopy

library = open_library(Path(sys.argv[1]))
bundle = library.load(sys.argv[2])
for count in range(100_000):
    library.copies.save(WorkingCopy(bundle=fact_edits.set_about(bundle, description="x" * (count % 997))))
    print(count, flush=True)
"""


def test_killed_while_saving_either_the_old_or_the_new_state_is_whole(library: Library, converter: Bundle) -> None:
    library.copies.save(WorkingCopy(bundle=converter))
    arguments = [sys.executable, "-c", SAVER, str(library.folder), converter.part.id]
    for pause in (0.02, 0.05, 0.11):
        process = subprocess.Popen(
            arguments, stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONPATH": "src"}
        )
        assert process.stdout
        process.stdout.readline()
        time.sleep(pause)
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()
        assert open_library(library.folder).load(converter.part.id).part.name == "NVK-1216T"


def test_init_refuses_a_folder_that_is_not_empty(tmp_path: Path) -> None:
    (tmp_path / "file").touch()
    with pytest.raises(LibraryError, match="not empty"):
        init_library(tmp_path)


def test_a_folder_without_settings_is_no_library(tmp_path: Path) -> None:
    with pytest.raises(LibraryError, match="eider init"):
        open_library(tmp_path)


def test_a_library_of_a_newer_eider_is_read_only(library: Library, converter: Bundle) -> None:
    path = library.folder / "eider-library.toml"
    path.write_text(path.read_text().replace("format = 2", "format = 3"))
    newer = open_library(library.folder)
    assert "newer Eider" in newer.read_only
    with pytest.raises(ReadOnlyError, match="newer Eider"):
        release_part(newer, converter, "first")


def test_a_full_disk_is_told_and_the_old_state_kept(
    library: Library, converter: Bundle, monkeypatch: pytest.MonkeyPatch
) -> None:
    library.copies.save(WorkingCopy(bundle=converter))

    def full(_descriptor: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("eider.library.atomic_files.os.fsync", full)
    with pytest.raises(LibraryError, match="disk is full"):
        library.copies.save(WorkingCopy(bundle=fact_edits.set_about(converter, description="new")))
    monkeypatch.undo()
    assert library.load(converter.part.id).part.description == converter.part.description
    assert not list((library.folder / ".eider/working").glob(".*"))


def test_a_library_opened_in_one_thread_is_used_in_another(library: Library, converter: Bundle) -> None:
    import threading

    release_part(library, converter, "first")
    assert library.find("NVK-1216T")
    found: list[int] = []
    other = threading.Thread(target=lambda: found.append(len(library.search("nvk"))))
    other.start()
    other.join()
    assert found == [1]


def test_symbols_are_drawn_as_the_library_says(tmp_path: Path) -> None:
    init_library(tmp_path / "library", "Metric", LIBRARIAN).close()
    settings = tmp_path / "library" / "eider-library.toml"
    text = settings.read_text(encoding="utf-8")
    settings.write_text(
        text.replace("grid = 2.54", "grid = 2.5").replace('form = "iec"', 'form = "ieee"'), encoding="utf-8"
    )
    library = open_library(tmp_path / "library")
    made = rerun_recipes(new_parts.new_part("LYN-R1", "resistor", library.settings), library.rulebook())
    assert (made.symbol.measures.grid, made.symbol.measures.form) == (2.5, "ieee")
    # The resistor's connection ends lie two grids from its middle.
    assert [pin.x for pin in made.symbol.units[0].pins] == [-5.0, 5.0]
    library.close()
    settings.write_text(text.replace("grid = 2.54", "grid = 3"), encoding="utf-8")
    with pytest.raises(EiderError, match=r"grid is one of 2\.54, 1\.27, 2\.5 mm"):
        open_library(tmp_path / "library")


def test_a_rulebook_that_someone_kept_meanwhile_is_a_conflict(
    library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    from eider.library.documents import stored_rulebooks

    save_rulebook(library, "standard", rulebook_text(library, "standard"), "first")
    locked, text = stored_rulebooks.locked, rulebook_text(library, "standard")

    def while_another_saves(of: Library):  # type: ignore[no-untyped-def]
        monkeypatch.setattr(stored_rulebooks, "locked", locked)
        save_rulebook(library, "standard", text, "by someone else, just before")
        return locked(of)

    monkeypatch.setattr(stored_rulebooks, "locked", while_another_saves)
    with pytest.raises(ConflictError, match="kept as revision 3 meanwhile; this text was made from revision 2"):
        save_rulebook(library, "standard", text, "mine")
    # The standard one ships as revision 1; a library of its own goes on from there.
    assert (library.rulebook("standard").revision, len(rulebook_history(library, "standard"))) == (3, 2)


def test_each_thread_has_a_repository_of_its_own(library: Library) -> None:
    from concurrent.futures import ThreadPoolExecutor

    mine = library.versions._repository
    with ThreadPoolExecutor(1) as pool:
        other = pool.submit(lambda: library.versions._repository).result()
    assert mine is library.versions._repository
    assert other is not mine


def test_parts_are_released_together_or_not_at_all(library: Library, tmp_path: Path) -> None:
    write_chip_datasheet(tmp_path / "LYN-C.pdf")
    link, series = attach(library, tmp_path / "LYN-C.pdf", 2), chips()
    parts = [chip_part(library, series, series.sizes[0], value, link) for value in series.values[:5]]
    head = library.versions.head
    broken = package_edits.set_dimension(parts[3], "D", "")
    with pytest.raises(BlockedError, match=broken.part.name):
        release_parts(library, [*parts[:3], broken], "too early")
    assert library.versions.head == head
    seen: list[float] = []
    released = release_parts(library, parts, "all at once", Task(lambda share, _what: seen.append(share)))
    assert len({made.commit for made in released}) == 1
    assert [len(made.items) for made in released] == [5, 1, 1, 1, 1]
    assert seen == sorted(seen)
    assert seen[-1] == 1.0
    assert {library.load_release(bundle.part.id).part.footprint for bundle in parts} == {
        library.load_release(parts[0].part.id).part.footprint
    }
    cancelled = Task()
    cancelled.cancel()
    with pytest.raises(CancelledError):
        release_parts(library, [fact_edits.set_fact(parts[0], "Compliance", "x")], "never", cancelled)


def _chips(library: Library, folder: Path) -> list[Bundle]:
    write_chip_datasheet(folder / "LYN-C.pdf")
    link, series = attach(library, folder / "LYN-C.pdf", 2), chips()
    return [chip_part(library, series, series.sizes[0], value, link) for value in series.values[:2]]


def _read_later(bundle: Bundle) -> Bundle:
    """The same part, its dimensions read an hour later."""
    dims = {
        letter: replace(d, evidence=replace(d.evidence, at="2026-11-28T23:00:00Z") if d.evidence else None)
        for letter, d in bundle.sheet.dims.items()
    }
    return replace(bundle, sheet=replace(bundle.sheet, dims=dims))


def test_what_was_read_of_the_same_place_later_is_shared(library: Library, tmp_path: Path) -> None:
    one, two = _chips(library, tmp_path)
    release_part(library, one, "first")
    released = release_part(library, _read_later(two), "second")
    assert [item.kind for item in released.items] == ["part"]


def test_an_item_of_a_name_that_is_taken_keeps_its_own_file(library: Library, tmp_path: Path) -> None:
    one, two = _chips(library, tmp_path)
    release_part(library, one, "first")
    # The same name by IPC-7351, which does not tell a terminal of another length.
    other = package_edits.set_dimension(two, "L", "0.25±0.11")
    released = release_part(library, other, "another terminal")
    mine = next(item for item in released.items if item.kind == "package")
    theirs = library.history(one.sheet.id)[0]
    assert mine.path.endswith("_2.package.json") and not theirs.path.endswith("_2.package.json")
    # Released again, with a name that is computed again, it neither takes the other's file nor becomes a new revision.
    with pytest.raises(EiderError, match="nothing to release"):
        release_part(library, library.load_release(other.part.id), "again")
    changed = fact_edits.set_fact(library.load_release(other.part.id), "Compliance", "RoHS")
    assert [item.kind for item in release_part(library, changed, "compliance").items] == ["part"]
    assert library.versions.read(theirs.path) == library.read_document(theirs)
