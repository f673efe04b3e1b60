"""Makes the STEP files of the demo's makers: `demo_models.py KERNEL_PYTHON` (cadquery-ocp==7.7.2, called directly).

NVK-1216T comes as makers' files do: origin in a corner, lying on its side, in inches.
"""

import hashlib
import json
import lzma
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import NamedTuple

from foreign_steps import plain
from msgspec.structs import replace

import eider.demo
from eider.bodies.placement.alignment_target import target_of_sheet
from eider.bodies.placement.model_measure import aligned_models
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.step_files.step_process import import_step
from eider.demo.build import attach
from eider.demo.maker_models import CONNECTOR_4, CONVERTER
from eider.demo.parts import LIBRARIAN, connector_part, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.geometry.solids import Solid
from eider.library import init_library
from eider.model.body import ComposedSolid
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.model.part import DatasheetLink

OUT = Path(eider.demo.__file__).parent / "models"
# What the manufacturer drew of the connector: a housing with its entry at the front, tails and hold-downs.
CONNECTOR = (
    ComposedSolid(name="housing", material="housing", y="-0.3", z="0.1", length="D", width="E", height="Amax-0.1"),
    ComposedSolid(name="entry", y="-E/2-0.3", z="0.8", length="D-1.4", width="E", height="1.9", cuts=True),
    ComposedSolid(name="tail", material="tin", y="g/2", length="b", width="1.2", height="0.3", count="4", dx="e"),
    ComposedSolid(
        name="pin", material="gold", y="-0.6", z="1.6", length="b", width="2.6", height="0.3", count="4", dx="e"
    ),
    ComposedSolid(name="hold-down", material="tin", x="row/2+q", y="-g/2", length="0.8", width="1.4", height="1.2",
                  mirror="y"),
)  # fmt: skip


class Delivery(NamedTuple):
    """A model as it is delivered: its name, the part, its solids, and how it lies."""

    name: str
    part: Bundle
    solids: tuple[Solid, ...]
    turn: list[list[int]]
    move: list[float]


def deliveries(folder: Path) -> list[Delivery]:
    """The models of the demo: both in inches, with a corner at the origin, the connector lying on its side."""
    library = init_library(folder / "library", "Demo", LIBRARIAN)
    write_converter_datasheet(folder / "NVK-1216T.pdf")
    converter = converter_part(library, attach(library, folder / "NVK-1216T.pdf", 4))
    connector = connector_part(library, 4, DatasheetLink("0" * 64, "OHC-125.pdf", 3))
    composed = replace(connector.body, composed=CONNECTOR, model=None)
    return [
        Delivery(
            CONVERTER, converter, body_solids(converter.sheet), [[0, 0, 1], [1, 0, 0], [0, 1, 0]], [2.54, 3.2, 2.5]
        ),
        Delivery(
            CONNECTOR_4,
            connector,
            body_solids(connector.sheet, composed),
            [[1, 0, 0], [0, 0, -1], [0, 1, 0]],
            [4.2, 0.0, 2.4],
        ),
    ]


def main() -> None:
    OUT.mkdir(exist_ok=True)
    with TemporaryDirectory() as made:
        folder = Path(made)
        found = deliveries(folder)
        jobs = [
            {
                "name": each.part.part.name, "solids": [plain(solid) for solid in each.solids], "assembly": True,
                "schema": "AP214IS", "unit": "INCH", "turn": each.turn, "move": each.move,
                "out": str(folder / f"{each.part.part.name}.step"),
            }
            for each in found
        ]  # fmt: skip
        (folder / "jobs.json").write_text(json.dumps(jobs), encoding="utf-8")
        script = str(Path(__file__).parent / "foreign" / "with_kernel.py")
        subprocess.run([sys.argv[1], script, str(folder / "jobs.json")], check=True)
        for each in found:
            path = folder / f"{each.part.part.name}.step"
            step, data = import_step(path), path.read_bytes()
            sha256 = hashlib.sha256(data).hexdigest()
            target = target_of_sheet(each.part.sheet)
            (best, *others) = aligned_models(step.model, step.triangles, target, sha256, path.name)
            (OUT / f"{each.name}.step.xz").write_bytes(lzma.compress(data, preset=9))
            (OUT / f"{each.name}.model.json").write_text(encode(best) + "\n", encoding="utf-8")
            print(each.name, len(others) + 1, "placements", best.measure.pin1, best.measure.bounds)


if __name__ == "__main__":
    main()
