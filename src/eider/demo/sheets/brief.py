"""Brief datasheets of one page or two: title, pins, outline and dimensions, ruled, in the maker's own face."""

from collections.abc import Mapping, Sequence
from functools import partial
from pathlib import Path
from typing import Any

from reportlab.lib import colors
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph

from eider.demo.data import SheetData, printed_pins, sheet_data
from eider.demo.sheets.page import Truth, build, dimension_truth, outline, pin_truth, printed_cells, rule
from eider.demo.sheets.pinout_pictures import BallMap
from eider.exchange.pdf_drawings import BOLD, FONT, load_fonts

SCALE = 26.0
ARROW, HALF_ARROW = 5.0, 0.9
FIRST_LINE, NEXT_LINE, TEXT_SIZE = 22.0, 17.0, 8.0
Point = tuple[float, float]


class LandPicture(Flowable):  # type: ignore[misc]  # reportlab has no types
    """Lands on four sides and one in the middle: Z outside, Y and X long and wide, W and H the middle one (mm)."""

    def __init__(self, data: SheetData, pitch: float) -> None:
        super().__init__()
        self.lengths: Mapping[str, float] = {letter: float(nom) for letter, _, nom, _ in data.lands}
        self.each, self.pitch = data.pins // 4, pitch
        self.width = self.height = self.lengths["Z"] * SCALE + 4 * NEXT_LINE + 2 * FIRST_LINE

    def draw(self) -> None:
        """Paint into the page, the pattern's middle in the middle."""
        canvas: Any = self.canv
        canvas.translate(self.width / 2, self.height / 2)
        canvas.setFillColor(colors.lightgrey)
        canvas.setLineWidth(0.5)
        for x0, y0, x1, y1 in self._lands():
            canvas.rect(x0, y0, x1 - x0, y1 - y0, fill=1)
        canvas.setFillColor(colors.black)
        canvas.setFont(FONT, TEXT_SIZE)
        canvas.setLineWidth(0.3)
        for letter, vertical, start, stop, edge, row in self._measured():
            self._dimension(f"{self.lengths[letter]:.2f}", (start, stop), edge, row, vertical=vertical)

    def _lands(self) -> list[tuple[float, float, float, float]]:
        z, y, x = (self.lengths[k] * SCALE for k in "ZYX")
        places = [(n - (self.each - 1) / 2) * self.pitch * SCALE for n in range(self.each)]
        sides: list[tuple[float, float, float, float]] = []
        for low, high in ((-z / 2, -z / 2 + y), (z / 2 - y, z / 2)):
            sides += [(low, p - x / 2, high, p + x / 2) for p in places]
            sides += [(p - x / 2, low, p + x / 2, high) for p in places]
        w, h = self.lengths["W"] * SCALE / 2, self.lengths["H"] * SCALE / 2
        return [*sides, (-w, -h, w, h)]

    def _measured(self) -> Sequence[tuple[str, bool, float, float, float, int]]:
        """Letter, whether its line is upright, from where to where, where its extension lines begin, and its row."""
        z, y, x, w, h = (self.lengths[k] * SCALE for k in "ZYXWH")
        top = (self.each - 1) / 2 * self.pitch * SCALE
        return (
            ("Z", False, -z / 2, z / 2, top + x / 2, 2),
            ("Z", True, -z / 2, z / 2, top + x / 2, 2),
            ("W", False, -w / 2, w / 2, -h / 2, -2),
            ("H", True, -h / 2, h / 2, -w / 2, -2),
            ("Y", False, z / 2 - y, z / 2, -top - x / 2, -1),
            ("X", True, -top - x / 2, -top + x / 2, -z / 2, -1),
        )

    def _dimension(self, text: str, ends: tuple[float, float], edge: float, row: int, *, vertical: bool) -> None:
        """A dimension line with arrows, in a row outside the pattern: above or to the right of it where positive."""
        canvas: Any = self.canv
        sign = 1 if row > 0 else -1
        level = sign * (self.lengths["Z"] * SCALE / 2 + FIRST_LINE + NEXT_LINE * (abs(row) - 1))

        def at(along: float, across: float) -> Point:
            return (across, along) if vertical else (along, across)

        for end in ends:
            canvas.line(*at(end, edge + 1.5 * sign), *at(end, level + 2.5 * sign))
        is_short = ends[1] - ends[0] < 3 * ARROW
        tail = 2.2 * ARROW if is_short else 0.0
        for end, way in zip(ends, (-1, 1), strict=True):
            back = way if is_short else -way
            arrow = canvas.beginPath()
            arrow.moveTo(*at(end, level))
            arrow.lineTo(*at(end + back * ARROW, level + HALF_ARROW))
            arrow.lineTo(*at(end + back * ARROW, level - HALF_ARROW))
            arrow.close()
            canvas.drawPath(arrow, stroke=0, fill=1)
            if is_short:
                canvas.line(*at(end, level), *at(end + back * tail, level))
        if not is_short:
            canvas.line(*at(ends[0], level), *at(ends[1], level))
        place = ends[1] + tail + 8 if is_short else sum(ends) / 2
        x, y = at(place, level)
        if vertical:
            canvas.drawString(x + 3 if not is_short else x - 8, y - TEXT_SIZE / 3, text)
        else:
            canvas.drawCentredString(x + (6 if is_short else 0), y - TEXT_SIZE / 3 if is_short else y + 2.5, text)


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
