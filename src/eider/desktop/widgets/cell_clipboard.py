"""Cells on the clipboard, as spreadsheet programs give and take them: a line a row, tabs between cells."""

import csv
import io
from collections.abc import Callable, Iterable

from PyQt6.QtCore import QModelIndex
from PyQt6.QtGui import QGuiApplication


def copy_cells(selected: Iterable[QModelIndex], text: Callable[[int, int], str]) -> None:
    """Put the selected cells on the clipboard, row by row; `text` gives a cell by row and column."""
    rows: dict[int, list[str]] = {}
    for row, column in sorted((index.row(), index.column()) for index in selected):
        rows.setdefault(row, []).append(text(row, column))
    clipboard = QGuiApplication.clipboard()
    if clipboard and rows:
        out = io.StringIO()
        csv.writer(out, delimiter="\t", lineterminator="\n").writerows(rows.values())
        clipboard.setText(out.getvalue().removesuffix("\n"))


def clipboard_text() -> str:
    """What is on the clipboard; empty without any text."""
    clipboard = QGuiApplication.clipboard()
    return clipboard.text() if clipboard else ""


def cells_of(text: str) -> list[list[str]]:
    """The cells of a text from the clipboard, row by row, with one space for any run of white space in each."""
    rows = csv.reader(io.StringIO(text.rstrip("\r\n")), delimiter="\t")
    return [[" ".join(cell.split()) for cell in row] for row in rows]
