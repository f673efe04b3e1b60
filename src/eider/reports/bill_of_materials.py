"""The bill of materials: quantities, references, facts, prices and alternates in the columns of a template."""

import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

import msgspec

from eider.catalogue.offers import Quote
from eider.errors import InputError
from eider.facts.categories import category_of, fact_field, value_field
from eider.facts.fact_reading import fact_order, print_fact
from eider.facts.quantities import parse_quantity
from eider.geometry.expressions import evaluate_expression
from eider.library.index.part_index import PartRow
from eider.model.library import BillColumn, Category, LibrarySettings
from eider.reports.design_lists import BillLine
from eider.symbols.pin_names import natural_key

# So many of them are named in a finding.
NAMED = 4
# The columns of a library that has no template of its own.
STANDARD_COLUMNS = (
    BillColumn("Item", "{item}", number=True),
    BillColumn("Quantity", "{quantity}", number=True),
    BillColumn("References", "{references}"),
    BillColumn("Part", "{part}"),
    BillColumn("Value", "{value}"),
    BillColumn("Description", "{description}"),
    BillColumn("Manufacturer", "{Manufacturer}", required=True),
    BillColumn("Part number", "{Part number}", required=True),
    BillColumn("Lifecycle", "{Lifecycle}"),
)
PRICED_COLUMNS = (
    *STANDARD_COLUMNS[:5],
    BillColumn("Manufacturer", "{Manufacturer}", required=True),
    BillColumn("Part number", "{Part number}", required=True),
    BillColumn("Supplier", "{supplier}"),
    BillColumn("Supplier number", "{supplier number}"),
    BillColumn("To order", "{to order}", number=True),
    BillColumn("Unit price", "{price}", number=True),
    BillColumn("Cost", "{cost}", number=True),
    BillColumn("Currency", "{currency}"),
    BillColumn("In stock", "{stock}", number=True),
    BillColumn("Asked", "{asked}"),
    BillColumn("Alternates", "{alternates}"),
)
# Names of columns that need to know what suppliers said, or what could be in.
PRICE_NAMES = ("supplier", "supplier number", "to order", "price", "cost", "currency", "stock", "asked")
ALTERNATES = "alternates"


class PricedPart(NamedTuple):
    """What the last look-up said of a part at a quantity: the cheapest offer, and the day it was asked (ISO 8601).

    `quote` is None where nobody sells it in the currency, or at all.
    """

    quote: Quote | None
    stock: int
    asked: str


class BillKnowledge(NamedTuple):
    """What a bill knows besides the parts: prices of a part at a quantity, and parts that could stand in for one."""

    price: Callable[[PartRow, int], PricedPart | None] = lambda _part, _quantity: None
    alternates: Callable[[PartRow], Sequence[str]] = lambda _part: ()


def like_parts(
    rows: Iterable[PartRow], wanted: Iterable[PartRow], settings: LibrarySettings
) -> Callable[[PartRow], Sequence[str]]:
    """For each wanted part the others with its category, value and land pattern, by name."""
    categories = {row.category: value_field(category_of(settings, row.category)) for row in wanted}
    groups: dict[tuple[object, ...], list[str]] = {}

    def key(row: PartRow) -> tuple[object, ...]:
        field = categories[row.category]
        value = row.facts.get(field.name, "") if field else ""
        return row.category, row.package, fact_order(field, value) if value else row.id

    for row in rows:
        if row.category in categories and row.package:
            groups.setdefault(key(row), []).append(row.name)
    return lambda row: sorted((name for name in groups.get(key(row), ()) if name != row.name), key=natural_key)


class BillTable(msgspec.Struct, frozen=True):
    """The bill as it is written: headings and cells, and what is missing or in doubt.

    `missing` are those of the findings that say that a part or a required fact is not there.
    """

    rows: tuple[tuple[str | float | int, ...], ...]
    findings: tuple[str, ...]
    missing: tuple[str, ...] = ()


def names_in(columns: Iterable[BillColumn]) -> frozenset[str]:
    """The names that columns speak of; in a sum those that are in it."""
    found: set[str] = set()
    for column in columns:
        if column.value.startswith("="):
            found |= set(re.findall(r"[A-Za-z_]+", column.value))
        else:
            found |= {name.strip() for name in re.findall(r"\{([^{}]*)\}", column.value)}
    return frozenset(found)


def bill_table(
    lines: Sequence[BillLine],
    columns: Sequence[BillColumn],
    settings: LibrarySettings,
    boards: int = 1,
    knowledge: BillKnowledge | None = None,
) -> BillTable:
    """The cells of the bill by its columns, and a finding for each required one that is empty.

    Raises:
        InputError: a column's sum cannot be worked out.
    """
    rows: list[tuple[str | float | int, ...]] = [tuple(column.heading for column in columns)]
    findings: list[str] = []
    missing: list[str] = []
    named, knowledge = names_in(columns), knowledge or BillKnowledge()
    is_priced = bool(named & set(PRICE_NAMES))
    used = {key: category_of(settings, key) for key in {line.part.category for line in lines if line.part}}
    for item, line in enumerate(lines, start=1):
        category = used[line.part.category] if line.part else None
        names = _names(line, category, item, boards)
        priced = knowledge.price(line.part, line.quantity * boards) if is_priced and line.part else None
        names |= _price_names(priced)
        if ALTERNATES in named and line.part:
            names[ALTERNATES] = ", ".join(knowledge.alternates(line.part))
        cells = tuple(_cell(column, names, line, category) for column in columns)
        rows.append(cells)
        label = line.part.name if line.part else f"“{line.said}”"
        where = ", ".join(line.references[:3]) or f"item {item}"
        if line.part is None:
            lacks = [f"{where}: {label} {_open_words(line)}"]
        else:
            lacks = [
                f"{where}: {column.heading} of {label} is empty"
                for column, cell in zip(columns, cells, strict=True)
                if column.required and cell == ""
            ]
        missing += lacks
        findings += lacks
        if is_priced and line.part is not None:
            findings += [f"{where}: {label}: {text}" for text in _price_doubts(priced, line.quantity * boards)]
        findings += [f"{where}: {doubt}" for doubt in line.doubts if line.part is not None]
        if line.part is not None and line.part.state == "draft":
            findings.append(f"{where}: {label} is a draft and was never released")
        if line.part is not None and line.part.state == "withdrawn":
            findings.append(f"{where}: {label} is withdrawn; choose its successor")
    return BillTable(tuple(rows), tuple(findings), tuple(missing))


def _open_words(line: BillLine) -> str:
    """Why a line has no part: none is known, or several are, of which the first are named."""
    if not line.candidates:
        return "has no part in the library"
    names = [row.name for row in line.candidates[:NAMED]]
    more = ", …" if len(line.candidates) > NAMED else ""
    return f"has no part yet: {line.doubts[0] if line.doubts else 'choose one'}: {', '.join(names)}{more}"


def _price_names(priced: PricedPart | None) -> dict[str, str | int | float]:
    """What a bill can say of prices; texts are empty where nothing is known."""
    names: dict[str, str | int | float] = dict.fromkeys(PRICE_NAMES, "")
    if priced is None:
        return names
    names |= {"stock": priced.stock, "asked": priced.asked}
    if quote := priced.quote:
        offer = quote.offer
        names |= {"supplier": offer.supplier, "supplier number": offer.number, "currency": offer.currency}
        names |= {"to order": quote.ordered, "price": float(quote.each), "cost": float(quote.cost)}
    return names


def _price_doubts(priced: PricedPart | None, wanted: int) -> Iterator[str]:
    if priced is None:
        yield "no price is known; look it up at the suppliers"
    elif priced.quote is None:
        yield "no supplier offers it"
    elif priced.quote.offer.stock < wanted:
        yield f"{priced.quote.offer.supplier} has {priced.quote.offer.stock:,} of {wanted:,} in stock"


def _names(line: BillLine, category: Category | None, item: int, boards: int) -> dict[str, str | int | float]:
    part, field = line.part, value_field(category)
    return {
        "item": item,
        "quantity": line.quantity,
        "total": line.quantity * boards,
        "boards": boards,
        "references": ", ".join(line.references),
        "part": part.name if part else "",
        "description": part.description if part else "",
        "category": category.title if category else "",
        "value": print_fact(field, part.facts.get(field.name, "")) if part and field else "",
        "package": part.package if part else "",
        "state": part.state if part else "",
        "revision": part.revision if part else "",
        "said": line.said,
        "doubts": "; ".join(line.doubts),
        ALTERNATES: "",
    }


def _cell(
    column: BillColumn, names: Mapping[str, str | int | float], line: BillLine, category: Category | None
) -> str | float | int:
    if column.value.startswith("="):
        numbers = {name: float(value) for name, value in names.items() if not isinstance(value, str)}
        try:
            return float(f"{evaluate_expression(column.value[1:], numbers, 'mm'):.10g}")
        except InputError as fault:
            raise InputError(f"column {column.heading}: {fault}") from fault
    whole = re.fullmatch(r"\{([^{}]+)\}", column.value.strip())
    if whole and isinstance(number := names.get(whole[1].strip()), int | float):
        return number
    text = re.sub(r"\{([^{}]*)\}", lambda match: _value(match[1].strip(), names, line, category), column.value)
    text = " ".join(text.split())
    if column.number and whole:
        field = fact_field(category, whole[1].strip())
        quantity = parse_quantity(text, field.unit if field else "")
        return quantity.value if quantity else text
    return text


def _value(name: str, names: Mapping[str, str | int | float], line: BillLine, category: Category | None) -> str:
    if name in names:
        return str(names[name])
    return print_fact(fact_field(category, name), line.part.facts.get(name, "")) if line.part else ""


def unknown_places(columns: Iterable[BillColumn], settings: LibrarySettings) -> Iterator[str]:
    """Names in columns that are neither facts of any category nor what a bill knows itself."""
    known = {*_names(BillLine(None, (), 0, "", ""), None, 0, 1), *PRICE_NAMES}
    for key in settings.categories:
        category = category_of(settings, key)
        known |= {fact.name for fact in category.facts} if category else set()
    for column in columns:
        if not column.value.startswith("="):
            yield from (name for name in re.findall(r"\{([^{}]*)\}", column.value) if name.strip() not in known)
