"""How many foreign models are placed right: each file of tests/bodies/foreign, or another folder, in twelve ways."""

import json
import lzma
import random
import sys
import time
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))
sys.path.insert(0, str(Path(__file__).parent.parent / "tests" / "bodies"))

from test_alignment import FOREIGN, laid, true_ones

from eider.bodies.placement.alignment import align_model
from eider.bodies.placement.alignment_target import target_of_sheet
from eider.bodies.placement.contacts import turns
from eider.bodies.step_files.step_reader import read_step
from family_samples import foreign_sample

WAYS = 12


def main() -> int:
    """Print what was found right, said to be ambiguous, and wrong; status 1 where anything was wrong."""
    folder = Path(sys.argv[1]) if len(sys.argv) > 1 else FOREIGN
    truths = json.loads((folder / "truth.json").read_text())
    chance, counts, slowest = random.Random(8), {"found": 0, "ambiguous": 0, "wrong": 0}, 0.0
    with TemporaryDirectory() as made:
        for name, truth in truths.items():
            path = Path(made) / f"{name}.step"
            path.write_bytes(lzma.decompress((folder / f"{name}.step.xz").read_bytes()))
            model, target = read_step(path).model, target_of_sheet(foreign_sample(truth["family"]))
            turn, move = np.array(truth["turn"]), np.array(truth["move"])
            for _ in range(WAYS):
                further, aside = chance.choice(turns()), np.array([chance.uniform(-50, 50) for _ in range(3)])
                begin = time.perf_counter()
                found = align_model(laid(model, further, aside), target)
                slowest = max(slowest, time.perf_counter() - begin)
                right = true_ones(found, further @ turn, further @ move + aside, truth.get("scale", 1.0))
                if any(right) and found.placements[0].pin1 == "found":
                    counts["found"] += 1
                elif any(right):
                    counts["ambiguous"] += 1
                else:
                    counts["wrong"] += 1
                    print(f"{name}: {found.doubts}")
    print(f"{len(truths)} files, {counts}; slowest {slowest * 1000:.0f} ms")
    return 1 if counts["wrong"] else 0


if __name__ == "__main__":
    sys.exit(main())
