"""The look of the window: colours and type of product design, for light and dark appearance."""

from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication, QWidget

from eider.drawings.role_styles import palette

SHEET = """
QWidget {{ color: {ink}; }}
QMainWindow, QDialog, QWidget#page {{ background: {paper}; }}
QFrame#bar {{ background: {paper}; border-bottom: 1px solid {line}; }}
QFrame#card {{ background: {white}; border: 1px solid {line}; border-radius: 4px; }}
QLabel[role="title"] {{ font-size: 15pt; font-weight: 600; }}
QLabel[role="head"] {{ color: {accent}; font-weight: 600; }}
QLabel[role="soft"] {{ color: {soft}; }}
QLabel[role="wrong"] {{ color: {red}; }}
QLabel[role="number"] {{ font-size: 15pt; font-weight: 600; }}
QLineEdit, QSpinBox, QPlainTextEdit, QTextBrowser {{
  background: {white}; border: 1px solid {line}; border-radius: 3px; padding: 3px 6px;
  selection-background-color: {accent}; selection-color: {paper}; }}
QLineEdit:focus, QSpinBox:focus, QPlainTextEdit:focus {{ border: 1px solid {accent}; }}
QLineEdit[wrong="true"] {{ border: 1px solid {red}; }}
QComboBox QAbstractItemView {{ background: {white}; selection-background-color: {accent};
  selection-color: {paper}; }}
QPushButton {{ background: {white}; border: 1px solid {line}; border-radius: 3px; padding: 4px 12px; }}
QPushButton[role="small"] {{ padding: 4px 7px; }}
QPushButton:hover, QPushButton:focus {{ border: 1px solid {accent}; }}
QPushButton:disabled {{ color: {soft}; background: {paper}; }}
QPushButton[role="main"] {{ background: {accent_deep}; color: #FFFFFF; border: 1px solid {accent_deep};
  font-weight: 600; }}
QPushButton[role="main"]:focus {{ border: 2px solid {ink}; }}
QPushButton[role="main"]:disabled {{ background: {line}; border: 1px solid {line}; color: {soft}; }}
QPushButton:checked {{ background: {select}; border: 1px solid {accent}; }}
QTableView, QListWidget, QTreeWidget {{ background: {white}; alternate-background-color: {paper};
  border: 1px solid {line}; gridline-color: {grid}; selection-background-color: {select};
  selection-color: {ink}; outline: none; }}
QTableView::item:focus {{ border: 1px solid {accent}; }}
QHeaderView::section {{ background: {paper}; color: {soft}; border: none; border-bottom: 1px solid {line};
  border-right: 1px solid {grid}; padding: 4px 6px; }}
QTableCornerButton::section {{ background: {paper}; border: none; border-bottom: 1px solid {line};
  border-right: 1px solid {grid}; }}
QTabWidget::pane {{ border: 1px solid {line}; background: {white}; }}
QTabBar::tab {{ background: {paper}; border: 1px solid {line}; border-bottom: none; padding: 5px 7px; }}
QTabBar::tab:selected {{ background: {white}; color: {accent}; font-weight: 600; }}
QSplitter::handle {{ background: {grid}; }}
QMenuBar, QMenu {{ background: {paper}; }}
QMenuBar::item:selected, QMenu::item:selected {{ background: {select}; }}
QMenu::item:disabled {{ color: {soft}; }}
QStatusBar {{ background: {paper}; border-top: 1px solid {line}; }}
QStatusBar::item {{ border: none; }}
QScrollArea {{ border: none; background: transparent; }}
QToolTip {{ background: {white}; color: {ink}; border: 1px solid {line}; }}
QProgressBar {{ border: 1px solid {line}; border-radius: 3px; background: {white}; text-align: center; }}
QProgressBar::chunk {{ background: {accent}; }}
"""

# Tones between paper and ink that the interface needs and drawings do not.
_TONES = {
    "light": {"line": "#CFC8B8", "soft": "#5A6670", "select": "#D5E7E1", "accent_deep": "#2E7D6B"},
    "dark": {"line": "#4A555D", "soft": "#A9B4BC", "select": "#2F4A45", "accent_deep": "#2E7D6B"},
}


class Theme:
    """The appearance in force: `name` is light or dark."""

    def __init__(self, name: str = "light") -> None:
        self.name = name
        self.colours = {**palette(name), **_TONES[name]}

    def colour(self, name: str) -> QColor:
        """A colour of the palette by its name."""
        return QColor(self.colours[name])

    def apply(self, application: QApplication) -> None:
        """Put style and colours on the whole application."""
        style = application.style()
        if style is None or style.objectName().lower() != "fusion":
            # Another style, even the same one again, styles all widgets again, which takes seconds.
            application.setStyle("Fusion")
        base = application.palette()
        for role, name in (
            (QPalette.ColorRole.Window, "paper"),
            (QPalette.ColorRole.Base, "white"),
            (QPalette.ColorRole.AlternateBase, "paper"),
            (QPalette.ColorRole.Text, "ink"),
            (QPalette.ColorRole.WindowText, "ink"),
            (QPalette.ColorRole.Button, "paper"),
            (QPalette.ColorRole.ButtonText, "ink"),
            (QPalette.ColorRole.Highlight, "accent"),
            (QPalette.ColorRole.PlaceholderText, "soft"),
        ):
            base.setColor(role, self.colour(name))
        application.setPalette(base)

    def style_window(self, window: QWidget) -> None:
        """Put the style sheet on a window and all in it, its dialogs too.

        A sheet of the application would style each widget again whenever it or one above it gets a parent: a step took
        five times as long to make.
        """
        window.setStyleSheet(SHEET.format(**self.colours))


def number_font(base: QFont) -> QFont:
    """The interface's font with figures of equal width, so that columns of numbers line up."""
    font = QFont(base)
    if hasattr(font, "setFeature"):
        font.setFeature(QFont.Tag("tnum"), 1)
    return font


def ui_font() -> QFont:
    """The system's own interface font."""
    return QFontDatabase.systemFont(QFontDatabase.SystemFont.GeneralFont)
