"""How many readings of a house's second and third datasheet are asked about, once its first was looked through.

measure_houses.py [--seed N]: ten houses, three sheets each. Every reading of the first sheet is confirmed, its letters
are set to what they mean where they were read otherwise, and what that teaches is kept.
"""

import argparse
import sys
import tempfile
from contextlib import closing
from pathlib import Path

import msgspec

sys.path.insert(0, str(Path(__file__).parent))

from foreign.houses import HOUSES, PACKAGES, Sheet, house_sheets

from eider.datasheets import Datasheet
from eider.library import init_library
from eider.library.git.commit_reading import Person
from eider.model.bundle import Bundle
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet
from eider.services.datasheets.houses import learn_house, see_rules

replace = msgspec.structs.replace


def measured(folder: Path, house: int, seed: int) -> tuple[list[int], int]:
    """The readings to confirm of each of a house's sheets in turn, and how many values of the last two are wrong and
    not among these."""
    library = init_library(folder / "library", person=Person("Lia", "lia@example.org"))
    sheets = house_sheets(folder, house, seed)
    counts, silent = [], 0
    for number, sheet in enumerate(sheets):
        path = folder / f"{sheet.name}.pdf"
        draft = draft_from_datasheet(library, path, DraftChoice(sheet.name, "ic", sheet.package))
        counts.append(len(draft.doubts))
        silent += _wrong_in_silence(draft, sheet) if number else 0
        with closing(Datasheet(path)) as datasheet:
            if number == 1:
                see_rules(library, datasheet)
            learn_house(library, datasheet, _corrected(draft.bundle, sheet), draft.doubts, path.name)
    return counts, silent


def _corrected(bundle: Bundle, sheet: Sheet) -> Bundle:
    """The part with its letters as the sheet means them."""
    aliases = {own: standard for own, standard in sheet.letters.items() if own != standard}
    return replace(bundle, sheet=replace(bundle.sheet, aliases=aliases))


def _wrong_in_silence(draft: DatasheetDraft, sheet: Sheet) -> int:
    doubted = {doubt.address for doubt in draft.doubts}
    wrong = 0
    for standard, (low, high) in PACKAGES[sheet.package].items():
        found = draft.bundle.sheet.dims.get(standard)
        limits = found.limits if found else None
        is_right = (
            limits is not None and abs(limits.lower - float(low)) < 1e-6 and abs(limits.upper - float(high)) < 1e-6
        )
        wrong += limits is not None and not is_right and f"sheet.dims.{standard}" not in doubted
    return wrong


def main() -> None:
    """Print a line for each house, and the sums."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seed", type=int, default=1)
    seed = parser.parse_args().seed
    sums, wrong = [0, 0, 0], 0
    for house in range(len(HOUSES)):
        with tempfile.TemporaryDirectory() as folder:
            counts, silent = measured(Path(folder), house, seed)
        sums = [a + b for a, b in zip(sums, counts, strict=True)]
        wrong += silent
        print(f"{HOUSES[house]:22} {counts} wrong in silence {silent}")
    print(f"all: {sums}; the second needs {sums[1] / max(sums[0], 1):.0%} of the first; wrong in silence {wrong}")


if __name__ == "__main__":
    main()
