"""Makes datasheets with tables by programs of others, and their truth: make.py COUNT SEED FOLDER.

The programs are no part of Eider's environment: apt-get install chromium groff ghostscript texlive-latex-recommended
libreoffice-writer-nogui, pip install weasyprint. Each document has one to four tables; where each stands is found by
the lines that are before and after it, with PDFium's plain text.
"""

import json
import random
import sys
from pathlib import Path
from typing import Any

import pypdfium2
from engines import AFTER, BEFORE, ENGINES, available
from table_styles import DIMENSION_STYLES, PIN_STYLES, Table, electrical

FACES = ("Helvetica, Arial, sans-serif", "'Liberation Sans Narrow', Arial Narrow, sans-serif", "Times, serif",
         "'DejaVu Sans', sans-serif", "'Liberation Mono', monospace")  # fmt: skip


def tables_of(chance: random.Random) -> list[Table]:
    """One to four tables of a document."""
    made = [chance.choice(DIMENSION_STYLES)(chance) for _ in range(chance.choice((1, 2, 2)))]
    if chance.random() < 0.6:
        made.append(chance.choice(PIN_STYLES)(chance))
    if chance.random() < 0.4:
        made.append(electrical(chance))
    chance.shuffle(made)
    for table in made:
        table.ruled = table.ruled and chance.random() < 0.7
    return made


def places(path: Path, count: int) -> list[tuple[int, tuple[float, float, float, float]]]:
    """Page and box of what is between the lines before and after each table."""
    document = pypdfium2.PdfDocument(path)
    found = []
    for page_number in range(len(document)):
        page = document[page_number].get_textpage()
        befores, afters = _lines(page, BEFORE[:20]), _lines(page, AFTER[:17])
        for (_x0, bottom, _x1, _top), (_a0, _abottom, _a1, top) in zip(befores, afters, strict=True):
            boxes = [page.get_charbox(i) for i in range(page.count_chars()) if page.get_text_range(i, 1).strip()]
            inside = [b for b in boxes if b[1] > top and b[3] < bottom]
            found.append((page_number + 1, _joined(inside)))
    if len(found) != count:
        raise ValueError(f"{path.name}: {len(found)} of {count} tables are found")
    return found


def _lines(page: Any, words: str) -> list[tuple[float, float, float, float]]:
    found, searcher = [], page.search(words)
    while (at := searcher.get_next()) is not None:
        found.append(
            _joined([page.get_charbox(i) for i in range(at[0], at[0] + at[1]) if page.get_text_range(i, 1).strip()])
        )
    return sorted(found, key=lambda b: -b[1])


def _joined(boxes: list[tuple[float, float, float, float]]) -> tuple[float, float, float, float]:
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def careless(chance: random.Random, box: tuple[float, float, float, float]) -> list[float]:
    """A box as a person draws it: a few points off, the caption mostly inside."""
    x0, y0, x1, y1 = box
    return [
        round(v, 1)
        for v in (
            x0 - chance.uniform(1, 9),
            y0 - chance.uniform(1, 5),
            x1 + chance.uniform(1, 9),
            y1 + chance.uniform(1, 4),
        )
    ]


def make(number: int, seed: int, folder: Path) -> dict[str, Any] | None:
    """One document and its truth; None where its engine could not lay it out."""
    chance = random.Random(seed * 1000 + number)
    engine = available()[number % len(available())]
    tables = tables_of(chance)
    path = folder / f"d{seed}-{number:03}-{engine}.pdf"
    ENGINES[engine]([tables], path, chance.choice(FACES), chance.choice((7.0, 8.0, 9.0, 10.0)))
    try:
        where = places(path, len(tables))
    except (ValueError, pypdfium2.PdfiumError, FileNotFoundError) as fault:
        print(f"{path.name}: {fault}", file=sys.stderr)
        path.unlink(missing_ok=True)
        return None
    return {
        "file": path.name,
        "tables": [
            {"kind": t.kind, "style": t.style, "ruled": t.ruled, "page": page, "box": careless(chance, box),
             "limits": t.limits, "pins": t.pins}
            for t, (page, box) in zip(tables, where, strict=True)
        ],
    }  # fmt: skip


if __name__ == "__main__":
    count, seed, folder = int(sys.argv[1]), int(sys.argv[2]), Path(sys.argv[3]).resolve()
    folder.mkdir(parents=True, exist_ok=True)
    made = [truth for number in range(count) if (truth := make(number, seed, folder))]
    (folder / f"truth-{seed}.json").write_text(
        "[\n" + ",\n".join(json.dumps(t, ensure_ascii=False) for t in made) + "\n]\n"
    )
    for rest in folder.iterdir():
        if rest.suffix in (".html", ".tex", ".roff", ".ps", ".aux", ".log"):
            rest.unlink()
    print(f"{len(made)} documents, {sum(len(t['tables']) for t in made)} tables")
