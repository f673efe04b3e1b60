"""The health of a library as one HTML page that needs nothing else."""

import math
from collections.abc import Iterable, Sequence
from xml.etree import ElementTree
from xml.etree.ElementTree import Element, SubElement

from eider.model.finding import Severity
from eider.model.wording import counted
from eider.reports.health_figures import CategoryHealth, HealthDay, LibraryHealth

_STYLE = """
body { font: 15px/1.45 "Noto Sans", sans-serif; color: #1d2527; background: #fbfaf7;
  max-width: 62rem; margin: 2rem auto; padding: 0 1.5rem }
h1 { font-size: 1.5rem; margin-bottom: 0 } h2 { font-size: 1.1rem; margin-top: 2.2rem }
.soft { color: #5d686b } .sums { display: flex; gap: 2.5rem; margin: 1.4rem 0 }
.sums b { display: block; font-size: 1.9rem; font-weight: 600 }
table { border-collapse: collapse; width: 100% } td, th { text-align: left; padding: .3rem .7rem .3rem 0;
  border-bottom: 1px solid #ddd8cd; vertical-align: top }
td.n, th.n { text-align: right; font-variant-numeric: tabular-nums }
summary { cursor: pointer } details p { margin: .3rem 0 .3rem 1rem; color: #3c4649 }
"""


def health_page(health: LibraryHealth) -> str:
    """The page: each figure opens to the parts it speaks of."""
    twice = [one.words for one in health.duplicates]
    root = Element("html", lang="en")
    head = SubElement(root, "head")
    SubElement(head, "meta", charset="utf-8")
    SubElement(head, "title").text = f"Health of {health.library}"
    SubElement(head, "style").text = _STYLE
    body = SubElement(root, "body")
    SubElement(body, "h1").text = f"Health of {health.library}"
    SubElement(body, "div", {"class": "soft"}).text = f"measured {health.at[:16].replace('T', ' ')} UTC"
    sums = SubElement(body, "div", {"class": "sums"})
    for figure, what in (
        (str(health.parts), "parts"),
        (share_words(health.covered, health.values), f"of {health.values} values have evidence"),
        (share_words(health.confirmed, health.values), "confirmed by a second person"),
        (str(len(twice)), "duplicates"),
    ):
        cell = SubElement(sums, "div")
        SubElement(cell, "b").text = figure
        SubElement(cell, "span", {"class": "soft"}).text = what
    _listed(body, "Parts that want a look", [(f.title, f"{f.count} of {f.of}", f.parts) for f in health.figures])
    _listed(
        body,
        "Findings by check",
        [(f"{c.severity.capitalize()}, not held: {c.title}", str(c.count), c.parts) for c in health.checks],
    )
    _sums(body, "By category", "Category", [(c.category or "none", c) for c in health.categories])
    _sums(body, "Over time, as measured in this copy", "Day", [(d.day, d) for d in health.days])
    for title, lines in (("Duplicates", twice), ("Not read", health.unreadable)):
        if lines:
            SubElement(body, "h2").text = title
            for line in lines:
                SubElement(body, "div").text = line
    ElementTree.indent(root)
    return f"<!doctype html>\n{ElementTree.tostring(root, encoding='unicode', method='html')}\n"


def share_words(some: int, everything: int) -> str:
    """A share in per cent, rounded down to tenths: what is not whole is never shown as 100 %."""
    if not everything:
        return "–"
    return "100 %" if some == everything else f"{math.floor(1000 * some / everything) / 10:.1f} %"


def _listed(body: Element, title: str, entries: Iterable[tuple[str, str, Sequence[str]]]) -> None:
    """Figures, each of which opens to its parts."""
    SubElement(body, "h2").text = title
    table = SubElement(body, "table")
    for what, figure, parts in entries:
        line = SubElement(table, "tr")
        cell = SubElement(line, "td")
        if parts:
            details = SubElement(cell, "details")
            SubElement(details, "summary").text = what
            SubElement(details, "p").text = ", ".join(parts)
        else:
            cell.text = what
        SubElement(line, "td", {"class": "n"}).text = figure
    if len(table) == 0:
        SubElement(body, "p", {"class": "soft"}).text = "nothing"


def _sums(body: Element, title: str, first: str, rows: Sequence[tuple[str, CategoryHealth | HealthDay]]) -> None:
    """Parts, evidence and findings, a row for each category or day."""
    SubElement(body, "h2").text = title
    table = SubElement(body, "table")
    heading = SubElement(table, "tr")
    columns = ["Parts", "Values", "With evidence", *(f"{severity.capitalize()}s" for severity in Severity)]
    SubElement(heading, "th").text = first
    for text in columns:
        SubElement(heading, "th", {"class": "n"}).text = text
    for name, sums in rows:
        line = SubElement(table, "tr")
        SubElement(line, "td").text = name
        shown = [str(sums.parts), str(sums.values), share_words(sums.covered, sums.values)]
        for text in (*shown, *(str(sums.findings.get(severity, 0)) for severity in Severity)):
            SubElement(line, "td", {"class": "n"}).text = text


def health_lines(health: LibraryHealth) -> list[str]:
    """The figures for a terminal."""
    twice = [one.words for one in health.duplicates]
    covered = f"{share_words(health.covered, health.values)} of {counted(health.values, 'value')} with evidence"
    lines = [f"{counted(health.parts, 'part')}; {covered}; {share_words(health.confirmed, health.values)} confirmed"]
    lines += [f"{figure.count:6} {figure.title}" for figure in health.figures if figure.count]
    return [*lines, *twice, *(f"not read: {line}" for line in health.unreadable)]
