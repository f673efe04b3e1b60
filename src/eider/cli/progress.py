"""Long work in a terminal: one line that says how far it is."""

import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager

from eider.services.tasks import Task

# The line is written again this often (s).
EACH = 0.1


@contextmanager
def shown_progress() -> Iterator[Task]:
    """A task whose progress is shown on standard error while that is a terminal, and wiped away at the end."""
    if not sys.stderr.isatty():
        yield Task()
        return
    shown = 0.0

    def show(share: float, what: str) -> None:
        nonlocal shown
        if time.monotonic() - shown >= EACH:
            shown = time.monotonic()
            sys.stderr.write(f"\r\x1b[K{share:4.0%} {what}")
            sys.stderr.flush()

    try:
        yield Task(show)
    finally:
        sys.stderr.write("\r\x1b[K")
        sys.stderr.flush()
