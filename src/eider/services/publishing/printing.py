"""Prints land patterns of parts at their true size into a PDF."""

from collections.abc import Sequence
from pathlib import Path

import msgspec

from eider.errors import InputError
from eider.library import Library
from eider.library.atomic_files import write_atomic
from eider.model.wording import counted
from eider.services.tasks import Task


class Printed(msgspec.Struct, frozen=True):
    """The file, how many land patterns it holds, on which paper, and whether they are mirrored."""

    file: str
    patterns: int
    paper: str
    mirrored: bool

    @property
    def words(self) -> str:
        """It in a line."""
        mirrored = ", mirrored" if self.mirrored else ""
        return f"{counted(self.patterns, 'land pattern')} 1:1 on {self.paper}{mirrored}: {self.file}"


def print_parts(
    library: Library,
    part_ids: Sequence[str],
    out: Path,
    paper: str,
    *,
    mirrored: bool = False,
    task: Task | None = None,
) -> Printed:
    """Write the land patterns of parts, as they are being worked on, into a PDF.

    Raises:
        InputError: there are no parts, one has no lands, or a land pattern is larger than the paper.
        LibraryError: the file cannot be written. CancelledError: the user cancelled; nothing is written.
    """
    task = task or Task()
    if not part_ids:
        raise InputError("choose the parts whose land patterns are to be printed")
    bundles = []
    for index, part_id in enumerate(part_ids):
        task.report(index / len(part_ids), "reading the parts")
        bundles.append(library.load(part_id))
    # Loads the PDF writer, which nobody needs before the first print.
    from eider.reports.footprint_print import print_pages, print_tiles

    tiles = print_tiles(bundles)
    write_atomic(out, print_pages(tiles, paper, mirrored=mirrored))
    return Printed(str(out), len(tiles), paper, mirrored)
