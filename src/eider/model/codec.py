"""Documents to and from text: stable key order, one record per line, so that a one-pin change is a one-line diff."""

import json
import math
import re
import tomllib
from typing import Any, TypeVar

import msgspec

from eider.errors import InputError
from eider.model.address import Address, parse_address

T = TypeVar("T")


class DocumentError(InputError):
    """A file that is not the document it should be: which file, where in it, and what is wrong."""


def to_data(document: Any) -> Any:
    """Plain dicts, lists, texts and numbers of a document."""
    return _without_noise(msgspec.to_builtins(document, enc_hook=_printed))


def encode(document: Any) -> str:
    """The text of a document, as it is in a library."""
    return _layout(to_data(document), 0) + "\n"


def decode(text: str | bytes, kind: type[T], where: str) -> T:
    """Read a document; `where` names the file in the error.

    Raises:
        DocumentError: the text is not JSON, or not a document of this kind.
    """
    try:
        return msgspec.json.decode(text, type=kind, dec_hook=_parsed)
    except msgspec.ValidationError as fault:
        raise DocumentError(f"{where}: {fault}; correct the file or restore it from its last release") from fault
    except RecursionError as fault:
        raise DocumentError(f"{where} is nested too deeply to be a document; take it from its last release") from fault
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise DocumentError(f"{where} is damaged ({fault}); take it from its last release") from fault


def parse_json(text: str | bytes, where: str) -> Any:
    """Plain data of JSON; only finite numbers and whole characters are taken.

    Raises:
        DocumentError: the text is not JSON; the error names line and column.
    """
    data = text.encode("utf-8", "surrogatepass") if isinstance(text, str) else text
    try:
        return msgspec.json.decode(data)
    except RecursionError as fault:
        raise DocumentError(f"{where} is nested too deeply to be a document") from fault
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise DocumentError(f"{where} is not JSON: {_with_line(str(fault), data)}") from fault


def parse_toml(text: str, where: str) -> dict[str, Any]:
    """Plain data of TOML; only finite numbers are taken.

    Raises:
        DocumentError: the text is not TOML; the error names the line.
    """
    try:
        data = tomllib.loads(text)
        _require_finite(data, where)
    except tomllib.TOMLDecodeError as fault:
        raise DocumentError(f"{where}: {fault}; correct that line") from fault
    except RecursionError as fault:
        raise DocumentError(f"{where} is nested too deeply to be a document") from fault
    return data


def _require_finite(data: Any, where: str) -> None:
    if isinstance(data, float) and not math.isfinite(data):
        raise DocumentError(f"{where} holds {data}, which is not a length or count; correct it")
    for value in data.values() if isinstance(data, dict) else data if isinstance(data, list) else ():
        _require_finite(value, where)


def _with_line(message: str, data: bytes) -> str:
    """The message of the parser with line and column in place of its count of bytes."""
    match = re.search(r" \(byte (\d+)\)", message)
    before = data[: int(match[1])] if match else data
    line, column = before.count(b"\n") + 1, len(before) - before.rfind(b"\n")
    told = message[: match.start()] if match else message
    return f"{told} in line {line}, column {column}"


def convert(data: Any, kind: type[T], where: str) -> T:
    """Make a document from plain data (of TOML, or of JSON that was looked at before).

    Raises:
        DocumentError: the data do not fit the type; it names the field.
    """
    try:
        return msgspec.convert(data, kind, dec_hook=_parsed)
    except (msgspec.ValidationError, ValueError) as fault:
        raise DocumentError(f"{where}: {fault}") from fault
    except RecursionError as fault:
        raise DocumentError(f"{where} is nested too deeply to be a document") from fault


def _printed(value: Any) -> str:
    """Addresses are in files as text."""
    if isinstance(value, Address):
        return str(value)
    raise NotImplementedError(f"{type(value).__name__} has no form in files")


def _parsed(kind: type, value: Any) -> Any:
    if kind is Address and isinstance(value, str):
        return parse_address(value)
    raise NotImplementedError(f"{kind.__name__} has no form in files")


def _without_noise(data: Any) -> Any:
    """Lengths with at most 6 decimals (a nanometre)."""
    if isinstance(data, float):
        rounded = round(data, 6) + 0.0
        return int(rounded) if rounded.is_integer() else rounded
    if isinstance(data, dict):
        return {key: _without_noise(value) for key, value in data.items()}
    if isinstance(data, list | tuple):
        return [_without_noise(value) for value in data]
    return data


def _layout(data: Any, depth: int) -> str:
    """JSON in which an object's members and a table's records stand on a line each, and a record on one line."""
    inner, outer = "  " * (depth + 1), "  " * depth
    if isinstance(data, dict) and data and depth and all(isinstance(v, dict) for v in data.values()):
        return "{\n" + ",\n".join(f"{inner}{_line(k)}: {_line(v)}" for k, v in data.items()) + f"\n{outer}}}"
    if isinstance(data, dict) and data and _is_deep(data, depth):
        members = [f"{inner}{json.dumps(str(k))}: {_layout(v, depth + 1)}" for k, v in data.items()]
        return "{\n" + ",\n".join(members) + f"\n{outer}}}"
    if isinstance(data, list) and data and any(isinstance(v, dict) for v in data):
        return "[\n" + ",\n".join(inner + _line(v) for v in data) + f"\n{outer}]"
    return _line(data)


def _is_deep(data: dict[str, Any], depth: int) -> bool:
    return depth == 0 or any(isinstance(value, dict | list) for value in data.values())


def _line(data: Any) -> str:
    return json.dumps(data, ensure_ascii=False, separators=(", ", ": "))
