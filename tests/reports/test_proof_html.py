"""The HTML proof: everything in one file, nothing loaded from elsewhere, texts that cannot become anything else."""

import re
from html.parser import HTMLParser
from pathlib import Path

import pytest

from eider.commands.facts import fact_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.parts.new_parts import new_part
from eider.demo.parts import converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.reports.proof_html import proof_page
from eider.rulebooks import standard_rulebook


class _Page(HTMLParser):
    """What a browser would see: tags with their attributes, and the text outside of scripts and styles."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.tags: list[tuple[str, dict[str, str]]] = []
        self.open: list[str] = []
        self.text = ""
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, {key: value or "" for key, value in attrs}))
        if tag not in ("meta", "img", "rect", "polyline", "circle", "polygon", "path"):
            self.open.append(tag)

    def handle_endtag(self, tag: str) -> None:
        if tag in self.open:
            assert self.open.pop() == tag

    def handle_data(self, data: str) -> None:
        if self.open and self.open[-1] not in ("script", "style"):
            self.text += f"{data} "


def _page(library: Library, bundle: Bundle, documents: dict[str, Path]) -> str:
    outcome = evaluate_part(bundle, EvaluationRules(standard_rulebook(), library.settings))
    return proof_page(outcome.bundle, outcome.findings, standard_rulebook(), documents)


@pytest.fixture
def page(library: Library, tmp_path: Path) -> _Page:
    write_converter_datasheet(tmp_path / "x.pdf")
    part = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    return _Page(_page(library, part, {"0" * 64: tmp_path / "x.pdf"}))


def test_everything_is_in_the_page(page: _Page) -> None:
    for expected in ("NVK-1216T", "draft, not released", "SOP65P640X120-16N", "PWRDN (active low)", "31 of 31 values",
                     "Land pattern, level B", "Package, side", "bottom"):  # fmt: skip
        assert expected in page.text, expected
    images = [attributes for tag, attributes in page.tags if tag == "img"]
    assert all(image["src"].startswith("data:image/png;base64,") and image["alt"] for image in images)
    assert sum(image["alt"].startswith("the body from the") for image in images) in (0, 6)
    # Nine dimensions are in the datasheet with their places.
    assert sum(image["alt"].endswith("in the datasheet") for image in images) >= 9
    assert [tag for tag, _ in page.tags].count("svg") == 4 and page.open == []


def test_nothing_is_loaded_from_elsewhere(page: _Page) -> None:
    policy = next(a["content"] for tag, a in page.tags if tag == "meta" and "content" in a)
    assert policy.startswith("default-src 'none'")
    addresses = [value for tag, a in page.tags for key, value in a.items() if key in ("src", "href", "xlink:href")]
    assert all(address.startswith("data:") for address in addresses)
    assert not any(tag in ("link", "iframe", "object", "embed") for tag, _ in page.tags)


def test_texts_stay_texts(library: Library) -> None:
    bad = "<script>alert(1)</script>\"'&"
    part = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    part = fact_edits.set_fact(fact_edits.set_about(part, name=bad, description=bad), bad, bad)
    text = _page(library, part, {})
    assert "<script>alert" not in text and re.findall(r"<script>", text) == ["<script>"]
    assert bad in _Page(text).text


def test_an_unfinished_part_has_a_page_too(library: Library) -> None:
    text = _Page(_page(library, new_part("NVK-1", "ic", library.settings), {})).text
    assert "No package drawing" in text and "no picture of the body" in text and "not made yet" in text
