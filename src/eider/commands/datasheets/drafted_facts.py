"""Facts and description of a draft, from the tables of characteristics and the first lines of a datasheet."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.facts.fact_edits import set_fact
from eider.datasheets.documents.document_title import document_title, names_part
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.fact_rows import FactRow
from eider.facts.categories import fact_field, fact_names, spelling_key
from eider.facts.fact_reading import read_fact
from eider.geometry.plane import Box
from eider.model.address import FactAddress, FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.library import Category

replace = msgspec.structs.replace
# Of the name of a characteristic these words say nothing.
_FILLERS = frozenset({"range", "ambient", "free-air"})
MANUFACTURER = "Manufacturer"


class CitedRow(NamedTuple):
    """A row of a datasheet's table with the page (from 1) on which it stands."""

    page: int
    row: FactRow


def with_drafted_facts(
    bundle: Bundle, category: Category | None, rows: Iterable[CitedRow], document: str, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with those facts of its category that rows name and that can be read; what is there already stays.

    Where rows of one name differ the first is taken, with a doubt.
    """
    if category is None:
        return bundle, []
    names = fact_names(category)
    found: dict[str, list[CitedRow]] = {}
    for cited in rows:
        name = names.get(_key(cited.row.name), "")
        field = fact_field(category, name)
        if name and field and name not in bundle.part.facts and read_fact(field, cited.row.value).value is not None:
            found.setdefault(name, []).append(cited)
    doubts = []
    for name, candidates in found.items():
        page, row = candidates[0]
        evidence = datasheet_evidence(document, page, row.box, row.seen, who)
        bundle = set_fact(bundle, name, row.value, evidence)
        values = list(dict.fromkeys(cited.row.value for cited in candidates))
        if len(values) > 1:
            told = f"the datasheet gives {', '.join(values)}; the first was taken"
            doubts.append(Doubt(str(FactAddress(name)), row.value, told, document, page, row.box))
    return bundle, doubts


def _key(name: str) -> str:
    return spelling_key(" ".join(word for word in name.split() if word.casefold() not in _FILLERS))


def with_drafted_description(bundle: Bundle, first: PageText, document: str) -> tuple[Bundle, list[Doubt]]:
    """The part with the words of the title as its description, which a person has to look at unless they say by a word
    of the trade what the part is.

    `first` is the first page; without such words, or with a description already, the part stays as it is.
    """
    title = document_title(first, bundle.part.name)
    if not title.description or bundle.part.description:
        return bundle, []
    text = title.description
    made = replace(bundle, part=replace(bundle.part, description=text))
    if names_part(text):
        return made, []
    told, address = "taken from the title of the datasheet", str(FieldAddress("part", "description"))
    return made, [Doubt(address, text, told, document, first.page, title.description_box)]


def with_known_manufacturer(bundle: Bundle, known: Iterable[str], first: PageText, document: str, who: str) -> Bundle:
    """The part with the manufacturer of other parts whose name stands on the first page; not where several do."""
    lines = text_lines([word for word in first.words if word.quarters == 0])
    named = {name: line for name in known for line in lines if name and f" {name} " in f" {line_text(line)} "}
    if len(named) != 1 or MANUFACTURER in bundle.part.facts:
        return bundle
    ((name, line),) = named.items()
    evidence = datasheet_evidence(document, first.page, _box_of(line), line_text(line), who)
    return set_fact(bundle, MANUFACTURER, name, evidence)


def _box_of(line: Sequence[PageWord]) -> Box:
    return joined(*(word.box for word in line))
