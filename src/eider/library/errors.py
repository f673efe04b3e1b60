"""Errors of libraries."""

from eider.errors import EiderError


class LibraryError(EiderError):
    """Something about a library could not be done: what, where, and what to do."""


class ReadOnlyError(LibraryError):
    """The library cannot be written: it was made by a newer Eider, or the folder is not writable."""


class ConflictError(LibraryError):
    """Someone released another state of the same item meanwhile."""
