"""Steps back and forward of a page that edits one value."""

from collections.abc import Callable
from typing import Generic, TypeVar

S = TypeVar("S")


class UndoStack(Generic[S]):
    """The states that a page went through: `read` gives the present one, `show` goes to another."""

    def __init__(self, read: Callable[[], S], show: Callable[[S], object]) -> None:
        self._read, self._show = read, show
        self._done: list[tuple[str, S]] = []
        self._undone: list[tuple[str, S]] = []

    @property
    def count(self) -> int:
        """How many steps can be taken back."""
        return len(self._done)

    def change(self, title: str, state: S) -> None:
        """Go to a new state as one step."""
        self._done.append((title, self._read()))
        self._undone.clear()
        self._show(state)

    def clear(self) -> None:
        """Forget all steps: another value is edited from now on."""
        self._done.clear()
        self._undone.clear()

    def label_of(self, which: str) -> str:
        """What would be taken back or done again; empty where there is nothing."""
        steps = self._done if which == "undo" else self._undone
        return steps[-1][0] if steps else ""

    def undo(self) -> bool:
        """One step back; whether there was one."""
        return self._step(self._done, self._undone)

    def redo(self) -> bool:
        """One step forward again; whether there was one."""
        return self._step(self._undone, self._done)

    def _step(self, source: list[tuple[str, S]], target: list[tuple[str, S]]) -> bool:
        if not source:
            return False
        title, state = source.pop()
        target.append((title, self._read()))
        self._show(state)
        return True
