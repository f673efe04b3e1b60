"""Makes suggested land patterns by programs of others, and their truth: make_lands.py COUNT SEED FOLDER.

Each document has one page with one pattern; some have letters at its lines and a table of their lengths below it, some
the package above it. The programs are those of tools/foreign/datasheets.
"""

import json
import random
import sys
from itertools import pairwise
from pathlib import Path
from typing import Any

from drawn_marks import Mark, a_style, draw, grid
from engines import ENGINES, available
from land_views import PATTERNS, LandPattern
from package_views import FAMILIES, rectangle

TITLES = ("RECOMMENDED LAND PATTERN", "Suggested land pattern", "Recommended PCB layout", "Recommended footprint",
          "Recommended soldering footprint", "Suggested pad layout", "Solder pad layout")  # fmt: skip
OWN = ({}, {"Y": "L", "X": "W", "C": "S", "W": "M"},
       {"Z": "A", "G": "B", "Y": "C", "X": "D", "C": "E", "e": "F", "n": "H"},
       {"Y": "Y1", "X": "X1", "C": "C1", "W": "X2", "H": "Y2", "e": "E"})  # fmt: skip


def lengths(pattern: LandPattern) -> dict[str, float]:
    """What each dimension of the drawing measures, in mm."""
    known = {d.letter: round(d.stop - d.start, 3) for d in pattern.view.dimensions}
    return {letter: round(value, 2) for letter, value in known.items()}


def written(chance: random.Random, letter: str, value: float, count: int) -> str:
    """A length as a drawing says it; of the width of all lands some say how many there are."""
    if letter == "X" and count > 2 and chance.random() < 0.4:
        return f"{count}X {value:.2f}" if chance.random() < 0.6 else f"{value:.2f} ({count}X)"
    if letter == "e" and chance.random() < 0.3:
        return f"{value:.2f} TYP"
    return f"{value:.2f}"


def letter_table(rows: list[tuple[str, str]], at: tuple[float, float]) -> list[Mark]:
    """A ruled table of letters and lengths as marks; `at` is its upper left corner."""
    return grid([("Dim", "mm"), *rows], [60.0, 70.0], 7.5, at, line=2.2)


def make(number: int, seed: int, folder: Path) -> dict[str, Any]:
    """One document and its truth."""
    chance = random.Random(seed * 1000 + number)
    engine = available()[number % len(available())]
    family = chance.choice(list(PATTERNS))
    views, package, pins = FAMILIES[family](chance)
    pattern = PATTERNS[family](chance, package, pins)
    style, values = a_style(chance), lengths(pattern)
    own, is_lettered = chance.choice(OWN), chance.random() < 0.3
    named = {k: own.get(k[0], k[0]) + k[1:] for k in values}
    texts = named if is_lettered else {k: written(chance, k, v, pattern.pins) for k, v in values.items()}
    box = pattern.view.box()
    scale = min(170 / (box[2] - box[0]), 150 / (box[3] - box[1]))
    middle = (300.0, 330.0)
    style.circled = False
    shade = chance.choice((None, None, 0.8, 0.6, 0.0))
    marks = draw(pattern.view, style, scale, middle, texts, shade=shade)
    if chance.random() < 0.3:
        # The body, dashed, as some houses show it.
        half = 0.92 * box[2] * scale, 0.97 * box[3] * scale * style.stretch
        outline = rectangle(middle[0] - half[0], middle[1] - half[1], middle[0] + half[0], middle[1] + half[1])
        marks += [Mark("line", [a, b], style.thin) for p, q in pairwise(outline)
                  for a, b in dashes(p, q)]  # fmt: skip
    top = max(p[1] for mark in marks for p in mark.points)
    marks.append(Mark("text", [(300.0, top + 24)], text=chance.choice(TITLES), size=10))
    if is_lettered:
        marks += letter_table([(named[k], f"{v:.2f}") for k, v in values.items()], (90.0, 150.0))
    elif chance.random() < 0.5:
        outline_texts = {d.letter: d.letter for d in views[0].dimensions}
        size = views[0].box()
        marks += draw(views[0], style, min(110 / (size[2] - size[0]), 90 / (size[3] - size[1])), (300.0, 640.0),
                      outline_texts)  # fmt: skip
        marks.append(Mark("text", [(300.0, 745.0)], text="Package outline", size=10))
    path = folder / f"l{seed}-{number:03}-{engine}.pdf"
    ENGINES[engine][1](marks, ["NVK demonstration", "All dimensions in mm"], path)
    rows = [{"axis": r.axis, "Z": r.Z, "G": r.G, "X": r.X} for r in pattern.rows]
    return {"file": path.name, "family": pattern.family, "pins": pattern.pins, "package": pattern.package,
            "rows": rows, "middle": pattern.middle, "letters": is_lettered, "shade": shade,
            "lengths": [{"letter": k, "text": texts[k], "value": v} for k, v in values.items()]}  # fmt: skip


def dashes(a: tuple[float, float], b: tuple[float, float]) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    """A line as dashes of five points with gaps of three."""
    long = abs(b[0] - a[0]) + abs(b[1] - a[1])
    way = (b[0] - a[0]) / long, (b[1] - a[1]) / long
    starts = [i * 8.0 for i in range(int(long / 8) + 1)]
    return [((a[0] + way[0] * s, a[1] + way[1] * s),
             (a[0] + way[0] * min(s + 5, long), a[1] + way[1] * min(s + 5, long))) for s in starts]  # fmt: skip


if __name__ == "__main__":
    count, seed, folder = int(sys.argv[1]), int(sys.argv[2]), Path(sys.argv[3]).resolve()
    folder.mkdir(parents=True, exist_ok=True)
    made = [make(number, seed, folder) for number in range(count)]
    (folder / f"truth-{seed}.json").write_text("[\n" + ",\n".join(json.dumps(t) for t in made) + "\n]\n")
    for rest in folder.iterdir():
        if rest.suffix in (".html", ".tex", ".ps", ".aux", ".log"):
            rest.unlink()
    print(f"{len(made)} patterns")
