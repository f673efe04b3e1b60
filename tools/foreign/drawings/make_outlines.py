"""Makes outline drawings by programs of others, and their truth: make_outlines.py COUNT SEED FOLDER.

Each document has one page with two views of an invented package; half have letters at their lines, half the lengths.
The programs are those of tools/foreign/datasheets.
"""

import json
import random
import sys
from pathlib import Path
from typing import Any

from drawn_marks import a_style, asides, draw, turned_marks
from engines import ENGINES, available
from package_views import FAMILIES, Dimension, PackageView

STYLES: dict[str, list[dict[str, str]]] = {
    "gullwing-dual": [{}, {"E": "HE"}, {"E": "H", "E1": "E", "b": "B"},
                      {"E": "L", "L": "Lp", "D": "B", "E1": "A", "A": "C", "b": "bp"},
                      {"E": "K", "E1": "F", "D": "J", "e": "P", "b": "N", "A": "M", "A1": "Q", "L": "R"}],
    "no-lead-quad": [{}, {"D2": "Dh", "E2": "Eh"}, {"D": "A", "E": "B", "A": "H", "e": "P", "D2": "F", "E2": "G"}],
    "chip": [{}, {"D": "L", "E": "W", "A": "T", "L": "E"}, {"D": "A", "E": "B", "A": "C", "L": "G"}],
}  # fmt: skip


def written(chance: random.Random, value: float, how: str) -> str:
    """A length as a drawing says it."""
    if how == "tolerance":
        return f"{value:.2f}±{chance.choice((0.05, 0.1)):.2f}"
    return f"{value:.2f}"


def reach(view: PackageView, dimension: Dimension) -> str:
    """How a length lies in its view: from end to end, from one end inwards, or within."""
    x0, y0, x1, y1 = view.box()
    low, high = (x0, x1) if dimension.axis == "x" else (y0, y1)
    ends = (abs(dimension.start - low) < 0.001) + (abs(dimension.stop - high) < 0.001)
    return ("inner", "edge", "whole")[ends]


def make(number: int, seed: int, folder: Path) -> dict[str, Any]:
    """One document and its truth."""
    chance = random.Random(seed * 1000 + number)
    engine = available()[number % len(available())]
    family = chance.choice(list(FAMILIES))
    views, values, pins = FAMILIES[family](chance)
    style, own = a_style(chance), chance.choice(STYLES[family])
    how = chance.choice(("letter", "letter", "plain", "tolerance"))
    texts = {
        letter: own.get(letter, letter) if how == "letter" else written(chance, value, how)
        for letter, value in values.items()
    }
    box = views[0].box()
    scale = min(190 / (box[2] - box[0]), 170 / (box[3] - box[1]))
    marks, truth = [], []
    with_asides = chance.random() < 0.6
    titles = ("TOP VIEW", "SIDE VIEW")
    for view, middle, title in zip(views, ((300.0, 540.0), (300.0, 220.0)), titles, strict=True):
        turns = style.quarter and view is views[0]
        made = draw(view, style, scale, middle, texts, turns=turns)
        marks += turned_marks(made, middle) if turns else made
        marks += asides(view, style, scale, middle, title) if with_asides and not turns else []
        for d in view.dimensions:
            axis = {"x": "y", "y": "x"}[d.axis] if turns else d.axis
            truth.append({"letter": d.letter, "text": texts[d.letter], "axis": axis,
                          "reach": reach(view, d),
                          "points": round((d.stop - d.start) * scale * (style.stretch if d.axis == "y" else 1), 2),
                         })  # fmt: skip
    path = folder / f"o{seed}-{number:03}-{engine}.pdf"
    ENGINES[engine][1](marks, ["Package outline", "All dimensions in mm"], path)
    return {"file": path.name, "family": family, "pins": pins, "own": own,
            "values": values, "letters": how == "letter", "scale": scale,
            "stretched": style.stretch != 1, "style": vars(style), "dimensions": truth}  # fmt: skip


if __name__ == "__main__":
    count, seed, folder = int(sys.argv[1]), int(sys.argv[2]), Path(sys.argv[3]).resolve()
    folder.mkdir(parents=True, exist_ok=True)
    made = [make(number, seed, folder) for number in range(count)]
    (folder / f"truth-{seed}.json").write_text(
        "[\n" + ",\n".join(json.dumps(t, ensure_ascii=False) for t in made) + "\n]\n"
    )
    for rest in folder.iterdir():
        if rest.suffix in (".html", ".tex", ".ps", ".aux", ".log"):
            rest.unlink()
    print(f"{len(made)} drawings, {sum(len(t['dimensions']) for t in made)} dimensions")
