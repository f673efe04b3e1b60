"""The rulebooks of a library: read by name, kept as revisions in git."""

from eider.errors import InputError
from eider.library.documents.rulebook_files import rulebook_file_names, rulebook_source
from eider.library.errors import ConflictError
from eider.library.git.revision_trailers import ItemRevision, RevisionEntry
from eider.library.item_paths import rulebook_path, safe_name
from eider.library.releases.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.rulebooks.rule_editing import edited
from eider.rulebooks.rulebook import Rulebook, parse_rulebook, standard_text

STANDARD = "standard"


def rulebook_names(library: Library) -> list[str]:
    """All rulebooks that footprints can name: the standard one first."""
    return [STANDARD, *(name for name in rulebook_file_names(library.files) if name != STANDARD)]


def rulebook_text(library: Library, name: str) -> str:
    """The TOML of a rulebook; raises NotFoundError where there is none."""
    library.rulebook(name)
    kept = rulebook_source(library.files, name)
    return kept if kept is not None else standard_text()


def new_rulebook(library: Library, name: str, origin: str = STANDARD) -> Rulebook:
    """Keep a copy of a rulebook under another name, as its first revision.

    Raises:
        InputError: the name is taken, or none that a file can have.
    """
    if not name or safe_name(name) != name:
        raise InputError(f"“{name}” is not a name for a rulebook; letters, digits, - and _ are")
    if name in rulebook_names(library):
        raise InputError(f"there is a rulebook {name} already; choose another name")
    text = edited(rulebook_text(library, origin), {"name": name, "revision": "1"}, origin)
    return _keep(library, name, text, f"rulebook {name} begun from {origin}")


def save_rulebook(library: Library, name: str, text: str, note: str) -> Rulebook:
    """Keep a changed rulebook as its next revision, with a note of why.

    Of the standard one the library gets a copy of its own, which from then on is in place of Eider's.

    Raises:
        InputError: there is no note, or the text gives it another name.
        ConflictError: someone kept another revision since the text was taken up.
        RulebookError: the text is not a rulebook.
    """
    if not note.strip():
        raise InputError("say in a few words why the rules change; the note stays with the revision")
    return _keep(library, name, text, note.strip(), is_next=True)


def _keep(library: Library, name: str, text: str, note: str, *, is_next: bool = False) -> Rulebook:
    """Write a rulebook; with `is_next` as the revision after the one that its text bears."""
    library.require_writable()
    path = rulebook_path(name)
    with locked(library):
        kept = len(rulebook_history(library, name))
        if is_next:
            based_on, newest = parse_rulebook(text, f"{name}.toml").revision, library.rulebook(name).revision
            if based_on != newest:
                raise ConflictError(
                    f"rulebook {name} was kept as revision {newest} meanwhile; this text was made from revision "
                    f"{based_on}. Open it again and make the change there"
                )
            text = edited(text, {"revision": str(max(newest, kept) + 1)}, name)
        elif kept or rulebook_source(library.files, name) is not None:
            raise ConflictError(f"there is a rulebook {name} already; choose another name")
        rulebook = parse_rulebook(text, f"{name}.toml")
        if rulebook.name != name:
            raise InputError(f"the name of rulebook {name} stays; for another name begin a new one from it")
        entry = RevisionEntry(_id(name), kept + 1, "rulebook", path)
        commit_noted(library, {path: text.encode()}, note, (entry,))
    return rulebook


def rulebook_history(library: Library, name: str) -> tuple[ItemRevision, ...]:
    """The kept revisions of a rulebook, oldest first."""
    return library.history(_id(name))


def _id(name: str) -> str:
    return f"rulebook-{name}"
