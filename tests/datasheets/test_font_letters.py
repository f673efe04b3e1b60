"""Documents whose fonts do not say which letters they draw: a stranger's with its map taken away."""

from pathlib import Path

import pytest

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.pages.font_letters import makes_words
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.tables.table_capture import capture_table

FOREIGN = Path(__file__).parent / "foreign"


@pytest.fixture(params=["d501-000-browser.pdf", "d501-003-office.pdf"])
def without_map(request: pytest.FixtureRequest, tmp_path: Path) -> Path:
    """A document with the names of its fonts' maps spelled wrong, so that no reader finds them."""
    path = tmp_path / str(request.param)
    whole = (FOREIGN / str(request.param)).read_bytes()
    assert b"/ToUnicode" in whole
    path.write_bytes(whole.replace(b"/ToUnicode", b"/ToUnicodX"))
    return path


def test_such_a_document_is_refused_with_the_reason(without_map: Path) -> None:
    datasheet = Datasheet(without_map)
    with pytest.raises(DatasheetError, match="do not say which letters they draw"):
        list(survey(datasheet))
    with pytest.raises(DatasheetError, match="page 1 of .* cannot be read"):
        capture_table(datasheet, 1, (50.0, 50.0, 500.0, 800.0))
    assert datasheet.unreadable == {1}
    datasheet.close()


@pytest.mark.parametrize("path", sorted(FOREIGN.glob("*.pdf")), ids=lambda path: path.name)
def test_other_strangers_documents_are_readable(path: Path) -> None:
    datasheet = Datasheet(path)
    assert all(datasheet.read(page).is_readable for page in range(1, datasheet.pages + 1))
    datasheet.close()


@pytest.mark.parametrize(
    ("texts", "could_be"),
    [
        (["7KH", "GUDZLQJ", "LV", "QRW", "WR", "VFDOH"], False),
        (["The", "GUDZLQJ", "LV", "QRW", "WR", "VFDOH"], True),
        (["6.20", "0.65", "1.27", "D", "E"], True),
        (["7KH", "GUD"], True),
    ],
)
def test_a_common_word_or_numbers_speak_for_a_text(texts: list[str], could_be: bool) -> None:
    words = [PageWord(text, (0.0, 0.0, 1.0, 1.0), 8.0) for text in texts]
    assert makes_words(words) is could_be
