"""Writes what the documentation takes from the code: JSON Schemas, checks, standard graphics, the man page.

`PYTHONPATH=src .venv/bin/python tools/docs.py`; a test holds the files current.
"""

import json
import sys
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import msgspec

from eider.catalogue.protocol import PartPage
from eider.catalogue.service import openapi_document
from eider.drawings.primitives import Drawing, Text
from eider.drawings.symbol_drawing import symbol_drawing
from eider.drawings.tile_drawings import tile_side_by_side
from eider.exchange.svg_drawings import svg_text
from eider.library.documents.working_copies import WorkingCopy
from eider.model.body import Body
from eider.model.family_table import FamilyTable
from eider.model.finding import Finding
from eider.model.footprint import Footprint
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.pattern import Pattern
from eider.model.symbol import Symbol, SymbolMeasures
from eider.rulebooks import Rulebook
from eider.symbols.arrangement import arrange
from eider.symbols.graphic_builders import Form
from eider.symbols.graphics import FORMS, all_graphics, graphic_pins, has_forms

sys.path.insert(0, str(Path(__file__).parent))
from check_pages import pages
from command_pages import command_pages

DOCS = Path(__file__).parent.parent / "docs"
DOCUMENTS: Mapping[str, Any] = {
    "part": Part,
    "package": PackageSheet,
    "symbol": Symbol,
    "footprint": Footprint,
    "body": Body,
    "pattern": Pattern,
    "finding": Finding,
    "rulebook": Rulebook,
    "library": LibrarySettings,
    "family": FamilyTable,
    "working-copy": WorkingCopy,
    "catalogue-answer": PartPage,
}


def _as_text(_kind: type) -> dict[str, Any]:
    """Addresses are in files as text."""
    return {"type": "string"}


def schemas() -> dict[Path, str]:
    """The JSON Schema of every document, by its file."""
    return {
        DOCS / "format" / "schema" / f"{name}.schema.json": json.dumps(
            msgspec.json.schema(kind, schema_hook=_as_text), indent=1
        )
        + "\n"
        for name, kind in DOCUMENTS.items()
    }


def openapi() -> dict[Path, str]:
    """The description of the catalogue service."""
    text = json.dumps(openapi_document(), indent=1, ensure_ascii=False)
    return {DOCS / "format" / "catalogue-openapi.json": f"{text}\n"}


def checks() -> dict[Path, str]:
    """The guide's pages of checks, with a picture of a slip for each that has a place on a drawing."""
    return pages(DOCS)


def graphics() -> dict[Path, str]:
    """The catalogue of standard graphics: a picture for each form, and a page that lists them."""
    lines = [
        "# Standard graphics",
        "",
        "Chosen in Pins, or by a part's category. Pins stand on the grid; names in brackets are those that a new part",
        "begins with. The drawings are in `src/eider/symbols/graphics.toml`.",
        "",
        "![in the form of IEC 60617](graphics-iec.svg)",
        "",
        "Where the form of IEEE 315 and IEEE 91 differs:",
        "",
        "![in the form of IEEE](graphics-ieee.svg)",
        "",
        "| key | what | pins |",
        "|---|---|---|",
    ]
    for key, graphic in all_graphics().items():
        lines.append(f"| `{key}` | {graphic.title} | {', '.join(name for _, name in graphic.pins)} |")
    pages = {DOCS / "guide" / "graphics.md": "\n".join(lines) + "\n"}
    for form in FORMS:
        keys = [key for key in all_graphics() if form == "iec" or has_forms(key)]
        drawing = tile_side_by_side([_drawn(key, form) for key in keys], 5.0, 1.7)
        pages[DOCS / "guide" / f"graphics-{form}.svg"] = svg_text(drawing, title=f"standard graphics, {form.upper()}")
    return pages


def _drawn(key: str, form: Form) -> Drawing:
    """A graphic with its key below."""
    symbol = arrange(
        Symbol(id="", name=key, reference="", graphic=key, measures=SymbolMeasures(form=form), pins=graphic_pins(key))
    )
    drawn = symbol_drawing(symbol, "")
    x0, y0, x1, y1 = drawn.box
    bare = [p for p in drawn.primitives if not (isinstance(p, Text) and p.text in ("", "?"))]
    middle, half = (x0 + x1) / 2, max((x1 - x0) / 2, 0.42 * len(key) + 1)
    word = Text((middle, y0 - 1.5), key, 1.0, "note soft")
    return Drawing((*bare, word), (middle - half, y0 - 3, middle + half, y1))


def main() -> None:
    for path, text in {**schemas(), **openapi(), **checks(), **graphics(), **command_pages()}.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
