"""The templates of bills of materials of a library, saved in its settings."""

from collections.abc import Iterator, Mapping

from eider.errors import InputError
from eider.library.settings.settings_file import save_section, toml_text, toml_value, value_pairs
from eider.library.store import Library
from eider.model.library import BillColumn

Templates = Mapping[str, tuple[BillColumn, ...]]


def save_bill_templates(library: Library, bills: Templates, note: str, *, replaces: Templates) -> None:
    """Keep the templates in place of those that they replace.

    Raises:
        InputError: a template has no name or no columns, a column no heading, or the file cannot be changed here.
        ConflictError: someone changed the templates meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    for name, columns in bills.items():
        if not name.strip():
            raise InputError("give the template a name")
        if not columns:
            raise InputError(f"template {name} has no columns; add one")
        if not all(column.heading.strip() for column in columns):
            raise InputError(f"a column of template {name} has no heading")
    save_section(library, "bills", dict(bills), _lines(bills), note, replaces=dict(replaces))


def _lines(bills: Templates) -> Iterator[str]:
    plain = BillColumn("", "")
    for name, columns in bills.items():
        for column in columns:
            yield ""
            yield f"[[bills.{toml_text(name)}]]"
            yield from value_pairs(column, plain, toml_value)
            if not column.value:
                yield 'value = ""'
