"""Datasheets of Ostholm Connect: tables turned by a quarter on the page, a row for each number of ways, mil and mm."""

from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from eider.demo.data import SheetData, sheet_data
from eider.demo.sheets.page import Truth, dimension_truth, rule

FACE, STRONG = "Helvetica", "Helvetica-Bold"
GRID = rule(
    ("FONT", (0, 0), (-1, -1), FACE, 8),
    ("FONT", (0, 0), (-1, 0), STRONG, 8),
    ("GRID", (0, 0), (-1, -1), 0.5, colors.black),
    ("ALIGN", (0, 0), (-1, -1), "CENTER"),
    ("TOPPADDING", (0, 0), (-1, -1), 2),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
)
PITCH, ENDS, OVERALL = 1.25, 3.0, 4.6


def write_connector_datasheet(path: Path) -> None:
    """OHC-125: dimensions in mil and mm; lengths by number of ways in a table that stands on its side."""
    data, truth = sheet_data("ohc-125"), Truth("OHC-125")
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    canvas.setTitle(data.name)
    canvas.setFont(STRONG, 18)
    canvas.drawString(20 * mm, 270 * mm, "Ostholm Connect  OHC-125")
    canvas.setFont(FACE, 10)
    canvas.drawString(20 * mm, 262 * mm, data.description)
    _outline(canvas)
    rows = [["Letter", "Feature", "mm min", "mm nom", "mm max", "mil nom"]]
    features = {"p": "pitch", "w": "contact width", "h": "height", "d": "depth", "s": "solder foot"}
    for letter, low, nom, high in data.rows:
        rows.append([letter, features[letter], low, nom, high, f"{float(nom) / 0.0254:.1f}" if nom else ""])
    table = truth.table("dimensions", dimension_truth(data), rows, ruled=True, style=GRID)
    _, height = table.wrapOn(canvas, 170 * mm, 200 * mm)
    table.drawOn(canvas, 20 * mm, 140 * mm - height)
    canvas.showPage()
    canvas.setFont(FACE, 10)
    canvas.drawString(20 * mm, 270 * mm, "Lengths by number of ways, in mm")
    canvas.saveState()
    canvas.translate(150 * mm, 40 * mm)
    canvas.rotate(90)
    members = [(str(n), PITCH * (n - 1)) for n in data.ways]
    ways = [["Ways", "Part number", "A", "B", "C"]]
    ways += [
        [n, f"OHC-125-{n.zfill(2)}R", f"{a:.2f}", f"{a + ENDS:.2f} ±0.15", f"{a + OVERALL:.2f} max"] for n, a in members
    ]
    true = []
    for n, a in members:
        true.append({"member": n, "letter": "A", "min": None, "nom": a, "max": None})
        true.append({"member": n, "letter": "B", "min": a + ENDS - 0.15, "nom": a + ENDS, "max": a + ENDS + 0.15})
        true.append({"member": n, "letter": "C", "min": None, "nom": None, "max": a + OVERALL})
    turned = truth.table("dimensions", true, ways, ruled=True, style=GRID)
    turned.wrapOn(canvas, 200 * mm, 200 * mm)
    turned.drawOn(canvas, 0, 0)
    canvas.restoreState()
    canvas.showPage()
    _lands_page(canvas, data, truth)
    canvas.save()
    truth.write(path)


def _lands_page(canvas: Canvas, data: SheetData, truth: Truth) -> None:
    """The suggested land pattern, drawn and lettered for four ways."""
    canvas.setFont(FACE, 10)
    canvas.drawString(20 * mm, 270 * mm, "Recommended land pattern, in mm; row A by number of ways on page 2")
    canvas.setLineWidth(0.8)
    for n in range(4):
        canvas.rect((56 + 15 * n) * mm, 215 * mm, 7 * mm, 20 * mm)
    for x in (22, 122):
        canvas.rect(x * mm, 180 * mm, 14 * mm, 22 * mm)
    canvas.setFont(FACE, 9)
    named = (
        ("a", 58, 237),
        ("l", 50, 224),
        ("p", 68, 237),
        ("A", 80, 243),
        ("q", 44, 208),
        ("m", 28, 204),
        ("k", 17, 190),
    )
    for text, x, y in (*named, ("g", 112, 206), ("f", 152, 186)):
        canvas.drawString(x * mm, y * mm, text)
    features = {
        "a": "land width",
        "l": "land length",
        "g": "row to hold-downs",
        "m": "hold-down width",
        "k": "hold-down length",
        "q": "outer land to hold-down",
        "f": "middle to front edge",
    }
    rows = [["Letter", "Feature", "mm"], *([letter, features[letter], nom] for letter, _, nom, _ in data.lands)]
    table = truth.table("dimensions", dimension_truth(data, data.lands), rows, ruled=True, style=GRID)
    _, height = table.wrapOn(canvas, 170 * mm, 200 * mm)
    table.drawOn(canvas, 20 * mm, 160 * mm - height)
    canvas.showPage()


def _outline(canvas: Canvas) -> None:
    """A housing with four contacts, lettered."""
    canvas.setLineWidth(0.8)
    canvas.rect(40 * mm, 170 * mm, 80 * mm, 40 * mm)
    for n in range(4):
        canvas.rect((56 + 12 * n) * mm, 160 * mm, 3 * mm, 10 * mm)
    canvas.setFont(FACE, 9)
    for text, x, y in (("p", 63, 154), ("w", 57, 154), ("d", 125, 190), ("A", 76, 216), ("C", 76, 222)):
        canvas.drawString(x * mm, y * mm, text)
    canvas.saveState()
    canvas.translate(34 * mm, 190 * mm)
    canvas.rotate(90)
    canvas.drawString(0, 0, "s 0.60 REF")
    canvas.restoreState()
