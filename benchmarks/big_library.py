"""Measures a library that `tools/big_library` made: `big_library.py FOLDER`. It releases sixty parts anew there."""

import resource
import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

from eider.commands.facts import fact_edits
from eider.library import open_library
from eider.library.git.housekeeping import keep_house
from eider.library.releases.release_commit import release_bundles
from eider.views.parts_list import MOST_LISTED

RELEASES = 60
SEARCHES = ("", "NVK-00100", "LYN-C0123", "100 nF", "lyn*77", "capacitor lyn")


def timed(work: Callable[[], object]) -> float:
    """How long something takes (ms)."""
    begin = time.perf_counter()
    work()
    return (time.perf_counter() - begin) * 1000


def main() -> None:
    """Print every figure."""
    folder = Path(sys.argv[1])
    print(f"open {timed(lambda: open_library(folder)):.0f} ms")
    library = open_library(folder)
    print(f"index brought up to date {timed(library.index.refresh):.0f} ms")
    for words in SEARCHES:
        first = timed(lambda words=words: library.find_parts(words, limit=MOST_LISTED))
        again = statistics.median(
            timed(lambda words=words: library.find_parts(words, limit=MOST_LISTED)) for _ in range(9)
        )
        total = library.find_parts(words, limit=0).total
        print(f"search “{words}”: {total} hits, first {first:.0f} ms, then {again:.0f} ms")
    times = []
    for row in [row for row in library.search("nvk") if row.name.startswith("NVK")][:RELEASES]:
        bundle = fact_edits.set_fact(library.load(row.id), "Compliance", f"measured {time.time_ns()}")
        times.append(timed(lambda bundle=bundle: release_bundles(library, (bundle,), "measured")))
    ordered = sorted(times)
    print(
        f"release of one part: median {statistics.median(times):.0f} ms, 95 % {ordered[int(len(times) * 0.95)]:.0f} ms"
    )
    print(f"git's index and packing after {len(times)} releases {timed(lambda: keep_house(library)):.0f} ms")
    print(f"memory {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")


if __name__ == "__main__":
    main()
