"""What the window does with a shared library: follow the server, claim parts and give them back, settle conflicts."""

from collections.abc import Callable
from datetime import datetime

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.desktop.app.sharing_dialogs import AddressDialog, LineDialog, SettleDialog, WaitingDialog
from eider.desktop.context import DesktopContext
from eider.library import Library
from eider.library.sharing.review_refs import StoredReview, review_states
from eider.library.sharing.shared_server import Claim, shared_address
from eider.model.review import ReviewState
from eider.model.wording import counted
from eider.services.facts.designs import design_words
from eider.services.sharing.claims import all_claims, claim_part, give_back
from eider.services.sharing.conflicts import CHOICES, conflict_differences, settle_conflict
from eider.services.sharing.reviews import fetch_reviews, waiting_reviews
from eider.services.sharing.synchronising import SyncReport, share_library, synchronise
from eider.services.tasks import Task

# A shared library is followed this often while its window is open (ms).
EACH_MS = 10 * 60 * 1000


class SharingTasks(QObject):
    """Works on the library in a lane of its own.

    Signals:
        changed: parts came from the server, or claims are others.
        state_changed: how the library stands with its server, in words for the frame.
        review_asked: a review that is to be looked at.
        compare_asked: the id of a part whose working copy and newest revision are to be seen over each other.
        opened: the folder of another library, which came from its server.
    """

    changed = pyqtSignal()
    state_changed = pyqtSignal(str)
    review_asked = pyqtSignal(object)
    opened = pyqtSignal(object)
    compare_asked = pyqtSignal(str)

    def __init__(self, library: Library, context: DesktopContext, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._context, self._window = library, context, window
        self.is_shared = bool(shared_address(library.folder))
        self.conflicts: tuple[str, ...] = ()
        self.dialog: LineDialog | None = None
        self.settle_dialog: SettleDialog | None = None
        self.waiting_dialog: WaitingDialog | None = None
        self.address_dialog: AddressDialog | None = None
        context.claim_asked.connect(self.claim)
        context.give_back_asked.connect(self.give_back)
        context.reviews_changed.connect(self._read_claims)
        self._timer = QTimer(self)
        self._timer.setInterval(EACH_MS)
        self._timer.timeout.connect(lambda: self.synchronise(quiet=True))

    def begin(self) -> None:
        """Show the claims that are known; a shared library is followed now and from time to time."""
        self._context.shares = self.is_shared
        self._read_claims(tell_none=False)
        if not self.is_shared:
            self.state_changed.emit("library on this machine")
            return
        self.state_changed.emit("shared library")
        self._timer.start()
        self.synchronise(quiet=True)

    def can_settle(self) -> bool:
        """Whether someone else released a part that is being worked on."""
        return bool(self.conflicts)

    def share(self) -> None:
        """Ask for the address of an empty repository, and share the library through it."""
        hint = (
            "The address of an empty git repository: https://…, ssh://…, file://… or a path. Git's own access is used."
        )
        self.dialog = dialog = LineDialog("Share this library", hint, "Share", self._window)

        def work(task: Task, address: str) -> SyncReport:
            return share_library(self._library, address, task)

        def done(report: SyncReport) -> None:
            dialog.accept()
            self.is_shared = self._context.shares = True
            self._timer.start()
            self._show(report)
            self._context.said.emit(f"Shared; {counted(report.sent, 'commit')} sent")

        def entered(address: str) -> None:
            self._run("Sharing", lambda task: work(task, address), done, lambda fault: dialog.show_fault(str(fault)))

        dialog.entered.connect(entered)
        dialog.open()

    def open_shared(self) -> None:
        """Ask for the address of another library, and open it."""
        self.address_dialog = AddressDialog(self._context, self._library.folder, self._window)
        self.address_dialog.opened.connect(self.opened)
        self.address_dialog.open()

    def synchronise(self, *, quiet: bool = False) -> None:
        """Follow the server; on a timer nothing is said unless something came or went wrong."""
        if not self.is_shared:
            self._context.said.emit("This library is not shared; share it first.")
            return

        def done(report: SyncReport) -> None:
            self._show(report)
            parts = sum(made.kind == "part" for made in report.received)
            if report.conflicts:
                self._context.said.emit(
                    f"{', '.join(report.conflicts)} released by someone else meanwhile: Library › Settle a conflict…"
                )
            elif parts or not quiet:
                designs = f"; designs with them: {design_words(report.designs)}" if report.designs else ""
                self._context.said.emit(f"Synchronised: {counted(parts, 'part')} received{designs}")

        def failed(fault: Exception) -> None:
            self.state_changed.emit(f"shared library, not synchronised: {fault}")
            if not quiet:
                self._context.said.emit(str(fault))

        self._run("Synchronising", lambda task: synchronise(self._library, task), done, failed)

    def _show(self, report: SyncReport) -> None:
        self.conflicts = report.conflicts
        self.state_changed.emit(f"shared library, synchronised {datetime.now().astimezone():%H:%M}")
        self._read_claims()

    def _read_claims(self, *, tell_none: bool = True) -> None:
        def done(found: tuple[dict[str, Claim], dict[str, ReviewState]]) -> None:
            self._context.claims, self._context.reviews = found
            # A library that is read for the first time is not to be listed before.
            if tell_none or any(found):
                self.changed.emit()

        self._context.jobs.run("sharing", lambda: (all_claims(self._library), review_states(self._library)), done)

    def claim(self, part_id: str, name: str) -> None:
        """Ask why, and claim a part."""
        hint = f"Nobody else can release {name} until you release it or give the claim back. What is it for?"
        self.dialog = dialog = LineDialog(f"Claim {name}", hint, "Claim", self._window, needed=False)

        def done(_claim: Claim) -> None:
            dialog.accept()
            self._context.said.emit(f"{name} is claimed by you")
            self._read_claims()

        def entered(why: str) -> None:
            self._run(
                f"Claiming {name}",
                lambda task: claim_part(self._library, part_id, name, why, task),
                done,
                lambda fault: dialog.show_fault(str(fault)),
            )

        dialog.entered.connect(entered)
        dialog.open()

    def give_back(self, part_id: str, name: str) -> None:
        """Give the claim on a part back."""

        def done(_none: object) -> None:
            self._context.said.emit(f"{name} is claimed by nobody")
            self._read_claims()

        self._run(f"Giving {name} back", lambda task: give_back(self._library, part_id, task), done, self._say)

    def waiting(self) -> None:
        """Show the reviews that wait; in a shared library the server is asked first."""
        library = self._library

        def work(_task: Task) -> tuple[StoredReview, ...]:
            fetch_reviews(library)
            return waiting_reviews(library)

        def done(found: tuple[StoredReview, ...]) -> None:
            self.waiting_dialog = WaitingDialog(found, self._window)
            self.waiting_dialog.chosen.connect(self.review_asked)
            self.waiting_dialog.open()

        self._run("Asking for reviews", work, done, self._say)

    def settle(self) -> None:
        """Show what the first part in conflict differs in, and ask what is to hold."""
        name = next(iter(self.conflicts), "")
        library = self._library
        if not name:
            self._context.said.emit("Nothing is in conflict.")
            return

        def load() -> tuple[str, tuple[str, ...]]:
            part_id = library.find(name).id
            return part_id, conflict_differences(library, part_id)

        def ask(found: tuple[str, tuple[str, ...]]) -> None:
            part_id, differences = found
            self.settle_dialog = dialog = SettleDialog(name, differences, self._window)

            def done(told: str) -> None:
                dialog.accept()
                self.conflicts = tuple(other for other in self.conflicts if other != name)
                self._context.said.emit(told)
                self.changed.emit()

            def chosen(choice: str, new_name: str) -> None:
                which = next(known for known in CHOICES if known == choice)
                self._context.jobs.run(
                    "library",
                    lambda: settle_conflict(library, part_id, which, new_name),
                    done,
                    lambda fault: dialog.show_fault(str(fault)),
                )

            dialog.chosen.connect(chosen)
            dialog.compare_asked.connect(lambda: self.compare_asked.emit(part_id))
            dialog.open()

        self._context.jobs.run("library", load, ask, self._say)

    def _say(self, fault: Exception) -> None:
        self._context.said.emit(str(fault))

    def _run(
        self,
        title: str,
        work: Callable[[Task], object],
        done: Callable[..., None],
        failed: Callable[[Exception], None],
    ) -> None:
        self._context.jobs.owned(self).run_long("sharing", title, work, done, failed)
