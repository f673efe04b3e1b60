"""Datasheets of ten invented houses, each in its own manner: marks, letters, units, names that are active low."""

import random
from pathlib import Path
from typing import NamedTuple

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

HOUSES = (
    "Ambleside Circuits", "Brackwater Semi", "Corrie Devices", "Dunmore Analog", "Ettrick Power",
    "Farrow Logic", "Glenhaven Micro", "Harrowgate Silicon", "Inverlay Sensors", "Jarrow Converters",
)  # fmt: skip
# The lengths of three packages of eight leads with 1.27 and 0.65 pitch (mm), by the standard's letters.
PACKAGES = {
    "SOIC-8": {
        "A": ("1.35", "1.75"), "A1": ("0.10", "0.25"), "b": ("0.33", "0.51"),
        "c": ("0.19", "0.25"), "e": ("1.27", "1.27"),
        "D": ("4.80", "5.00"), "E": ("5.80", "6.20"), "E1": ("3.80", "4.00"), "L": ("0.40", "1.27"),
    },
    "MSOP-8": {
        "A": ("0.90", "1.10"), "A1": ("0.05", "0.15"), "b": ("0.25", "0.38"),
        "c": ("0.13", "0.23"), "e": ("0.65", "0.65"),
        "D": ("2.90", "3.10"), "E": ("4.75", "5.05"), "E1": ("2.90", "3.10"), "L": ("0.40", "0.70"),
    },
    "TSSOP-8": {
        "A": ("1.00", "1.20"), "A1": ("0.05", "0.15"), "b": ("0.19", "0.30"),
        "c": ("0.09", "0.20"), "e": ("0.65", "0.65"),
        "D": ("2.90", "3.10"), "E": ("6.30", "6.50"), "E1": ("4.30", "4.50"), "L": ("0.45", "0.75"),
    },
}  # fmt: skip
# How houses call the lengths that they do not call as the standard does.
LETTERS: tuple[dict[str, str], ...] = (
    {"E": "H", "E1": "E", "b": "B", "c": "C"},
    {"D": "A", "E1": "B", "A": "C", "b": "D", "e": "G", "A1": "H", "c": "J", "L": "K", "E": "S"},
    {"E": "HE", "c": "Q", "L": "Lp", "b": "bp"},
    {"E": "S", "E1": "W", "D": "L", "L": "F", "A": "T"},
)
PINS = ("OUT", "IN-", "IN+", "VSS", "{low}", "REF", "VDD", "NC")


class Sheet(NamedTuple):
    """A datasheet of a house: the file's stem, its package, and what each of its letters means by the standard's."""

    name: str
    package: str
    letters: dict[str, str]


class Manner(NamedTuple):
    """What all sheets of a house have in common: what its letters mean, the name of the pin that is active low, the
    heads of its tables, its face, and whether it names the unit."""

    house: str
    letters: dict[str, str]
    low: str
    heads: tuple[str, ...]
    font: str
    names_unit: bool


def house_sheets(folder: Path, house: int, seed: int = 1) -> list[Sheet]:
    """Write three datasheets of a house (from 0); of different parts and packages, alike in manner."""
    chance = random.Random(f"{seed} {HOUSES[house]}")
    own = chance.choice(LETTERS)
    letters = {own.get(standard, standard): standard for standard in PACKAGES["SOIC-8"]}
    manner = Manner(
        HOUSES[house],
        letters,
        chance.choice(("RESET_L", "SHDN_N", "RESET#", "/SHDN")),
        chance.choice((("Symbol", "Min", "Max"), ("Dim", "MIN.", "MAX."))),
        chance.choice(("Helvetica", "Times-Roman", "Courier")),
        names_unit=chance.random() < 0.5,
    )
    sheets = []
    for number, package in enumerate(PACKAGES):
        name = f"{HOUSES[house][:3].upper()}{chance.randrange(100, 999)}{'ABC'[number]}"
        _write(folder / f"{name}.pdf", name, package, manner)
        sheets.append(Sheet(name, package, letters))
    return sheets


def _write(path: Path, name: str, package: str, manner: Manner) -> None:
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    font, house, letters = manner.font, manner.house, manner.letters

    def page(number: int) -> None:
        canvas.setFont(font, 8)
        canvas.drawString(60, 810, house)
        canvas.drawString(60, 30, f"{house}   Rev. {number}.0   page {number}")
        canvas.setFont(font, 10)

    def table(rows: list[list[str]], title: str, y: float) -> None:
        canvas.drawString(60, y + 8, title)
        made = Table(rows, style=[("GRID", (0, 0), (-1, -1), 0.5, colors.black), ("FONT", (0, 0), (-1, -1), font, 9)])
        _width, height = made.wrapOn(canvas, 460, 600)
        made.drawOn(canvas, 60, y - height)

    page(1)
    canvas.setFont(font, 20)
    canvas.drawString(60, 760, name)
    canvas.setFont(font, 11)
    canvas.drawString(60, 740, "Window comparator with reference")
    pins = [[str(n), pin.format(low=manner.low), "see text"] for n, pin in enumerate(PINS, 1)]
    table([["Pin", "Name", "Function"], *pins], f"Pins of the {package}", 690)
    canvas.showPage()
    page(2)
    heads = list(manner.heads)
    unit = " (mm)" if manner.names_unit else ""
    rows = [[own, *PACKAGES[package][standard]] for own, standard in sorted(letters.items())]
    table([heads, *rows], f"{package} package{unit}", 740)
    canvas.showPage()
    canvas.save()
