"""A whole library checked: parts that are as they were are not checked again."""

from collections.abc import Iterable

import pytest
from msgspec.structs import replace

from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.demo.parts import converter_part
from eider.library import Library, open_library
from eider.library.documents.stored_rulebooks import rulebook_text, save_rulebook
from eider.library.documents.working_copies import WorkingCopy
from eider.model.part import DatasheetLink
from eider.rulebooks.rule_editing import edited
from eider.services.checking import library_checking
from eider.services.checking.library_checking import CheckedPart, check_parts
from eider.services.releasing.part_releasing import release_part
from eider.services.tasks import CancelledError, Task


@pytest.fixture
def runs(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The names of the parts over which checks are run."""
    seen, run = [], library_checking.run_checks

    def counted(view):  # type: ignore[no-untyped-def]
        seen.append(view.bundle.part.name)
        return run(view)

    monkeypatch.setattr(library_checking, "run_checks", counted)
    return seen


def test_a_part_is_checked_again_when_it_or_its_rules_change(library: Library, runs: list[str]) -> None:
    bundle = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    release_part(library, bundle, "first")

    def found() -> set[str]:
        return {f.check for part in check_parts(library, library.search("")) for f in part.findings}

    first = found()
    assert runs == ["NVK-1216T"]
    assert found() == first
    assert len(runs) == 1
    broken = package_edits.set_dimension(library.load_release(bundle.part.id), "e", "0.3")
    library.copies.save(WorkingCopy(bundle=broken))
    assert found() > first
    assert len(runs) == 2
    library.copies.discard(bundle.part.id)
    assert found() == first
    text = edited(rulebook_text(library, "standard"), {"clearances.pad_to_pad": "3"}, "standard")
    save_rulebook(library, "standard", text, "far apart")
    assert "lands.gap-between-lands" in found() - first


def _names_and_checks(parts: Iterable[CheckedPart]) -> list[tuple[str, set[str]]]:
    return [(part.name, {finding.check for finding in part.findings}) for part in parts]


def test_processes_find_what_one_finds_and_in_the_same_order(library: Library, monkeypatch: pytest.MonkeyPatch) -> None:
    like = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    for number in range(7):
        made = new_parts.start_from_part(like, f"NVK-{number}")
        if number % 3 == 0:
            made = package_edits.set_dimension(made, "e", "0.3")
        if number == 6:
            made = replace(made, footprint=replace(made.footprint, rulebook="nowhere"))
        library.copies.save(WorkingCopy(bundle=made))
    monkeypatch.setattr(library_checking, "WORTH_SHARING", 5)
    monkeypatch.setattr(library_checking, "CHECKED_TOGETHER", 2)
    shared = _names_and_checks(check_parts(library, library.search(), processes=2))
    (library.folder / ".eider/index.sqlite").unlink()
    alone = _names_and_checks(check_parts(open_library(library.folder), library.search()))
    assert shared == alone
    assert [name for name, _ in shared] == [f"NVK-{number}" for number in range(7)]
    assert shared[3][1] == shared[0][1] > shared[1][1]
    assert shared[6][1] == {"library.unreadable-part"}


def test_a_check_that_is_cancelled_keeps_what_it_found(library: Library, runs: list[str]) -> None:
    like = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    for number in range(3):
        library.copies.save(WorkingCopy(bundle=new_parts.start_from_part(like, f"NVK-{number}")))
    task = Task(lambda share, _what: task.cancel() if share > 0.3 else None)
    with pytest.raises(CancelledError):
        list(check_parts(library, library.search(), task))
    assert len(runs) == 2
    assert len(list(check_parts(library, library.search()))) == 3
    assert len(runs) == 3
