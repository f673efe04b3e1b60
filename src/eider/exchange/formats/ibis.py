"""Reads the pins of a buffer model (IBIS): [Component], [Pin], [Model] and [Model Selector]."""

import re
from collections.abc import Iterator

import msgspec

from eider.errors import InputError
from eider.exchange.format_spec import FormatSpec
from eider.exchange.json_files import read_text
from eider.exchange.pin_source import PinSource, source_of
from eider.model.symbol import Pin
from eider.symbols.pin_table import MOST_PINS, RowFault, make_pin

SUFFIXES = (".ibs",)
_KEYWORD = re.compile(r"^\s*\[([^\]]+)\]\s*(.*)$")
_MODEL_TYPE = re.compile(r"^\s*model_type\s+(\S+)", re.IGNORECASE)
# Model_type of the standard, lower case, to electrical types.
_TYPES = {
    "input": "input", "input_ecl": "input", "input_diff": "input",
    "output": "output", "output_ecl": "output", "output_diff": "output",
    "i/o": "bidirectional", "i/o_ecl": "bidirectional", "i/o_diff": "bidirectional",
    "3-state": "tri-state", "3-state_ecl": "tri-state", "3-state_diff": "tri-state",
    "open_drain": "open collector", "open_sink": "open collector", "i/o_open_drain": "open collector",
    "i/o_open_sink": "open collector", "open_source": "open emitter", "i/o_open_source": "open emitter",
    "terminator": "passive", "series": "passive", "series_switch": "passive",
}  # fmt: skip
# Names that are in place of a model.
_RESERVED = {"power": "power input", "gnd": "power input", "nc": "not connected", "na": ""}


class _Row(msgspec.Struct, frozen=True):
    line: int
    number: str
    signal: str
    model: str


class _Parts(msgspec.Struct):
    """What was gathered: rows of pins by component, types of models, what selectors stand for, faults."""

    components: dict[str, list[_Row]] = msgspec.field(default_factory=dict)
    models: dict[str, str] = msgspec.field(default_factory=dict)
    selectors: dict[str, str] = msgspec.field(default_factory=dict)
    faults: list[RowFault] = msgspec.field(default_factory=list)


def read_ibis(text: str) -> list[PinSource]:
    """One source for each component.

    Raises:
        InputError: there is no [Component] with a [Pin] section.
    """
    parts = _gathered(text)
    if not any(parts.components.values()):
        raise InputError("this is not a buffer model with pins: it has no [Component] with a [Pin] section")
    return [
        source_of(name, [(row.line, _pin(row, parts)) for row in rows[: MOST_PINS + 1]], parts.faults)
        for name, rows in parts.components.items()
        if rows
    ]


def _sections(text: str) -> Iterator[tuple[int, str, str, str]]:
    """Each line with its number, the keyword of its section, what is behind a keyword, and the line itself."""
    comment, keyword = "|", ""
    for number, raw in enumerate(text.splitlines(), start=1):
        line = raw.split(comment, 1)[0].rstrip()
        match = _KEYWORD.match(line)
        if match:
            keyword = " ".join(match[1].replace("_", " ").lower().split())
            if keyword == "comment char" and raw.split("]", 1)[1].strip():
                comment = raw.split("]", 1)[1].strip()[0]
                continue
            yield number, keyword, match[2].strip(), ""
        elif line.strip():
            yield number, keyword, "", line


def _gathered(text: str) -> _Parts:
    parts, component, model, selector = _Parts(), "", "", ""
    for number, keyword, behind, line in _sections(text):
        if not line:
            if keyword == "component":
                component = behind
                parts.components.setdefault(component, [])
            elif keyword == "model":
                model = behind.lower()
            elif keyword == "model selector":
                selector = behind.lower()
        elif keyword == "pin" and component:
            _take_row(parts, component, number, line)
        elif keyword == "model" and (match := _MODEL_TYPE.match(line)):
            parts.models[model] = match[1].lower()
        elif keyword == "model selector":
            # The first that is listed is the one in force.
            parts.selectors.setdefault(selector, line.split()[0].lower())
    return parts


def _take_row(parts: _Parts, component: str, number: int, line: str) -> None:
    words = line.split()
    if words[0].lower() == "signal_name":
        return
    if len(words) < 3:
        message = f"“{line.strip()[:60]}” is not a pin; expected its number, signal_name and model_name"
        parts.faults.append(RowFault(number, message))
        return
    parts.components[component].append(_Row(number, words[0], words[1], words[2]))


def _pin(row: _Row, parts: _Parts) -> Pin:
    made, _ = make_pin(row.number, row.signal)
    model = row.model.lower()
    if model in _RESERVED:
        kind = _RESERVED[model]
    else:
        kind = _TYPES.get(parts.models.get(parts.selectors.get(model, model), ""), "")
    return msgspec.structs.replace(made, type=kind, assumed=False) if kind else made


FORMAT = FormatSpec(
    key="ibis",
    title="Buffer models (IBIS)",
    suffixes=SUFFIXES,
    order=120,
    read_pins=lambda path: read_ibis(read_text(path)),
    recognises=lambda head: b"[ibis ver" in head.lower(),
)
