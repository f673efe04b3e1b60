"""What a changed rulebook would do to the library's footprints, looked for while the changes rest."""

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget

from eider.commands.rulebook_draft import RulebookDraft
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import column, fill_widget, growing, label
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.model.wording import counted
from eider.services.rulebook_effects import RulebookEffect, RulebookEffects, rulebook_effects

# The library is looked through when nothing has been typed for so long (ms).
REST = 350


class EffectsPanel(QWidget):
    """Shows the effects of one draft at a time; what comes back for an older one is dropped."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._draft: RulebookDraft | None = None
        self.effects: RulebookEffects | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(REST)
        self._timer.timeout.connect(self._look)
        self.summary = label("", "soft", wrap=True)
        self.found = RecordView[RulebookEffect](
            [
                Column("Part", lambda e: e.part),
                Column("Pads", lambda e: str(e.pads or ""), number=True),
                Column("Largest change, mm", lambda e: f"{e.most:.3f}" if e.pads else "", number=True),
                Column("Courtyard", lambda e: e.besides, fault=lambda e: e.fault),
            ],
            context.theme,
        )
        self.found.set_widths(82, 42, 60)
        self.examples = label("", "soft", wrap=True)
        fill_widget(
            self,
            column(label("Effect on the library", "head"), self.summary, growing(self.found), self.examples, margins=0),
        )

    def look_at(self, draft: RulebookDraft) -> None:
        """Look through the library as soon as the draft rests."""
        self._draft = draft
        self.summary.setText("Looking through the library…")
        self._timer.start()

    def _look(self) -> None:
        draft, library = self._draft, self._library
        if draft is None:
            return

        def done(found: RulebookEffects) -> None:
            if draft == self._draft:
                self._show(draft, found)

        self._jobs.run_long(
            "rules", "What the changes affect", lambda task: rulebook_effects(library, draft, task), done
        )

    def _show(self, draft: RulebookDraft, found: RulebookEffects) -> None:
        self.effects = found
        name, used = draft.name, found.looked_at
        changing = f"{len(found.changed)} of {counted(used, 'footprint')} that use {name} would change."
        self.summary.setText(
            changing if draft.changes else f"{counted(used, 'footprint uses', 'footprints use')} {name}."
        )
        self.found.show_records(found.changed)
        names = "; ".join(f"{part}: {name}" for part, name in found.examples[:3])
        self.examples.setText(f"Resulting names: {names}" if names else "")
        self._context.said.emit(self.summary.text())
