"""Land patterns on paper: measured by rendering the pages."""

import io
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pypdfium2
import pytest

from carried_lands import family_part
from command_line import answer
from eider.errors import InputError
from eider.library import Library
from eider.reports.footprint_print import print_pages, print_tiles
from eider.reports.paper_sizes import PAPERS
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.publishing.exporting import export_part

# A pixel is 0.064 mm: what is measured may be off by 0.1 mm.
DPI = 400
Picture = npt.NDArray[np.uint8]


def _pages(data: bytes) -> list[Picture]:
    document = pypdfium2.PdfDocument(io.BytesIO(data))
    return [np.asarray(page.render(scale=DPI / 72).to_pil().convert("RGB")) for page in document]


def _mm(pixels: int | np.intp) -> float:
    return float(pixels) * 25.4 / DPI


def _copper(page: Picture) -> npt.NDArray[np.bool_]:
    """Where the page is of the colour of copper."""
    return np.all(np.abs(page.astype(np.int16) - (0xD0, 0x8B, 0x4C)) < 12, axis=2)


@pytest.mark.parametrize("paper", PAPERS)
def test_bars_are_as_long_as_they_say(library: Library, paper: str) -> None:
    (page,) = _pages(print_pages(print_tiles([family_part(library, "chip")]), paper))
    width, height = PAPERS[paper]
    assert page.shape[1] == pytest.approx(width / 25.4 * DPI, abs=1) and page.shape[0] == pytest.approx(
        height / 25.4 * DPI, abs=1
    )
    dark = page.max(axis=2) < 100
    # Between the text below it and the tiles above, nothing but the bar and its ticks.
    across = dark[int((height - 14.5) * DPI / 25.4) : int((height - 12.9) * DPI / 25.4)]
    columns = np.flatnonzero(across.any(axis=0))
    assert _mm(columns[-1] - columns[0]) == pytest.approx(100.0, abs=0.1)
    up = dark[:, int(12.7 * DPI / 25.4) : int(13.3 * DPI / 25.4)]
    rows = np.flatnonzero(up[page.shape[0] // 2 :].any(axis=1))
    assert _mm(rows[-1] - rows[0]) == pytest.approx(50.0, abs=0.1)


def test_lands_are_at_their_true_size_and_mirrored_on_request(library: Library) -> None:
    bundle = family_part(library, "tab")
    pattern = bundle.footprint.pattern
    assert pattern is not None
    boxes = [pad.box for pad in pattern.pads]
    wide = max(b[2] for b in boxes) - min(b[0] for b in boxes)
    high = max(b[3] for b in boxes) - min(b[1] for b in boxes)
    largest = max(pattern.pads, key=lambda pad: pad.width * pad.height)
    for mirrored in (False, True):
        (page,) = _pages(print_pages(print_tiles([bundle]), mirrored=mirrored))
        copper = _copper(page)
        columns, rows = np.flatnonzero(copper.any(axis=0)), np.flatnonzero(copper.any(axis=1))
        # The edge of a land takes half of its line.
        assert _mm(columns[-1] - columns[0]) == pytest.approx(wide, abs=0.45)
        assert _mm(rows[-1] - rows[0]) == pytest.approx(high, abs=0.45)
        left = copper[:, columns[0] : (columns[0] + columns[-1]) // 2].sum()
        right = copper[:, (columns[0] + columns[-1]) // 2 : columns[-1]].sum()
        assert (left > right) == ((largest.x < 0) != mirrored)


def test_many_go_on_as_few_pages_as_they_need_and_too_large_ones_are_refused(library: Library) -> None:
    bundle = family_part(library, "gullwing-quad")
    pages = _pages(print_pages(print_tiles([bundle] * 90)))
    assert len(pages) == 3 and all(_copper(page).any() for page in pages)
    with pytest.raises(InputError, match="paper “A9” is not known; choose one of A4, Letter, A3"):
        print_pages(print_tiles([bundle]), "A9")


def test_the_command_prints_parts_and_says_where(library: Library, tmp_path: Path) -> None:
    save_part(library, EvaluationRun(library).evaluated(family_part(library, "chip")))
    told = answer("print", library.folder, "P", "--out", tmp_path / "p.pdf", "--paper", "letter", "--mirrored")
    assert told == {"file": str(tmp_path / "p.pdf"), "patterns": 1, "paper": "Letter", "mirrored": True}
    assert len(_pages((tmp_path / "p.pdf").read_bytes())) == 1
    bundle = library.load(library.find("P").id)
    exported = export_part(bundle, ["print"], tmp_path / "out", EvaluationRun(library).rules_of(bundle))
    assert [Path(name).name for name in exported.files] == ["P-print.pdf"]
