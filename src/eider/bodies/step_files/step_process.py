"""Reads STEP files in a process of its own, with limits: the kernel may die of one, or never come to an end."""

import importlib
import io
import json
import resource
import signal
import sys
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

import msgspec
import numpy as np

from eider.bodies.pictures.body_mesh import Mesh
from eider.bodies.placement.model_placement import RigidPlacement
from eider.bodies.step_files.forked_kernel import KernelStem, serve_forks
from eider.bodies.step_files.step_model import FaceTable, StepModel
from eider.bodies.step_files.step_text import Protocol, StepError, look_at_step

# For the whole file: seconds of computing, and memory.
LONGEST_S, MOST_MEMORY = 300, 6 * 2**30
STAGES = {"reading": 0.1, "meshing": 0.6, "packing": 0.95}
Tell = Callable[[float, str], None]
# Exit status of a file that the kernel can make nothing of; what is wrong stands on standard output.
REFUSED = 3


class ImportedStep(NamedTuple):
    """A STEP file as it was read, with its meshes in two levels of detail, all in its own frame (mm)."""

    model: StepModel
    fine: Mesh
    coarse: Mesh

    @property
    def triangles(self) -> int:
        """How many triangles the fine mesh has."""
        return self.fine.triangles


def import_step(path: Path, tell: Tell = lambda _share, _what: None) -> ImportedStep:
    """Read a STEP file elsewhere; `tell` hears which share is done and of what, and may raise to cancel.

    Raises:
        StepError: the file is damaged, holds no solids, or takes too much time or memory.
    """
    look_at_step(path)
    return unpack_step(_made_elsewhere(["read", str(path)], path, tell))


def placed_step(
    path: Path,
    placement: RigidPlacement,
    name: str,
    protocol: Protocol = "AP214",
    tell: Tell = lambda _share, _what: None,
) -> bytes:
    """The STEP file as it stands on its lands, written again elsewhere.

    Raises:
        StepError: as `import_step`.
    """
    look_at_step(path)
    where = msgspec.json.encode(placement).decode()
    return _made_elsewhere(["place", str(path), where, name, protocol], path, tell)


_STEM = KernelStem(__name__)


def _made_elsewhere(arguments: list[str], path: Path, tell: Tell) -> bytes:
    """What the other process prints; one that dies or is stopped at a limit is told as such."""
    try:
        child = _STEM.begin(arguments)
    except OSError as fault:
        raise StepError(f"{path.name} cannot be read: {fault}") from fault
    output: list[bytes] = []
    with child.output, child.progress:
        reader = threading.Thread(target=lambda: output.append(child.output.read()))
        reader.start()
        try:
            for line in child.progress:
                stage = line.decode(errors="replace").strip()
                if stage in STAGES:
                    tell(STAGES[stage], f"{stage} {path.name}")
            status = child.wait()
        except BaseException:
            child.kill()
            raise
        finally:
            reader.join()
    if status == REFUSED:
        raise StepError(output[0].decode(errors="replace"))
    if status != 0:
        raise StepError(
            f"{path.name} cannot be read: the CAD kernel took more than {LONGEST_S} s or {MOST_MEMORY >> 30} GB, or "
            "broke down over it; ask the manufacturer for a simpler model"
        )
    return output[0]


def pack_step(step: ImportedStep) -> bytes:
    """A file that was read, as bytes."""
    model, faces = step.model, step.model.faces
    plain = {
        "name": model.name, "unit": model.unit, "protocol": model.protocol, "doubts": model.doubts,
        "solids": msgspec.to_builtins(model.solids), "colours": model.colours,
    }  # fmt: skip
    arrays: dict[str, Any] = {name: getattr(faces, name) for name in FaceTable.__struct_fields__}
    stream = io.BytesIO()
    header = np.frombuffer(json.dumps(plain).encode(), np.uint8)
    np.savez(stream, header=header, fine=step.fine.corners, coarse=step.coarse.corners, **arrays)
    return stream.getvalue()


def unpack_step(data: bytes) -> ImportedStep:
    """What `pack_step` made.

    Raises:
        StepError: it is something else.
    """
    try:
        with np.load(io.BytesIO(data), allow_pickle=False) as arrays:
            plain = json.loads(arrays["header"].tobytes())
            plain["faces"] = FaceTable(**{name: arrays[name] for name in FaceTable.__struct_fields__})
            plain["solids"] = msgspec.convert(plain["solids"], type=StepModel.__annotations__["solids"])
            plain["colours"] = tuple(map(tuple, plain["colours"]))
            plain["doubts"] = tuple(plain["doubts"])
            return ImportedStep(StepModel(**plain), Mesh(arrays["fine"]), Mesh(arrays["coarse"]))
    except (ValueError, KeyError, OSError, TypeError, EOFError, msgspec.ValidationError) as fault:
        raise StepError(f"what was read of a STEP file is damaged: {fault}") from fault


def _work(arguments: list[str]) -> int:
    """What a fork does: print what it makes, or why it makes nothing; returns its exit status."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (LONGEST_S, LONGEST_S + 5))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    signal.signal(signal.SIGALRM, signal.SIG_DFL)
    signal.alarm(2 * LONGEST_S)
    kind, path, *rest = arguments
    try:
        data = _read(Path(path)) if kind == "read" else _place(Path(path), *rest)
    except StepError as fault:
        print(fault, end="")
        return REFUSED
    sys.stdout.buffer.write(data)
    return 0


def _read(path: Path) -> bytes:
    from eider.bodies.step_files.step_mesh import step_meshes
    from eider.bodies.step_files.step_reader import read_step

    _say("reading")
    read = read_step(path)
    _say("meshing")
    fine, coarse = step_meshes(read)
    _say("packing")
    return pack_step(ImportedStep(read.model, fine, coarse))


def _place(path: Path, where: str, name: str, protocol: str) -> bytes:
    from eider.bodies.step_files.step_placing import place_step

    _say("reading")
    placement = msgspec.json.decode(where, type=RigidPlacement)
    return place_step(path, placement, name, msgspec.convert(protocol, type=Protocol))


def _say(stage: str) -> None:
    print(stage, file=sys.stderr, flush=True)


def _load_kernel() -> None:
    """Import what forks need, once for all of them."""
    importlib.import_module("eider.bodies.step_files.step_mesh")
    importlib.import_module("eider.bodies.step_files.step_placing")


if __name__ == "__main__" and sys.argv[1:2] == ["--stem"]:
    _load_kernel()
    serve_forks(int(sys.argv[2]), _work)
