"""The long attacks on Eider, each in a folder made for it: `attack [MINUTES] [SEED]`."""

import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

from eider.commands.packages import package_edits
from eider.demo.data import buffer_text
from eider.demo.parts import LIBRARIAN, converter_part
from eider.demo.scan import scan_text
from eider.errors import EiderError
from eider.exchange.formats.bsdl import read_bsdl
from eider.exchange.formats.ibis import read_ibis
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pattern_file import read_pads
from eider.lands.pattern import make_pattern
from eider.library import init_library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.housekeeping import keep_house
from eider.library.releases.release_commit import release_bundles
from eider.model.codec import encode, parse_json, parse_toml
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from eider.rulebooks.rulebook import standard_text
from eider.symbols.pin_table import read_pins, split_table

# A window that does not answer for so long (s) holds its user up.
LONGEST_HOLD = 0.3
SLOWEST_READER = 2.0
# What is put into sound texts.
PIECES = ("1e999", "NaN", "-", "\0", "9" * 40, '"', "[" * 50, "\ud800", "±", "1-400")


class Broken(NamedTuple):
    """What did not hold: of which attack, and how to see it again."""

    attack: str
    words: str


RELEASE = """
import sys
from pathlib import Path
from eider.library import open_library
from eider.library.releases.release_commit import release_bundles
library = open_library(Path(sys.argv[1]))
bundle = library.load(library.search()[0].id)
print("ready", flush=True)
sys.stdin.readline()
print(release_bundles(library, (bundle,), sys.argv[2])[0].revision, flush=True)
"""


def prepared(folder: Path) -> Path:
    """A library with a part of one revision, whose working copy is to become the second."""
    library = init_library(folder / "prepared", "Attacked", LIBRARIAN)
    release_bundles(library, (converter_part(library, DatasheetLink("0" * 64, "x.pdf")),), "first")
    part = library.load_release(library.search()[0].id)
    library.copies.save(WorkingCopy(bundle=package_edits.set_dimension(part, "b", "0.19–0.33")))
    keep_house(library)
    library.close()
    return folder / "prepared"


def started(library: Path, note: str) -> subprocess.Popen[str]:
    """A process that releases as soon as it hears a line."""
    made = subprocess.Popen(
        [sys.executable, "-c", RELEASE, str(library), note],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert made.stdout
    made.stdout.readline()
    return made


def go(process: subprocess.Popen[str]) -> None:
    """Let it release."""
    assert process.stdin
    process.stdin.write("\n")
    process.stdin.flush()


def state_of(folder: Path) -> str:
    """What is wrong with a library in which a release died; empty where it is whole."""
    library = open_library(folder)
    part_id = library.search()[0].id
    history = library.history(part_id)
    part = library.load_release(part_id)
    if part.part.release is None or part.part.release.revision != len(history):
        return f"history says {len(history)}, the part {part.part.release}"
    if said := keep_house(library):
        return said
    changed = subprocess.run(["git", "status", "--porcelain"], cwd=folder, capture_output=True, text=True, check=True)
    if changed.stdout:
        return f"git status: {changed.stdout[:200]}"
    left = [p.name for p in folder.rglob("*") if p.name.endswith((".part", ".lock"))]
    if left:
        return f"left over: {left}"
    if len(history) == 1:
        release_bundles(library, (library.load(part_id),), "again")
    return "" if library.copies.load(part_id) is None else "the working copy of a released part is still there"


def kills(source: Path, folder: Path, chance: random.Random) -> Iterator[Broken]:
    """A real process, killed at a random moment of its release."""
    copy = folder / "killed"
    shutil.copytree(source, copy)
    process = started(copy, "second")
    go(process)
    moment = chance.uniform(0, 0.12)
    time.sleep(moment)
    process.send_signal(signal.SIGKILL)
    process.communicate()
    if wrong := state_of(copy):
        yield Broken("kill", f"killed {moment * 1000:.1f} ms after it began: {wrong}")
    shutil.rmtree(copy)


def processes(source: Path, folder: Path, chance: random.Random) -> Iterator[Broken]:
    """Several processes that release one working copy at once."""
    copy = folder / "at-once"
    shutil.copytree(source, copy)
    running = [started(copy, f"by {n}") for n in range(chance.choice((2, 4)))]
    for process in running:
        go(process)
    said = [process.communicate()[0].strip() for process in running]
    accepted = [text for text in said if text]
    if accepted != ["2"]:
        yield Broken("processes", f"{len(running)} at once: accepted {accepted}")
    shutil.rmtree(copy)


def full_disk(source: Path, folder: Path, chance: random.Random) -> Iterator[Broken]:
    """A release on a disk that is full after so many bytes; only where a small disk can be mounted."""
    disk = folder / "disk"
    disk.mkdir()
    size = 1200 + chance.randrange(0, 400)
    mounted = subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={size}k", "none", str(disk)], check=False)
    if mounted.returncode:
        disk.rmdir()
        return
    try:
        copy = disk / "library"
        shutil.copytree(source, copy)
        (disk / "ballast").write_bytes(b"0" * max(shutil.disk_usage(disk).free - chance.randrange(4096, 90_000), 0))
        library = open_library(copy)
        try:
            release_bundles(library, (library.load(library.search()[0].id),), "second")
        except EiderError as fault:
            if "disk is full" not in str(fault):
                yield Broken("full disk", f"{size} kB: {fault}")
        library.close()
        (disk / "ballast").unlink()
        if wrong := state_of(copy):
            yield Broken("full disk", f"{size} kB: {wrong}")
    except EiderError as fault:
        yield Broken("full disk", f"{size} kB, outside of the release: {fault}")
    finally:
        subprocess.run(["umount", "-l", str(disk)], check=True)
        disk.rmdir()


def _mangled(text: str, chance: random.Random) -> str:
    """A text with pieces cut out, doubled, exchanged or replaced."""
    for _ in range(chance.randint(1, 6)):
        a, b = sorted(chance.randrange(len(text) + 1) for _ in range(2))
        b = min(b, a + chance.choice((1, 4, 40, 4000)))
        piece = chance.choice(("", text[a:b] * 3, *PIECES))
        text = text[:a] + piece + text[b:]
    return text or " "


def readers(folder: Path) -> dict[str, tuple[str, Callable[[str], object]]]:
    """A sound text for each reader, and the reader."""
    sheet = json.dumps({
        "format": "eider-package/1", "name": "X", "family": "gullwing-dual", "pins": 8,
        "dims": {"E": "5.80–6.20", "E1": "3.80..4.00", "D": "4.8–5.0", "e": 1.27, "b": "0.31-0.51", "L": "0.4–1.27",
                 "A": "max 1.75", "A1": "0.1..0.25"},
    })  # fmt: skip
    rules = standard_rulebook()
    pattern = encode(make_pattern(sheet_from_data(json.loads(sheet), "x"), "B", rules))

    def pads(text: str) -> object:
        path = folder / "pattern.json"
        path.write_text(text, encoding="utf-8", errors="surrogatepass")
        return read_pads(path)

    return {
        "sheet": (sheet, lambda text: make_pattern(sheet_from_data(parse_json(text, "x"), "x"), "B", rules)),
        "pattern": (pattern, pads),
        "rulebook": (standard_text(), lambda text: parse_toml(text, "x")),
        "pins": ("number,name,type\n1,EN,input\n2-5,VDD,power input\n", lambda text: read_pins(split_table(text))),
        "bsdl": (scan_text(), read_bsdl),
        "ibis": (buffer_text(), read_ibis),
    }


def damaged_input(folder: Path, chance: random.Random) -> Iterator[Broken]:
    """Every reader on mangled texts: an answer or an EiderError, in good time."""
    for name, (sound, read) in readers(folder).items():
        for _ in range(30):
            text = _mangled(sound, chance)
            begin = time.monotonic()
            try:
                read(text)
            except EiderError as fault:
                if len(str(fault)) > 5000:
                    yield Broken(name, f"a message of {len(str(fault))} characters")
            except Exception as fault:
                kept = Path(tempfile.gettempdir()) / f"eider-attack-{name}-{abs(hash(text)):x}"
                kept.write_text(text, encoding="utf-8", errors="surrogatepass")
                yield Broken(name, f"{type(fault).__name__}: {str(fault)[:120]}; the input is in {kept}")
            if time.monotonic() - begin > SLOWEST_READER:
                yield Broken(name, f"took {time.monotonic() - begin:.1f} s")


def monkeys(source: Path, folder: Path, chance: random.Random) -> Iterator[Broken]:
    """Random keys and clicks on the window, in a process of its own."""
    copy = folder / "played"
    shutil.copytree(source, copy)
    seed = chance.randrange(10**6)
    done = subprocess.run(
        [sys.executable, str(Path(__file__).with_name("monkey.py")), str(copy), str(seed), "600"],
        capture_output=True, text=True, timeout=300, check=False,
        env={**os.environ, "XDG_CONFIG_HOME": str(folder / "config"), "XDG_STATE_HOME": str(folder / "state")},
    )  # fmt: skip
    if done.returncode:
        yield Broken("monkey", f"seed {seed}: status {done.returncode}: {(done.stdout or done.stderr)[-800:]}")
    shutil.rmtree(copy)


def main() -> int:
    """Attack until the time is over; prints what did not hold."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
    chance = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else time.time_ns())
    ends = time.monotonic() + minutes * 60
    tried: dict[str, int] = {}
    broken: list[Broken] = []
    folder = Path(tempfile.mkdtemp(prefix="eider-attack-"))
    try:
        source = prepared(folder)
        attacks: dict[str, Callable[[], Iterator[Broken]]] = {
            "kills": lambda: kills(source, folder, chance),
            "processes": lambda: processes(source, folder, chance),
            "full disks": lambda: full_disk(source, folder, chance),
            "readers": lambda: damaged_input(folder, chance),
            "monkeys": lambda: monkeys(source, folder, chance),
        }
        while time.monotonic() < ends:
            for name, attack in attacks.items():
                tried[name] = tried.get(name, 0) + 1
                for found in attack():
                    broken.append(found)
                    print(f"{found.attack}: {found.words}", flush=True)
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    print(", ".join(f"{count} × {name}" for name, count in tried.items()), f"— {len(broken)} did not hold")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
