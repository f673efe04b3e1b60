"""The formats that Eider reads and writes: each module of `exchange.formats` and `reports.formats` registers one."""

from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path

from eider.discovery import modules_of
from eider.errors import InputError
from eider.exchange import formats as open_formats
from eider.exchange.format_spec import FormatSpec
from eider.exchange.formats import csv
from eider.exchange.pin_source import PinSource
from eider.reports import formats as report_formats

# So much of a file without a known suffix is looked at.
HEAD = 4096


@cache
def all_formats() -> Mapping[str, FormatSpec]:
    """Every format by its key, in the order of lists.

    Raises:
        TypeError: two modules register one key.
    """
    found = [module.FORMAT for package in (open_formats, report_formats) for module in modules_of(package)]
    made: dict[str, FormatSpec] = {}
    for entry in sorted(found, key=lambda entry: (entry.order, entry.key)):
        if entry.key in made:
            raise TypeError(f"two modules register the format {entry.key}")
        made[entry.key] = entry
    return made


def export_formats() -> Mapping[str, FormatSpec]:
    """The formats that a part can be written in."""
    return {key: entry for key, entry in all_formats().items() if entry.write is not None}


def default_formats() -> tuple[str, ...]:
    """The keys of the formats that are written unless the user chooses."""
    return tuple(key for key, entry in export_formats().items() if entry.is_default)


def export_format(key: str) -> FormatSpec:
    """The format of a key.

    Raises:
        InputError: a part cannot be written in it.
    """
    known = export_formats()
    if key not in known:
        raise InputError(f"format “{key}” is not known; choose one of {', '.join(known)}")
    return known[key]


def pin_file_patterns() -> str:
    """The patterns of files that pins can be read from, as file dialogs take them."""
    return " ".join(f"*{s}" for entry in all_formats().values() if entry.read_pins for s in entry.suffixes)


def read_pin_file(path: Path) -> list[PinSource]:
    """The pin tables of a file, by its content, else by its suffix; what nothing recognises is read as a table of text.

    Raises:
        InputError: it cannot be read, or holds no pins.
    """
    sources = _pin_reader(path)(path)
    if not any(source.reading.pins for source in sources):
        raise InputError(f"{path} holds no pins: expected a line for each, with number, name and type")
    return sources


def _pin_reader(path: Path) -> Callable[[Path], list[PinSource]]:
    try:
        with path.open("rb") as file:
            head = file.read(HEAD)
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    except OSError as fault:
        raise InputError(f"{path} cannot be read: {fault.strerror}") from fault
    found = format_of_file(path, head, lambda entry: entry.read_pins is not None)
    reader = found.read_pins if found else None
    return reader or csv.read_pin_table_file


def format_of_file(path: Path, head: bytes, can_read: Callable[[FormatSpec], bool]) -> FormatSpec | None:
    """The format of a file among those that can read it: by its first bytes, else by its name; None for none."""
    readers = [entry for entry in all_formats().values() if can_read(entry)]
    by_content = next((entry for entry in readers if entry.recognises and entry.recognises(head)), None)
    name = path.name.lower()
    return by_content or next((entry for entry in readers if name.endswith(tuple(entry.suffixes) or ("\0",))), None)
