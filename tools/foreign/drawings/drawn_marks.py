"""A view with its dimensions as plain marks on a page (points, y up), in a style by chance."""

import random
from dataclasses import dataclass

from package_views import Dimension, PackageView, Point

ROW, FIRST_ROW = 20.0, 24.0


@dataclass
class Mark:
    """A line, a filled area, a circle or a text, in points; `shade` of an area from 0, black, to 1."""

    kind: str
    points: list[Point]
    width: float = 0.5
    text: str = ""
    size: float = 7.0
    turned: bool = False
    radius: float = 0.0
    shade: float = 0.0


@dataclass
class Style:
    """How a house draws: arrows, texts, gaps."""

    arrow: str
    arrow_length: float
    text: str
    turns: bool
    circled: bool
    gap: float
    overrun: float
    thin: float
    thick: float
    size: float
    joined: bool
    quarter: bool
    stretch: float


def a_style(chance: random.Random) -> Style:
    """A style by chance."""
    return Style(
        arrow=chance.choice(("filled", "filled", "open", "tick", "dot")),
        arrow_length=chance.uniform(4, 6.5),
        text=chance.choice(("above", "break", "break")),
        turns=chance.random() < 0.5,
        circled=chance.random() < 0.2,
        gap=chance.choice((0.0, 1.5, 2.5)),
        overrun=chance.choice((1.0, 2.5)),
        thin=chance.choice((0.25, 0.4)),
        thick=chance.choice((0.6, 0.9)),
        size=chance.choice((6.5, 7.5, 8.5)),
        joined=chance.random() < 0.3,
        quarter=chance.random() < 0.35,
        stretch=chance.choice((1.0, 1.0, 1.0, 1.3)),
    )


class _Sheet:
    """Marks of one view, put together."""

    def __init__(self, style: Style, scale: float, origin: Point, *, turns: bool = False) -> None:
        self.style, self.scale, self.origin, self.turns = style, scale, origin, turns
        self.marks: list[Mark] = []

    def at(self, point: Point) -> Point:
        return self.origin[0] + point[0] * self.scale, self.origin[1] + point[1] * self.scale * self.style.stretch

    def line(self, points: list[Point], width: float) -> None:
        self.marks.append(Mark("line", points, width))


def draw(
    view: PackageView,
    style: Style,
    scale: float,
    origin: Point,
    texts: dict[str, str],
    *,
    turns: bool = False,
    shade: float | None = None,
) -> list[Mark]:
    """The marks of a view; `texts` gives what is written for each letter, `turns` whether it will be turned.

    With a `shade` its outlines are filled.
    """
    sheet = _Sheet(style, scale, origin, turns=turns)
    for outline in view.outlines:
        if shade is not None:
            sheet.marks.append(Mark("area", [sheet.at(p) for p in outline[:4]], shade=shade))
            continue
        sheet.line([sheet.at(p) for p in outline], style.thick)
    for x, y, radius in view.circles:
        sheet.marks.append(Mark("circle", [sheet.at((x, y))], style.thin, radius=radius * scale))
    if view.centre_lines:
        x0, _y0, x1, _y1 = view.box()
        _dashed(sheet, sheet.at((x0 - 0.3, 0)), sheet.at((x1 + 0.3, 0)))
    for dimension in view.dimensions:
        _dimension(sheet, view, dimension, texts[dimension.letter])
    return sheet.marks


def _dashed(sheet: _Sheet, a: Point, b: Point) -> None:
    at, step, on = a[0], (7.0, 2.0, 1.5, 2.0), 0
    while at < b[0]:
        if on % 2 == 0:
            sheet.line([(at, a[1]), (min(at + step[on], b[0]), a[1])], sheet.style.thin)
        at, on = at + step[on], (on + 1) % 4


def _dimension(sheet: _Sheet, view: PackageView, d: Dimension, text: str) -> None:
    style, is_x = sheet.style, d.axis == "x"
    x0, y0, x1, y1 = view.box()
    (left, low), (right, high) = sheet.at((x0, y0)), sheet.at((x1, y1))
    out = FIRST_ROW + ROW * (d.row - 1)
    along = [sheet.at((v, 0))[0] if is_x else sheet.at((0, v))[1] for v in (d.start, d.stop)]
    edge = [sheet.at((0, c))[1] if is_x else sheet.at((c, 0))[0] for c in d.cross]
    level = ((high if d.side > 0 else low) if is_x else (right if d.side > 0 else left)) + d.side * out

    def point(a: float, c: float) -> Point:
        return (a, c) if is_x else (c, a)

    for a, c in zip(along, edge, strict=True):
        sheet.line([point(a, c + d.side * style.gap), point(a, level + d.side * style.overrun)], style.thin)
    room = along[1] - along[0]
    width = 0.52 * style.size * len(text) + 3
    needs = 2 * style.arrow_length + (width if style.text == "break" and _is_along(sheet, is_x) else style.size)
    if room < max(needs, 2.5 * style.arrow_length):
        _outside(sheet, point, along, level, text, is_x=is_x)
    else:
        _inside(sheet, point, along, level, text, width, is_x=is_x)


def _is_along(sheet: _Sheet, is_x: bool) -> bool:
    """Whether the text of a line runs along it once the view lies as it is printed."""
    return is_x != sheet.turns or (sheet.style.turns and not sheet.turns)


def _inside(sheet, point, along, level, text, width, *, is_x):  # type: ignore[no-untyped-def]
    style, middle = sheet.style, sum(along) / 2
    lies_along = _is_along(sheet, is_x)
    half = (width if lies_along else style.size * 1.5) / 2
    if style.text == "break":
        sheet.line([point(along[0], level), point(middle - half, level)], style.thin)
        sheet.line([point(middle + half, level), point(along[1], level)], style.thin)
        place = point(middle, level)
    else:
        sheet.line([point(along[0], level), point(along[1], level)], style.thin)
        off = style.size * 0.75 if lies_along else width / 2 + 1.5
        place = point(middle, level + off if is_x or sheet.turns else level - off)
    _arrow(sheet, point, along[0], level, +1)
    _arrow(sheet, point, along[1], level, -1)
    _text(sheet, place, text, turned=not is_x and style.turns)


def _outside(sheet, point, along, level, text, *, is_x):  # type: ignore[no-untyped-def]
    """Arrows from outside, the text behind one of them."""
    style, tail = sheet.style, 2.2 * sheet.style.arrow_length
    sheet.line([point(along[0] - tail, level), point(along[0], level)], style.thin)
    sheet.line([point(along[1], level), point(along[1] + tail, level)], style.thin)
    _arrow(sheet, point, along[0], level, -1)
    _arrow(sheet, point, along[1], level, +1)
    width = 0.52 * style.size * len(text)
    turned = not is_x and style.turns
    behind = (width if _is_along(sheet, is_x) else style.size) / 2 + 2.5
    _text(sheet, point(along[1] + tail + behind, level), text, turned=turned)


def _arrow(sheet, point, tip, level, towards):  # type: ignore[no-untyped-def]
    """An arrow whose tip is at `tip`; its shaft goes to the side of `towards`."""
    style, length = sheet.style, sheet.style.arrow_length
    back, half = tip + towards * length, length * 0.18
    if style.arrow == "filled":
        sheet.marks.append(Mark("area", [point(tip, level), point(back, level + half), point(back, level - half)]))
    elif style.arrow == "open":
        for sign in (-1, 1):
            sheet.line([point(back, level + sign * half), point(tip, level)], style.thin)
    elif style.arrow == "tick":
        sheet.line([point(tip - 2, level - 2), point(tip + 2, level + 2)], style.thick)
    else:
        sheet.marks.append(Mark("disc", [point(tip, level)], radius=1.3))


def _text(sheet: _Sheet, place: Point, text: str, *, turned: bool) -> None:
    size = sheet.style.size
    if sheet.style.circled and len(text) < 3:
        sheet.marks.append(Mark("circle", [place], sheet.style.thin, radius=size * 0.85))
        turned = False
    sheet.marks.append(Mark("text", [place], text=text, size=size, turned=turned))


def asides(view: PackageView, style: Style, scale: float, origin: Point, title: str) -> list[Mark]:
    """What else is at a view: its title, a leader to pin 1, a datum in a box, a tolerance frame."""
    sheet = _Sheet(style, scale, origin)
    (left, low), (right, high) = (sheet.at(p) for p in (view.box()[:2], view.box()[2:]))
    size, middle = style.size, (left + right) / 2
    sheet.marks.append(Mark("text", [(middle, low - FIRST_ROW - 2.5 * ROW)], text=title, size=size + 1))
    tip = (left + 0.2 * (right - left), high - 0.2 * (high - low))
    end = (left - 55.0, high + 62.0)
    sheet.line([tip, end, (end[0] - 12, end[1])], style.thin)
    sheet.marks.append(Mark("area", [tip, (tip[0] - 5, tip[1] + 3.5), (tip[0] - 3, tip[1] + 5.5)]))
    sheet.marks.append(Mark("text", [(end[0] - 40, end[1])], text="PIN 1 MARK", size=size))
    x, y = right + 75, low - 38
    sheet.line([(x, y), (x + 12, y), (x + 12, y + 12), (x, y + 12), (x, y)], style.thin)
    sheet.marks.append(Mark("text", [(x + 6, y + 6)], text="C", size=size))
    sheet.line([(x + 30, y), (x + 66, y), (x + 66, y + 12), (x + 30, y + 12), (x + 30, y)], style.thin)
    sheet.marks.append(Mark("text", [(x + 48, y + 6)], text="0.10 C", size=size))
    return sheet.marks


def turned_marks(marks: list[Mark], about: Point) -> list[Mark]:
    """Marks turned by a quarter about a point; texts that ran across stay so."""
    x, y = about
    for mark in marks:
        mark.points = [(x - (py - y), y + (px - x)) for px, py in mark.points]
        mark.turned = False
    return marks


def grid(
    rows: list[tuple[str, ...]], widths: list[float], size: float, at: Point, rules: str = "all", line: float = 2.1
) -> list[Mark]:
    """A table as marks; `at` is its upper left corner, `rules` `all`, `rows` or `few`; a row is `line` sizes high."""
    x, y, high = *at, line * size
    bottom, edges = y - high * len(rows), [x + sum(widths[:k]) for k in range(len(widths) + 1)]
    levels = range(len(rows) + 1) if rules != "few" else (0, 1, len(rows))
    marks = [Mark("line", [(x, y - high * i), (edges[-1], y - high * i)]) for i in levels]
    marks += [Mark("line", [(edge, y), (edge, bottom)]) for edge in edges if rules == "all"]
    for i, cells in enumerate(rows):
        marks += [
            Mark("text", [((edges[k] + edges[k + 1]) / 2, y - high * (i + 0.5))], text=text, size=size)
            for k, text in enumerate(cells)
            if text
        ]
    return marks
