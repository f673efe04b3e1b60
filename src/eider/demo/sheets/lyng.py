"""Datasheets of Lyng Passive: a family table with one row for each size; typewriter face and decimal commas."""

from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph, Table

from eider.demo.data import chips, sheet_data
from eider.demo.sheets.norrvik import HEAD, TEXT, TITLE
from eider.demo.sheets.page import Picture, Truth, build, dimension_truth, outline, rule
from eider.drawings.package_drawing import package_drawings
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pdf_drawings import BOLD, FONT, load_fonts
from eider.geometry.lengths import parse_limits

OPEN = rule(
    ("FONT", (0, 0), (-1, -1), FONT, 8),
    ("FONT", (0, 0), (-1, 0), BOLD, 8),
    ("LINEBELOW", (0, 0), (-1, 0), 1.0, colors.black),
    ("LINEBELOW", (0, -1), (-1, -1), 0.5, colors.black),
)
TYPED = rule(("FONT", (0, 0), (-1, -1), "Courier", 9), ("LINEBELOW", (0, 0), (-1, 0), 0.5, colors.black))


def write_chip_datasheet(path: Path, key: str = "lyn-c") -> None:
    """LYN-C and LYN-R: open tables, a family table with one row per size."""
    load_fonts()
    series = chips(key)
    truth = Truth(series.name)
    first = series.sizes[1]
    data = {"name": series.name, "family": "chip", "pins": 2, "kind": series.category, "dims": first.dims}
    top, side = package_drawings(sheet_from_data(data, series.name))
    numbers = [[value, *(series.part_name(size.size, value) for size in series.sizes)] for value in series.values]
    letters = {"D": "L", "E": "W", "A": "T", "L": "B"}
    sizes = [["Size", *(letters[k] for k in first.dims)], *([s.size, *s.dims.values()] for s in series.sizes)]
    rows = [
        {"member": size.size, "letter": letters[k], "min": x.min, "nom": x.nom, "max": x.max}
        for size in series.sizes
        for k, text in size.dims.items()
        for x in [parse_limits(text)]
    ]
    truth.data |= {"family": "chip", "pins": 2, "letters": {own: k for k, own in letters.items()}}
    told = ", ".join(f"{name.lower()} {value}" for name, value in series.facts.items())
    story: list[Flowable] = [
        Paragraph(f"{series.maker} — chip {series.category}s {series.name}", TITLE),
        Paragraph(told.capitalize(), TEXT),
        Paragraph("Ordering", HEAD),
        Table([[series.value_fact, *(s.size for s in series.sizes)], *numbers], style=OPEN, hAlign="LEFT"),
        PageBreak(),
        Paragraph("Dimensions in mm", HEAD),
        Picture(top, letters, 110 * mm, 60 * mm),
        Picture(side, letters, 110 * mm, 45 * mm),
        truth.table("dimensions", rows, sizes, ruled=False, style=OPEN),
    ]
    build(path, series.name, story, truth)


def write_crystal_datasheet(path: Path) -> None:
    """LYN-Y32: decimal commas, value and tolerance in one cell."""
    load_fonts()
    data, truth = sheet_data("lyn-y32"), Truth("LYN-Y32")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    cells = [["Dim.", "Size (mm)", "Remarks"]]
    remarks = {"L": "over the ceramic", "W": "", "H": "with lid", "a": "each terminal, 2x"}
    for letter, low, nom, high in data.rows:
        cells.append([letter, _toleranced(low, nom, high), remarks[letter]])
    story: list[Flowable] = [
        Paragraph("Lyng Passive — crystal LYN-Y32", TITLE),
        Paragraph("32,768 kHz ± 20 ppm at 25 °C, load 9 pF", TEXT),
        Paragraph("Outline", HEAD),
        *outline(data, 110 * mm, (55 * mm, 40 * mm)),
        truth.table("dimensions", dimension_truth(data), cells, ruled=False, style=TYPED),
    ]
    build(path, data.name, story, truth)


def _toleranced(low: str, nom: str, high: str) -> str:
    """A nominal value with its tolerance, even or not, or a maximum."""
    if not nom:
        return f"{high} max."
    at, up, down = (float(v.replace(",", ".")) for v in (nom, high, low))
    even = abs((up - at) - (at - down)) < 1e-9
    text = f"{nom} ±{up - at:.2f}" if even else f"{nom} +{up - at:.2f}/-{at - down:.2f}"
    return text.replace(".", ",")
