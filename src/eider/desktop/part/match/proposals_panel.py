"""Pads that pins could have, each with its reason: nothing is matched before it is used."""

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QListWidget, QWidget

from eider.commands.match_edits import MatchProposal
from eider.desktop.widgets.layouts import button, column, fill_widget, label, row

# Lines that are in sight at once, and how high one is.
MOST_SEEN, LINE = 5, 17


class ProposalsPanel(QWidget):
    """Hidden while there is nothing to propose."""

    def __init__(self, use: Callable[[Sequence[MatchProposal]], None]) -> None:
        super().__init__()
        self._use = use
        self._proposals: tuple[MatchProposal, ...] = ()
        self.found = QListWidget()
        self.found.setAccessibleName("Pads that pins could have")
        self.found.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.found.itemActivated.connect(lambda _item: self.use_selected())
        tools = row(button("Use these pads", self.use_selected), button("Use all", self.use_all), 1)
        fill_widget(self, column(label("Proposals", "head"), self.found, tools, margins=0))
        self.hide()

    def show_proposals(self, proposals: tuple[MatchProposal, ...]) -> None:
        """Show what could be matched."""
        self.setVisible(bool(proposals))
        if proposals == self._proposals:
            return
        self._proposals = proposals
        self.found.clear()
        self.found.addItems([f"Pin {p.pin}: pad {', '.join(p.pads)}   ({p.reason})" for p in proposals])
        self.found.setFixedHeight(LINE * min(len(proposals), MOST_SEEN) + 8)
        self.found.setCurrentRow(0)

    def use_selected(self) -> None:
        """Match by the proposals that are selected."""
        self._use([self._proposals[index.row()] for index in self.found.selectedIndexes()])

    def use_all(self) -> None:
        """Match by all of them."""
        self._use(self._proposals)
