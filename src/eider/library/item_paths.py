"""Where each item of a library lies. Names that come from outside are made safe as file names here."""

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


def safe_name(name: str) -> str:
    """A name as a file name: only letters, digits, dot, dash, underscore and plus; never empty or hidden."""
    return re.sub(r"[^\w.+-]+", "_", name.strip(), flags=re.ASCII).strip("._")[:120] or "unnamed"


def item_path(kind: str, item: Item) -> str:
    """The path of an item inside its library, with forward slashes."""
    file = f"{safe_name(item.name)}.{kind}.json"
    if isinstance(item, Part):
        return f"parts/{safe_name(item.category or 'other')}/{file}"
    return f"{FOLDERS[kind]}/{file}"


def kind_of(path: str) -> str:
    """The kind of item that a path holds; empty where it holds none."""
    match = re.search(r"\.(part|package|symbol|footprint|body)\.json$", path)
    return match[1] if match else ""
