"""Makes the STEP files of other programs in tests/bodies/foreign: `foreign_steps.py GMSH_PYTHON KERNEL_PYTHON`.

With a seed and a folder behind them it makes others there, which nobody has seen while the reader was written.

Each file is the body of a family as another program builds and writes it, lying anyhow: `truth.json` says how. Both
programs come from the package registry, each in an environment of its own: gmsh, and cadquery-ocp==7.7.2.
"""

import json
import lzma
import math
import random
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from msgspec import structs

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from eider.bodies.placement.contacts import turns
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.solids.materials import look_of
from eider.geometry.solids import Prism, Shape, Solid
from family_samples import SAMPLES, foreign_sample

OUT = Path(__file__).parent.parent / "tests" / "bodies" / "foreign"
# A sheet by hand has no terminals of its own.
LEFT_OUT = {"custom"}
NAMES = {"body": "本体", "lead": "Вывод", "ball": "шарик", "pin 1 mark": "знак № 1"}
# Program, and what its files are like; a schema of the kernel holds for one process.
KINDS: list[tuple[str, dict[str, Any]]] = [
    ("gmsh", {"fused": False, "scale": 1.0, "unit": "mm"}),
    ("gmsh", {"fused": True, "scale": 1.0, "unit": "mm"}),
    # Inches that were taken for millimetres.
    ("gmsh", {"fused": False, "scale": 1 / 25.4, "unit": "mm"}),
    ("kernel", {"assembly": True, "schema": "AP242DIS", "unit": "INCH"}),
    ("kernel", {"assembly": False, "schema": "AP203", "unit": "M"}),
]


def plain(solid: Solid) -> dict[str, Any]:
    """A solid as the other programs are handed it."""
    return {
        "name": solid.name, "called": NAMES.get(solid.name, solid.name), "colour": look_of(solid.material).colour,
        "shape": plain_shape(solid.shape), "cuts": [plain_shape(cut) for cut in solid.cuts],
        "placements": [[p.x, p.y, p.z, math.radians(p.turn)] for p in solid.placements],
    }  # fmt: skip


def plain_shape(shape: Shape) -> dict[str, Any]:
    made = structs.asdict(shape)
    made["kind"] = type(shape).__name__.lower()
    if isinstance(shape, Prism):
        made["pockets"] = [structs.asdict(pocket) for pocket in shape.pockets]
    return made


def jobs(folder: Path, chance: random.Random) -> list[dict[str, Any]]:
    found = []
    for family in sorted(SAMPLES.keys() - LEFT_OUT):
        solids = [plain(solid) for solid in body_solids(foreign_sample(family))]
        for number, (program, how) in enumerate(KINDS):
            turn = chance.choice(turns()).tolist()
            move = [round(chance.uniform(-30, 30), 3) for _ in range(3)]
            name = f"{family}-{number}"
            out = str(folder / f"{name}.step")
            found.append({
                "name": name, "program": program, "family": family, "solids": solids, "turn": turn, "move": move,
                "out": out, **how,
            })  # fmt: skip
    return found


def main() -> None:
    pythons = {"gmsh": sys.argv[1], "kernel": sys.argv[2]}
    seed, out = (int(sys.argv[3]), Path(sys.argv[4])) if len(sys.argv) > 4 else (13, OUT)
    out.mkdir(exist_ok=True)
    with TemporaryDirectory() as made:
        folder = Path(made)
        everything = jobs(folder, random.Random(seed))
        for index, (program, how) in enumerate(KINDS):
            mine = [job for job in everything if job["name"].endswith(f"-{index}")]
            path = folder / f"jobs-{index}.json"
            path.write_text(json.dumps(mine), encoding="utf-8")
            script = Path(__file__).parent / "foreign" / f"with_{program}.py"
            subprocess.run([pythons[program], str(script), str(path)], check=True)
            print(program, how, len(mine))
        truth = {}
        for job in everything:
            data = Path(job["out"]).read_bytes()
            (out / f"{job['name']}.step.xz").write_bytes(lzma.compress(data, preset=9))
            kept = ("family", "program", "turn", "move", "scale", "unit", "fused", "assembly", "schema")
            truth[job["name"]] = {key: job[key] for key in kept if key in job}
        (out / "truth.json").write_text(json.dumps(truth, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
