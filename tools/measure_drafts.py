"""Drafts parts from whole foreign datasheets and holds them against the truth: measure_drafts.py FOLDER SEED [-v].

Of each draft: whether family, pins, lengths and suggested lands are those that were printed, how many doubts it has,
how many of its values would have to be corrected, and how many of these no doubt speaks of.
"""

import json
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from eider.demo.parts import LIBRARIAN
from eider.errors import EiderError
from eider.geometry.lengths import parse_limits
from eider.geometry.limits import Limits
from eider.lands.manufacturer_pattern import land_lengths
from eider.library import init_library
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.packages.registry import family_of
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet

# Half of a distance between middles is written with two places.
SAME = 0.011
MOST_DOUBTS = MOST_CORRECTIONS = 10


def faults(draft: DatasheetDraft, truth: dict[str, Any]) -> Iterator[tuple[str, bool]]:
    """What of a draft is not as it was printed, and whether a doubt speaks of it."""
    bundle, doubted = draft.bundle, {doubt.address for doubt in draft.doubts}
    if bundle.sheet.family != truth["family"]:
        yield f"family {bundle.sheet.family}", "sheet.family" in doubted
        return
    pins = {pin.number: pin.text for pin in bundle.symbol.pins}
    for number, name, *_ in truth["pin_rows"]:
        if pins.pop(number, None) is None:
            yield f"pin {number} {name}", "symbol" in doubted or "source" in doubted
    yield from ((f"pin {number} too many", False) for number in pins)
    for letter, wanted in truth["limits"].items():
        known = bundle.sheet.dims.get(letter)
        got = parse_limits(known.text) if known and known.text else None
        if family_of(truth["family"]).letter(letter) is None:
            continue
        if got != Limits(**wanted):
            yield (
                f"{letter} {known.text if known else ''}",
                bool({str(DimensionAddress(letter)), "sheet.dims"} & doubted),
            )
    yield from _land_faults(bundle, truth, is_doubted="lands" in doubted or "source" in doubted)


def _land_faults(bundle: Bundle, truth: dict[str, Any], *, is_doubted: bool) -> Iterator[tuple[str, bool]]:
    wanted = [[row[k] for k in "ZGX"] for row in truth["rows"]] + ([truth["middle"]] if truth["middle"] else [])
    given = [land_lengths(lands, {}) for lands in bundle.footprint.suggested]
    for lengths in given:
        near = [w for w in wanted if lengths and len(w) == len(lengths)
                and max(abs(a - b) for a, b in zip(lengths.values(), w, strict=True)) < SAME]  # fmt: skip
        if not near:
            yield f"lands {lengths}", is_doubted
    missing = len(wanted) - len(given)
    yield from ((f"lands of {missing} groups", is_doubted) for _ in range(max(missing, 0)))


def main(folder: Path, seed: int, *, verbose: bool) -> None:
    """Measure all datasheets of a seed."""
    counts: Counter[str] = Counter()
    library = init_library(Path(tempfile.mkdtemp()) / "library", "Measured", LIBRARIAN)
    for truth in json.loads((folder / f"truth-{seed}.json").read_text()):
        counts["datasheets"] += 1
        try:
            draft = draft_from_datasheet(library, folder / truth["file"], DraftChoice(name=truth["name"]))
        except EiderError as fault:
            counts["refused"] += 1
            print(truth["file"], fault)
            continue
        found = list(faults(draft, truth))
        silent = [what for what, is_doubted in found if not is_doubted]
        counts["right family"] += draft.bundle.sheet.family == truth["family"]
        counts["whole"] += not found
        counts["silently wrong"] += len(silent)
        counts["doubts"] += len(draft.doubts)
        is_short = len(draft.doubts) <= MOST_DOUBTS and len(found) <= MOST_CORRECTIONS
        counts["complete"] += is_short and not silent and draft.bundle.sheet.family == truth["family"]
        if verbose and (found or len(draft.doubts) > MOST_DOUBTS):
            print(truth["file"], truth["family"], truth["own"], found)
            print("   ", [(d.address, d.reading, d.reason[:70]) for d in draft.doubts])
    print(dict(counts))


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), verbose="-v" in sys.argv)
