"""How the library stands with its server, in the window's frame."""

from PyQt6.QtWidgets import QLabel

# So many letters are shown.
LONGEST = 52


class SharedStateLabel(QLabel):
    """What is long is elided, and whole in the tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.setProperty("role", "soft")

    def show_state(self, text: str) -> None:
        """Show the state."""
        self.setText(text if len(text) <= LONGEST else f"{text[:LONGEST]}…")
        self.setToolTip(text)
