"""Parts of a library opened: as they are stored, or new ones under a name that nobody has yet."""

from collections.abc import Callable

from eider.commands.evaluation import evaluate_part
from eider.errors import InputError
from eider.library import Library
from eider.library.revision_compare import Difference, compare_revisions
from eider.model.bundle import Bundle
from eider.model.codec import to_data
from eider.services.releasing import rules_for
from eider.views.part_state import PartState


def open_part_state(library: Library, bundle: Bundle, *, fresh: bool = False) -> PartState:
    """The state in which a part is opened: as it is stored, checked by the library's rules."""
    rules = rules_for(library, bundle)
    return PartState(evaluate_part(bundle, rules, fresh=fresh), rules)


def begin_part(library: Library, make: Callable[[], Bundle]) -> PartState:
    """A new part, ready to be opened.

    Raises:
        ReadOnlyError: nothing can be written to the library.
        InputError: the name cannot be used, or a part of the library has it.
    """
    library.require_writable()
    bundle = make()
    if library.has_part(bundle.part.name):
        raise InputError(f"There is a part {bundle.part.name} already. Open that one, or choose another name.")
    return open_part_state(library, bundle, fresh=True)


def newest_differences(library: Library, part_id: str) -> tuple[str, list[Difference]]:
    """The newest revision of a part against the one before, or the working copy against the newest revision.

    Returns a title, and the differences.

    Raises:
        InputError: the part has one state only.
    """
    history, copy = library.history(part_id), library.copies.load(part_id)
    if not history or (len(history) < 2 and copy is None):
        raise InputError("This part has one state only; there is nothing to compare it with yet.")
    new = copy.bundle if copy else library.load_release(part_id)
    old = library.load_release(part_id, len(history) if copy else len(history) - 1)
    before = old.part.release.revision if old.part.release else 0
    after = "the working copy" if copy else "the newest"
    return f"{new.part.name}: revision {before} and {after}", list(compare_revisions(to_data(old), to_data(new)))
