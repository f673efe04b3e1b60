"""Says which other parts use the same item, before it is changed; and offers its newer revision."""

from PyQt6.QtWidgets import QWidget

from eider.commands.parts.shared_items import SharedItem, SharedKind, make_exclusive, shared_ref, use_item
from eider.desktop.jobs import Jobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.model.item_ref import Ref
from eider.services.parts.shared_item_news import SharedItemNews, released_item, shared_item_news

# So many are named; of the others the number is told.
NAMED = 3


class SharedItemStrip(QWidget):
    """Lines above an item that several parts share, or that went on without this part; hidden where it did neither."""

    def __init__(self, kind: SharedKind, controller: PartController, jobs: Jobs) -> None:
        super().__init__()
        self.controller, self._kind = controller, kind
        self._jobs = jobs.owned(self)
        self._asked: Ref | None = None
        self.news = SharedItemNews()
        self._text, self._newer_text = label("", "soft", wrap=True), label("", "soft", wrap=True)
        self._shared = row(
            growing(self._text), button("Make it exclusive to this part", self._make_exclusive), margins=6
        )
        self._newer = row(growing(self._newer_text), button("Use the newer revision", self.use_newer), margins=6)
        fill_widget(self, column(self._shared, self._newer, margins=0, spacing=0))
        self.hide()

    def refresh(self) -> None:
        """Ask again where another item, or another revision of it, is shown."""
        ref = shared_ref(self.controller.bundle, self._kind)
        if ref == self._asked:
            return
        self._asked = ref
        library, name = self.controller.library, self.controller.bundle.part.name
        self._jobs.run("library", lambda: shared_item_news(library, ref, name), self._show)

    def _show(self, news: SharedItemNews) -> None:
        self.news = news
        names = news.users
        more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
        self._text.setText(
            f"This {self._kind} is also used by {', '.join(names[:NAMED])}{more}. A change becomes its next revision; "
            "they keep theirs until someone moves them."
        )
        self._shared.setVisible(bool(names))
        newer = news.newer
        if newer is not None:
            now = shared_ref(self.controller.bundle, self._kind).revision
            self._newer_text.setText(
                f"Revision {newer.revision} of this {self._kind} was released {newer.at[:10]} by {newer.by}: "
                f"{newer.note}. This part has revision {now}."
            )
        self._newer.setVisible(newer is not None)
        self.setVisible(bool(names) or newer is not None)

    def _make_exclusive(self) -> None:
        self.controller.edit(f"Make the {self._kind} exclusive", lambda bundle: make_exclusive(bundle, self._kind))

    def use_newer(self) -> None:
        """Follow the item to its newest revision."""
        newer, library, kind = self.news.newer, self.controller.library, self._kind
        if newer is None:
            return

        def use(found: tuple[SharedItem, Ref]) -> None:
            item, ref = found
            title = f"Use revision {ref.revision} of the {kind}"
            self.controller.edit(title, lambda bundle: use_item(bundle, kind, item, ref))

        self._jobs.run(
            "library",
            lambda: released_item(library, kind, newer.id, newer.revision),
            use,
            lambda fault: self.controller.refused.emit(str(fault)),
        )
