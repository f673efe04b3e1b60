"""Makes files for tests/exchange/foreign with general tools, and prints what they hold: exchange_files.py SEED FOLDER.

The tools are no part of Eider's environment: pip install gerber-writer svgwrite xlsxwriter matplotlib ezdxf. Each seed
gives other sizes, turns and units; what a file holds is printed as a line of truth.json, by the numbers that it was
made of.
"""

import json
import math
import random
import sys
from pathlib import Path
from typing import Any

Pads = dict[str, tuple[float, float, float, float]]


def rows(chance: random.Random) -> list[tuple[str, float, float, float, float]]:
    """Two rows of pads: number, middle, width and height in mm, on a grid of 0.01."""
    count, pitch = chance.choice((3, 4, 7)), chance.choice((0.5, 0.65, 1.27))
    across, width = round(chance.uniform(1.5, 4.0), 2), round(chance.uniform(0.5, 1.4), 2)
    height = round(pitch * 0.6, 2)
    made = [(str(i + 1), -across, round((count - 1) / 2 * pitch - i * pitch, 4), width, height) for i in range(count)]
    made += [(str(2 * count - i), across, y, width, height) for i, (_n, _x, y, _w, _h) in enumerate(made)]
    return made


def boxes(pads: list[tuple[str, float, float, float, float]]) -> Pads:
    """The box of each pad."""
    return {n: (x - w / 2, y - h / 2, x + w / 2, y + h / 2) for n, x, y, w, h in pads}


def gerber(chance: random.Random, folder: Path, seed: int) -> dict[str, Any]:
    """Rounded and chamfered pads and a turned rectangle as flashes, by a library for Gerber."""
    import gerber_writer as gw

    pads, name = rows(chance), f"SKE-{seed}-copper-top.gbr"
    layer = gw.DataLayer("Copper,L1,Top,Signal")
    shape = chance.choice((gw.RoundedRectangle(pads[0][3], pads[0][4], pads[0][4] / 4, "SMDPad,CuDef"),
                           gw.Rectangle(pads[0][3], pads[0][4], "SMDPad,CuDef")))  # fmt: skip
    for _number, x, y, _w, _h in pads:
        layer.add_pad(shape, (x, y))
    turned = gw.Rectangle(2.0, 1.0, "SMDPad,CuDef")
    angle = chance.choice((30, 45, 60))
    layer.add_pad(turned, (0, 5), angle=angle)
    (folder / name).write_text(layer.dumps_gerber())
    a = math.radians(angle)
    half = (2 * abs(math.cos(a)) + abs(math.sin(a))) / 2, (2 * abs(math.sin(a)) + abs(math.cos(a))) / 2
    every = [*boxes(pads).values(), (-half[0], 5 - half[1], half[0], 5 + half[1])]
    return {"file": name, "name": f"SKE-{seed}", "boxes": every}


def svg(chance: random.Random, folder: Path, seed: int) -> dict[str, Any]:
    """Pads as rectangles in a group that is called copper, by a library for SVG; turned as a whole."""
    import svgwrite

    pads, name = rows(chance), f"HOL-{seed}.svg"
    drawing = svgwrite.Drawing(str(folder / name), size=("20mm", "20mm"), viewBox="-10 -10 20 20", profile="full")
    turned = chance.choice((0, 90))
    group = drawing.add(drawing.g(id="copper", fill="orange", transform=f"rotate({turned})"))
    for number, x, y, w, h in pads:
        group.add(drawing.rect((x - w / 2, -y - h / 2), (w, h), id=f"pad-{number}", rx=h / 5, ry=h / 5))
    drawing.save()
    truth = boxes(pads)
    if turned:
        truth = {n: (y0, -x1, y1, -x0) for n, (x0, y0, x1, y1) in truth.items()}
    return {"file": name, "name": f"HOL-{seed}", "pads": truth}


def plotted(chance: random.Random, folder: Path, seed: int) -> dict[str, Any]:
    """Pads as patches of a plot, saved as SVG by a plotting library; 1 unit of the axes is 5 mm of paper."""
    import matplotlib as mpl

    mpl.use("svg")
    from matplotlib.patches import Circle, Rectangle
    from matplotlib.pyplot import close, figure

    mpl.rcParams["svg.hashsalt"] = "eider"
    pads, name = rows(chance), f"PLO-{seed}.svg"
    figure_made = figure(figsize=(100 / 25.4, 100 / 25.4))
    axes = figure_made.add_axes((0, 0, 1, 1))
    axes.set_xlim(-10, 10)
    axes.set_ylim(-10, 10)
    axes.axis("off")
    for number, x, y, w, h in pads:
        axes.add_patch(Rectangle((x - w / 2, y - h / 2), w, h, linewidth=0, gid=f"pad-{number}"))
    axes.add_patch(Circle((0, 5), 0.5, linewidth=0, gid="pad-99"))
    figure_made.savefig(folder / name, metadata={"Date": None, "Creator": None})
    close(figure_made)
    truth = {**boxes(pads), "99": (-0.5, 4.5, 0.5, 5.5)}
    return {
        "file": name,
        "name": f"PLO-{seed}",
        "sizes": {n: (5 * (x1 - x0), 5 * (y1 - y0)) for n, (x0, y0, x1, y1) in truth.items()},
    }


def workbook(chance: random.Random, folder: Path, seed: int) -> dict[str, Any]:
    """Pads and pins as sheets, and parts, by a library for workbooks: numbers as numbers, merged and empty cells."""
    import xlsxwriter

    pads, name = rows(chance), f"FIR-{seed}.xlsx"
    with xlsxwriter.Workbook(folder / name, {"in_memory": True}) as book:
        sheet = book.add_worksheet("Lands")
        unit, scale = chance.choice((("mm", 1.0), ("mil", 0.0254)))
        heads = ["Pin", f"X ({unit})", f"Y ({unit})", f"Width ({unit})", f"Height ({unit})", "Shape"]
        for column, head in enumerate(heads):
            sheet.write(0, column, head, book.add_format({"bold": True}))
        for row, (number, x, y, w, h) in enumerate(pads, start=1):
            sheet.write_number(row, 0, int(number))
            for column, value in enumerate((x, y, w, h), start=1):
                sheet.write_number(row, column, value / scale)
            sheet.write(row, 5, "Oval")
        notes = book.add_worksheet("About")
        notes.merge_range(0, 0, 0, 4, "Lands of the maker", book.add_format())
    return {"file": name, "name": f"FIR-{seed}", "pads": boxes(pads)}


def dxf(chance: random.Random, folder: Path, seed: int) -> dict[str, Any]:
    """Pads as hatches, solids and blocks in an old version of the format, in inches or mm."""
    import ezdxf

    pads, name = rows(chance), f"KEL-{seed}.dxf"
    document = ezdxf.new(chance.choice(("R12", "R2000", "R2018")))
    inches = chance.random() < 0.5 and document.dxfversion != "AC1009"
    document.header["$INSUNITS"] = 1 if inches else 4
    scale = 1 / 25.4 if inches else 1.0
    block = document.blocks.new("LAND")
    _number, _x, _y, w, h = pads[0]
    half = w / 2 * scale, h / 2 * scale
    ring = [(-half[0], -half[1]), (half[0], -half[1]), (half[0], half[1]), (-half[0], half[1])]
    if document.dxfversion == "AC1009":
        block.add_polyline2d(ring, close=True, dxfattribs={"layer": "Metal1"})
    else:
        block.add_hatch(dxfattribs={"layer": "Metal1"}).paths.add_polyline_path(ring, is_closed=True)
    space = document.modelspace()
    for number, x, y, _w, _h in pads:
        space.add_blockref("LAND", (x * scale, y * scale), dxfattribs={"layer": "Metal1"})
        space.add_text(number, height=0.2 * scale, dxfattribs={"layer": "Labels"}).set_placement((x * scale, y * scale))
    document.saveas(folder / name)
    return {
        "file": name,
        "name": f"KEL-{seed}",
        "pads": boxes(pads),
        "says_mm": not inches and document.dxfversion == "AC1009",
    }


if __name__ == "__main__":
    seed, folder = int(sys.argv[1]), Path(sys.argv[2])
    folder.mkdir(parents=True, exist_ok=True)
    chance = random.Random(seed)
    truth = [make(chance, folder, seed) for make in (gerber, svg, plotted, workbook, dxf)]
    print(",\n".join(json.dumps(line) for line in truth))
