"""Reads the pins of a boundary-scan description (BSDL, IEEE 1149.1): ports with directions, pin maps of packages."""

import bisect
import itertools
import re
from collections.abc import Iterator

import msgspec

from eider.errors import InputError
from eider.exchange.format_spec import FormatSpec
from eider.exchange.json_files import read_text
from eider.exchange.pin_source import PinSource, source_of
from eider.model.symbol import Pin
from eider.symbols.pin_names import guess_type, natural_key
from eider.symbols.pin_table import MOST_PINS, RowFault, make_pin

SUFFIXES = (".bsd", ".bsdl", ".bsm")
# A vector of more members is a slip of the pen.
LARGEST_VECTOR = 5000
# IEEE 1149.1-2013, pin types of a logical port; `linkage` says only that the pin is not part of the scan.
_TYPES = {
    "in": "input", "out": "output", "buffer": "output", "inout": "bidirectional", "linkage_in": "input",
    "linkage_out": "output", "linkage_buffer": "output", "linkage_inout": "bidirectional",
    "linkage_mechanical": "passive", "power_0": "power input", "power_pos": "power input", "power_neg": "power input",
    "vref_in": "passive", "vref_out": "passive",
}  # fmt: skip
_TAP = re.compile(r"attribute\s+tap_scan_(\w+)\s+of\s+(\w+)\s*:\s*signal", re.IGNORECASE)
_ENTITY = re.compile(r"\bentity\s+(\w+)\s+is\b", re.IGNORECASE)
_PORT = re.compile(r"\bport\s*\(", re.IGNORECASE)
_MAP = re.compile(r"\bconstant\s+(\w+)\s*:\s*pin_map_string\s*:=", re.IGNORECASE)
_DECLARED = re.compile(
    r"^\s*(?P<names>\w+(?:\s*,\s*\w+)*)\s*:\s*(?P<way>\w+)\s+"
    r"(?P<kind>bit_vector|bit)\s*(?:\(\s*(?P<a>\d+)\s+(?P<to>to|downto)\s+(?P<b>\d+)\s*\))?\s*$",
    re.IGNORECASE,
)
_MAPPED = re.compile(r"^\s*(\w+)\s*:\s*(\(.*\)|[^(),\s]+)\s*$", re.DOTALL)


class Port(msgspec.Struct, frozen=True):
    """A logical port: its way (`in`, `linkage` …), indexes of its members in order (empty for one bit), its line."""

    name: str
    way: str
    indexes: tuple[int, ...]
    line: int


def read_bsdl(text: str) -> list[PinSource]:
    """One source for each package that the description has a pin map of.

    Raises:
        InputError: there is no entity with ports and a pin map.
    """
    bare = _without_comments(text)
    entity = _ENTITY.search(bare)
    ports, faults = _ports(bare)
    maps = list(_MAP.finditer(bare))
    if entity is None or not ports or not maps:
        lacking = "entity" if entity is None else "port clause" if not ports else "PIN_MAP_STRING constant"
        raise InputError(f"this is not a boundary-scan description: it has no {lacking}")
    taps = {match[2].lower(): match[1].lower() for match in _TAP.finditer(bare)}
    sources = []
    for match in maps:
        pairs, wrong = _pin_map(bare, match.end())
        pins, odd = _pins(ports, pairs, taps)
        ordered = sorted(pins, key=lambda pair: natural_key(pair[1].number))
        sources.append(source_of(f"{entity[1]}, package {match[1]}", ordered, [*faults, *wrong, *odd]))
    return sources


def _without_comments(text: str) -> str:
    """The same text with comments blanked, so that lines and places stay."""
    return re.sub(r"--[^\n]*", lambda match: " " * len(match[0]), text)


class _Lines:
    """Tells in which line (from 1) a place of a text stands."""

    def __init__(self, text: str) -> None:
        self._ends = [match.start() for match in re.finditer("\n", text)]

    def at(self, place: int) -> int:
        """The line of a place."""
        return bisect.bisect_left(self._ends, place) + 1


def _closing(text: str, start: int) -> int:
    """Where the bracket closes that is open before `start`; the end of the text where it does not."""
    depth = 1
    for place in range(start, len(text)):
        depth += {"(": 1, ")": -1}.get(text[place], 0)
        if depth == 0:
            return place
    return len(text)


def _ports(text: str) -> tuple[dict[str, Port], list[RowFault]]:
    opened = _PORT.search(text)
    if opened is None:
        return {}, []
    ports: dict[str, Port] = {}
    faults: list[RowFault] = []
    place, lines = opened.end(), _Lines(text)
    for piece in text[place : _closing(text, place)].split(";"):
        line = lines.at(place + len(piece) - len(piece.lstrip()))
        place += len(piece) + 1
        if not piece.strip():
            continue
        match = _DECLARED.match(piece)
        if match is None:
            found = " ".join(piece.split())[:60]
            faults.append(RowFault(line, f"“{found}” is not a port; expected NAME : in, out, inout or linkage bit"))
            continue
        indexes = _indexes(match)
        for name in re.split(r"\s*,\s*", match["names"]):
            ports[name.lower()] = Port(name, match["way"].lower(), indexes, line)
    return ports, faults


def _indexes(match: re.Match[str]) -> tuple[int, ...]:
    if match["a"] is None:
        return ()
    a, b = int(match["a"]), int(match["b"])
    if abs(a - b) >= LARGEST_VECTOR:
        return ()
    return tuple(range(a, b + 1)) if match["to"].lower() == "to" else tuple(range(a, b - 1, -1))


def _pin_map(text: str, start: int) -> tuple[list[tuple[str, list[str], int]], list[RowFault]]:
    """The entries of a map: port, pins, line. The string may be put together of pieces with `&`."""
    pieces: list[tuple[str, int]] = []
    place = start
    while (match := re.compile(r'\s*&?\s*"([^"]*)"').match(text, place)) is not None:
        pieces.append((match[1], match.start(1)))
        place = match.end()
    whole, lines = "".join(piece for piece, _ in pieces), _Lines(text)
    begins = [0, *itertools.accumulate(len(piece) for piece, _ in pieces)]
    found: list[tuple[str, list[str], int]] = []
    faults: list[RowFault] = []
    for entry, offset in _entries(whole):
        line = lines.at(_origin(pieces, begins, offset))
        match = _MAPPED.match(entry)
        pins = [pin.strip() for pin in match[2].strip("()").split(",")] if match else []
        if match is None or not all(pins):
            shown = " ".join(entry.split())[:60]
            faults.append(RowFault(line, f"“{shown}” maps no port; expected PORT:PIN or PORT:(PIN, PIN)"))
            continue
        found.append((match[1], pins, line))
    return found, faults


def _entries(whole: str) -> Iterator[tuple[str, int]]:
    """Pieces between commas that stand outside of brackets, each with its offset."""
    depth, begun = 0, 0
    for place, letter in enumerate([*whole, ","]):
        depth += {"(": 1, ")": -1}.get(letter, 0)
        if letter == "," and depth <= 0:
            entry = whole[begun:place]
            if entry.strip():
                yield entry, begun + len(entry) - len(entry.lstrip())
            begun = place + 1


def _origin(pieces: list[tuple[str, int]], begins: list[int], offset: int) -> int:
    """Where in the file a letter of the joined string stands; `begins` tells where each piece begins in it."""
    index = bisect.bisect_right(begins, offset) - 1
    return pieces[index][1] + offset - begins[index] if index < len(pieces) else pieces[-1][1] if pieces else 0


def _pins(
    ports: dict[str, Port], pairs: list[tuple[str, list[str], int]], taps: dict[str, str]
) -> tuple[list[tuple[int, Pin]], list[RowFault]]:
    found: list[tuple[int, Pin]] = []
    faults: list[RowFault] = []
    mapped = set()
    for name, numbers, line in pairs:
        port = ports.get(name.lower())
        if port is None:
            faults.append(RowFault(line, f"{name} is mapped to {', '.join(numbers)} but is not a port"))
            continue
        mapped.add(name.lower())
        if len(found) > MOST_PINS:
            continue
        names = _member_names(port, len(numbers))
        if len(names) != len(numbers):
            message = f"{name} has {len(names)} members but {len(numbers)} pins; those that both have were taken"
            faults.append(RowFault(line, message))
        for member, number in zip(names, numbers, strict=False):
            found.append((line, _pin(member, number, port, taps)))
    missing = [port for key, port in ports.items() if key not in mapped]
    faults += [RowFault(port.line, f"{port.name} has no pin in this package") for port in missing]
    return found, faults


def _member_names(port: Port, count: int) -> list[str]:
    """D(0 to 7) gives D0 to D7; members of a supply all bear its name."""
    if not port.indexes:
        return [port.name] * (count if port.way.startswith(("linkage", "power")) else 1)
    guess = guess_type(port.name)
    if port.way.startswith(("linkage", "power")) and guess and guess.type in ("power input", "not connected"):
        return [port.name] * len(port.indexes)
    return [f"{port.name}{index}" for index in port.indexes]


def _pin(name: str, number: str, port: Port, taps: dict[str, str]) -> Pin:
    made, _ = make_pin(number, name, group="test access" if port.name.lower() in taps else "")
    known = _TYPES.get(port.way)
    return msgspec.structs.replace(made, type=known, assumed=False) if known else made


FORMAT = FormatSpec(
    key="bsdl",
    title="Boundary scan description (IEEE 1149.1)",
    suffixes=SUFFIXES,
    order=110,
    read_pins=lambda path: read_bsdl(read_text(path)),
    recognises=lambda head: bool(_ENTITY.search(head.decode("latin-1"))),
)
