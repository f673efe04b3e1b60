"""Damages files of every format that intake reads, and reads them: damaged_files.py [COUNT] [SEED].

Prints for each format how many were read, how many refused in words, and every other fault; the slowest reading, and
the memory of the process at its most. Exit status 1 if anything but a refusal came.
"""

import random
import resource
import sys
import tempfile
import time
import traceback
from collections import Counter
from pathlib import Path

from eider.commands.parts.evaluation import EvaluationRules
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part, converter_part
from eider.errors import EiderError
from eider.exchange.found_parts import grouped_parts
from eider.library import init_library
from eider.model.part import DatasheetLink
from eider.services.intake.arrivals import read_arrived
from eider.services.parts.part_evaluation import EvaluationRun
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import export_part

FORMATS = ("bundle", "ipc2581", "edif", "dxf", "json", "csv", "xlsx", "gerber", "idf")
FOREIGN = Path(__file__).parent.parent / "tests" / "exchange"
# A reading that takes longer (s), and a process that takes more memory (MB), are faults.
SLOWEST, MOST_MEMORY = 5.0, 1024


def samples(folder: Path) -> list[Path]:
    """Files of every format: of parts of ours, and those that the tests have from elsewhere."""
    library = init_library(folder / "library", "Fuzz", LIBRARIAN)
    link, run = DatasheetLink("0" * 64, "x.pdf"), EvaluationRun(library)
    series = chips()
    parts = [converter_part(library, link), chip_part(library, series, series.sizes[0], "100 nF", link)]
    made = []
    for part in parts:
        bundle = run.evaluated(part).bundle
        rules: EvaluationRules = rules_for(library, bundle)
        made += [Path(name) for name in export_part(bundle, FORMATS, folder / "out", rules).files]
    foreign = [*(FOREIGN / "foreign").glob("*.*"), *FOREIGN.glob("*.bsd*"), *FOREIGN.glob("*.ibs")]
    return [*made, *foreign]


def damaged(data: bytes, chance: random.Random) -> bytes:
    """Some bytes changed, put in, taken out or doubled; sometimes cut off."""
    text = bytearray(data)
    for _ in range(chance.randint(1, 12)):
        at, length = chance.randrange(max(len(text), 1)), chance.choice((1, 1, 2, 8, 64, 500))
        way = chance.randrange(4)
        if way == 0:
            text[at : at + length] = chance.randbytes(length)
        elif way == 1:
            del text[at : at + length]
        elif way == 2:
            text[at:at] = text[at : at + length] * chance.choice((1, 2, 200))
        else:
            text[at:at] = chance.choice(
                (b"9" * 40, b"-1e308", b"nan", b"(" * 500, b"<a>" * 300, b'"', b"\0", b"../../x")
            )
    return bytes(text[: chance.randrange(len(text) + 1)]) if chance.random() < 0.15 else bytes(text)


def main(count: int, seed: int) -> int:
    """Read so many damaged files of each suffix; returns the exit status."""
    chance, faults = random.Random(seed), 0
    with tempfile.TemporaryDirectory() as temporary:
        folder = Path(temporary)
        by_suffix: dict[str, list[Path]] = {}
        for path in samples(folder):
            suffix = "".join(path.suffixes[-2:]) if path.suffix in (".zip", ".xml") else path.suffix
            by_suffix.setdefault(suffix, []).append(path)
        for suffix, paths in sorted(by_suffix.items()):
            outcomes: Counter[str] = Counter()
            slowest = 0.0
            for number in range(count):
                source = chance.choice(paths)
                target = folder / f"damaged{suffix}"
                target.write_bytes(damaged(source.read_bytes(), chance))
                begin = time.perf_counter()
                try:
                    grouped_parts(read_arrived(target).parts)
                    outcomes["read"] += 1
                except EiderError:
                    outcomes["refused"] += 1
                except Exception:
                    outcomes["fault"] += 1
                    print(f"{suffix}, number {number} of seed {seed}:\n{traceback.format_exc()}", flush=True)
                slowest = max(slowest, time.perf_counter() - begin)
            faults += outcomes["fault"] + (slowest > SLOWEST)
            print(f"{suffix}: {dict(outcomes)}, slowest {slowest:.2f} s", flush=True)
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    print(f"memory at its most: {memory} MB")
    return int(faults > 0 or memory > MOST_MEMORY)


if __name__ == "__main__":
    arguments = [int(argument) for argument in sys.argv[1:]]
    sys.exit(main(*[*arguments, *(2000, 1)[len(arguments) :]]))
