"""Damages datasheets and drafts parts from them: hostile_datasheets.py FOLDER [COUNT] [SEED].

Each document is a PDF of the folder with bytes changed, cut out, doubled or missing at the end; besides, a page of a
million characters, one of text a hundredth of a point high, and one of a thousand tables over each other. Prints how
many became drafts, how many were refused in words, every other fault, and the slowest. Exit status 1 if anything else
than a draft or a refusal came, or one took longer than LONGEST.
"""

import random
import signal
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Iterator
from multiprocessing import Pool
from pathlib import Path
from types import FrameType
from typing import NamedTuple

from reportlab.pdfgen.canvas import Canvas

from eider.errors import EiderError
from eider.library import init_library
from eider.library.git.commit_reading import Person
from eider.services.datasheets.datasheet_drafts import DraftChoice, draft_from_datasheet

LONGEST, HANGS = 30.0, 120


class Outcome(NamedTuple):
    """What became of a document, in how many seconds."""

    file: str
    what: str
    seconds: float


def damaged(source: bytes, chance: random.Random) -> bytes:
    """A document with one of five kinds of damage."""
    data, kind = bytearray(source), chance.randrange(5)
    at = chance.randrange(len(data))
    if kind == 0:
        for _ in range(chance.choice((1, 10, 200))):
            data[chance.randrange(len(data))] = chance.randrange(256)
    elif kind == 1:
        del data[at : at + chance.choice((1, 50, 5_000))]
    elif kind == 2:
        data[at:at] = data[max(0, at - 2_000) : at]
    elif kind == 3:
        del data[at:]
    else:
        number = str(chance.choice((0, -1, 10**9, 65_536, 1e308))).encode()
        digits = [i for i, byte in enumerate(data[:-1]) if 48 <= byte <= 57]
        place = chance.choice(digits)
        data[place : place + 1] = number
    return bytes(data)


def made_to_hurt(folder: Path) -> Iterator[Path]:
    """Documents that are valid and too much."""
    canvas = Canvas(str(folder / "million-characters.pdf"), pageCompression=1)
    text = canvas.beginText(10, 800)
    text.setFont("Helvetica", 1)
    for _ in range(2_000):
        text.textLine("0.65 1.20 max " * 36)
    canvas.drawText(text)
    canvas.save()
    yield folder / "million-characters.pdf"
    canvas = Canvas(str(folder / "tiny-text.pdf"))
    canvas.setFont("Helvetica", 0.01)
    for row in range(2_000):
        canvas.drawString(10, 800 - row * 0.01, "A 1.10 1.20 1.30")
    canvas.save()
    yield folder / "tiny-text.pdf"
    canvas = Canvas(str(folder / "thousand-tables.pdf"), pageCompression=1)
    canvas.setFont("Helvetica", 8)
    for number in range(1_000):
        x, y = 20 + number % 40, 400 + number % 300
        for row, words in enumerate((("Symbol", "Min", "Max"), ("A", "1.0", "1.2"), ("b", "0.2", "0.3"))):
            for column, word in enumerate(words):
                canvas.rect(x + 60 * column, y - 12 * row, 60, 12)
                canvas.drawString(x + 60 * column + 2, y - 12 * row + 2, word)
    canvas.save()
    yield folder / "thousand-tables.pdf"


def _too_long(_signal: int, _frame: FrameType | None) -> None:
    raise TimeoutError(f"no end after {HANGS} s")


def drafted(path: Path) -> Outcome:
    """Draft a part from a document, in a library of its own."""
    signal.signal(signal.SIGALRM, _too_long)
    signal.alarm(HANGS)
    begun = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        try:
            library = init_library(Path(folder) / "library", "Hostile", Person("Nobody", "nobody@example.com"))
            draft_from_datasheet(library, path, DraftChoice(name="HOSTILE-1", category="ic"))
            what = "drafted"
        except EiderError:
            what = "refused"
        except Exception:
            what = traceback.format_exc(limit=-3)
        finally:
            signal.alarm(0)
    return Outcome(path.name, what, time.monotonic() - begun)


def main(folder: Path, count: int, seed: int) -> int:
    """Make the documents, draft from each, and tell what came."""
    sources, chance = sorted(folder.glob("*.pdf")), random.Random(seed)
    with tempfile.TemporaryDirectory() as made:
        paths = list(made_to_hurt(Path(made)))
        for number in range(count):
            source = chance.choice(sources)
            path = Path(made) / f"{number:04d}-{source.name}"
            path.write_bytes(damaged(source.read_bytes(), chance))
            paths.append(path)
        with Pool(2) as pool:
            outcomes = list(pool.imap_unordered(drafted, paths))
    kinds = Counter(o.what if o.what in ("drafted", "refused") else "fault" for o in outcomes)
    slow = sorted(outcomes, key=lambda o: -o.seconds)
    for outcome in outcomes:
        if outcome.what not in ("drafted", "refused"):
            print(f"{outcome.file}: {outcome.what}")
    print(", ".join(f"{what} {number}" for what, number in sorted(kinds.items())))
    print("slowest: " + ", ".join(f"{o.file} {o.seconds:.1f} s ({o.what})" for o in slow[:4]))
    return 1 if kinds["fault"] or slow[0].seconds > LONGEST else 0


if __name__ == "__main__":
    number = int(sys.argv[2]) if len(sys.argv) > 2 else 200
    sys.exit(main(Path(sys.argv[1]), number, int(sys.argv[3]) if len(sys.argv) > 3 else 1))
