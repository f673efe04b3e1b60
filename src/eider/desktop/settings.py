"""What the window remembers of its user between starts, in one typed place."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QByteArray, QSettings

UNITS = ("mm", "mil", "in")
APPEARANCES = ("light", "dark")
# So many libraries are remembered.
MOST_RECENT = 8


class DesktopSettings:
    """Units, appearance, columns and libraries; what is stored and cannot be understood is as if it were not there."""

    def __init__(self) -> None:
        self._stored = QSettings("eider", "eider")

    def _choice(self, key: str, known: Sequence[str]) -> str:
        stored = self._stored.value(key)
        return stored if isinstance(stored, str) and stored in known else known[0]

    @property
    def unit(self) -> str:
        """The unit that lengths are shown in."""
        return self._choice("view/unit", UNITS)

    @unit.setter
    def unit(self, unit: str) -> None:
        self._stored.setValue("view/unit", unit)

    @property
    def appearance(self) -> str:
        """Light or dark."""
        return self._choice("view/appearance", APPEARANCES)

    @appearance.setter
    def appearance(self, name: str) -> None:
        self._stored.setValue("view/appearance", name)

    @property
    def shelf_columns(self) -> QByteArray | None:
        """Order, widths and choice of the Shelf's columns; None before they were changed."""
        stored = self._stored.value("shelf/columns")
        return stored if isinstance(stored, QByteArray) else None

    @shelf_columns.setter
    def shelf_columns(self, state: QByteArray) -> None:
        self._stored.setValue("shelf/columns", state)

    @property
    def catalogue_token(self) -> str:
        """What is shown to the supplier catalogue; empty where it asks for nothing."""
        stored = self._stored.value("catalogue/token")
        return stored if isinstance(stored, str) else ""

    @catalogue_token.setter
    def catalogue_token(self, token: str) -> None:
        self._stored.setValue("catalogue/token", token)

    @property
    def recent_libraries(self) -> tuple[Path, ...]:
        """The libraries that were open last and are still there, the newest first."""
        stored = self._stored.value("libraries/recent")
        paths = [Path(text) for text in stored if isinstance(text, str)] if isinstance(stored, list) else []
        return tuple(paths[:MOST_RECENT])

    def remember_library(self, folder: Path) -> None:
        """A library was opened."""
        others = [path for path in self.recent_libraries if path != folder]
        self._stored.setValue("libraries/recent", [str(path) for path in (folder, *others)][:MOST_RECENT])
