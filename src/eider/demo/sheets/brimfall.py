"""Datasheets of Brimfall: open tables in a serif face, footnotes, inches beside or instead of millimetres."""

from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph, Spacer

from eider.demo.data import printed_pins, sheet_data
from eider.demo.sheets.page import Truth, build, dimension_truth, outline, pin_truth, printed_cells, rule
from eider.exchange.pdf_drawings import load_fonts

SERIF, STRONG = "Times-Roman", "Times-Bold"
TITLE = ParagraphStyle("title", fontName=STRONG, fontSize=22, leading=28)
HEAD = ParagraphStyle("head", fontName=STRONG, fontSize=12, leading=17, spaceBefore=12, spaceAfter=4)
TEXT = ParagraphStyle("text", fontName=SERIF, fontSize=10, leading=13)
CELL = ParagraphStyle("cell", fontName=SERIF, fontSize=9.5, leading=11.5)
OPEN = rule(
    ("FONT", (0, 0), (-1, -1), SERIF, 9.5),
    ("FONT", (0, 0), (-1, 0), STRONG, 9.5),
    ("LINEBELOW", (0, 0), (-1, 0), 0.8, colors.black),
    ("TOPPADDING", (0, 0), (-1, -1), 1.2),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 1.6),
    ("VALIGN", (0, 0), (-1, -1), "TOP"),
)
_TYPES = {
    "power input": "supply", "input": "input", "power output": "power output", "open collector": "open drain",
    "passive": "passive",
}  # fmt: skip
_MEANING = {
    "A": "Height", "A1": "Stand-off", "A2": "Body height", "b": "Lead width", "c": "Lead thickness",
    "D": "Body length", "E": "Over leads", "E1": "Body width", "e": "Pitch", "e1": "Pitch, outer leads", "L": "Foot",
}  # fmt: skip


def write_regulator_datasheet(path: Path) -> None:
    """BRM-L18: nothing ruled, millimetres and inches side by side, raised footnote marks, wrapped descriptions."""
    load_fonts()
    data, truth = sheet_data("brm-l18"), Truth("BRM-L18")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    pins = printed_pins("brm-l18")
    pin_cells = [[p.number, p.printed, _TYPES[p.type], Paragraph(p.description, CELL)] for p in pins]
    cells: list[list[object]] = [
        ["", "", "mm", "", "", "inch", "", ""],
        ["Symbol", "Parameter", "Min.", "Typ.", "Max.", "Min.", "Typ.", "Max."],
    ]
    for letter, *limits in data.rows:
        printed: list[object] = [value or "–" for value in limits]
        if letter == "b":
            printed[2] = Paragraph(f"{limits[2]}<super size=6>(1)</super>", CELL)
        if letter == "D":
            printed[0] = Paragraph(f"{limits[0]}<super size=6>2</super>", CELL)
        inches = [f"{float(value) / 25.4:.3f}" if value else "–" for value in limits]
        cells.append([Paragraph(_lowered(letter), CELL), _MEANING[letter], *printed, *inches])
    widths = [16 * mm, 34 * mm, *([17 * mm] * 6)]
    story: list[Flowable] = [
        Paragraph("BRM-L18", TITLE),
        Paragraph(data.description, TEXT),
        Paragraph("Output 1.8 V ± 1 %; ripple rejection 72 dB; load <font name='Symbol'>≤</font> 200 mA.", TEXT),
        Paragraph("Pin functions", HEAD),
        truth.table(
            "pins",
            pin_truth(pins),
            [["Lead", "Name", "I/O", "Description"], *pin_cells],
            ruled=False,
            style=OPEN,
            colWidths=[16 * mm, 22 * mm, 26 * mm, 66 * mm],
        ),
        PageBreak(),
        Paragraph("Mechanical data", HEAD),
        *outline(data, 140 * mm, (80 * mm, 40 * mm)),
        Spacer(1, 8),
        truth.table(
            "dimensions",
            dimension_truth(data),
            cells,
            ruled=False,
            colWidths=widths,
            style=rule(
                *OPEN.getCommands(),
                ("LINEBELOW", (0, 1), (-1, 1), 0.8, colors.black),
                ("FONT", (0, 1), (-1, 1), STRONG, 9.5),
                ("SPAN", (2, 0), (4, 0)),
                ("SPAN", (5, 0), (7, 0)),
                ("ALIGN", (2, 0), (-1, 0), "CENTER"),
            ),
        ),
        Paragraph("(1) Dam bar not included; it may add 0.08 mm to the width of a lead.", CELL),
        Paragraph("2 Without mould flash, which may be 0.15 mm on each side.", CELL),
    ]
    build(path, data.name, story, truth)


def write_transformer_datasheet(path: Path) -> None:
    """BRM-PT6: inches without a leading zero, letters across the top, minimum and maximum in rows of their own."""
    load_fonts()
    data, truth = sheet_data("brm-pt6"), Truth("BRM-PT6")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    pins = printed_pins("brm-pt6")
    rows = [["", *(row[0] for row in data.rows)]]
    rows += [[word, *(row[k] or "—" for row in data.rows)] for k, word in ((1, "Min."), (2, "Nom."), (3, "Max."))]
    story: list[Flowable] = [
        Paragraph("BRM-PT6", TITLE),
        Paragraph(data.description, TEXT),
        Paragraph("Turns ratio 1 : 1.3; 1.5 kV between windings.", TEXT),
        Paragraph("Leads", HEAD),
        truth.table(
            "pins",
            pin_truth(pins),
            printed_cells(pins, "Lead", "Signal", "Function"),
            ruled=False,
            style=OPEN,
        ),
        Paragraph("Outline", HEAD),
        *outline(data, 120 * mm, (62 * mm, 36 * mm)),
        Paragraph("All dimensions are in inches.", TEXT),
        truth.table(
            "dimensions",
            dimension_truth(data),
            rows,
            ruled=False,
            unit="in",
            style=OPEN,
            colWidths=[18 * mm, *([16 * mm] * len(data.rows))],
        ),
    ]
    build(path, data.name, story, truth)


def write_holder_datasheet(path: Path) -> None:
    """BRM-CH16: outline and land pattern with letters of their own, a T and a comb among the lands."""
    load_fonts()
    data, truth = sheet_data("brm-ch16"), Truth("BRM-CH16")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    features = {
        "s": "T, middle to edge",
        "t": "Bar, wide",
        "u": "Stem, long",
        "v": "Stem, wide",
        "w": "Bar, long",
        "c": "Land, from middle",
        "k": "Comb, back",
        "r": "Tooth, long",
        "o": "Tooth, wide",
        "p": "Tooth, pitch",
        "P": "Posts, apart",
        "d": "Post hole",
    }
    outer = [["Symbol", "Min.", "Typ.", "Max."], *([row[0], *(v or "–" for v in row[1:])] for row in data.rows)]
    lands = [["Symbol", "Parameter", "Typ."], *([row[0], features[row[0]], row[2]] for row in data.lands)]
    story: list[Flowable] = [
        Paragraph("BRM-CH16", TITLE),
        Paragraph(data.description, TEXT),
        Paragraph("Outline, dimensions in mm", HEAD),
        truth.table("dimensions", dimension_truth(data), outer, ruled=False, style=OPEN),
        PageBreak(),
        Paragraph("Recommended land pattern, dimensions in mm", HEAD),
        Paragraph("Plus: T, its bar outside. Minus: comb, three teeth towards the middle. Two posts, no copper.", TEXT),
        Spacer(1, 6),
        truth.table("dimensions", dimension_truth(data, data.lands), lands, ruled=False, style=OPEN),
    ]
    build(path, data.name, story, truth)


def _lowered(letter: str) -> str:
    """A1 is printed with its figure lowered."""
    return f"{letter[0]}<sub size=6.5>{letter[1:]}</sub>" if len(letter) > 1 else letter
