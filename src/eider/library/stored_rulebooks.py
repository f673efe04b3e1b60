"""The rulebooks of a library: read by name, kept as revisions in git."""

from eider.errors import InputError
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.library.release_commit import locked
from eider.library.store import Library
from eider.library.versions import ItemRevision, Tagging
from eider.rulebooks.rule_editing import edited
from eider.rulebooks.rulebook import Rulebook, parse_rulebook, standard_text

STANDARD = "standard"


def rulebook_names(library: Library) -> list[str]:
    """All rulebooks that footprints can name: the standard one first."""
    return [STANDARD, *(path.stem for path in library.rulebook_files if path.stem != STANDARD)]


def rulebook_text(library: Library, name: str) -> str:
    """The TOML of a rulebook; raises NotFoundError where there is none."""
    library.rulebook(name)
    path = library.folder / "rulebooks" / f"{name}.toml"
    return path.read_text(encoding="utf-8") if path.exists() else standard_text()


def new_rulebook(library: Library, name: str, origin: str = STANDARD) -> Rulebook:
    """Keep a copy of a rulebook under another name, as its first revision.

    Raises:
        InputError: the name is taken, or none that a file can have.
    """
    if not name or safe_name(name) != name:
        raise InputError(f"“{name}” is no name for a rulebook; letters, digits, - and _ are")
    if name in rulebook_names(library):
        raise InputError(f"there is a rulebook {name} already; choose another name")
    text = edited(rulebook_text(library, origin), {"name": name, "revision": "1"}, origin)
    return _keep(library, name, text, f"rulebook {name} begun from {origin}")


def save_rulebook(library: Library, name: str, text: str, note: str) -> Rulebook:
    """Keep a changed rulebook as its next revision, with a note of why.

    Of the standard one the library gets a copy of its own, which from then on stands in place of Eider's.

    Raises:
        InputError: there is no note.
        RulebookError: the text is no rulebook.
    """
    if not note.strip():
        raise InputError("say in a few words why the rules change; the note stays with the revision")
    return _keep(library, name, text, note.strip(), is_next=True)


def _keep(library: Library, name: str, text: str, note: str, *, is_next: bool = False) -> Rulebook:
    """Write a rulebook; with `is_next` as the revision after the newest, which nobody else can take meanwhile."""
    library.require_writable()
    path = f"rulebooks/{name}.toml"
    with locked(library):
        if is_next:
            revision = max(library.rulebook(name).revision, len(rulebook_history(library, name))) + 1
            text = edited(text, {"revision": str(revision)}, name)
        rulebook = parse_rulebook(text, f"{name}.toml")
        tag = Tagging(_id(name), len(rulebook_history(library, name)) + 1, "rulebook", path)
        write_atomic(library.folder / path, text.encode())
        library.versions.commit({path: text.encode()}, note, library.person(), (tag,))
    return rulebook


def rulebook_history(library: Library, name: str) -> tuple[ItemRevision, ...]:
    """The kept revisions of a rulebook, oldest first."""
    return library.versions.history(_id(name))


def _id(name: str) -> str:
    return f"rulebook-{name}"
