"""The files of a library's own rulebooks."""

from eider.library.item_paths import rulebook_path
from eider.library.library_files import LibraryFiles
from eider.rulebooks.rulebook import RulebookError


def rulebook_source(files: LibraryFiles, name: str) -> str | None:
    """The TOML of a rulebook of the library's own; None where it has none of this name.

    Raises:
        RulebookError: its file is not text.
    """
    data = files.read(rulebook_path(name))
    try:
        return None if data is None else data.decode()
    except UnicodeDecodeError as fault:
        raise RulebookError(f"rulebook {rulebook_path(name)} cannot be read: {fault}") from fault


def rulebook_file_names(files: LibraryFiles) -> list[str]:
    """The library's own rulebooks, by name."""
    return sorted(name.removesuffix(".toml") for name in files.stamps("rulebooks") if name.endswith(".toml"))
