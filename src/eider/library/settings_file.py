"""`eider-library.toml` as a text: one of its sections written anew while the rest stays as somebody wrote it."""

import json
import re
from collections.abc import Callable, Iterable, Iterator
from typing import Any

import msgspec

from eider.errors import InputError
from eider.library.errors import ConflictError
from eider.library.item_paths import SETTINGS
from eider.library.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.codec import DocumentError, convert, parse_toml
from eider.model.library import LibrarySettings

_HEADER = re.compile(r"^\s*\[+\s*([^\]]+?)\s*\]+")


def save_section(library: Library, section: str, value: Any, lines: Iterable[str], note: str, *, replaces: Any) -> None:
    """Keep a section of the settings, with a note of why; the library works by it at once.

    `lines` are the section as text, `value` what it is read as, `replaces` what it was when somebody began.

    Raises:
        InputError: the file is laid out in a way in which the section cannot be replaced.
        ConflictError: somebody changed the section meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    library.require_writable()
    with locked(library):
        text = (library.files.read(SETTINGS) or b"").decode()
        stored = _settings(text)
        if getattr(stored, section) != replaces:
            raise ConflictError(f"somebody changed the {section} meanwhile; open them anew and make the change there")
        made = with_section(text, section, lines)
        wanted = msgspec.structs.replace(stored, **{section: value})
        if not _reads_as(made, wanted):
            raise InputError(f"{SETTINGS} is laid out in a way that cannot be changed here; edit the file itself")
        commit_noted(library, {SETTINGS: made.encode()}, note.strip())
        library.settings = wanted


def _settings(text: str) -> LibrarySettings:
    return convert(parse_toml(text, SETTINGS), LibrarySettings, SETTINGS)


def _reads_as(text: str, wanted: LibrarySettings) -> bool:
    try:
        return _settings(text) == wanted
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
