"""Where the items of a part are used, and the parts that want another look since one of them has a newer revision."""

from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.library.index.item_reader import ItemHead
from eider.library.index.part_index import PartRow
from eider.model.wording import counted
from eider.services.facts.designs import design_words
from eider.services.releasing.impact import ItemUse, PartImpact, UsingPart, follow_item, impact_of, item_use, items_of
from eider.services.tasks import Task


class UseRow(NamedTuple):
    """One use of an item: the item, and a part that uses it."""

    use: ItemUse
    part: UsingPart


class ImpactPage(SidePage):
    """The list is made at once; what would change is worked out on request, with progress."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.uses: tuple[ItemUse, ...] = ()
        self.impacts: dict[tuple[str, str], PartImpact] = {}
        self.title = label("Where used", "head")
        self.hint = label("", "soft", wrap=True)
        self.table = RecordView[UseRow](
            [
                Column("Item", lambda r: f"{r.use.kind} {r.use.name}"),
                Column("Used by", lambda r: r.part.name),
                Column("State", lambda r: r.part.state),
                Column(
                    "Revision",
                    lambda r: f"{r.part.revision or '–'} of {r.use.newest}",
                    fault=lambda r: "Newer revision available" if r.part.is_behind else "",
                ),
                Column("Would change", self._words_of),
            ],
            context.theme,
        )
        self.table.set_widths(250, 160, 76, 80)
        self.table.allow_sorting()
        self.table.entered_record.connect(self._show)
        self.look_button = button("Show what would change", self.look)
        self.follow_button = button("Move the selected parts to the newest revision", self.follow, main=True)
        self.chosen = label("", "head", wrap=True)
        self.changes = QListWidget()
        self.changes.setAccessibleName("What would change in the part")
        self.changes.setWordWrap(True)
        self.changes.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        left = column(
            row(button("← Shelf", self.closed.emit), self.title, 1),
            self.hint,
            growing(self.table),
            row(self.look_button, 1, self.follow_button),
        )
        fill_widget(self, panes(left, column(self.chosen, growing(self.changes)), sizes=(900, 370)))

    def open_part(self, part: PartRow) -> None:
        """The items of a part, and who uses each of them besides."""
        self.title.setText(f"Where used: the items of {part.name}")

        def work() -> tuple[ItemUse, ...]:
            heads = [head for head in items_of(self.library, part.name) if self.library.index.newest_revision(head.id)]
            return tuple(item_use(self.library, head) for head in heads)

        self.jobs.run("library", work, self._show_uses, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _show_uses(self, uses: tuple[ItemUse, ...]) -> None:
        self.uses, self.impacts = uses, {}
        rows = [UseRow(use, part) for use in uses for part in use.parts]
        behind = sum(r.part.is_behind for r in rows)
        families = sorted({name for use in uses for name in use.families})
        told = f"{counted(len(rows), 'use')}; " + (
            f"{behind} need review" if behind else "all follow the newest revision"
        )
        told += f"; families: {', '.join(families)}" if families else ""
        designs = {design.name: design for use in uses for design in use.designs}
        self.hint.setText(told + (f"; designs: {design_words(designs.values())}" if designs else ""))
        self.table.show_records(sorted(rows, key=lambda r: not r.part.is_behind))
        self.look_button.setEnabled(behind > 0)
        self.follow_button.setEnabled(behind > 0 and not self.library.read_only)
        self.table.select_rows([0] if rows else [])

    def _words_of(self, record: UseRow) -> str:
        found = self.impacts.get((record.use.id, record.part.id))
        if found is None:
            return ""
        changes, appear = counted(len(found.changes), "change"), counted(len(found.appear), "new finding")
        return found.fault or f"{changes}{f', {appear}' if found.appear else ''}"

    def _show(self, record: UseRow | None) -> None:
        self.changes.clear()
        self.chosen.setText(f"{record.part.name}, {record.use.kind}" if record else "")
        found = self.impacts.get((record.use.id, record.part.id)) if record else None
        if found is None:
            return
        self.changes.addItems(list(found.changes) or ["Nothing would change but the revision."])
        self.changes.addItems([f"Appears: {finding.message}" for finding in found.appear])
        self.changes.addItems([f"Resolved: {finding.message}" for finding in found.vanish])

    def look(self) -> None:
        """Work out what following would change in each part that is behind."""
        heads = [_head(use) for use in self.uses if any(part.is_behind for part in use.parts)]

        def work(task: Task) -> dict[tuple[str, str], PartImpact]:
            return {(head.id, one.id): one for head in heads for one in impact_of(self.library, head, None, task)}

        def done(found: dict[tuple[str, str], PartImpact]) -> None:
            self.impacts = found
            self.table.show_records(list(self.table.records.records))
            self._show(self.table.record())

        self.jobs.run_long("family", "What would change", work, done, self._say)

    def follow(self) -> None:
        """Make working copies of the selected parts that follow the newest revision; the others stay."""
        wanted: dict[str, list[str]] = {}
        for record in self.table.selected():
            if record.part.is_behind:
                wanted.setdefault(record.use.id, []).append(record.part.id)
        heads = {use.id: _head(use) for use in self.uses}
        if not wanted:
            self.hint.setText("None of the selected parts has anything newer to follow.")
            return

        def work(task: Task) -> int:
            return sum(len(follow_item(self.library, heads[item], parts, task)) for item, parts in wanted.items())

        def done(count: int) -> None:
            self.hint.setText(f"{counted(count, 'working copy', 'working copies')} made; release them from the Shelf.")
            self.kept.emit()

        self.jobs.run_long("disk", "Following", work, done, self._say)


def _head(use: ItemUse) -> ItemHead:
    return ItemHead(use.id, use.kind, use.name)
