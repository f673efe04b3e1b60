"""The review of a part: what was said of it so far, and the next step: request, take back, decline, approve."""

from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.errors import EiderError
from eider.evidence.evidence_changes import utc_now
from eider.library.sharing.review_refs import StoredReview, read_review
from eider.model.address import parse_address
from eider.model.review import Review, ReviewNote, ReviewState
from eider.services.sharing.reviews import changes_under_review, end_review, judge_review, request_review

STATES = {"requested": "In review", "declined": "Declined", "approved": "Approved"}


class ReviewPanel(QWidget):
    """Shows the review that the part is in; in a part that is looked at for a review, its verdict is given here."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.stored: StoredReview | None = controller.reviewing
        self.notes: list[ReviewNote] = []
        self.changes: tuple[str, ...] = ()
        self.state = label("Not in review", "head", wrap=True)
        self.steps = QListWidget()
        self.steps.setAccessibleName("Steps of the review, and notes on places")
        self.steps.setWordWrap(True)
        self.steps.itemActivated.connect(self._go_to)
        self.note, self.place = QLineEdit(), QLineEdit()
        self.note.setPlaceholderText("Note")
        self.place.setPlaceholderText("on a place, such as lands.pads.3; empty for the whole")
        self.add_button = button("Add this note", self.add_note)
        self.request_button = button("Request review", self.request, main=True)
        self.end_button = button("Cancel the request", self.end)
        self.decline_button = button("Decline", lambda: self.judge("declined"))
        self.approve_button = button("Approve", lambda: self.judge("approved"), main=True)
        self.say = label("", "soft", wrap=True)
        fill_widget(
            self,
            column(
                self.state,
                growing(self.steps),
                self.note,
                row(growing(self.place), self.add_button),
                flow(self.request_button, self.end_button, self.decline_button, self.approve_button),
                self.say,
                margins=4,
            ),
        )
        self._show()

    @property
    def is_reviewer(self) -> bool:
        """Whether the part is looked at for its review, rather than worked on."""
        return self.controller.reviewing is not None

    def load(self) -> None:
        """Read what was said last, as far as this machine knows."""
        library, part_id = self.controller.library, self.controller.bundle.part.id
        before = self.controller.reviewing

        def work() -> tuple[StoredReview | None, tuple[str, ...]]:
            stored = read_review(library, part_id) or before
            return stored, changes_under_review(library, stored) if stored else ()

        self.jobs.run("library", work, self._take)

    def _take(self, found: tuple[StoredReview | None, tuple[str, ...]]) -> None:
        self.stored, self.changes = found
        self._show()

    def _show(self) -> None:
        review = self.stored.review if self.stored else None
        self.state.setText(_state_words(review))
        self.steps.clear()
        for event in review.events if review else ():
            self.steps.addItem(f"{STATES[event.state]}, {event.by}, {event.at[:16].replace('T', ' ')}: {event.note}")
        for note in (*(review.notes if review else ()), *self.notes):
            item = QListWidgetItem(f"{f'{note.address}: ' if note.address else ''}{note.text} ({note.by})")
            item.setData(ADDRESS, note.address)
            self.steps.addItem(item)
        self.steps.addItems([f"Changed since revision {review.revision}: {words}" for words in self.changes if review])
        is_open, mine = review is not None and review.state == "requested", not self.is_reviewer
        locked = self.controller.session.read_only
        self.request_button.setVisible(mine)
        self.request_button.setEnabled(not is_open and not locked)
        self.end_button.setVisible(mine and is_open)
        for widget in (self.decline_button, self.approve_button, self.place, self.add_button):
            widget.setVisible(not mine)
        for widget in (self.decline_button, self.approve_button):
            widget.setEnabled(is_open)

    def _go_to(self, item: QListWidgetItem) -> None:
        address = item.data(ADDRESS)
        if address is not None:
            self.context.address_asked.emit(address)

    def add_note(self) -> None:
        """Keep a note on a place, to be sent with the verdict."""
        text, place = self.note.text().strip(), self.place.text().strip()
        if not text:
            self.say.setText("write the note first")
            return
        try:
            address = parse_address(place) if place else None
        except EiderError as fault:
            self.say.setText(str(fault))
            return
        self.notes.append(ReviewNote(text, self.context.person.name, utc_now(), address))
        self.note.clear()
        self.place.clear()
        self._show()

    def request(self) -> None:
        """Show the working copy to others."""
        library, part_id, note = self.controller.library, self.controller.bundle.part.id, self.note.text()
        self.controller.saver.save()

        def work() -> Review:
            self.jobs.wait_for("disk")
            return request_review(library, part_id, note)

        self._run("Requesting a review", work)

    def end(self) -> None:
        """Cancel the request."""
        library, part_id = self.controller.library, self.controller.bundle.part.id
        self._run("Cancelling the request", lambda: end_review(library, part_id))

    def judge(self, state: ReviewState) -> None:
        """Approve or decline, with the ticks and notes that were made here."""
        library, bundle = self.controller.library, self.controller.bundle
        note, notes = self.note.text(), tuple(self.notes)
        self._run(
            "Sending the verdict", lambda: judge_review(library, bundle.part.id, state, note, notes, ticked=bundle)
        )

    def _run(self, title: str, work: object) -> None:
        def done(_result: object) -> None:
            self.note.clear()
            self.notes = []
            self.say.setText("")
            self.load()
            self.context.reviews_changed.emit()

        self.say.setText(f"{title} …")
        self.jobs.run("sharing", work, done, lambda fault: self.say.setText(str(fault)))  # type: ignore[arg-type]


ADDRESS = 256


def _state_words(review: Review | None) -> str:
    if review is None:
        return "Not in review"
    event = review.events[-1]
    if event.state == "requested":
        return f"In review, requested by {event.by}"
    return f"{STATES[event.state]} by {event.by}"
