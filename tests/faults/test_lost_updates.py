"""Two who change the same at once: the second is told, and nothing of the first is lost."""

import multiprocessing
from pathlib import Path

import pytest

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.demo.parts import converter_part
from eider.library import Library, open_library
from eider.library.documents.shared_outlines import library_outlines, save_outline
from eider.library.documents.stored_rulebooks import rulebook_history, rulebook_text, save_rulebook
from eider.library.documents.working_copies import WorkingCopy
from eider.library.errors import ConflictError, LibraryError
from eider.model.outline import OutlinePart, OutlineSpec
from eider.model.part import DatasheetLink
from eider.rulebooks.rule_editing import edited
from eider.services.releasing.part_releasing import release_part

LINK = DatasheetLink("0" * 64, "x.pdf")
AT_ONCE = 4


def _release(folder: Path, part_id: str, value: str) -> str:
    library = open_library(folder)
    bundle = fact_edits.set_fact(library.load(part_id), "Compliance", value)
    try:
        return str(release_part(library, bundle, value).revision)
    except LibraryError as fault:
        return str(fault)


def _keep(folder: Path, thickness: str) -> str:
    library = open_library(folder)
    text = edited(rulebook_text(library, "standard"), {"pads.stencil": thickness}, "standard")
    try:
        return str(save_rulebook(library, "standard", text, f"stencil {thickness}").revision)
    except LibraryError as fault:
        return str(fault)


def _at_once(work: object, cases: list[tuple[object, ...]]) -> list[str]:
    with multiprocessing.get_context("fork").Pool(len(cases)) as pool:
        return list(pool.starmap(work, cases))  # type: ignore[arg-type]


def test_two_releases_from_one_revision(library: Library) -> None:
    bundle = converter_part(library, LINK)
    release_part(library, bundle, "first")
    one, two = (library.load_release(bundle.part.id) for _ in range(2))
    release_part(library, fact_edits.set_fact(one, "Compliance", "RoHS"), "second")
    with pytest.raises(ConflictError, match="released as revision 2 by Skerry librarian meanwhile.*from revision 1"):
        release_part(library, package_edits.set_dimension(two, "b", "0.19–0.33"), "lost")
    assert library.load_release(bundle.part.id).part.facts["Compliance"].value == "RoHS"


def test_processes_that_release_one_draft_at_once_make_one_revision(library: Library) -> None:
    bundle = converter_part(library, LINK)
    library.copies.save(WorkingCopy(bundle=bundle))
    cases: list[tuple[object, ...]] = [(library.folder, bundle.part.id, f"lot {n}") for n in range(AT_ONCE)]
    told = _at_once(_release, cases)
    accepted = sorted(int(said) for said in told if said.isdigit())
    history = library.history(bundle.part.id)
    assert accepted == [entry.revision for entry in history] == list(range(1, len(accepted) + 1))
    assert all("meanwhile" in said for said in told if not said.isdigit())
    # Who came after the first had either taken up its draft or its release; each revision says what it was made of.
    values = [library.load_release(bundle.part.id, entry.revision).part.facts["Compliance"].value for entry in history]
    assert values == [entry.note for entry in history]


def test_processes_that_keep_one_rulebook_at_once_keep_all_that_is_accepted(library: Library) -> None:
    told = _at_once(_keep, [(library.folder, f"0.1{n}") for n in range(AT_ONCE)])
    accepted = [said for said in told if said.isdigit()]
    assert len(set(accepted)) == len(accepted) >= 1
    assert all("meanwhile" in said for said in told if not said.isdigit())
    assert len(rulebook_history(library, "standard")) == len(accepted)


def test_an_outline_that_someone_saved_meanwhile_is_not_replaced(library: Library) -> None:
    mine = OutlineSpec(parts=(OutlinePart("rectangle"),))
    theirs = OutlineSpec(parts=(OutlinePart("circle"),))
    save_outline(library, "tee", theirs)
    with pytest.raises(ConflictError, match="someone saved another outline tee meanwhile"):
        save_outline(library, "tee", mine)
    assert library_outlines(library) == {"tee": theirs}
    save_outline(library, "tee", mine, replaces=theirs)
    assert library_outlines(library) == {"tee": mine}
