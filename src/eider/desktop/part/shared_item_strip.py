"""Says which other parts use the same item, before it is changed."""

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from eider.desktop.jobs import Jobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, fill_widget, growing, label, row
from eider.model.bundle import Bundle

# So many are named; of the others the number is told.
NAMED = 3


class SharedItemStrip(QWidget):
    """A line above an item that several parts share; hidden where it is this part's alone."""

    def __init__(
        self,
        what: str,
        controller: PartController,
        jobs: Jobs,
        make_own: Callable[[Bundle], Bundle],
        item_of: Callable[[Bundle], str],
    ) -> None:
        super().__init__()
        self.controller, self._what, self._item_of = controller, what, item_of
        self._jobs = jobs.owned(self)
        self._asked = ""
        self._text = label("", "soft", wrap=True)
        own = button("Make it exclusive to this part", lambda: controller.edit(f"An own {what}", make_own))
        fill_widget(self, row(growing(self._text), own, margins=6))
        self.hide()

    def refresh(self) -> None:
        """Ask anew where another item is shown."""
        item = self._item_of(self.controller.bundle)
        if item == self._asked:
            return
        self._asked = item
        library, me = self.controller.library, self.controller.bundle.part.name
        self._jobs.run("library", lambda: [name for name in library.index.users_of(item) if name != me], self._show)

    def _show(self, names: list[str]) -> None:
        more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
        self._text.setText(
            f"This {self._what} is also used by {', '.join(names[:NAMED])}{more}. A change becomes its next revision; "
            "they keep theirs until somebody moves them."
        )
        self.setVisible(bool(names))
