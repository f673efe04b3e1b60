"""Clicks numbers in tables of foreign datasheets: measure_clicks.py FOLDER SEED [-v].

Up to six numbers of each table of dimensions are clicked. A click is right where the letter and the limits are those of
its row; asked where Eider would ask before it takes anything; taken wrong is what must not be.
"""

import json
import random
import re
import sys
from collections import Counter
from pathlib import Path
from typing import Any

from eider.datasheets import Datasheet
from eider.datasheets.documents.click_capture import read_length
from eider.datasheets.pages.page_frame import holds

CLICKS = 6
SAME = 0.0011


def is_same(wanted: list[float | None], limits: Any) -> bool:
    """Whether limits are those of the truth, where one number for all three counts as nominal."""
    got = [limits.min, limits.nom, limits.max]
    return all(
        (a is None) == (b is None) and (a is None or abs(a - b) < SAME) for a, b in zip(wanted, got, strict=True)
    )


def outcome(click: Any, truth: dict[str, list[float | None]]) -> str:
    """Whether a click is right, asked or taken wrong."""
    if not click.candidates:
        return "nothing read"
    first = click.candidates[0]
    right = first.letter in truth and first.limits is not None and is_same(truth[first.letter], first.limits)
    if right:
        return "right" if click.is_clear else "right, asked"
    if not first.letter and any(first.limits and is_same(wanted, first.limits) for wanted in truth.values()):
        return "right without its letter"
    return "taken wrong" if click.is_clear else "asked"


def main(folder: Path, seed: int, *, verbose: bool) -> None:
    """Measure all documents of a seed."""
    chance = random.Random(seed)
    totals: Counter[str] = Counter()
    by_style: dict[str, Counter[str]] = {}
    for document in json.loads((folder / f"truth-{seed}.json").read_text()):
        datasheet = Datasheet(folder / document["file"])
        for table in document["tables"]:
            if table["kind"] != "dimensions":
                continue
            page, box = datasheet.read(table["page"]), tuple(table["box"])
            numbers = [w for w in page.words if holds(box, w.box) and re.search(r"\d[.,]\d", w.text)]
            if table["style"] == "two variants":
                # The truth has the first package alone.
                known = {f"{value:.2f}" for limits in table["limits"].values() for value in limits if value is not None}
                numbers = [word for word in numbers if word.text in known]
            for word in chance.sample(numbers, min(CLICKS, len(numbers))):
                click = read_length(page, *word.middle)
                told = outcome(click, table["limits"])
                totals[told] += 1
                by_style.setdefault(table["style"], Counter())[told] += 1
                if verbose and told in ("taken wrong", "nothing read"):
                    first = click.candidates[0] if click.candidates else None
                    print(document["file"], table["style"], repr(word.text), told, first)
        datasheet.close()
    for style, counts in sorted(by_style.items()):
        print(f"{style:22}", dict(counts))
    count = sum(totals.values())
    print(f"{count} clicks:", ", ".join(f"{name} {n} ({100 * n / count:.1f} %)" for name, n in totals.most_common()))


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), verbose="-v" in sys.argv)
