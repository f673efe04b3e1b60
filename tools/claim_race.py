"""Two people claim the same item at once, round after round, each in a process of their own: exactly one may win.

`PYTHONPATH=src .venv/bin/python tools/claim_race.py [ROUNDS]`; prints the count of rounds with one winner.
"""

import sys
import tempfile
from multiprocessing import Barrier, Process, Queue
from pathlib import Path

import pygit2

from eider.demo.parts import LIBRARIAN
from eider.library import init_library, open_library
from eider.library.git.commit_reading import Person
from eider.library.sharing.shared_server import Claim, ClaimedError, SharedServer
from eider.services.sharing.synchronising import open_shared, share_library

ROUNDS = 500
PEOPLE = (LIBRARIAN, Person("Skerry reviewer", "reviewer@skerry.example"))


def race(folder: Path, rounds: int, barrier: "Barrier", won: "Queue[tuple[int, str]]") -> None:  # type: ignore[valid-type]
    """Claim item after item, together with the others."""
    library = open_library(folder)
    person, server = library.person(), SharedServer(library)
    for number in range(rounds):
        barrier.wait()  # type: ignore[attr-defined]
        try:
            server.make_claim(
                Claim(f"item{number}", f"item{number}", person.name, person.email, "2026-11-28T00:00:00Z")
            )
            won.put((number, person.name))
        except ClaimedError:
            continue


def main(rounds: int) -> int:
    """Run the race; returns the exit status."""
    with tempfile.TemporaryDirectory() as place:
        ours = init_library(Path(place) / "0", "Skerry Fieldworks", PEOPLE[0])
        address = f"file://{place}/server.git"
        pygit2.init_repository(f"{place}/server.git", bare=True)
        share_library(ours, address)
        open_shared(address, Path(place) / "1", PEOPLE[1])
        barrier, won = Barrier(len(PEOPLE)), Queue()
        runners = [Process(target=race, args=(Path(place) / str(n), rounds, barrier, won)) for n in range(len(PEOPLE))]
        for runner in runners:
            runner.start()
        winners: dict[int, list[str]] = {}
        for _ in range(rounds):
            number, name = won.get(timeout=120)
            winners.setdefault(number, []).append(name)
        for runner in runners:
            runner.join()
        while not won.empty():
            number, name = won.get()
            winners.setdefault(number, []).append(name)
    single = sum(len(names) == 1 for names in winners.values())
    shares = {person.name: sum(names == [person.name] for names in winners.values()) for person in PEOPLE}
    print(f"{single} of {rounds} rounds have exactly one winner; {shares}")
    return 0 if single == rounds else 1


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else ROUNDS))
