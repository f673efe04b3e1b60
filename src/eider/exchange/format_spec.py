"""What a format declares: key, suffixes, what it is for a person, its writer and its readers."""

from collections.abc import Callable, Iterator, Mapping
from pathlib import Path

import msgspec

from eider.bodies.solids.materials import MaterialTable
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.pinout_drawing import pinout_drawing
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import InputError
from eider.exchange.found_parts import FoundFile
from eider.exchange.pin_source import PinSource
from eider.exchange.reading_hints import ReadingHints
from eider.library.item_paths import safe_name
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.pattern import Pattern
from eider.packages.orientation import terminals_on
from eider.rulebooks import Rulebook


class ExportSource(msgspec.Struct, frozen=True):
    """What is exported: a part with its findings, its rulebook, its files by their sum, its library's materials."""

    bundle: Bundle
    findings: tuple[Finding, ...]
    rulebook: Rulebook
    documents: Mapping[str, str]
    materials: MaterialTable = {}

    def model_file(self) -> Path:
        """The STEP file that is the part's body.

        Raises:
            InputError: the library does not have it.
        """
        model = self.bundle.body.model
        if model is None or model.sha256 not in self.documents:
            raise InputError(f"the model {model.file if model else ''} is no longer in the library; import it again")
        return Path(self.documents[model.sha256])


class FormatSpec(msgspec.Struct, frozen=True, kw_only=True):
    """A format.

    Attributes:
        key: its name on the command line and in `--to`.
        title: what it is, for a person.
        suffixes: those of its files, with the dot, in lower case.
        order: its place in lists.
        loses: what of a part it cannot carry; empty where it carries all that it is for.
        is_default: whether it is written unless the user says which formats to write.
        write: writes a part into a folder, and returns the files.
        read_pins: reads pin tables out of a file.
        read_parts: reads parts, or pieces of parts, out of a file, with what the user said of its source.
        recognises: whether the first bytes of a file are of this format, for files without a known suffix.
        archived: of a format that is an archive of files, the name of one by which it is known.
    """

    key: str
    title: str
    suffixes: tuple[str, ...]
    order: int = 100
    loses: str = ""
    is_default: bool = True
    write: Callable[[ExportSource, Path], list[Path]] | None = None
    read_pins: Callable[[Path], list[PinSource]] | None = None
    read_parts: Callable[[Path, ReadingHints], FoundFile] | None = None
    recognises: Callable[[bytes], bool] | None = None
    archived: str = ""


def require_lands(bundle: Bundle) -> None:
    """Refuse a part without lands.

    Raises:
        InputError: there are none.
    """
    if bundle.footprint.pattern is None:
        raise InputError("there are no lands yet")


def named_patterns(bundle: Bundle, what: str = "") -> Iterator[tuple[str, Pattern]]:
    """The land patterns of a part at all its levels, each with the stem of its file: `NVK-1216T`, then `NVK-1216T-C`.

    `what` follows the part's name, such as `-lands`.
    """
    stem = f"{safe_name(bundle.part.name)}{what}"
    for index, pattern in enumerate(bundle.footprint.patterns):
        yield (f"{stem}-{pattern.level}" if index else stem), pattern


def part_drawings(bundle: Bundle) -> Mapping[str, tuple[Drawing, str]]:
    """The drawings of a part by the stem of their file, each with what it is."""
    made = {f"{safe_name(bundle.symbol.name)}-symbol": (symbol_drawing(bundle.symbol, bundle.part.name), "symbol")}
    for pattern in bundle.footprint.patterns:
        terminals = terminals_on(bundle.sheet, pattern)
        stem = f"{safe_name(pattern.name)}-lands"
        drawn = pattern_drawing(pattern, terminals), f"land pattern, level {pattern.level}"
        # Names of leaded patterns are the same at every level.
        made[f"{stem}-{pattern.level}" if stem in made else stem] = drawn
    if bundle.symbol.pins:
        made[f"{safe_name(bundle.part.name)}-pinout"] = pinout_drawing(bundle), "pinout"
    return made
