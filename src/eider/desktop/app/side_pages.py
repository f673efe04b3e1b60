"""Pages that lie over the Shelf or a part, one at a time: rulebook, categories, facts, bills, families."""

from collections.abc import Callable, Collection
from typing import Literal, Protocol

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from eider.desktop.bill.bill_page import BillPage
from eider.desktop.categories.categories_page import CategoriesPage
from eider.desktop.compare.compare_page import ComparePage
from eider.desktop.context import DesktopContext
from eider.desktop.fact_table.fact_table_page import FactTablePage
from eider.desktop.family.family_page import FamilyPage
from eider.desktop.health.health_page import HealthPage
from eider.desktop.houses.houses_page import HousesPage
from eider.desktop.impact.impact_page import ImpactPage
from eider.desktop.intake.intake_page import IntakePage
from eider.desktop.part.controller import PartController
from eider.desktop.rulebook.rulebook_page import RulebookPage
from eider.desktop.suppliers.refresh_page import RefreshPage
from eider.desktop.timeline.timeline_page import TimelinePage
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.library.index.part_index import PartRow


class SidePages(QObject):
    """Opens and closes them; `beneath` gives the page that is in front without one.

    Signals:
        rules_kept: what open parts are made by was saved.
        facts_kept: parts of the library became working copies.
        part_asked: a part is to be opened, by its id.
    """

    rules_kept = pyqtSignal()
    facts_kept = pyqtSignal()
    part_asked = pyqtSignal(str)

    def __init__(
        self, library: Library, context: DesktopContext, stack: QStackedWidget, beneath: Callable[[], QWidget]
    ) -> None:
        super().__init__(stack)
        self._library, self._context, self._stack, self._beneath = library, context, stack, beneath
        self.page: SidePage | None = None
        self.steps: UndoTarget | None = None
        # Pages that were left with unsaved changes, which are there when they are opened again.
        self._aside: dict[type[SidePage], tuple[SidePage, UndoTarget]] = {}

    @property
    def rules(self) -> RulebookPage | None:
        """The rulebook editor, where it is open."""
        return self.page if isinstance(self.page, RulebookPage) else None

    @property
    def facts(self) -> FactTablePage | None:
        """Facts across parts, where they are open."""
        return self.page if isinstance(self.page, FactTablePage) else None

    def open_rulebook(self, name: str = "") -> None:
        """The rulebook editor; a part that is open stays so below it."""
        if self.rules is None:
            self._resume(RulebookPage)
        rules = self.rules
        if rules is None:
            rules = RulebookPage(self._library, self._context)
            rules.kept.connect(self.rules_kept)
            self._show(rules, rules)
        rules.open_rulebook(name)

    def open_facts(self, part_ids: Collection[str]) -> None:
        """The facts of some parts as one table, or the table that was left with unsaved changes."""
        if self._resume(FactTablePage):
            return
        facts = FactTablePage(self._library, self._context)
        facts.kept.connect(self.facts_kept)
        self._show(facts, facts.steps)
        facts.open_parts(part_ids)

    def open_categories(self) -> None:
        """The categories of the library; what parts are checked by follows them when they are saved."""
        if self._resume(CategoriesPage):
            return
        categories = CategoriesPage(self._library, self._context)
        categories.kept.connect(self.rules_kept)
        categories.kept.connect(self.facts_kept)
        self._show(categories, categories.steps)

    def open_bill(self) -> None:
        """The bill of materials of a design's list."""
        if self._resume(BillPage):
            return
        bill = BillPage(self._library, self._context)
        self._show(bill, NoSteps())

    def open_families(self, part: PartRow | None = None) -> None:
        """The family tables, or the one that was left with unsaved changes; that of a part, or one begun from it."""
        if self._resume(FamilyPage):
            return
        families = FamilyPage(self._library, self._context)
        families.kept.connect(self.facts_kept)
        self._show(families, families.steps)
        if part is None:
            families.open_names()
        else:
            families.begin_from(part)

    def open_impact(self, part: PartRow) -> None:
        """Where the items of a part are used."""
        impact = ImpactPage(self._library, self._context)
        impact.kept.connect(self.facts_kept)
        self._show(impact, NoSteps())
        impact.open_part(part)

    def open_comparison(self, part_id: str) -> None:
        """The newest two states of a part over each other."""
        compare = ComparePage(self._library, self._context)
        self._show(compare, NoSteps())
        compare.open_part(part_id)

    def open_intake(self) -> None:
        """Parts from elsewhere, looked at and taken."""
        intake = IntakePage(self._library, self._context)
        intake.kept.connect(self.facts_kept)
        self._show(intake, NoSteps())

    def open_houses(self) -> None:
        """What was learned of the datasheets of each house."""
        houses = HousesPage(self._library, self._context)
        self._show(houses, NoSteps())
        houses.load()

    def open_health(self) -> None:
        """How the library is, measured at once."""
        health = HealthPage(self._library, self._context)
        health.kept.connect(self.facts_kept)
        health.part_asked.connect(self.part_asked)
        self._show(health, NoSteps())
        health.measure()

    def open_timeline(self) -> None:
        """Who released what, when and why."""
        timeline = TimelinePage(self._library, self._context)
        self._show(timeline, NoSteps())
        timeline.load()

    def open_refresh(self, part_ids: Collection[str]) -> None:
        """Lifecycle and stock of some parts."""
        refresh = RefreshPage(self._library, self._context)
        refresh.kept.connect(self.facts_kept)
        self._show(refresh, NoSteps())
        refresh.open_parts(part_ids)

    def _show(self, page: SidePage, steps: "UndoTarget") -> None:
        page.closed.connect(self.close)
        self._front(page, steps)

    def _front(self, page: SidePage, steps: "UndoTarget") -> None:
        self.close()
        self.page, self.steps = page, steps
        self._stack.addWidget(page)
        self._stack.setCurrentWidget(page)

    def _resume(self, kind: type[SidePage]) -> bool:
        """Show the page of a kind that was left with unsaved changes; whether there is one."""
        found = self._aside.get(kind)
        if found is None:
            return False
        self._front(*found)
        del self._aside[kind]
        self._context.said.emit(f"{found[0].unsaved()} from before, not saved yet")
        return True

    def unsaved(self) -> tuple[str, ...]:
        """What was changed on pages and is not saved, in words."""
        pages = [page for page, _ in self._aside.values()] + ([self.page] if self.page else [])
        return tuple(words for page in pages if (words := page.unsaved()))

    def close(self) -> None:
        """Back to the part that is open, or to the Shelf; a page with unsaved changes is only put aside."""
        page, steps, self.page, self.steps = self.page, self.steps, None, None
        if page is not None:
            self._stack.removeWidget(page)
            if (words := page.unsaved()) and steps is not None:
                self._aside[type(page)] = page, steps
                self._context.said.emit(f"{words} not saved; open the page again to go on")
            else:
                page.end()
                page.deleteLater()
        self._stack.setCurrentWidget(self._beneath())


class UndoTarget(Protocol):
    """Whatever is in front, as far as steps back and forward need to know it."""

    def label_of(self, which: Literal["undo", "redo"]) -> str:
        """What would be taken back or done again; empty where there is nothing."""

    def undo(self) -> bool:
        """One step back; whether there was one."""

    def redo(self) -> bool:
        """One step forward again; whether there was one."""


class NoSteps:
    """A page on which nothing is changed, as such a target."""

    def label_of(self, _which: Literal["undo", "redo"]) -> str:
        """Nothing."""
        return ""

    def undo(self) -> bool:
        """There is no step."""
        return False

    def redo(self) -> bool:
        """There is no step."""
        return False


class PartSteps:
    """The part that is open, as such a target."""

    def __init__(self, controller: PartController) -> None:
        self._controller = controller

    def label_of(self, which: Literal["undo", "redo"]) -> str:
        """The title of the step."""
        session = self._controller.session
        return session.undo_label if which == "undo" else session.redo_label

    def undo(self) -> bool:
        """One step back; whether there was one."""
        return self._controller.undo()

    def redo(self) -> bool:
        """One step forward again; whether there was one."""
        return self._controller.redo()


class UndoSteps:
    """Undo and redo of the page in front, with a word on what was done."""

    def __init__(
        self, side: SidePages, controller: Callable[[], PartController | None], say: Callable[[str], None]
    ) -> None:
        self._side, self._controller, self._say = side, controller, say

    def _in_front(self) -> UndoTarget | None:
        controller = self._controller()
        return self._side.steps or (PartSteps(controller) if controller else None)

    def label_of(self, which: Literal["undo", "redo"]) -> str:
        """What would be taken back or done again; empty where there is nothing."""
        target = self._in_front()
        return target.label_of(which) if target else ""

    def undo(self) -> None:
        """One step back, and say what was taken back."""
        target, what = self._in_front(), self.label_of("undo")
        if target:
            self._say(f"Undone: {what}" if target.undo() else "Nothing to undo")

    def redo(self) -> None:
        """One step forward again."""
        target, what = self._in_front(), self.label_of("redo")
        if target:
            self._say(f"Redone: {what}" if target.redo() else "Nothing to redo")
