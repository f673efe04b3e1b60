"""Work outside the Qt thread: a thread for each kind of work, and a process for the CAD kernel."""

import os
import threading
from collections.abc import Callable
from concurrent.futures import Executor, Future, ProcessPoolExecutor, ThreadPoolExecutor
from functools import partial
from multiprocessing import get_context, parent_process
from multiprocessing.process import BaseProcess
from typing import Any, Literal, NamedTuple, TypeVar

from PyQt6 import sip
from PyQt6.QtCore import QObject, Qt, pyqtSignal

from eider.errors import EiderError
from eider.services.crash_log import crash_words, log_crash
from eider.services.tasks import Task

T = TypeVar("T")
# A lane for each kind of work, so that a slow one holds up no other: what was typed does not wait for a search, nor a
# search for a release, an export or a supplier.
Where = Literal[
    "library",
    "index",
    "disk",
    "compute",
    "drawing",
    "pdf",
    "reading",
    "survey",
    "recognition",
    "picture",
    "picking",
    "kernel",
    "proof",
    "network",
    "export",
    "release",
    "rules",
    "family",
    "sharing",
    "imports",
]


def _exit_after(parent: BaseProcess) -> None:
    parent.join()
    os._exit(0)


def _die_with_parent() -> None:
    """A kernel process whose window was killed ends too; it would wait for work for ever."""
    parent = parent_process()
    if parent is not None:
        threading.Thread(target=_exit_after, args=(parent,), daemon=True).start()


class _Answer(NamedTuple):
    """Work that has ended, and what is to be called with what came of it."""

    future: Future[Any]
    then: Callable[[Any], None] | None
    failed: Callable[[Exception], None] | None


class Jobs(QObject):
    """Runs work elsewhere and calls back in the Qt thread.

    Work with a title is shown with its progress and can be cancelled.
    """

    progressed = pyqtSignal(str, float)
    ended = pyqtSignal()
    failed = pyqtSignal(str)
    # Everything from other threads comes by this one signal, so that nothing overtakes anything.
    _later = pyqtSignal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._executors: dict[Where, Executor] = {}
        self._lock = threading.Lock()
        # Queued even from this thread: work that is done at once must not come back inside `run`, before its progress.
        self._later.connect(self._here, Qt.ConnectionType.QueuedConnection)  # type: ignore[call-arg]
        self._long: list[_LongJob] = []
        self._open = 0
        self._closed = False

    def run(
        self,
        where: Where,
        work: Callable[[], Any],
        then: Callable[[Any], None] | None = None,
        failed: Callable[[Exception], None] | None = None,
    ) -> None:
        """Run `work` elsewhere, then `then` with its result in the Qt thread."""
        if self._closed:
            return
        self._open += 1
        try:
            future = self._executor(where).submit(work)
        except (RuntimeError, OSError) as fault:
            # No further thread or process is to be had.
            future = Future()
            future.set_exception(fault)
        future.add_done_callback(lambda done: self._send(_Answer(done, then, failed)))

    def run_long(
        self,
        where: Where,
        title: str,
        work: Callable[[Task], Any],
        then: Callable[[Any], None],
        failed: Callable[[Exception], None] | None = None,
    ) -> None:
        """The same for work that takes time: it is handed a task to report to, and the user can cancel it."""
        job = _LongJob(title, Task(lambda share, what: self._later.emit(partial(self._note, job, share, what))))
        self._long.append(job)
        self._tell()

        def ended() -> None:
            self._long.remove(job)
            self._tell()

        def done(result: Any) -> None:
            ended()
            then(result)

        def broken(fault: Exception) -> None:
            ended()
            if failed:
                failed(fault)
            else:
                self.failed.emit(_words(fault))

        self.run(where, lambda: work(job.task), done, broken)

    def owned(self, owner: QObject) -> "OwnedJobs":
        """The same jobs for one widget: what comes back after the widget is gone is dropped."""
        return OwnedJobs(self, owner)

    def in_kernel(self, work: Callable[[], T]) -> T:
        """Run work in the kernel's process and wait for it; for use inside work of another thread only."""
        return self._executor("kernel").submit(work).result()

    def after_saving(self, then: Callable[[], None]) -> None:
        """Go on once everything that is to be saved is on disk."""
        self.run("disk", lambda: None, lambda _: then())

    def wait_for(self, where: Where) -> None:
        """Wait until all that another lane has to do now is done; for use inside work of another thread only."""
        self._executor(where).submit(lambda: None).result()

    def cancel(self) -> None:
        """Ask the long work whose progress is shown to stop."""
        if self._long:
            self._long[-1].task.cancel()

    def _note(self, job: "_LongJob", share: float, what: str) -> None:
        job.share, job.what = share, what
        self._tell()

    def _tell(self) -> None:
        """Show the long work that was begun last; when it ends, the one that was begun before it."""
        if not self._long:
            self.ended.emit()
            return
        job = self._long[-1]
        self.progressed.emit(f"{job.title}: {job.what}" if job.what else job.title, job.share)

    @property
    def is_idle(self) -> bool:
        """Whether no answer is to come: nothing is running or waiting, or all is closed."""
        return self._closed or self._open == 0

    def close(self) -> None:
        """End all executors; what is waiting is dropped, what is being written to the library is finished."""
        self._closed = True
        for job in self._long:
            job.task.cancel()
        for where, executor in self._executors.items():
            writes = where in ("library", "disk", "release", "sharing")
            executor.shutdown(wait=writes, cancel_futures=where not in ("library", "disk"))

    def _executor(self, where: Where) -> Executor:
        with self._lock:
            return self._made(where)

    def _made(self, where: Where) -> Executor:
        if where not in self._executors:
            if where == "kernel":
                # A process of its own: importing the kernel takes a second, in which a thread would hold up the window.
                self._executors[where] = ProcessPoolExecutor(1, get_context("spawn"), _die_with_parent)
            else:
                self._executors[where] = ThreadPoolExecutor(1, thread_name_prefix=f"eider-{where}")
        return self._executors[where]

    def _send(self, message: _Answer) -> None:
        if not self._closed:
            self._later.emit(partial(self._call_back, message))

    def _here(self, action: Callable[[], object]) -> None:
        action()

    def _call_back(self, message: _Answer) -> None:
        future, then, failed = message
        self._open -= 1
        if future.cancelled() or self._closed:
            return
        fault = future.exception()
        if fault is None:
            if then:
                then(future.result())
            return
        if not isinstance(fault, EiderError):
            log_crash(fault)
        if failed and isinstance(fault, Exception):
            failed(fault)
        else:
            self.failed.emit(_words(fault))


class _LongJob:
    """Long work that is running: how far it is, and the task by which it is cancelled."""

    def __init__(self, title: str, task: Task) -> None:
        self.title, self.task = title, task
        self.share, self.what = 0.0, ""


def _words(fault: BaseException) -> str:
    """A fault for a person; one of Eider itself is in the log."""
    if isinstance(fault, EiderError):
        return str(fault)
    return f"{crash_words(fault)}. The details are in the log."


class OwnedJobs:
    """Jobs whose answers are for one widget; an answer that finds it gone is dropped."""

    def __init__(self, jobs: Jobs, owner: QObject) -> None:
        self._jobs, self._owner = jobs, owner

    def run(
        self,
        where: Where,
        work: Callable[[], Any],
        then: Callable[[Any], None] | None = None,
        failed: Callable[[Exception], None] | None = None,
    ) -> None:
        """As `Jobs.run`."""
        self._jobs.run(where, work, self._while_alive(then), self._while_alive(failed))

    def run_long(
        self,
        where: Where,
        title: str,
        work: Callable[[Task], Any],
        then: Callable[[Any], None],
        failed: Callable[[Exception], None] | None = None,
    ) -> None:
        """As `Jobs.run_long`."""
        self._jobs.run_long(where, title, work, self._while_alive(then) or then, self._while_alive(failed))

    def in_kernel(self, work: Callable[[], T]) -> T:
        """As `Jobs.in_kernel`."""
        return self._jobs.in_kernel(work)

    def wait_for(self, where: Where) -> None:
        """As `Jobs.wait_for`."""
        self._jobs.wait_for(where)

    def _while_alive(self, call: Callable[[Any], None] | None) -> Callable[[Any], None] | None:
        if call is None:
            return None
        return lambda answer: None if sip.isdeleted(self._owner) else call(answer)
