"""What became of a value in a newer datasheet."""

from pathlib import Path

import pytest

from drawn_tables import draw
from eider.datasheets import Datasheet
from eider.datasheets.documents.datasheet_revision import Pages, RevisionMatch, find_in_revision
from eider.datasheets.pages.document import PageText

HEAD = ["Symbol", "Min", "Max"]
OLD = [HEAD, ["D", "4.90", "5.10"], ["E", "6.20", "6.60"], ["b", "0.19", "0.30"]]


def pages(path: Path) -> list[PageText]:
    document = Datasheet(path)
    read = [document.read(page) for page in range(1, document.pages + 1)]
    document.close()
    return read


@pytest.fixture
def old(tmp_path: Path) -> PageText:
    draw(tmp_path / "old.pdf", OLD)
    return pages(tmp_path / "old.pdf")[0]


def again(
    tmp_path: Path, old: PageText, rows: list[list[str]], at: tuple[float, float] = (80, 500), page: int = 1
) -> RevisionMatch:
    """What became of the limits of E."""
    draw(tmp_path / "new.pdf", rows, at=at, page=page)
    words = {word.text: word.box for word in old.words}
    box = (*words["6.20"][:2], *words["6.60"][2:])
    return find_in_revision(old, box, Pages(pages(tmp_path / "new.pdf")))


def test_it_stands_where_it_stood(tmp_path: Path, old: PageText) -> None:
    assert again(tmp_path, old, OLD).outcome == "same"


def test_it_stands_elsewhere(tmp_path: Path, old: PageText) -> None:
    found = again(tmp_path, old, OLD, at=(80, 300), page=2)
    assert (found.outcome, found.page, found.text) == ("elsewhere", 2, "6.20 6.60")


def test_it_reads_differently(tmp_path: Path, old: PageText) -> None:
    found = again(tmp_path, old, [HEAD, OLD[1], ["E", "6.25", "6.55"], OLD[3]])
    assert (found.outcome, found.text) == ("differs", "6.25 6.55")


def test_it_is_gone(tmp_path: Path, old: PageText) -> None:
    assert again(tmp_path, old, [HEAD, OLD[1], OLD[3]]).outcome == "gone"
    assert find_in_revision(old, (0, 0, 1, 1), Pages([])).outcome == "gone"
