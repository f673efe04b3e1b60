"""A library on disk: a folder that is a git repository, its released items, working copies, index and comparison."""

from eider.library.errors import LibraryError
from eider.library.library_opening import init_library, open_library
from eider.library.store import Library

__all__ = ["Library", "LibraryError", "init_library", "open_library"]
