"""Eider processes killed at random moments of claiming, releasing and synchronising, round after round.

After each round the server and the copy are sound, every revision that the server ever had is there and can be read
by someone else, and what was typed is released or a working copy.
`PYTHONPATH=src .venv/bin/python tools/kill_rounds.py [ROUNDS] [SEED]` prints what was done, and how often each command
had ended by itself.
"""

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from eider.commands.facts import fact_edits
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.library import Library, init_library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.commit_reading import Person
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.synchronising import open_shared, share_library, synchronise

ROUNDS, LONGEST, PATIENCE = 300, 1.8, 60.0
OTHER = Person("Skerry reviewer", "reviewer@skerry.example")


class DamageError(AssertionError):
    """Something that must not happen did."""


def _git(folder: Path, *arguments: str) -> str:
    done = subprocess.run(["git", "-C", str(folder), *arguments], capture_output=True, text=True, check=False)
    if done.returncode:
        raise DamageError(f"git {' '.join(arguments)} in {folder}: {done.stdout}{done.stderr}")
    return done.stdout


def _sound(folder: Path) -> None:
    said = _git(folder, "fsck", "--full", "--strict", "--no-dangling")
    if "missing" in said or "broken" in said:
        raise DamageError(said)


def _killed(arguments: list[str], after: float, *, with_git: bool) -> bool:
    """Run Eider and kill it, alone or together with the git that it started; whether it had ended before.

    A git that was not killed is waited for: while it writes, fsck may see a ref before its objects.
    """
    with subprocess.Popen(
        [sys.executable, "-m", "eider", *arguments],
        env={**os.environ, "PYTHONPATH": "src"},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    ) as process:
        try:
            process.wait(after)
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, signal.SIGKILL) if with_git else process.kill()
            is_ended = False
        else:
            is_ended = True
    end = time.monotonic() + PATIENCE
    while time.monotonic() < end:
        try:
            os.killpg(process.pid, 0)
        except ProcessLookupError:
            return is_ended
        time.sleep(0.02)
    raise DamageError("a git that was left alone does not end")


def _shelf(library: Library, name: str) -> str:
    facts = library.load(library.find(name).id).part.facts
    return facts["Shelf"].value if "Shelf" in facts else ""


def _begin(place: Path, command: str, name: str, typed: str) -> None:
    """Something to release, or something to follow."""
    library = open_library(place / ("theirs" if command == "sync" else "ours"))
    if command == "release":
        bundle = fact_edits.set_fact(library.load(library.find(name).id), "Shelf", typed)
        library.copies.save(WorkingCopy(bundle=bundle))
    elif command == "sync":
        synchronise(library)
        release_part(library, fact_edits.set_fact(library.load(library.find("OTHER").id), "Shelf", typed), "theirs")
    library.close()


def _go_on(folder: Path, name: str, typed: str) -> None:
    """Whoever was killed opens the library again; what is not released yet can be."""
    library = open_library(folder)
    report = synchronise(library)
    if report.conflicts:
        raise DamageError(f"conflicts out of nothing: {report.conflicts}")
    if typed and _shelf(library, name) != typed:
        raise DamageError(f"{typed} is lost")
    if library.copies.sum_of(library.find(name).id):
        release_part(library, library.load(library.find(name).id), f"{typed} again")
    library.close()


def _require_whole(folder: Path, name: str, typed: str) -> None:
    """Others see every revision as a whole, and what was released."""
    library = open_library(folder)
    synchronise(library)
    for row in library.search():
        if len(library.history(row.id)) != row.revision or library.load_release(row.id).part.name != row.name:
            raise DamageError(f"{row.name} is not whole for others")
    if typed and _shelf(library, name) != typed:
        raise DamageError(f"others do not see {typed}")
    library.close()


def one_round(place: Path, name: str, number: int, choose: random.Random) -> tuple[str, bool]:
    """One command that is killed, and all that has to hold after it; returns the command, and whether it ended."""
    ours, server = place / "ours", place / "server.git"
    command, typed = choose.choice(["release", "claim", "sync"]), f"S{number}"
    known = set(_git(server, "rev-list", "main").split())
    _begin(place, command, name, typed)
    what = {"release": [str(ours), name, "--note", typed], "claim": [str(ours), name], "sync": [str(ours)]}[command]
    ended = _killed([command, *what], choose.uniform(0.0, LONGEST), with_git=choose.random() < 0.5)
    for folder in (server, ours):
        _sound(folder)
    if not known <= set(_git(server, "rev-list", "main").split()):
        raise DamageError(f"round {number}: commits are gone from the server")
    shall = typed if command == "release" else ""
    _go_on(ours, name, shall)
    _require_whole(place / "theirs", name, shall)
    return command, ended


def main(rounds: int, seed: int) -> int:
    """Run the rounds; returns the exit status."""
    choose, done = random.Random(seed), Counter[tuple[str, bool]]()
    with tempfile.TemporaryDirectory() as temporary:
        place = Path(temporary)
        ours, series, link = (
            init_library(place / "ours", "Skerry Fieldworks", LIBRARIAN),
            chips(),
            DatasheetLink("0" * 64, "L"),
        )
        size = next(size for size in series.sizes if size.size == "1608")
        first, second = (chip_part(ours, series, size, value, link) for value in ("100 nF", "1 µF"))
        release_part(ours, first, "first")
        release_part(ours, fact_edits.set_about(second, name="OTHER"), "first")
        subprocess.run(["git", "init", "--quiet", "--bare", str(place / "server.git")], check=True)
        share_library(ours, f"file://{place}/server.git")
        open_shared(f"file://{place}/server.git", place / "theirs", OTHER).close()
        ours.close()
        for number in range(rounds):
            done[one_round(place, first.part.name, number, choose)] += 1
    for command in ("release", "claim", "sync"):
        print(f"{command}: {done[command, False]} killed, {done[command, True]} ended before")
    print(f"{rounds} rounds, seed {seed}: nothing lost, nothing half there")
    return 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else ROUNDS, int(sys.argv[2]) if len(sys.argv) > 2 else 1))
