"""Reads foreign drawings of suggested lands and holds them against the truth: measure_lands.py FOLDER SEED [-v].

A pattern is right where each of its rows gets the outside, gap and width that its drawing says, and the middle land its
size; in doubt where something is left out and said; wrong where a row or land gets another size.
"""

import json
import sys
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import msgspec

from eider.commands.datasheets.drafted_lands import use_suggestion
from eider.commands.parts.new_parts import new_part
from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.geometry.limits import Limits
from eider.lands.manufacturer_pattern import land_lengths
from eider.model.bundle import Bundle
from eider.model.footprint import SuggestedLands
from eider.model.library import Category, LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.rulebooks import standard_rulebook
from eider.services.datasheets.suggested_lands import lands_of_sheet, suggested_lands

# A middle distance is written with two places: twice its half is what rows differ by.
SAME = 0.011
replace = msgspec.structs.replace


def part_of(truth: dict[str, Any]) -> Bundle:
    """A part with the package whose lands are drawn."""
    dims = {key: Dimension(f"{v:g}", Limits(nom=v)) for key, v in truth["package"].items()}
    made = new_part("LANDS", "ic", LibrarySettings(name="measured", categories={"ic": Category("IC", "U")}))
    return replace(made, sheet=PackageSheet(name="", family=truth["family"], pins=truth["pins"], dims=dims))


def outcome(given: Sequence[SuggestedLands], doubts: Sequence[str], truth: dict[str, Any]) -> tuple[str, str]:
    """Whether a pattern was read right, with a doubt, or wrong, and why."""
    for lands in given:
        lengths = land_lengths(lands, {})
        if lengths is None:
            return "wrong", f"{lands.group} is not whole"
        wanted = [truth["middle"] or (0, 0)] if "width" in lengths else [[r[k] for k in "ZGX"] for r in truth["rows"]]
        if not any(max(abs(a - b) for a, b in zip(lengths.values(), w, strict=True)) < SAME for w in wanted):
            return "wrong", f"{lands.group}: {lengths}"
    if len(given) == len(truth["rows"]) + (truth["middle"] is not None):
        return "right", ""
    return ("doubted" if doubts else "silent"), "; ".join(doubts)


def main(folder: Path, seed: int, *, verbose: bool) -> None:
    """Measure all drawings of a seed."""
    counts: Counter[str] = Counter()
    for truth in json.loads((folder / f"truth-{seed}.json").read_text()):
        datasheet = Datasheet(folder / truth["file"])
        bundle = part_of(truth)
        laid = lands_of_sheet(bundle.sheet, bundle.footprint.level, standard_rulebook())
        read = suggested_lands(datasheet, tuple(survey(datasheet)), laid)
        for _, suggestion in read:
            bundle = use_suggestion(bundle, suggestion, "", "")
        doubts = [doubt for _, suggestion in read for doubt in suggestion.doubts]
        state, why = outcome(bundle.footprint.suggested, doubts, truth)
        datasheet.close()
        counts[state] += 1
        counts["found"] += bool(read)
        if verbose and state != "right":
            print(truth["file"], state, why, [item.box for item, _ in read], truth["rows"], truth["middle"])
    print(dict(counts))


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), verbose="-v" in sys.argv)
