"""A step from outside: where the part is kept."""

from typing import Any

from eider.model.bundle import Bundle
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.step_registry import StepSpec


class StorageView(StepView, frozen=True):
    """What the step shows."""

    place: str


def _is_begun(bundle: Bundle) -> bool:
    return "Drawer" in bundle.part.facts


def _view(state: PartState, _options: ViewOptions) -> StorageView:
    fact = state.bundle.part.facts.get("Drawer")
    return StorageView(fact.value if fact else "")


def make_step(controller: Any, context: Any) -> Any:
    """The widget, whose toolkit is loaded when the step is wanted."""
    from PyQt6.QtWidgets import QLabel

    from eider.desktop.part.step import ViewStep

    class StorageStep(ViewStep[StorageView]):
        key = "storage"
        view_type = StorageView

        def __init__(self) -> None:
            super().__init__(controller, context)
            self.label = QLabel()
            self.build(self.label)

        def show_view(self, view: StorageView) -> None:
            self.label.setText(f"Kept in {view.place}")

    return StorageStep()


STEP = StepSpec(
    key="storage",
    title="Storage",
    order=75,
    areas=("mass",),
    is_begun=_is_begun,
    view=_view,
    widget=f"{__name__}:make_step",
)
