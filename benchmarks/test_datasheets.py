"""Datasheets: pages, clicks, tables, a long document; and how much is read right, for docs/performance.md."""

import subprocess
import sys
from pathlib import Path

import pytest
from pytest_benchmark.fixture import BenchmarkFixture
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import tables_of
from eider.datasheets import Datasheet
from eider.datasheets.documents.click_capture import read_length
from eider.datasheets.tables.table_capture import capture_table
from eider.demo.measure import measure_reading
from eider.demo.sheets import DATASHEETS, write_datasheets


@pytest.fixture(scope="module")
def sheets(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("sheets")
    write_datasheets(folder)
    return folder


def test_a_page_of_a4_at_150_percent(benchmark: BenchmarkFixture, sheets: Path) -> None:
    document = Datasheet(sheets / "NVK-U100P.pdf")
    benchmark(document.picture, 2, 1.5)


def test_the_words_of_a_full_page(benchmark: BenchmarkFixture, sheets: Path) -> None:
    document = Datasheet(sheets / "NVK-U100P.pdf")
    words = benchmark(document.read, 2).words
    print(f"\n{len(words)} words")


def test_a_click_in_a_table(benchmark: BenchmarkFixture, sheets: Path) -> None:
    page = Datasheet(sheets / "BRM-L18.pdf").read(2)
    word = next(word for word in page.words if word.text == "2.60")
    benchmark(read_length, page, *word.middle)


def test_a_table_of_100_pins(benchmark: BenchmarkFixture, sheets: Path) -> None:
    place = tables_of(sheets, "NVK-U100P")[0]["places"][0]
    document = Datasheet(sheets / "NVK-U100P.pdf")
    found = benchmark.pedantic(lambda: capture_table(document, place["page"], tuple(place["box"]), "pins"), rounds=5)
    assert len(found.pins.rows) == 100


def test_how_much_is_read_right(sheets: Path) -> None:
    print()
    for name in DATASHEETS:
        for s in measure_reading(sheets / f"{name}.pdf"):
            ruled = "ruled" if s.is_ruled else "open"
            print(f"| {name} | {s.kind} | {ruled} | {s.total} | {s.right} | {s.wrong} | {s.marked} | {s.missed} |")


LONG = """
import os, sys, time
from pathlib import Path
from PyQt6.QtTest import QTest
from eider.datasheets import Datasheet
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.jobs import Jobs
from eider.desktop.app.start import make_application
from eider.desktop.theme import Theme
def memory():
    return int(next(l for l in open("/proc/self/status") if l.startswith("VmRSS")).split()[1]) / 1024
application, jobs = make_application(), Jobs()
view = DatasheetView(Theme(), jobs)
view.resize(900, 1000); view.show(); QTest.qWait(300)
import pypdfium2, numpy  # noqa
before = memory()
begin = time.perf_counter()
view.open(DocumentToOpen("sheet", lambda: Datasheet(Path(sys.argv[1]))))
while view.source.document is None: QTest.qWait(1)
opened = time.perf_counter() - begin
while not view.source._pictures: QTest.qWait(1)
drawn = time.perf_counter() - begin
worst, bar, steps = 0.0, view.area.verticalScrollBar(), 0
while bar.value() < bar.maximum() and steps < 1500:
    start = time.perf_counter()
    bar.setValue(bar.value() + 600); application.processEvents()
    worst = max(worst, time.perf_counter() - start); steps += 1
    if steps % 10 == 0: QTest.qWait(10)
while not jobs.is_idle: QTest.qWait(10)
print(f"opened {opened*1000:.0f} ms, first page {drawn*1000:.0f} ms, {steps} scroll steps, worst {worst*1000:.0f} ms, "
      f"memory +{memory() - before:.0f} MB")
"""


def test_a_document_of_600_pages(tmp_path: Path) -> None:
    path = tmp_path / "long.pdf"
    canvas = Canvas(str(path), pagesize=A4)
    for page in range(600):
        canvas.setFont("Helvetica", 9)
        for line in range(60):
            canvas.drawString(50, 800 - 12 * line, f"page {page + 1} line {line}: register {line:04x}h, reset value 0")
        canvas.rect(50, 30, 500, 40)
        canvas.showPage()
    canvas.save()
    run = subprocess.run(
        [sys.executable, "-c", LONG, str(path)], capture_output=True, text=True, check=True, timeout=300
    )
    print("\n" + run.stdout)
