"""The whole example without a window: from datasheet to release and export, and a second revision."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import evaluate_part
from eider.demo.build import attach, build_library
from eider.demo.parts import converter_part
from eider.library.git.housekeeping import keep_house
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import documents_of, export_part
from eider.services.publishing.format_registry import default_formats
from eider.services.releasing.part_releasing import release_part


def walk(folder: Path, say: Callable[[str], None] | None = None) -> dict[str, Any]:
    """Run the example in a folder, saying each step; returns what was made."""
    tell = say or (lambda _text: None)
    library = build_library(folder)
    parts = library.search()
    tell(f"library “{library.settings.name}” in {library.folder}: {len(parts)} chip capacitors released")
    made = converter_part(library, attach(library, folder / "inbox" / "NVK-1216T.pdf", pages=4))
    rules = rules_for(library, made)
    outcome = evaluate_part(made, rules)
    pattern = outcome.bundle.footprint.pattern
    assert pattern is not None, "the demo's own sheet gives lands"
    rows = pattern.derivation[0]
    tell(f"{made.part.name} from its datasheet: {len(made.symbol.pins)} pins, {len(made.sheet.dims)} dimensions")
    tell(f"  lands {pattern.name}: Z {rows.Z:g}, G {rows.G:g}, X {rows.X:g} mm at level {pattern.level}")
    tell(f"  findings: {', '.join(f'{n} {name}s' for name, n in outcome.counts.items())}")
    first = release_part(library, made, "first release, checked against the datasheet")
    tell(f"  released as revision {first.revision}, {len(first.items)} items in commit {first.commit[:8]}")
    stored = library.load_release(made.part.id)
    exported = export_part(stored, default_formats(), folder / "export", rules, documents_of(library, stored))
    for line in (*exported.files, *exported.log):
        tell(f"  {line}")
    wider = package_edits.set_dimension(stored, "b", "0.19–0.34")
    second = release_part(library, wider, "lead width by the newer datasheet")
    keep_house(library)
    before, after = (_width(library.load_release(made.part.id, revision)) for revision in (1, 2))
    tell(f"changed b to 0.19–0.34: X stays {before:g} mm in revision 1, is {after:g} mm in revision {second.revision}")
    return {
        "library": str(library.folder),
        "parts": len(library.search()),
        "part": made.part.name,
        "revisions": second.revision,
        "files": list(exported.files),
        "log": list(exported.log),
    }


def _width(bundle: Any) -> float:
    width: float = bundle.footprint.pattern.derivation[0].X
    return width
