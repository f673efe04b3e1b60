"""`eider-library.toml` as a text: one of its sections written again while the rest stays as someone wrote it."""

import json
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import partial
from typing import Any

import msgspec

from eider.errors import InputError
from eider.library.errors import ConflictError
from eider.library.item_paths import SETTINGS
from eider.library.releases.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.codec import DocumentError, convert, parse_toml
from eider.model.library import LibrarySettings

_HEADER = re.compile(r"^\s*\[+\s*([^\]]+?)\s*\]+")


def save_section(library: Library, section: str, value: Any, lines: Iterable[str], note: str, *, replaces: Any) -> None:
    """Keep a section of the settings, with a note of why; the library works by it at once.

    `lines` are the section as text, `value` what it is read as, `replaces` what it was when someone began.

    Raises:
        InputError: the file is laid out in a way in which the section cannot be replaced.
        ConflictError: someone changed the section meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    written = partial(with_section, section=section, lines=tuple(lines))
    save_settings(library, {section: value}, written, note, replaces={section: replaces})


def save_settings(
    library: Library,
    fields: Mapping[str, Any],
    written: Callable[[str], str],
    note: str,
    *,
    replaces: Mapping[str, Any],
) -> None:
    """Keep some fields of the settings, with a note of why; the library works by them at once.

    `written` makes the new text of the file of the old one; `replaces` is what the fields were when someone began.

    Raises:
        InputError: the file is laid out in a way in which they cannot be replaced.
        ConflictError: someone changed one of them meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    library.require_writable()
    with locked(library):
        text = (library.files.read(SETTINGS) or b"").decode()
        stored = read_settings(text)
        changed = [name for name, value in replaces.items() if getattr(stored, name) != value]
        if changed:
            raise ConflictError(
                f"someone changed the {changed[0]} meanwhile; open them again and make the change there"
            )
        made = written(text)
        wanted = msgspec.structs.replace(stored, **fields)
        if not _reads_as(made, wanted):
            raise InputError(f"{SETTINGS} is laid out in a way that cannot be changed here; edit the file itself")
        commit_noted(library, {SETTINGS: made.encode()}, note.strip())
        library.settings = wanted


def read_settings(text: str) -> LibrarySettings:
    """The settings that a text of the file holds.

    Raises:
        DocumentError: it is not valid.
    """
    return convert(parse_toml(text, SETTINGS), LibrarySettings, SETTINGS)


def _reads_as(text: str, wanted: LibrarySettings) -> bool:
    try:
        return read_settings(text) == wanted
    except DocumentError:
        return False


def with_section(text: str, section: str, lines: Iterable[str]) -> str:
    """The text of the settings with a section at its end in place of the one it had."""
    kept: list[str] = []
    is_section = False
    for line in text.splitlines():
        if match := _HEADER.match(line):
            is_section = match[1].split(".")[0].strip("\"' ") == section
        if not is_section:
            kept.append(line)
    while kept and (not kept[-1].strip() or kept[-1].lstrip().startswith("#")):
        kept.pop()
    return "\n".join([*kept, *lines]) + "\n"


def with_value(text: str, key: str, value: str) -> str:
    """The text of the settings with another value of a key that is before all sections."""
    lines = text.splitlines()
    end = next((index for index, line in enumerate(lines) if _HEADER.match(line)), len(lines))
    at = next((index for index in range(end) if re.match(rf"^\s*{re.escape(key)}\s*=", lines[index])), None)
    if at is not None:
        lines[at] = f"{key} = {value}"
    else:
        while end and not lines[end - 1].strip():
            end -= 1
        lines.insert(end, f"{key} = {value}")
    return "\n".join(lines) + "\n"


def value_pairs(entry: msgspec.Struct, plain: msgspec.Struct, write: Callable[[Any], str]) -> Iterator[str]:
    """`key = value` for each field of an entry that is not as in a plain one."""
    for name in entry.__struct_fields__:
        value = getattr(entry, name)
        if value != getattr(plain, name):
            yield f"{name} = {write(value)}"


def toml_value(value: Any) -> str:
    """A text, a yes or no, or a tuple of texts in TOML."""
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, tuple):
        return f"[{', '.join(map(toml_text, value))}]"
    return toml_text(value)


def toml_text(text: str) -> str:
    """A basic string of TOML: one of JSON, but for the sign 127."""
    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")
