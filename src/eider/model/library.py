"""The settings of a library: `eider-library.toml`."""

from typing import Literal, get_args

import msgspec

from eider.model.symbol import SymbolMeasures

LIBRARY_FORMAT = 2


Role = Literal["librarian", "reviewer", "engineer", "reader"]
ROLE_NAMES: tuple[Role, ...] = get_args(Role)
FactKind = Literal["text", "number", "range", "choice", "link", "date", "yes/no"]


class FactField(msgspec.Struct, frozen=True, omit_defaults=True):
    """One parameter that parts of a category have.

    Attributes:
        unit: of a number or range; values are printed with a prefix before it.
        also: spellings and other names that mean the same.
        kind: what a value is; `choices` are those of a choice.
        is_value: whether it is what the part is worth in the circuit: the resistance of a resistor.
        hidden: whether it is kept and not shown.
    """

    name: str
    required: bool = False
    unit: str = ""
    also: tuple[str, ...] = ()
    kind: FactKind = "text"
    choices: tuple[str, ...] = ()
    is_value: bool = False
    hidden: bool = False


class Category(msgspec.Struct, frozen=True, omit_defaults=True):
    """A class of parts: its reference letter, its facts, and how its parts are named and described.

    What it does not say itself it has from its `parent`. `pin_columns` are further columns of the pin tables of its
    parts. `name_pattern` is a regular expression that names follow;
    `part_name` and `description` are templates with facts in braces, by which they are composed.
    """

    title: str
    reference: str = ""
    parent: str = ""
    facts: tuple[FactField, ...] = ()
    pin_columns: tuple[FactField, ...] = ()
    name_pattern: str = ""
    name_example: str = ""
    graphic: str = ""
    description: str = ""
    part_name: str = ""


class SupplierRule(msgspec.Struct, frozen=True, omit_defaults=True):
    """What a library thinks of a supplier."""

    preferred: bool = False


class BillColumn(msgspec.Struct, frozen=True, omit_defaults=True):
    """A column of bills of materials: its heading, and a text with facts and other names in braces, or a sum after `=`.

    A `number` is written as one where it can be; a `required` one that is empty is a finding.
    """

    heading: str
    value: str
    number: bool = False
    required: bool = False


class PublishSettings(msgspec.Struct, frozen=True):
    """Where released parts are published after each release, and in which formats.

    A folder that is not absolute is meant from that of the library.
    """

    folder: str
    formats: tuple[str, ...]


class LibrarySettings(msgspec.Struct, frozen=True, kw_only=True):
    """Name, format version, categories, defaults, and how symbols are drawn in one library.

    `catalogue` is the address of the supplier catalogue, `currency` that of prices (ISO 4217; empty for any).
    `people` gives the role of each address; without any everybody is a librarian. Where `review` is required, a part
    is released only as it was approved; with `two_people` by someone else than who requested it.
    `bills` are the columns of bills of materials, by the name of the template. `dropped_facts` are names of facts that
    nobody wants: they are not taken from suppliers or files. `publish` is what happens after each release.
    """

    format: int = LIBRARY_FORMAT
    name: str
    rulebook: str = "standard"
    catalogue: str = ""
    currency: str = ""
    people: dict[str, Role] = {}
    review: Literal["free", "required"] = "free"
    two_people: bool = False
    categories: dict[str, Category] = {}
    dropped_facts: tuple[str, ...] = ()
    bills: dict[str, tuple[BillColumn, ...]] = {}
    symbols: SymbolMeasures = SymbolMeasures()
    publish: PublishSettings | None = None
