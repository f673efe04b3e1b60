"""What was learned of the datasheets of each house: a rule a line, switched off and taken back here."""

from typing import NamedTuple

from msgspec.structs import replace

from eider.commands.datasheets.house_rules import rule_words
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.model.house import House, HouseRule
from eider.model.wording import counted
from eider.services.datasheets.houses import change_rule, known_houses

NOTHING = (
    "Nothing was learned yet. Once you have confirmed and corrected how a datasheet was read (Source › To confirm), "
    "the next datasheet of the same house is read in the same way."
)


class RuleRow(NamedTuple):
    """A rule with the name of its house."""

    house: str
    rule: HouseRule


class HousesPage(SidePage):
    """Each rule with who confirmed it, when, and from which sheet."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.about = label("", "soft", wrap=True)
        self.table = RecordView[RuleRow](
            [
                Column("House", lambda r: r.house),
                Column("Taken so", lambda r: rule_words(r.rule)).struck_where(lambda r: not r.rule.active),
                Column("As in", lambda r: r.rule.sheet),
                Column("By", lambda r: r.rule.by),
                Column("On", lambda r: r.rule.at[:10]),
                Column("", lambda r: "" if r.rule.active else "switched off"),
            ],
            context.theme,
        )
        self.table.setAccessibleName("Rules of houses")
        self.table.set_widths(170, 560, 170, 120, 90)
        self.table.entered_record.connect(self._tell)
        self.switch = button("Switch off", self._switch)
        self.remove = button("Remove", self._remove)
        head = row(button("← Shelf", self.closed.emit), label("Houses and their datasheets", "head"), 1)
        actions = row(self.switch, self.remove, 1)
        fill_widget(self, column(head, self.about, growing(self.table), actions))
        self._tell(None)

    def load(self) -> None:
        """Read the rules of the library."""
        self.jobs.run("library", lambda: known_houses(self.library), self.show_houses, self._say)

    def show_houses(self, houses: dict[str, House]) -> None:
        """Show the rules of some houses by name."""
        rows = [RuleRow(name, rule) for name, house in houses.items() for rule in house.rules]
        known = f"{counted(len(rows), 'rule')} of {counted(len(houses), 'house')}."
        self.about.setText(known if rows else NOTHING)
        at = self.table.currentIndex().row()
        self.table.show_records(rows)
        if rows:
            self.table.select_rows([min(max(at, 0), len(rows) - 1)])
        self._tell(self.table.record())

    def _tell(self, record: RuleRow | None) -> None:
        can_change = record is not None and not self.library.read_only
        self.switch.setEnabled(can_change)
        self.remove.setEnabled(can_change)
        self.switch.setText("Switch off" if record is None or record.rule.active else "Switch on")

    def _switch(self) -> None:
        record = self.table.record()
        if record is not None:
            self._change(record, replace(record.rule, active=not record.rule.active))

    def _remove(self) -> None:
        record = self.table.record()
        if record is not None:
            self._change(record, None)

    def _change(self, record: RuleRow, changed: HouseRule | None) -> None:
        def work() -> dict[str, House]:
            change_rule(self.library, record.house, record.rule, changed)
            return known_houses(self.library)

        self.jobs.run("library", work, self.show_houses, self._say)

    def _say(self, fault: Exception) -> None:
        self.about.setText(str(fault))
