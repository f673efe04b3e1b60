"""The package families to choose from, by groups, each with what it covers."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QListWidget, QListWidgetItem

from eider.views.family_titles import grouped_families


class FamilyList(QListWidget):
    """`family_chosen` gives the key of a family that was clicked, or chosen by Enter."""

    family_chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        for group, listed in grouped_families().items():
            heading = QListWidgetItem(group)
            heading.setFlags(Qt.ItemFlag.NoItemFlags)
            font = heading.font()
            font.setBold(True)
            heading.setFont(font)
            self.addItem(heading)
            for key, title, summary in listed:
                item = QListWidgetItem(f"{title}\n{summary}")
                item.setData(Qt.ItemDataRole.UserRole, key)
                self.addItem(item)
        self.setWordWrap(True)
        self.setMinimumWidth(104)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSpacing(2)
        # Not at each change of the row: a list takes its first row into hand as soon as it gets the keyboard.
        for chosen in (self.itemClicked, self.itemActivated):
            chosen.connect(lambda item: self.family_chosen.emit(item.data(Qt.ItemDataRole.UserRole)))

    def show_family(self, key: str) -> None:
        """Mark the family of the sheet."""
        for index in range(self.count()):
            item = self.item(index)
            if item and item.data(Qt.ItemDataRole.UserRole) == key and self.currentItem() is not item:
                self.setCurrentItem(item)
                self.scrollToItem(item, QListWidget.ScrollHint.PositionAtCenter)
