"""Changes of a rulebook's text: values are put into the TOML as it was written, its comments stay."""

from collections.abc import Mapping
from typing import Any

import tomlkit
from tomlkit.exceptions import TOMLKitError

from eider.rulebooks.rulebook import Rulebook, RulebookError, parse_rulebook, standard_rulebook


def edited(text: str, changes: Mapping[str, str], where: str) -> str:
    """The TOML of a rulebook with some values replaced, each named by its path: `goals.0.outer.1`.

    A value that the text leaves to its default is written into it.

    Raises:
        RulebookError: the text is not a rulebook, or a change does not fit it.
    """
    rulebook = parse_rulebook(text, where)
    wanted = rulebook.with_values(changes)
    try:
        document: Any = tomlkit.parse(text)
    except TOMLKitError as fault:
        raise RulebookError(f"{where}: {fault}; correct that line") from fault
    for path in changes:
        _put(document, path, _value_at(wanted, path))
    made = tomlkit.dumps(document)
    parse_rulebook(made, where)
    return made


def _put(document: Any, path: str, value: Any) -> None:
    *parents, last = path.split(".")
    for step in parents:
        if isinstance(document, dict) and step not in document:
            document[step] = tomlkit.table()
        document = document[int(step) if step.isdecimal() and not isinstance(document, dict) else step]
    if value is None or (value == "" and parents == ["naming"]):
        document.pop(last, None)
    else:
        document[int(last) if last.isdecimal() and not isinstance(document, dict) else last] = value


def _value_at(rulebook: Rulebook, path: str) -> Any:
    found: Any = rulebook
    for step in path.split("."):
        if isinstance(found, tuple):
            found = found[int(step)]
        elif isinstance(found, dict):
            found = found.get(step, "")
        else:
            found = getattr(found, step)
    return found


def value_text(rulebook: Rulebook, path: str) -> str:
    """A value of a rulebook as it is typed."""
    value = _value_at(rulebook, path)
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:.2f}" if round(value, 2) == value else f"{value:g}"
    return "" if value is None else str(value)


def standard_value(path: str) -> str:
    """The same value in the rulebook that ships with Eider; empty where it has none."""
    try:
        return value_text(standard_rulebook(), path)
    except (AttributeError, IndexError):
        return ""
