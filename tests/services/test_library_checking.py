"""A whole library checked: parts that are as they were are not checked again."""

import pytest

from eider.commands import package_edits
from eider.demo.parts import converter_part
from eider.library import Library
from eider.library.stored_rulebooks import rulebook_text, save_rulebook
from eider.library.working_copies import WorkingCopy
from eider.model.part import DatasheetLink
from eider.rulebooks.rule_editing import edited
from eider.services import library_checking
from eider.services.library_checking import check_parts
from eider.services.releasing import release_part


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
