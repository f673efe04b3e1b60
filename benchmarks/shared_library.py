"""Measures a big library that is shared: `shared_library.py FOLDER`, where `tools/big_library` made FOLDER.

It is put on a bare repository beside it, cloned by two people, and changed there; the folder itself stays as it is.
"""

import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.parts import LIBRARIAN
from eider.library import Library, open_library
from eider.library.git.commit_reading import Person
from eider.library.index.item_reader import ItemHead
from eider.library.releases.release_commit import release_bundles
from eider.services.releasing.impact import impact_of
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.claims import claim_part, give_back
from eider.services.sharing.synchronising import open_shared, synchronise

REVISIONS, USERS, CLAIMS = 100, 5000, 5
OTHER = Person("Skerry reviewer", "reviewer@skerry.example")


def timed(what: str, work: Callable[[], object]) -> None:
    """Print how long something takes."""
    begin = time.perf_counter()
    said = work()
    print(f"{what}: {time.perf_counter() - begin:.2f} s{f' ({said})' if isinstance(said, str) else ''}", flush=True)


def _impact(library: Library) -> str:
    """The lands that most parts use are changed; what that would do to so many of them."""
    row = library.find_parts("LYN-C", limit=1).rows[0]
    part = library.load(row.id)
    lands = part.footprint
    head = ItemHead(lands.id, "footprint", lands.name)
    changed = rerun_recipes(replace(part, footprint=replace(lands, level="A")), library.rulebook()).footprint
    users = len(library.index.parts_using(lands.id))
    begin = time.perf_counter()
    found = impact_of(library, head, changed)
    spent = time.perf_counter() - begin
    each = spent / max(len(found), 1)
    return f"{len(found)} of {users} parts, {1000 * each:.1f} ms each, {USERS} in {each * USERS:.0f} s"


def main() -> None:
    """Print every figure."""
    source = Path(sys.argv[1])
    with tempfile.TemporaryDirectory(dir=source.parent) as temporary:
        place = Path(temporary)
        subprocess.run(["git", "clone", "--quiet", "--bare", str(source), str(place / "server.git")], check=True)
        address = f"file://{place}/server.git"
        timed("clone and check out", lambda: open_shared(address, place / "ours", LIBRARIAN).close())
        timed("first index", lambda: open_library(place / "ours").index.refresh())
        open_shared(address, place / "theirs", OTHER).close()
        ours, theirs = open_library(place / "ours"), open_library(place / "theirs")
        theirs.index.refresh()
        rows = theirs.find_parts("LYN-C", limit=REVISIONS).rows
        made = [fact_edits.set_fact(theirs.load(row.id), "Compliance", "another lot") for row in rows]
        timed(f"release of {REVISIONS} parts with their push", lambda: release_bundles(theirs, made, "another lot"))
        timed(f"synchronise {REVISIONS} revisions", lambda: f"{len(synchronise(ours).received)} received")
        timed("synchronise nothing", lambda: synchronise(ours))
        for row in rows[:CLAIMS]:
            timed("claim", lambda row=row: claim_part(ours, row.id, row.name, "measured"))
            timed("give back", lambda row=row: give_back(ours, row.id))
        one = fact_edits.set_fact(ours.load(rows[0].id), "Compliance", "one lot more")
        timed("release of one part with checks and push", lambda: release_part(ours, one, "one"))
        timed("impact", lambda: _impact(ours))


if __name__ == "__main__":
    main()
