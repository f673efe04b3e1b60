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

from foreign_steps import plain

import eider.demo
from eider.bodies.alignment_target import target_of_sheet
from eider.bodies.body_solids import body_solids
from eider.bodies.model_measure import aligned_models
from eider.bodies.step_process import import_step
from eider.demo.build import attach
from eider.demo.parts import LIBRARIAN, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.library import init_library
from eider.model.codec import encode

OUT = Path(eider.demo.__file__).parent / "models"


def main() -> None:
    with TemporaryDirectory() as made:
        folder = Path(made)
        write_converter_datasheet(folder / "NVK-1216T.pdf")
        library = init_library(folder / "library", "Demo", LIBRARIAN)
        part = converter_part(library, attach(library, folder / "NVK-1216T.pdf", 4))
        path = folder / "NVK-1216T.step"
        job = {
            "name": "NVK-1216T", "solids": [plain(solid) for solid in body_solids(part.sheet)], "assembly": True,
            "schema": "AP214IS", "unit": "INCH", "turn": [[0, 0, 1], [1, 0, 0], [0, 1, 0]], "move": [2.54, 3.2, 2.5],
            "out": str(path),
        }  # fmt: skip
        jobs = folder / "jobs.json"
        jobs.write_text(json.dumps([job]), encoding="utf-8")
        subprocess.run([sys.argv[1], str(Path(__file__).parent / "foreign" / "with_kernel.py"), str(jobs)], check=True)
        step = import_step(path)
        data = path.read_bytes()
        sha256 = hashlib.sha256(data).hexdigest()
        (best, *_others) = aligned_models(step.model, step.triangles, target_of_sheet(part.sheet), sha256, path.name)
        OUT.mkdir(exist_ok=True)
        (OUT / "nvk-1216t.step.xz").write_bytes(lzma.compress(data, preset=9))
        (OUT / "nvk-1216t.model.json").write_text(encode(best) + "\n", encoding="utf-8")
        print(best)


if __name__ == "__main__":
    main()
