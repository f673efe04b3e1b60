"""Long work that reports progress and can be cancelled, without knowing who waits for it."""

import threading
from collections.abc import Callable
from typing import NamedTuple

from eider.errors import EiderError


class CancelledError(EiderError):
    """The user cancelled; nothing further was done."""


class Task:
    """Handed to long work: it reports how far it is, and stops at the next report after a cancel."""

    def __init__(self, listener: Callable[[float, str], None] | None = None) -> None:
        self._listener = listener
        self._cancelled = threading.Event()

    def cancel(self) -> None:
        """Ask the work to stop."""
        self._cancelled.set()

    def report(self, share: float, what: str) -> None:
        """Say how far it is (0 to 1) and what is being done.

        Raises:
            CancelledError: the user cancelled the work.
        """
        if self._cancelled.is_set():
            raise CancelledError(f"cancelled while {what}")
        if self._listener:
            self._listener(share, what)


class BackgroundWork(NamedTuple):
    """Long work that goes on beside whoever waits for it: what it is called, and what it does."""

    title: str
    run: Callable[[Task], None]
