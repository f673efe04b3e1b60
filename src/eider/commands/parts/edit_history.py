"""The history of one open part: its states, undo and redo. Undo keeps recipes; their results are computed again."""

import msgspec

from eider.commands.parts.evaluation import with_results_of, without_results
from eider.model.bundle import Bundle

# Undo goes back this far; a recipe is a few kilobytes, most of it shared with its neighbours.
LONGEST = 500


class HistoryState(msgspec.Struct, frozen=True):
    """The recipes of one state, what led to it, and what a further keystroke of the same entry is told by."""

    label: str
    recipes: Bundle
    merge: str = ""


class EditHistory:
    """The states of one open part. `number` grows with each change, so that late answers of jobs are told."""

    def __init__(self, bundle: Bundle, *, read_only: bool = False) -> None:
        self.read_only = read_only
        self.number = 0
        self._present = bundle
        self._done = [HistoryState("Open", without_results(bundle))]
        self._undone: list[HistoryState] = []
        self.is_saved = True

    @property
    def bundle(self) -> Bundle:
        """The present state; until its results are settled, with those of the state before."""
        return self._present

    @property
    def undo_label(self) -> str:
        """What undo would take back; empty where there is nothing."""
        return self._done[-1].label if len(self._done) > 1 else ""

    @property
    def redo_label(self) -> str:
        """What redo would do again; empty where there is nothing."""
        return self._undone[-1].label if self._undone else ""

    def change(self, label: str, bundle: Bundle, merge: str = "") -> bool:
        """Go to a new state; a change with the same `merge` as the last one becomes one step with it.

        Returns whether anything changed.
        """
        if self.read_only or bundle == self._present:
            return False
        step = HistoryState(label, without_results(bundle), merge)
        if merge and len(self._done) > 1 and self._done[-1].merge == merge:
            self._done[-1] = step
        else:
            self._done.append(step)
            del self._done[1 : max(1, len(self._done) - LONGEST)]
        self._undone.clear()
        self._move_to(bundle)
        return True

    def settle(self, number: int, bundle: Bundle) -> bool:
        """Put fresh results into the state of that number; a late answer is dropped."""
        if number != self.number:
            return False
        self._present = bundle
        last = self._done[-1]
        self._done[-1] = HistoryState(last.label, without_results(bundle), last.merge)
        return True

    def end_merge(self) -> None:
        """The next change is a step of its own, whatever it is."""
        last = self._done[-1]
        self._done[-1] = HistoryState(last.label, last.recipes)

    def undo(self) -> bool:
        """One step back; whether there was one."""
        if len(self._done) < 2:
            return False
        self._undone.append(self._done.pop())
        self._move_to(with_results_of(self._done[-1].recipes, self._present))
        return True

    def redo(self) -> bool:
        """One step forward again; whether there was one."""
        if not self._undone:
            return False
        self._done.append(self._undone.pop())
        self._move_to(with_results_of(self._done[-1].recipes, self._present))
        return True

    def _move_to(self, bundle: Bundle) -> None:
        self._present = bundle
        self.number += 1
        self.is_saved = False
