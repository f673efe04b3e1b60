"""Datasheets of Norrvik Semi: ruled tables in a wide sans face; the gates' one in two columns, hardly ruled."""

import csv
import io
from pathlib import Path
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    FrameBreak,
    PageBreak,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
)

from eider.demo.data import converter, pin_table_text, printed_pins, sheet_data
from eider.demo.sheets.page import (
    Barred,
    Picture,
    Truth,
    build,
    dimension_truth,
    outline,
    pin_truth,
    printed_cells,
    rule,
)
from eider.demo.sheets.pinout_pictures import TwoRowPinout
from eider.drawings.package_drawing import package_drawings
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pdf_drawings import BOLD, FONT, load_fonts
from eider.geometry.lengths import parse_limits
from eider.symbols.pin_table import read_pins

TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=18, leading=24)
HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=11, leading=16, spaceBefore=10, spaceAfter=4)
TEXT = ParagraphStyle("text", fontName=FONT, fontSize=9, leading=13)
CELL = ParagraphStyle("cell", fontName=FONT, fontSize=7.5, leading=9.5)
RULED = rule(
    ("FONT", (0, 0), (-1, -1), FONT, 8),
    ("FONT", (0, 0), (-1, 0), BOLD, 8),
    ("GRID", (0, 0), (-1, -1), 0.4, colors.grey),
    ("BACKGROUND", (0, 0), (-1, 0), colors.whitesmoke),
)


def write_converter_datasheet(path: Path) -> None:
    """NVK-1216T: ruled tables, four pages."""
    load_fonts()
    part, truth = converter(), Truth("NVK-1216T")
    rows = list(csv.reader(io.StringIO(pin_table_text())))
    own = {standard: letter for letter, standard in part.aliases.items()}
    data = {"name": part.name, "family": part.family, "pins": part.pins, "dims": part.dims}
    top, side = package_drawings(sheet_from_data(data, part.name))
    dims = [(own.get(letter, letter), parse_limits(text)) for letter, text in part.dims.items()]
    cells = [[f"{v:.2f}" if v is not None else "–" for v in (x.min, x.nom, x.max)] for _, x in dims]
    rows_true = [{"letter": letter, "min": x.min, "nom": x.nom, "max": x.max} for letter, x in dims]
    pins_true = [
        {"number": p.number, "name": p.name, "active_low": p.active_low, "type": p.type} for p in read_pins(rows).pins
    ]
    truth.data |= {
        "family": part.family,
        "pins": part.pins,
        "letters": {own.get(letter, letter): letter for letter in part.dims},
    }
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
        truth.table("pins", pins_true, [row[:4] for row in rows], ruled=True, style=RULED, repeatRows=1),
        Paragraph("Pinout, seen from above", HEAD),
        TwoRowPinout(truth, [(row[0], row[1]) for row in rows[1:]]),
        PageBreak(),
        Paragraph("Package outline", HEAD),
        Picture(top, own, 150 * mm, 75 * mm),
        Picture(side, own, 150 * mm, 45 * mm),
        Paragraph("Dimensions in mm", TEXT),
        truth.table(
            "dimensions",
            rows_true,
            [["Symbol", "Min", "Nom", "Max"], *([letter, *c] for (letter, _), c in zip(dims, cells, strict=True))],
            ruled=True,
            style=RULED,
        ),
        PageBreak(),
        Paragraph("Ordering information", HEAD),
        Table(
            [["Part number", "Leads", "Temperature"], [part.name, "16", "−40 °C to 105 °C"]], style=RULED, hAlign="LEFT"
        ),
    ]
    build(path, part.name, story, truth)


def write_controller_datasheet(path: Path) -> None:
    """NVK-U100P: a pin table over several pages, names with bars and other marks, millimetres and inches together."""
    load_fonts()
    data, truth = sheet_data("nvk-u100p"), Truth("NVK-U100P")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    pins = printed_pins("nvk-u100p")
    lines = [
        [Paragraph(p.number, CELL), _name(p.printed), Paragraph(_SHORT[p.type], CELL), Paragraph(p.description, CELL)]
        for p in pins
    ]
    head = [["Pin", "Name", "Type", "Function"]]
    widths = [14 * mm, 46 * mm, 16 * mm, 94 * mm]
    inch = [[letter, *(f"{float(v) / 25.4:.3f}" if v else "" for v in limits)] for letter, *limits in data.rows]
    cells: list[list[Any]] = [["Symbol", "Millimetres", "", "", "Inches", "", ""]]
    cells += [["", "Min", "Nom", "Max", "Min", "Nom", "Max"]]
    cells += [[*mm_row, *in_row[1:]] for mm_row, in_row in zip(data.rows, inch, strict=True)]
    cells += [[Paragraph(f"<font name='Symbol'>{x[0]}</font>", CELL), *x[1:], *x[1:]] for x in data.asides]
    story: list[Flowable] = [
        Paragraph("Norrvik Semi", HEAD),
        Paragraph(data.name, TITLE),
        Paragraph(data.description, TEXT),
        *(Paragraph(text, TEXT) for text in _CONTROLLER),
        PageBreak(),
        Paragraph("Pin conﬁguration", HEAD),
        truth.table("pins", pin_truth(pins), head + lines, ruled=True, style=RULED, repeatRows=1, colWidths=widths),
        PageBreak(),
        Paragraph("Package outline", HEAD),
        *outline(data, 150 * mm, (95 * mm, 40 * mm)),
        truth.table("dimensions", dimension_truth(data), cells, ruled=True, style=rule(*RULED.getCommands(), *_MERGED)),
    ]
    build(path, data.name, story, truth, _foot)


def write_gates_datasheet(path: Path) -> None:
    """NVK-4GT: two columns of text, dimensions under merged headings with lines between rows only."""
    load_fonts()
    data, truth = sheet_data("nvk-4gt"), Truth("NVK-4GT")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    pins = printed_pins("nvk-4gt")
    lined = rule(
        ("FONT", (0, 0), (-1, -1), FONT, 7),
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.black),
        ("SPAN", (1, 0), (2, 0)),
        ("SPAN", (3, 0), (4, 0)),
        ("ALIGN", (1, 0), (-1, 0), "CENTER"),
        ("SPAN", (1, 8), (2, 8)),
        ("SPAN", (3, 8), (4, 8)),
        ("ALIGN", (1, 8), (-1, 8), "CENTER"),
    )
    cells: list[list[str]] = [["Dim.", "Millimetres", "", "Inches", ""], ["", "Min.", "Max.", "Min.", "Max."]]
    for letter, low, nom, high in data.rows:
        inches = [f"{float(v) / 25.4:.3f}" if v else "—" for v in (low, high)]
        if nom:
            cells.append([letter, f"{nom} BSC", "", f"{float(nom) / 25.4:.3f} BSC", ""])
        else:
            cells.append([letter, low or "—", high or "—", *inches])
    plain = rule(("FONT", (0, 0), (-1, -1), FONT, 7), ("LINEBELOW", (0, 0), (-1, 0), 0.8, colors.black))
    left: list[Flowable] = [
        Paragraph(data.name, TITLE),
        Paragraph(data.description, TEXT),
        Paragraph("Pins", HEAD),
        truth.table(
            "pins",
            pin_truth(pins),
            printed_cells(pins, "Pin No.", "Symbol", "Function"),
            ruled=False,
            style=plain,
        ),
        FrameBreak(),
    ]
    right: list[Flowable] = [
        *outline(data, 80 * mm, (62 * mm, 34 * mm)),
        Spacer(1, 6),
        truth.table("dimensions", dimension_truth(data), cells, ruled=False, style=lined),
        Paragraph("Body without mould flash. Lead ends lie in one plane within 0.10 mm.", CELL),
    ]
    width = (A4[0] - 44 * mm) / 2
    frames = [Frame(20 * mm + i * (width + 4 * mm), 20 * mm, width, A4[1] - 40 * mm, id=f"f{i}") for i in range(2)]
    document = BaseDocTemplate(str(path), pagesize=A4, title=data.name, author="Skerry Fieldworks demo", invariant=1)
    document.addPageTemplates([PageTemplate(frames=frames)])
    document.build([*left, *right])
    truth.write(path)


def _name(printed: str) -> Flowable:
    if printed.startswith("|"):
        return Barred(printed.strip("|"), FONT, 7.5)
    return Paragraph(printed, CELL)


def _foot(canvas: Any, _document: Any) -> None:
    canvas.saveState()
    canvas.setFont(FONT, 7)
    canvas.drawString(20 * mm, 10 * mm, "Norrvik Semi")
    canvas.drawRightString(A4[0] - 20 * mm, 10 * mm, f"page {canvas.getPageNumber()}")
    canvas.restoreState()


_SHORT = {
    "power input": "P", "input": "I", "output": "O", "bidirectional": "I/O", "passive": "A",
}  # fmt: skip
_MERGED = (
    ("SPAN", (0, 0), (0, 1)),
    ("SPAN", (1, 0), (3, 0)),
    ("SPAN", (4, 0), (6, 0)),
    ("ALIGN", (1, 0), (-1, -1), "CENTER"),
    ("FONT", (0, 1), (-1, 1), BOLD, 8),
)
_CONTROLLER = (
    "Ten ports of eight lines, each with its own function beside the plain one.",
    "Supply 1.8 V to 3.6 V; 40 µA in sleep with the clock running from VBAT.",
)
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
