"""What a STEP file says of itself, told from its text before a CAD kernel reads it (ISO 10303-21)."""

import re
from pathlib import Path
from typing import Literal

import msgspec

from eider.errors import InputError

LARGEST_FILE = 200 * 2**20
MOST_ENTITIES = 3_000_000
_SCHEMA = re.compile(rb"FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'", re.IGNORECASE)
_PROTOCOLS = {
    "CONFIG_CONTROL_DESIGN": "AP203",
    "CONFIG_CONTROL_3D_DESIGN": "AP203",
    "AP203": "AP203",
    "AUTOMOTIVE_DESIGN": "AP214",
    "AP242": "AP242",
}
# What makes a body, and what does not.
_SOLID = re.compile(rb"=\s*(MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP|CSG_SOLID)\b")
_TESSELLATED = re.compile(rb"=\s*(TESSELLATED_SOLID|TESSELLATED_SHELL|TRIANGULATED_FACE|COMPLEX_TRIANGULATED_FACE)\b")
_SURFACES = re.compile(rb"=\s*(SHELL_BASED_SURFACE_MODEL|OPEN_SHELL|ADVANCED_FACE)\b")


# The application protocols of ISO 10303 in which bodies are written.
Protocol = Literal["AP214", "AP242"]


class StepError(InputError):
    """A STEP file that cannot be written or read."""


class StepText(msgspec.Struct, frozen=True):
    """Protocol and number of entities of a STEP file."""

    protocol: str
    entities: int


def look_at_step(path: Path) -> StepText:
    """What a STEP file is, before anything is made of it.

    Raises:
        StepError: it is missing, too large, no STEP, cut short, or has no solid in it.
    """
    try:
        if path.stat().st_size > LARGEST_FILE:
            raise StepError(
                f"{path.name} is larger than {LARGEST_FILE >> 20} MB; ask the manufacturer for a simpler model"
            )
        data = path.read_bytes()
    except OSError as fault:
        raise StepError(f"{path.name} cannot be read: {fault.strerror}") from fault
    if not data.lstrip()[:20].upper().startswith(b"ISO-10303-21"):
        raise StepError(f"{path.name} is not a STEP file: it does not begin with ISO-10303-21")
    if b"END-ISO-10303-21" not in data[-4096:]:
        raise StepError(f"{path.name} is cut short: END-ISO-10303-21 is missing; fetch it again")
    entities = data.count(b"\n#")
    if entities > MOST_ENTITIES:
        raise StepError(f"{path.name} has {entities:,} entities, more than {MOST_ENTITIES:,}; ask for a simpler model")
    if not _SOLID.search(data):
        raise StepError(f"{path.name} {_without_solid(data)}; ask the manufacturer for a model of solids")
    return StepText(_protocol(data), entities)


def _protocol(data: bytes) -> str:
    found = _SCHEMA.search(data[:65536])
    schema = found[1].decode("latin-1").strip() if found else ""
    return next((name for key, name in _PROTOCOLS.items() if schema.upper().startswith(key)), schema or "unknown")


def _without_solid(data: bytes) -> str:
    if _TESSELLATED.search(data):
        return "holds triangles only, no solids that could be measured"
    if _SURFACES.search(data):
        return "holds surfaces only, no closed solid"
    return "holds no solid, only points and curves" if b"\n#" in data else "is empty"
