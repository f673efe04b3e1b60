"""What the steps of an open part show: computed outside the Qt thread, and asked for again when it is out of date."""

from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from eider.commands.parts.edit_history import EditHistory
from eider.desktop.jobs import Jobs
from eider.library import Library
from eider.services.parts.part_computing import PartAnswer, PartRequest, answer_part, check_answer
from eider.views.part_state import PartState, StepOptions, StepView, ViewOptions
from eider.views.step_registry import StepState


class _Wanted(NamedTuple):
    """What a view is of: the state of the part and of its rules, by their numbers, the step, and what is seen of it."""

    state: int
    rules: int
    key: str
    options: ViewOptions


class StepViews(QObject):
    """The results of the part's present state, the trail, and the view of the step that is looked at.

    One request at a time goes to the computing side; of a large part the results come first, then what the checks
    find in them. When an answer comes and something else is wanted by then, the newest request follows.
    """

    changed = pyqtSignal()
    refused = pyqtSignal(str)

    def __init__(
        self, library: Library, session: EditHistory, state: PartState, jobs: Jobs, unit: str, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._library, self._session, self._jobs = library, session, jobs.owned(self)
        self.state = state
        self.trail: tuple[StepState, ...] = ()
        self._shown, self._unit, self._rules = "source", unit, 0
        self._options: dict[str, StepOptions] = {}
        # Each view with what it is of; one of a state before is shown until its step is looked at again.
        self._views: dict[str, tuple[_Wanted, StepView | None]] = {}
        # Of which number of the part and of the rules the results are.
        self._computed = (0, 0)
        self.is_computing = False

    def view_of(self, key: str) -> StepView | None:
        """What a step shows, as it was computed last; None before the first time."""
        return self._views[key][1] if key in self._views else None

    def show_step(self, key: str, options: StepOptions | None = None) -> None:
        """A step is looked at, with what the user chose to see of it; `changed` follows when its view is there."""
        self._shown = key
        if options is not None:
            self._options[key] = options
        self.follow()

    def set_unit(self, unit: str) -> None:
        """Lengths are to be shown in another unit."""
        self._unit = unit
        self.follow()

    def read_rules(self) -> None:
        """The rulebook was saved again: work out the part by it."""
        self._rules += 1
        self.follow()

    def follow(self) -> None:
        """Ask for what is wanted now, unless it is there or an answer is under way."""
        key = self._shown
        options = ViewOptions(self._unit, self._options.get(key))
        wanted = _Wanted(self._session.number, self._rules, key, options)
        if self.is_computing or (key in self._views and self._views[key][0] == wanted):
            return
        self.is_computing = True
        state, rules = self._computed
        request = PartRequest(
            self._session.bundle,
            self.state,
            key,
            options,
            is_changed=state != wanted.state,
            reads_rules=rules != wanted.rules,
            shown=self.view_of(key),
        )
        library = self._library
        receive, broken = partial(self._receive, wanted), partial(self._broken, wanted)
        self._jobs.run("compute", lambda: answer_part(request, library), receive, broken)

    def _check(self, wanted: _Wanted, answer: PartAnswer) -> None:
        """Have the results checked, once they have been painted: both at a time would make each take longer."""
        jobs = self._jobs

        def work() -> PartAnswer:
            jobs.wait_for("drawing")
            return check_answer(answer)

        jobs.run("compute", work, partial(self._receive, wanted), partial(self._broken, wanted))

    def _receive(self, wanted: _Wanted, answer: PartAnswer) -> None:
        self.is_computing = False
        if wanted.state == self._session.number:
            if answer.state is not self.state:
                self._session.settle(wanted.state, answer.state.bundle)
            self.state, self.trail = answer.state, answer.trail
            self._views[wanted.key] = (wanted, answer.view)
            if not answer.state.evaluated.is_checked:
                self.is_computing = True
                # What is to be painted is in its lane before the checks wait for it.
                self.changed.emit()
                self._check(wanted, answer)
                return
            self._computed = (wanted.state, wanted.rules)
            self.changed.emit()
        self.follow()

    def _broken(self, wanted: _Wanted, fault: Exception) -> None:
        self.is_computing = False
        if wanted.state != self._session.number:
            # The fault is of a state that is gone; it says nothing about the present one.
            self.follow()
            return
        # The same request would fail again: what is shown stays until the next change.
        self._computed = (wanted.state, wanted.rules)
        self._views[wanted.key] = (wanted, self.view_of(wanted.key))
        self.refused.emit(str(fault))
        self.changed.emit()
