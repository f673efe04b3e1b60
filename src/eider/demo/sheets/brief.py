"""Brief datasheets of one page or two: title, pins, outline and dimensions, ruled, in the maker's own face."""

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph

from eider.demo.data import SheetData, printed_pins, sheet_data
from eider.demo.sheets.land_picture import LandPicture
from eider.demo.sheets.page import Truth, build, dimension_truth, outline, pin_truth, printed_cells, rule
from eider.demo.sheets.pinout_pictures import BallMap
from eider.exchange.pdf_drawings import BOLD, FONT, load_fonts

TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=16, leading=22)
HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=11, leading=16, spaceBefore=8, spaceAfter=4)
TEXT = ParagraphStyle("text", fontName=FONT, fontSize=9, leading=13)
GRID = rule(
    ("FONT", (0, 0), (-1, -1), FONT, 8),
    ("FONT", (0, 0), (-1, 0), BOLD, 8),
    ("GRID", (0, 0), (-1, -1), 0.4, colors.grey),
)
# A longer table of pins is on pages of its own.
SHORT = 12


def write_brief_datasheet(key: str, maker: str, path: Path, *, has_pins: bool = True) -> None:
    """The datasheet of one entry of `datasheets.toml`."""
    load_fonts()
    data = sheet_data(key)
    truth = Truth(data.name)
    truth.data |= {"family": data.family, "pins": data.pins, "letters": data.letters}
    story: list[Flowable] = [Paragraph(maker, HEAD), Paragraph(data.name, TITLE), Paragraph(data.description, TEXT)]
    if has_pins:
        story += _pins(key, truth)
    story += _outline(data, truth)
    if data.lands:
        truth.data["lands"] = {letter: float(nom) for letter, _, nom, _ in data.lands}
        pitch = next(float(nom) for letter, _, nom, _ in data.rows if data.letters[letter] == "e")
        story += [PageBreak(), Paragraph("Recommended land pattern, mm", HEAD), LandPicture(data, pitch)]
    build(path, data.name, story, truth)


def _pins(key: str, truth: Truth) -> Sequence[Flowable]:
    pins = printed_pins(key)
    cells = printed_cells(pins, "Pin", "Name", "Function")
    table = truth.table("pins", pin_truth(pins), cells, ruled=True, style=GRID, repeatRows=1)
    story = [Paragraph("Pins", HEAD), table]
    if pins[0].number.isdecimal():
        return [*story, *([PageBreak()] if len(pins) > SHORT else [])]
    ball_map = BallMap(truth, [(p.number, p.printed) for p in pins])
    return [*story, Paragraph("Ball map, seen from above", HEAD), ball_map, PageBreak()]


def _outline(data: SheetData, truth: Truth) -> Sequence[Flowable]:
    cells = [["Symbol", "Min", "Nom", "Max"], *([row[0], *(v or "–" for v in row[1:])] for row in data.rows)]
    return [
        Paragraph("Outline", HEAD),
        *outline(data, 120 * mm, (66 * mm, 36 * mm)),
        Paragraph("Dimensions in mm", TEXT),
        truth.table("dimensions", dimension_truth(data), cells, ruled=True, style=GRID),
    ]


write_transistor = partial(write_brief_datasheet, "nvk-n2s", "Norrvik Semi")
write_front_end = partial(write_brief_datasheet, "nvk-3301q", "Norrvik Semi")
write_memory = partial(write_brief_datasheet, "nvk-m64b", "Norrvik Semi")
write_tantalum = partial(write_brief_datasheet, "lyn-t", "Lyng Passive", has_pins=False)
write_diode = partial(write_brief_datasheet, "lyn-d", "Lyng Passive", has_pins=False)
write_terminals = partial(write_brief_datasheet, "ohc-350", "Ostholm Connect", has_pins=False)
write_electrolytic = partial(write_brief_datasheet, "brm-e100", "Brimfall", has_pins=False)
write_choke = partial(write_brief_datasheet, "brm-ech", "Brimfall", has_pins=False)
write_power_switch = partial(write_brief_datasheet, "brm-s40", "Brimfall")
write_socket = partial(write_brief_datasheet, "ohc-s5", "Ostholm Connect")
write_oscillator = partial(write_brief_datasheet, "lyn-x25", "Lyng Passive")
