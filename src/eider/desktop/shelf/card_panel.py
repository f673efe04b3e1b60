"""The card of the part that is selected on the Shelf."""

from collections.abc import Callable

from PyQt6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout

from eider.bodies.step_process import ImportedStep
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.body_picture import BodyPicture
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import label
from eider.views.part_card import PartCardView


class CardPanel(QFrame):
    """Name, state, symbol, lands, body and facts of one part."""

    def __init__(self, context: DesktopContext, models: Callable[[str], ImportedStep]) -> None:
        super().__init__()
        self.setObjectName("card")
        self.name, self.state = label("", "title"), label("", "soft", wrap=True)
        self.description = label("", wrap=True)
        self.symbol = DrawingView(context.theme, "Select a part to see it here.", context.jobs)
        self.lands = DrawingView(context.theme, "", context.jobs)
        self.body = BodyPicture(context.theme, context.jobs, " ", models)
        self.facts = label("", wrap=True)
        self.more = label("", "soft", wrap=True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(self.name)
        layout.addWidget(self.state)
        layout.addWidget(self.description)
        layout.addWidget(self.symbol, 3)
        below = QHBoxLayout()
        below.addWidget(self.lands, 1)
        below.addWidget(self.body, 1)
        layout.addLayout(below, 3)
        layout.addWidget(self.facts)
        layout.addWidget(self.more)

    def show_card(self, card: PartCardView) -> None:
        """Show a part."""
        self.name.setText(card.name)
        self.state.setText(card.state)
        self.description.setText(card.description)
        self.symbol.show_drawing(card.symbol)
        self.lands.show_drawing(card.lands)
        self.body.show_scene(card.scene)
        self.facts.setText(card.facts)
        self.more.setText(card.more)
