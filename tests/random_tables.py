"""Dimension tables as nobody has drawn them before: values, headings, faces, rules and units by chance."""

import random
from pathlib import Path
from typing import Any

import msgspec
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

FACES = ("Helvetica", "Times-Roman", "Courier")
LETTERS = ("A", "A1", "A2", "b", "b1", "c", "D", "D1", "E", "E1", "e", "e1", "L", "L1", "HD", "HE", "S", "bp", "k")
SYMBOL_HEADS = ("Symbol", "Sym.", "Dim", "DIM.", "Letter", "Ref.", "Dimension")
LIMIT_HEADS = (
    ("Min", "Nom", "Max"),
    ("MIN.", "TYP.", "MAX."),
    ("Minimum", "Nominal", "Maximum"),
    ("min.", "typ.", "max."),
)
EMPTY = ("", "-", "–", "—", "--")


class Drawn(msgspec.Struct, frozen=True):
    """A table on a page: its box in PDF points, its style for the report, and for each letter min, nom, max in mm."""

    box: tuple[float, float, float, float]
    style: str
    rows: dict[str, tuple[float | None, float | None, float | None]]


def draw_table(path: Path, seed: int) -> Drawn:
    """A PDF with one table of dimensions in a style that the seed decides."""
    chance = random.Random(seed)
    face, size = chance.choice(FACES), chance.choice((6, 7, 8, 9, 10))
    with_inch, with_meaning = chance.random() < 0.4, chance.random() < 0.4
    has_nom, rules = chance.random() < 0.7, chance.choice(("grid", "rows", "head", "none", "columns"))
    empty, symbol = chance.choice(EMPTY), chance.choice(SYMBOL_HEADS)
    words = chance.choice(LIMIT_HEADS)
    comma = chance.random() < 0.2
    letters = sorted(chance.sample(LETTERS, chance.randint(4, 14)), key=LETTERS.index)
    rows = {letter: _limits(chance, has_nom) for letter in letters}

    def show(value: float | None, per: float, decimals: int) -> str:
        text = empty if value is None else f"{value / per:.{decimals}f}"
        return text.replace(".", ",") if comma and value is not None else text

    keep = [0, 1, 2] if has_nom else [0, 2]
    units = [("mm", 1.0, 2), ("inch", 25.4, 3)] if with_inch else [("mm", 1.0, 2)]
    over = chance.random() < 0.6 or with_inch
    head = [symbol, *(["Parameter"] if with_meaning else [])]
    group = [""] * len(head)
    for unit, _, _ in units:
        group += [unit, *[""] * (len(keep) - 1)]
        head += [words[i] for i in keep]
    cells = [group] if over else []
    cells.append(head)
    for letter, limits in rows.items():
        line = [letter, *([_meaning(chance)] if with_meaning else [])]
        for _, per, decimals in units:
            line += [show(limits[i], per, decimals) for i in keep]
        cells.append(line)
    caption = "" if over else chance.choice(("Dimensions in mm", "All dimensions are in millimeters", "Unit: mm"))
    style: list[Any] = [
        ("FONT", (0, 0), (-1, -1), face, size),
        ("ALIGN", (0, 0), (-1, -1), chance.choice(("LEFT", "CENTER", "RIGHT"))),
        ("TOPPADDING", (0, 0), (-1, -1), chance.uniform(0.5, 4)),
        ("BOTTOMPADDING", (0, 0), (-1, -1), chance.uniform(1, 4)),
        *_rules(rules, len(cells) - len(rows)),
    ]
    if over:
        start = len(head) - len(units) * len(keep)
        for index in range(len(units)):
            first = start + index * len(keep)
            style += [("SPAN", (first, 0), (first + len(keep) - 1, 0)), ("ALIGN", (first, 0), (first, 0), "CENTER")]
    return _draw(path, cells, style, caption, f"{face} {size} {rules} {'mm+inch' if with_inch else 'mm'}", rows)


def _draw(path: Path, cells: list[list[str]], style: list[Any], caption: str, name: str, rows: Any) -> Drawn:
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    table = Table(cells, style=style)
    width, height = table.wrapOn(canvas, 180 * mm, 250 * mm)
    x, y = 25 * mm, 250 * mm - height
    canvas.setFont("Helvetica", 9)
    canvas.drawString(x, 255 * mm, caption)
    canvas.drawString(x, y - 30, "Lead ends lie in one plane within 0.10 mm.")
    table.drawOn(canvas, x, y)
    canvas.showPage()
    canvas.save()
    return Drawn((x - 3, y - 3, x + width + 3, y + height + 3), name, rows)


def _limits(chance: random.Random, has_nom: bool) -> tuple[float | None, float | None, float | None]:
    nom = round(chance.choice((chance.uniform(0.1, 1), chance.uniform(1, 20))), 2)
    tolerance = round(chance.uniform(0.02, 0.09), 2)
    low, high = round(nom - tolerance, 2), round(nom + tolerance, 2)
    kind = chance.random()
    if kind < 0.15:
        return None, None, high
    if kind < 0.3 and has_nom:
        return None, nom, None
    return low, (nom if has_nom and kind < 0.7 else None), high


def _meaning(chance: random.Random) -> str:
    return chance.choice(("Height", "Stand-off", "Lead width", "Body length", "Foot of the lead", "Over leads"))


def _rules(kind: str, header: int) -> list[Any]:
    if kind == "grid":
        return [("GRID", (0, 0), (-1, -1), 0.5, colors.black)]
    if kind == "rows":
        return [("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.grey)]
    if kind == "columns":
        return [("LINEBEFORE", (1, 0), (-1, -1), 0.3, colors.grey), ("BOX", (0, 0), (-1, -1), 0.6, colors.black)]
    return [("LINEBELOW", (0, header - 1), (-1, header - 1), 0.8, colors.black)] if kind == "head" else []
