"""What the demo's datasheets share: tables that note where they are drawn, outline drawings, and the truth beside."""

import json
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, SimpleDocTemplate, Spacer, Table, TableStyle

from eider.demo.data import PrintedPin, SheetData
from eider.drawings.package_drawing import package_drawings
from eider.drawings.primitives import DimensionLine, Drawing, Note
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pdf_drawings import paint

Row = dict[str, Any]


class Truth:
    """What a datasheet says and where: written beside it, so that a reader can be compared with it."""

    def __init__(self, part: str) -> None:
        self.data: dict[str, Any] = {"part": part, "tables": []}
        self.tables: list[dict[str, Any]] = self.data["tables"]

    def table(
        self,
        kind: str,
        rows: Sequence[Row],
        cells: Sequence[Sequence[Any]],
        *,
        ruled: bool,
        unit: str = "mm",
        **style: Any,
    ) -> Table:
        """A table that notes each page and box in which it is drawn."""
        entry = {"as": kind, "ruled": ruled, "unit": unit, "places": [], "rows": list(rows)}
        self.tables.append(entry)
        places: list[dict[str, Any]] = entry["places"]  # type: ignore[assignment]

        class Marked(Table):  # type: ignore[misc]  # reportlab has no types
            def drawOn(self, canvas: Any, x: float, y: float, _sW: float = 0) -> None:  # noqa: N802, N803
                corners = [canvas.absolutePosition(x, y), canvas.absolutePosition(x + self._width, y + self._height)]
                xs, ys = sorted(c[0] for c in corners), sorted(c[1] for c in corners)
                box = [round(v, 1) for v in (xs[0] - 3, ys[0] - 3, xs[1] + 3, ys[1] + 3)]
                places.append({"page": canvas.getPageNumber(), "box": box})
                super().drawOn(canvas, x, y, _sW)

        return Marked(cells, hAlign=style.pop("hAlign", "LEFT"), **style)

    def write(self, path: Path) -> None:
        """Put it beside the PDF."""
        text = json.dumps(self.data, ensure_ascii=False, indent=1)
        path.with_suffix(".truth.json").write_text(text, encoding="utf-8")


def dimension_truth(data: SheetData, rows: Sequence[tuple[str, str, str, str]] | None = None) -> list[Row]:
    """The rows of a dimension table as they should be read: the sheet's own, or others of it."""
    return [
        {"letter": letter, "min": low, "nom": nom, "max": high}
        for letter, *limits in (data.rows if rows is None else rows)
        for low, nom, high in [[float(v.replace(",", ".")) if v else None for v in limits]]
    ]


def pin_truth(pins: Sequence[PrintedPin]) -> list[Row]:
    """The rows of a pin table as they should be read."""
    return [{"number": p.number, "name": p.name, "active_low": p.active_low, "type": p.type} for p in pins]


def printed_cells(pins: Sequence[PrintedPin], *headings: str) -> list[list[str]]:
    """A pin table of number, name and description."""
    return [list(headings), *([p.number, p.printed, p.description] for p in pins)]


class Picture(Flowable):  # type: ignore[misc]  # reportlab has no types
    """A drawing on a page, with letters in place of values, as outline drawings have."""

    def __init__(self, drawing: Drawing, letters: dict[str, str], width: float, height: float) -> None:
        super().__init__()
        bare = tuple(
            DimensionLine(p.a, p.b, p.side, letters.get(p.letter, p.letter), "", p.row)
            if isinstance(p, DimensionLine)
            else p
            for p in drawing.primitives
            if not isinstance(p, Note)
        )
        self.drawing, self.width, self.height = Drawing(bare, drawing.box), width, height

    def draw(self) -> None:
        """Paint into the page."""
        paint(self.canv, self.drawing, (0, 0, self.width, self.height))


def outline(data: SheetData, width: float, heights: tuple[float, float]) -> list[Flowable]:
    """The outline drawing of a sheet with the sheet's own letters, from above and from the side."""
    sheet = sheet_from_data(
        {
            "name": data.name,
            "family": data.family,
            "pins": data.pins,
            "units": data.unit,
            "missing": list(data.missing),
            "dims": data.standard_dims(),
        },
        data.name,
    )
    own = {standard: letter for letter, standard in data.letters.items()}
    views = package_drawings(sheet)
    return [Picture(view, own, width, height) for view, height in zip(views, heights, strict=True)]


def build(
    path: Path, title: str, story: Sequence[Flowable], truth: Truth, foot: Callable[..., None] | None = None
) -> None:
    """Write PDF and truth."""
    document = SimpleDocTemplate(
        str(path),
        pagesize=A4,
        title=title,
        author="Skerry Fieldworks demo",
        invariant=1,
        leftMargin=20 * mm,
        rightMargin=20 * mm,
    )
    more = {"onFirstPage": foot, "onLaterPages": foot} if foot else {}
    document.build([*story, Spacer(1, 1)], **more)
    truth.write(path)


class Barred(Flowable):  # type: ignore[misc]  # reportlab has no types
    """A name with a line drawn over it, as active low is printed."""

    def __init__(self, name: str, font: str, size: float) -> None:
        super().__init__()
        self.name, self.font, self.size = name, font, size

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        """The room it takes."""
        return 40.0, self.size * 1.2

    def draw(self) -> None:
        """Paint name and bar."""
        canvas: Canvas = self.canv
        canvas.setFont(self.font, self.size)
        canvas.drawString(0, 0, self.name)
        canvas.setLineWidth(0.5)
        canvas.line(0, self.size * 0.86, canvas.stringWidth(self.name, self.font, self.size), self.size * 0.86)


def rule(*commands: tuple[Any, ...]) -> TableStyle:
    """A table's style."""
    return TableStyle(list(commands))
