"""Writes what the documentation takes from the code: JSON Schemas and the list of checks.

`PYTHONPATH=src .venv/bin/python tools/docs.py`; a test holds the files current.
"""

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import msgspec

from eider.catalogue.protocol import Answer
from eider.checks import all_checks
from eider.library.working import WorkingCopy
from eider.model.body import Body
from eider.model.finding import Finding
from eider.model.footprint import Footprint
from eider.model.library import LibrarySettings
from eider.model.part import Part
from eider.model.pattern import Pattern
from eider.model.sheet import PackageSheet
from eider.model.symbol import Symbol
from eider.rulebooks import Rulebook

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
    "working-copy": WorkingCopy,
    "catalogue-answer": Answer,
}


def schemas() -> dict[Path, str]:
    """The JSON Schema of every document, by its file."""
    return {
        DOCS / "format" / "schema" / f"{name}.schema.json": json.dumps(msgspec.json.schema(kind), indent=1) + "\n"
        for name, kind in DOCUMENTS.items()
    }


def checks() -> dict[Path, str]:
    """The page of all checks, from their own docstrings."""
    lines = [
        "# What Eider checks",
        "",
        "Every check runs all the time. A *blocker* stops the release; a *caution* and a *note* can be accepted with",
        "a reason. Many findings differ in severity from the one named here where the matter is worse or lighter.",
        "",
        "| check | severity | what holds | why | mended by |",
        "|---|---|---|---|---|",
    ]
    for entry in all_checks().values():
        mend = entry.mend.title if entry.mend else ""
        lines.append(f"| `{entry.id}` | {entry.severity} | {entry.title} | {entry.why} | {mend} |")
    return {DOCS / "guide" / "checks.md": "\n".join(lines) + "\n"}


def main() -> None:
    for path, text in {**schemas(), **checks()}.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
