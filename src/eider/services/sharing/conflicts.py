"""A part that is being worked on was released by someone else meanwhile: settled as a whole, never line by line."""

from typing import Literal

from eider.commands.parts.new_parts import start_from_part
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.services.parts.part_evaluation import save_evaluated
from eider.services.releasing.change_words import difference_words
from eider.services.releasing.library_history import based_on

Choice = Literal["mine", "theirs", "both"]
CHOICES: tuple[Choice, ...] = ("mine", "theirs", "both")


def conflict_of(library: Library, part_id: str) -> tuple[Bundle, Bundle] | None:
    """The working copy and the newest revision, where the copy was begun from an older one; None where it was not."""
    copy = library.copies.load(part_id)
    newest = library.index.newest_revision(part_id)
    if copy is None or not newest:
        return None
    release = copy.bundle.part.release
    based_on = release.revision if release else 0
    return (copy.bundle, library.load_release(part_id)) if based_on != newest else None


def conflict_differences(library: Library, part_id: str) -> tuple[str, ...]:
    """What the newest revision and the working copy differ in, in words; nothing where there is no conflict."""
    found = conflict_of(library, part_id)
    return difference_words(found[1], found[0]) if found else ()


def settle_conflict(library: Library, part_id: str, choice: Choice, new_name: str = "") -> str:
    """Settle it; returns in words what was done.

    *Mine* is released as the revision after theirs, *theirs* gives the working copy up, *both* makes a part of its own
    of it under another name.

    Raises:
        InputError: there is no conflict, or the name is empty or taken.
    """
    found = conflict_of(library, part_id)
    if found is None:
        raise InputError("this part has no newer revision than the one that it is worked on from")
    mine, theirs = found
    if choice == "theirs":
        library.copies.discard(part_id)
        return f"{theirs.part.name}: revision {library.index.newest_revision(part_id)} holds; the working copy is gone"
    if choice == "both":
        if not new_name.strip() or library.has_part(new_name.strip()):
            raise InputError(f"give the part that is made of the working copy a new name; “{new_name}” cannot be used")
        save_evaluated(library, start_from_part(mine, new_name))
        library.copies.discard(part_id)
        return f"{new_name.strip()} is the working copy; {theirs.part.name} holds as it was released"
    save_evaluated(library, based_on(mine, theirs))
    return f"{mine.part.name}: the working copy will be the revision after the newest"
