"""Draws the demo's datasheets as PDF, and writes the true values beside each as JSON."""

import csv
import io
import json
from collections.abc import Sequence
from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from eider.demo.catalogue import chip_name
from eider.demo.data import chips, converter, pin_table_text
from eider.drawings.package import package_drawings
from eider.drawings.primitives import Dimension, Drawing
from eider.exchange.package_sheet import sheet_from_data
from eider.geometry.lengths import parse_limits
from eider.reports.paint import BOLD, FONT, load_fonts, paint

TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=18, leading=24)
HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=11, leading=16, spaceBefore=10, spaceAfter=4)
TEXT = ParagraphStyle("text", fontName=FONT, fontSize=9, leading=13)
RULED = TableStyle(
    [
        ("FONT", (0, 0), (-1, -1), FONT, 8),
        ("FONT", (0, 0), (-1, 0), BOLD, 8),
        ("GRID", (0, 0), (-1, -1), 0.4, colors.grey),
        ("BACKGROUND", (0, 0), (-1, 0), colors.whitesmoke),
    ]
)
OPEN = TableStyle(
    [
        ("FONT", (0, 0), (-1, -1), FONT, 8),
        ("FONT", (0, 0), (-1, 0), BOLD, 8),
        ("LINEBELOW", (0, 0), (-1, 0), 1.0, colors.black),
        ("LINEBELOW", (0, -1), (-1, -1), 0.5, colors.black),
    ]
)


class _Picture(Flowable):  # type: ignore[misc]  # reportlab has no types
    """A drawing on a page, with letters in place of values, as outline drawings have."""

    def __init__(self, drawing: Drawing, letters: dict[str, str], width: float, height: float) -> None:
        super().__init__()
        bare = tuple(
            Dimension(p.a, p.b, p.side, letters.get(p.letter, p.letter), "", p.row) if isinstance(p, Dimension) else p
            for p in drawing.primitives
        )
        self.drawing, self.width, self.height = Drawing(bare, drawing.box), width, height

    def draw(self) -> None:
        """Paint into the page."""
        paint(self.canv, self.drawing, (0, 0, self.width, self.height))


def write_converter_datasheet(path: Path) -> None:
    """NVK-1216T in the style of Norrvik Semi: ruled tables, four pages."""
    load_fonts()
    part = converter()
    rows = list(csv.reader(io.StringIO(pin_table_text())))
    own = {standard: letter for letter, standard in part.aliases.items()}
    sheet = sheet_from_data({"name": part.name, "family": part.family, "pins": part.pins, "dims": part.dims}, part.name)
    top, side = package_drawings(sheet)
    story: list[Flowable] = [
        Paragraph("Norrvik Semi", HEAD),
        Paragraph(part.name, TITLE),
        Paragraph(part.description, TEXT),
        Paragraph("Features", HEAD),
        *(Paragraph(f"• {text}", TEXT) for text in _FEATURES),
        Paragraph("Absolute maximum ratings", HEAD),
        Table(_RATINGS, style=RULED, hAlign="LEFT"),
        PageBreak(),
        Paragraph("Pin description", HEAD),
        Table([row[:4] for row in rows], style=RULED, hAlign="LEFT", repeatRows=1),
        PageBreak(),
        Paragraph("Package outline", HEAD),
        _Picture(top, own, 150 * mm, 75 * mm),
        _Picture(side, own, 150 * mm, 45 * mm),
        Paragraph("Dimensions in mm", TEXT),
        Table(_dimension_rows(part.dims, own), style=RULED, hAlign="LEFT"),
        PageBreak(),
        Paragraph("Ordering information", HEAD),
        Table(
            [["Part number", "Leads", "Temperature"], [part.name, "16", "−40 °C to 105 °C"]], style=RULED, hAlign="LEFT"
        ),
    ]
    _build(path, part.name, story)
    truth = {"dims": part.dims, "aliases": part.aliases, "pins": rows}
    path.with_suffix(".truth.json").write_text(json.dumps(truth, ensure_ascii=False, indent=1), encoding="utf-8")


def write_chip_datasheet(path: Path) -> None:
    """LYN-C in the style of Lyng Passive: open tables, a family table with one row per size."""
    load_fonts()
    series = chips()
    first = series.sizes[1]
    data = {"name": "LYN-C", "family": "chip", "pins": 2, "kind": "capacitor", "dims": first.dims}
    top, side = package_drawings(sheet_from_data(data, "LYN-C"))
    numbers = [[value, *(chip_name(size.size, value) for size in series.sizes)] for value in series.values]
    letters = {"D": "L", "E": "W", "A": "T", "L": "B"}
    sizes = [["Size", *(letters[k] for k in first.dims)], *([s.size, *s.dims.values()] for s in series.sizes)]
    story: list[Flowable] = [
        Paragraph("Lyng Passive — chip capacitors LYN-C", TITLE),
        Paragraph(f"Dielectric {series.dielectric}, tolerance {series.tolerance}", TEXT),
        Paragraph("Ordering", HEAD),
        Table([["Capacitance", *(s.size for s in series.sizes)], *numbers], style=OPEN, hAlign="LEFT"),
        PageBreak(),
        Paragraph("Dimensions in mm", HEAD),
        _Picture(top, letters, 110 * mm, 60 * mm),
        _Picture(side, letters, 110 * mm, 45 * mm),
        Table(sizes, style=OPEN, hAlign="LEFT"),
    ]
    _build(path, "LYN-C", story)
    truth = {"sizes": {size.size: size.dims for size in series.sizes}, "letters": letters}
    path.with_suffix(".truth.json").write_text(json.dumps(truth, ensure_ascii=False, indent=1), encoding="utf-8")


def _dimension_rows(dims: dict[str, str], own: dict[str, str]) -> list[list[str]]:
    rows = [["Symbol", "Min", "Nom", "Max"]]
    for letter, text in dims.items():
        limits = parse_limits(text)
        cells = [f"{v:.2f}" if v is not None else "–" for v in (limits.min, limits.nom, limits.max)]
        rows.append([own.get(letter, letter), *cells])
    return rows


def _build(path: Path, title: str, story: Sequence[Flowable]) -> None:
    document = SimpleDocTemplate(
        str(path), pagesize=A4, title=title, author="Skerry Fieldworks demo", invariant=1,
        leftMargin=20 * mm, rightMargin=20 * mm,
    )  # fmt: skip
    document.build([*story, Spacer(1, 1)])


_FEATURES = (
    "Two differential bridge inputs, 24 bit, no missing codes",
    "Gain 1 to 128, 10 or 80 conversions a second",
    "Serial interface, data-ready signal on the data output",
    "Supply 2.7 V to 5.3 V, 1.4 mA; power-down 0.2 µA",
)
_RATINGS = [
    ["Rating", "Min", "Max", "Unit"],
    ["AVDD to AGND", "−0.3", "6.0", "V"],
    ["DVDD to DGND", "−0.3", "6.0", "V"],
    ["Input to AGND", "−0.3", "AVDD + 0.3", "V"],
    ["Storage temperature", "−65", "150", "°C"],
]
