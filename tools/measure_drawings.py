"""Reads foreign outline drawings and holds what is read against the truth: measure_drawings.py FOLDER SEED [-v].

A length is right where its text is at a line of its axis and extent; wrong where its text is put to another line.
"""

import json
import sys
from collections import Counter
from pathlib import Path
from typing import Any

from eider.datasheets import Datasheet
from eider.datasheets.figures.outline_drawings import OutlineDrawing, lettered_spans, read_outline
from eider.geometry.limits import Limits
from eider.model.package_sheet import PackageSheet
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter
from eider.packages.registry import family_of

WHOLE_PAGE = (0.0, 0.0, 595.0, 842.0)
SAME_POINTS = 1.6


def outcomes(drawing: OutlineDrawing, truth: dict[str, Any], told: list[str]) -> Counter[str]:
    """How many of the truth's lengths were read at their lines, at other lines, or not."""
    counts: Counter[str] = Counter()
    rest = list(drawing.lengths)
    for wanted in sorted(truth["dimensions"], key=lambda d: -d["points"]):
        same_text = [x for x in rest if _text(x.letter or x.text) == _text(wanted["text"])]
        axis = {"x": "horizontal", "y": "vertical"}[wanted["axis"]]
        right = [
            x
            for x in same_text
            if x.span.axis == axis and abs(x.span.stop - x.span.start - wanted["points"]) <= SAME_POINTS
        ]
        is_doubted = bool(same_text) and all(x.doubt for x in same_text)
        counts["other reach"] += bool(right) and right[0].reach != wanted["reach"]
        if right and right[0].reach != wanted["reach"]:
            told.append(f"{truth['file']} reach: {wanted} read {right[0].reach} {drawing.views}")
        found = "right" if right else "doubted" if is_doubted else "wrong" if same_text else "missing"
        counts[found] += 1
        if right:
            rest.remove(right[0])
        else:
            told.append(
                f"{truth['file']} {found}: {wanted} {[(x.span.axis, x.span.start, x.span.stop) for x in same_text]}"
            )
    counts["of no length"] = len(rest)
    told += [f"{truth['file']} of no length: {x.letter or x.text} {x.span}" for x in rest]
    return counts


def letters_right(drawing: OutlineDrawing, truth: dict[str, Any]) -> tuple[bool, bool]:
    """Whether the letters' meanings are right first, without the drawing and with it."""
    family = family_of(truth["family"])
    sheet = PackageSheet(name="", family=truth["family"], pins=truth["pins"])
    own = {standard: truth["own"].get(standard, standard) for standard in truth["values"]}
    rows = [
        DatasheetLetter(own[letter], Limits(nom=value) if letter == "e" else Limits(0.97 * value, None, 1.03 * value))
        for letter, value in truth["values"].items()
    ]
    wanted = {own[letter]: letter for letter in truth["values"]}
    firsts = [propose_drawn_letters(family, sheet, rows, spans)[:1] for spans in ((), lettered_spans(drawing))]
    return tuple(bool(first) and first[0].letters == wanted for first in firsts)  # type: ignore[return-value]  # two


def _text(text: str) -> str:
    return text.replace(" ", "").removesuffix("mm")


def main(folder: Path, seed: int, *, verbose: bool) -> None:
    """Measure all drawings of a seed."""
    told: list[str] = []
    letters: Counter[str] = Counter()
    by_engine: dict[str, Counter[str]] = {}
    for truth in json.loads((folder / f"truth-{seed}.json").read_text()):
        datasheet = Datasheet(folder / truth["file"])
        drawing = read_outline(datasheet, 1, WHOLE_PAGE)
        datasheet.close()
        counts = outcomes(drawing, truth, told)
        if truth["letters"]:
            alone, drawn = letters_right(drawing, truth)
            letters.update(documents=1, alone=alone, drawn=drawn)
            told += [] if drawn else [f"{truth['file']} letters: {truth['own']} {truth['values']}"]
        engine = truth["file"].rsplit("-", 1)[1].removesuffix(".pdf")
        by_engine.setdefault(engine, Counter()).update(counts)
    if verbose:
        print("\n".join(told))
    total: Counter[str] = Counter()
    for engine, counts in sorted(by_engine.items()):
        total.update(counts)
        print(f"{engine:12}", dict(counts))
    told_of_letters = f"{letters['alone']} by geometry alone, {letters['drawn']} with the drawing"
    print(f"letters right first in {letters['documents']} drawings: {told_of_letters}")
    print(
        f"{'all':12}",
        dict(total),
        f"{100 * total['right'] / sum(total[k] for k in ('right', 'doubted', 'wrong', 'missing')):.1f} % right",
    )


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), verbose="-v" in sys.argv)
