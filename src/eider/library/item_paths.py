"""Where each item of a library lies. Names that come from outside are made safe as file names here.

Folders fan out by a sum of the name, three times into sixteen, so that none grows with the library: what a commit
writes again are the folders along its files.
"""

import hashlib
import re
from collections.abc import Mapping

from eider.model.body import Body
from eider.model.bundle import Item
from eider.model.footprint import Footprint
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.symbol import Symbol

SETTINGS = "eider-library.toml"
PRIVATE = ".eider"
ATTACHED = f"{PRIVATE}/attached"
KIND_TYPES: Mapping[str, type[Item]] = {
    "part": Part,
    "package": PackageSheet,
    "symbol": Symbol,
    "footprint": Footprint,
    "body": Body,
}
FOLDERS: Mapping[str, str] = {
    "package": "packages",
    "symbol": "symbols",
    "footprint": "footprints",
    "body": "bodies",
}
# What a library keeps by name for all of its parts.
OUTLINES, MATERIALS, COMPOSITIONS = "outlines.json", "materials.json", "compositions.json"
LISTS, DESIGNS = "design-lists.json", "designs.json"
FACT_NAMES, SUPPLIER_RULES = "supplier-facts.json", "suppliers.json"
INTAKE_MAPS, HOUSES = "intake-maps.json", "houses.json"
SHARED_TABLES = frozenset(
    {OUTLINES, MATERIALS, COMPOSITIONS, LISTS, DESIGNS, FACT_NAMES, SUPPLIER_RULES, INTAKE_MAPS, HOUSES, SETTINGS}
)
FAMILIES = "families"
RELEASED_FOLDERS = ("parts", *FOLDERS.values(), "datasheets", "models", "rulebooks", FAMILIES)


def safe_name(name: str) -> str:
    """A name as a file name: only letters, digits, dot, dash, underscore and plus; never empty or hidden."""
    return re.sub(r"[^\w.+-]+", "_", name.strip(), flags=re.ASCII).strip("._")[:120] or "unnamed"


def item_path(kind: str, item: Item) -> str:
    """The path of an item inside its library, with forward slashes."""
    name = safe_name(item.name)
    folder = f"parts/{safe_name(item.category or 'other')}" if isinstance(item, Part) else FOLDERS[kind]
    return f"{folder}/{_fan(name)}/{name}.{kind}.json"


def model_path(body_name: str) -> str:
    """The path of the STEP file of a body inside its library."""
    name = safe_name(body_name)
    return f"bodies/{_fan(name)}/{name}.step"


def document_path(sha256: str) -> str:
    """The path of a released document inside its library."""
    return f"datasheets/{'/'.join(sha256[:3])}/{sha256}.pdf"


def model_file_path(sha256: str) -> str:
    """The path of a maker's STEP file inside its library; all parts that use it share it."""
    return f"models/{'/'.join(sha256[:3])}/{sha256}.step"


def rulebook_path(name: str) -> str:
    """The path of a rulebook of the library."""
    return f"rulebooks/{safe_name(name)}.toml"


def family_path(name: str) -> str:
    """The path of a family table of the library."""
    return f"{FAMILIES}/{safe_name(name)}.family.json"


def is_released(path: str) -> bool:
    """Whether a path is one that releases write."""
    return path in SHARED_TABLES or path.startswith(tuple(f"{folder}/" for folder in RELEASED_FOLDERS))


def is_document(path: str) -> bool:
    """Whether a path is one of the large files that a library keeps: a datasheet or a STEP file."""
    return path.startswith(("datasheets/", "models/")) or path.endswith(".step")


def _fan(name: str) -> str:
    return "/".join(hashlib.sha256(name.encode()).hexdigest()[:3])


def kind_of(path: str) -> str:
    """The kind of item that a path holds; empty where it holds none."""
    match = re.search(r"\.(part|package|symbol|footprint|body)\.json$", path)
    return match[1] if match else ""
