"""Parts of a library opened: as they are stored, or new ones under a name that nobody has yet."""

from collections.abc import Callable

from eider.commands.parts.evaluation import evaluate_part
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.services.parts.part_rules import rules_for
from eider.views.part_state import PartState


def open_part_state(library: Library, bundle: Bundle, *, fresh: bool = False) -> PartState:
    """The state in which a part is opened: as it is stored, checked by the library's rules."""
    rules = rules_for(library, bundle)
    return PartState(evaluate_part(bundle, rules, fresh=fresh), rules)


def require_new_name(library: Library, name: str) -> None:
    """Refuse a name that a part of the library has.

    Raises:
        InputError: it is taken.
    """
    if library.has_part(name):
        raise InputError(f"There is a part {name} already. Open that one, or choose another name.")


def begin_part(library: Library, make: Callable[[], Bundle]) -> PartState:
    """A new part, ready to be opened.

    Raises:
        ReadOnlyError: nothing can be written to the library.
        InputError: the name cannot be used, or a part of the library has it.
    """
    library.require_writable()
    bundle = make()
    require_new_name(library, bundle.part.name)
    return open_part_state(library, bundle, fresh=True)
