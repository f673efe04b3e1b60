"""Between the datasheet and the open step: clicks fill the selected field, rectangles open the capture panel."""

from collections.abc import Callable, Sequence
from typing import cast

from PyQt6.QtCore import QObject
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import QApplication, QLineEdit, QMenu, QSizePolicy, QWidget

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.packages import package_edits
from eider.datasheets.documents.click_capture import Candidate, Click
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.datasheet.page_stack import PageMark
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget, PartStep
from eider.desktop.widgets.layouts import button, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.evidence.address_table import evidenced_values
from eider.evidence.evidence_changes import put_value, set_evidence
from eider.model.address import FieldAddress, dimension_letter
from eider.model.bundle import Bundle

HELP = "Click a number to enter it in the current field. Draw a rectangle around a table or a drawing to read it."
ALTERNATIVES = 3


class ReadingBar(QWidget):
    """One line under the datasheet: what the last click was taken for, and what else it could be."""

    def __init__(self) -> None:
        super().__init__()
        # A long reading goes on in a further line; it must not widen the pane.
        self.text = label(HELP, "soft", wrap=True)
        self.text.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._line = row(growing(self.text), margins=3)
        self._others: list[QWidget] = []
        fill_widget(self, self._line)

    def say(self, text: str, others: Sequence[tuple[str, Callable[[], object]]] | None = None) -> None:
        """Show a text, and buttons for what else there is."""
        for old in self._others:
            old.deleteLater()
        self._others = [button(f"Use {title}", run) for title, run in others or []]
        self.text.setText(text)
        self.text.setToolTip(text)
        layout = self._line.layout()
        for made in self._others:
            present(layout).addWidget(made)


class CaptureMode(QObject):
    """Takes values from the datasheet view into the part."""

    def __init__(
        self,
        controller: PartController,
        context: DesktopContext,
        view: DatasheetView,
        panel: CapturePanel,
        step: Callable[[], PartStep],
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self.controller, self.context, self.view, self.panel, self._step = controller, context, view, panel, step
        self.bar, self.menu = ReadingBar(), QMenu(view)
        self._field: QWidget | None = None
        view.set_footer(self.bar)
        view.picked.connect(self._picked)
        view.boxed.connect(self._boxed)
        view.source.unread.connect(self.bar.say)
        panel.closed.connect(lambda: view.show_rectangle(1, None))
        panel.stands_here.connect(self._stands_here)
        panel.place_in_hand.connect(lambda page, box: view.show_box(page, box))
        cast(QApplication, QApplication.instance()).focusChanged.connect(self._focus_changed)

    def _focus_changed(self, _old: QWidget | None, new: QWidget | None) -> None:
        if new is not None and self._step().isAncestorOf(new) and not self.view.isAncestorOf(new):
            self._field = new

    def refresh(self) -> None:
        """Mark the places of the values that came from the document that is open."""
        document = self.document
        marks = []
        if not document:
            self.view.show_captured([])
            return
        for value in evidenced_values(self.controller.bundle):
            evidence = value.evidence
            if evidence is None or evidence.document != document or evidence.box is None or not document:
                continue
            sheet = self.controller.bundle.sheet
            letter = dimension_letter(value.address)
            sheet_letter = sheet.datasheet_letter(letter) if letter else ""
            name = f"{sheet_letter} = {letter}" if sheet_letter else value.name
            marks.append(PageMark(evidence.page, evidence.box, "captured", f"{name}: {value.text}"))
        self.view.show_captured(marks)

    @property
    def document(self) -> str:
        """The sum of the document that is open; empty without one."""
        return self.view.key

    def target(self) -> CaptureTarget | None:
        """The selected field."""
        return self._step().target(self._field)

    def _picked(self, page: int, x: float, y: float) -> None:
        target, field = self.target(), self._field
        kind = target.kind if target else "length"
        self.view.read_click(page, x, y, kind, lambda click: self._read(target, field, page, click))

    def _read(self, target: CaptureTarget | None, field: QWidget | None, page: int, click: Click) -> None:
        if not click.candidates:
            text = self.view.source.text(page)
            empty = text is not None and not text.words
            self.bar.say(
                "This page has no text. Draw a rectangle to keep a picture, and type the values."
                if empty
                else "Nothing could be read there. Click on a number."
            )
        elif target is None and isinstance(field, QLineEdit) and self._step().isAncestorOf(field):
            field.setText(click.candidates[0].text)
            field.editingFinished.emit()
            self.bar.say(f"{click.candidates[0].text} typed; this field keeps no evidence")
        elif target is None:
            first = click.candidates[0]
            self.bar.say(f"read {first.text} ({first.how}); place the cursor in a cell of the part to enter it there")
        elif click.is_clear:
            self._take(target, page, click.candidates)
        else:
            self._ask(target, page, click.candidates)

    def _ask(self, target: CaptureTarget, page: int, candidates: tuple[Candidate, ...]) -> None:
        """Several readings are possible: the user's word decides."""
        self.menu.clear()
        for candidate in candidates:
            doubt = f"; {candidate.doubt}" if candidate.doubt else ""
            action = self.menu.addAction(f"{target.name} = {candidate.text}   ({candidate.how}{doubt})")
            rest = tuple(c for c in candidates if c is not candidate)
            present(action).triggered.connect(
                lambda _checked, chosen=candidate, others=rest: self._take(target, page, (chosen, *others))
            )
        self.menu.addSeparator()
        self.menu.addAction("None of these")
        self.bar.say(f"{target.name}: Which value?")
        self.menu.popup(QCursor.pos())

    def _take(self, target: CaptureTarget, page: int, candidates: tuple[Candidate, ...], *, go_on: bool = True) -> None:
        chosen, others = candidates[0], candidates[1 : 1 + ALTERNATIVES]
        who = self.context.person.name
        evidence = datasheet_evidence(self.document, page, chosen.box, chosen.seen, who)

        def change(bundle: Bundle) -> Bundle:
            if target.address == FieldAddress("sheet", "pins"):
                return package_edits.set_pins(bundle, chosen.text)
            return put_value(bundle, target.address, chosen.text, evidence, chosen.letter)

        self.controller.edit(f"Capture {target.name} from page {page}", change)
        self.view.show_box(page, chosen.box)
        again = [
            (
                other.text,
                lambda other=other: self._take(
                    target, page, (other, *(c for c in candidates if c is not other)), go_on=False
                ),
            )
            for other in others
        ]
        doubt = f"; {chosen.doubt}" if chosen.doubt else ""
        self.bar.say(f"{target.name} = {chosen.text}   ({chosen.how}, page {page}{doubt})", again)
        if go_on:
            self._step().next_field()

    def _boxed(self, page: int, box: tuple[float, float, float, float]) -> None:
        document = self.view.source.document
        if document is not None:
            self.view.show_rectangle(page, box)
            if self._step().read_rectangle(document, self.document, page, box):
                return
            target = self.target()
            held = {value.address for value in evidenced_values(self.controller.bundle)}
            self.panel.offer_place_for(target.name if target and target.address in held else "")
            prefer = {"pins": "pins", "package": "dimensions"}.get(self._step().key)
            self.panel.begin(document, self.document, page, box, prefer)  # type: ignore[arg-type]  # one of the kinds

    def _stands_here(self, page: int, box: tuple[float, float, float, float]) -> None:
        """The selected value was typed from a picture: the rectangle is its evidence."""
        target = self.target()
        if target is not None:
            who = self.context.person.name
            evidence = datasheet_evidence(self.document, page, box, "", who)
            title = f"{target.name} is on page {page}"
            self.controller.edit(title, lambda b: set_evidence(b, {target.address: evidence}))

    def leave(self) -> None:
        """Another part follows: hear of nothing more."""
        cast(QApplication, QApplication.instance()).focusChanged.disconnect(self._focus_changed)
