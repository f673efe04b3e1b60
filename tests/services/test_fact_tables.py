"""Facts of a library's parts as a table: out to a file, in again, kept as working copies."""

import shutil
from pathlib import Path

import pytest

from command_line import answer, eider
from eider.commands.facts import fact_edits
from eider.commands.facts.fact_table import FactChange, changes_between, set_cells
from eider.demo.build import attach
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.demo.sheets import write_chip_datasheet
from eider.errors import InputError
from eider.exchange.table_files import read_table
from eider.library import Library, init_library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.evidence import EvidenceKind
from eider.services.facts.fact_tables import keep_fact_changes, open_fact_table, read_fact_table, write_fact_table
from eider.services.releasing.part_releasing import release_part
from eider.services.tasks import CancelledError, Task


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("demo")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    write_chip_datasheet(folder / "LYN-C.pdf")
    series, sheet = chips(), attach(library, folder / "LYN-C.pdf", 2)
    for size in series.sizes:
        release_part(library, chip_part(library, series, size, "100 nF", sheet), "first release")
    library.close()
    return folder / "library"


@pytest.fixture
def capacitors(made: Path, tmp_path: Path) -> Library:
    return open_library(shutil.copytree(made, tmp_path / "library"))


def test_a_table_goes_out_and_comes_back(capacitors: Library, tmp_path: Path) -> None:
    table = open_fact_table(capacitors, "LYN-C")
    assert table.names[:3] == ("Manufacturer", "Part number", "Capacitance")
    for name in ("facts.csv", "facts.xlsx"):
        write_fact_table(tmp_path / name, table)
        assert read_table(tmp_path / name).header[:2] == ("Part", "Manufacturer")
        read = read_fact_table(capacitors, tmp_path / name)
        assert not list(changes_between(read.before, read.after))


def test_a_file_says_what_would_change_and_what_is_not_understood(capacitors: Library, tmp_path: Path) -> None:
    part = open_fact_table(capacitors, "LYN-C").parts[0]
    path = tmp_path / "edited.csv"
    path.write_text(f"Part,maker,Shelf\n{part.name},Brimfall,A7\nNOBODY,x,y\n{part.name},,A8\n", encoding="utf-8")
    read = read_fact_table(capacitors, path)
    changes = list(changes_between(read.before, read.after))
    # The category knows that maker is the manufacturer; an empty cell says nothing; the last line holds.
    assert {(c.name, c.after) for c in changes} == {("Manufacturer", "Brimfall"), ("Shelf", "A8")}
    assert any("NOBODY" in doubt for doubt in read.doubts) and any("twice" in doubt for doubt in read.doubts)
    path.write_text("a,b\n1,2\n", encoding="utf-8")
    with pytest.raises(InputError, match="no column"):
        read_fact_table(capacitors, path)


def test_changed_parts_become_working_copies(capacitors: Library) -> None:
    before = open_fact_table(capacitors, "LYN-C")
    after = set_cells(before, {(0, "Shelf"): "A7", (1, "Dielectric"): "C0G"})
    kept = keep_fact_changes(capacitors, list(changes_between(before, after)), "Skerry librarian")
    assert (set(kept.kept), kept.left) == ({before.parts[0].name, before.parts[1].name}, ())
    first, second = (capacitors.copies.load(before.parts[i].id) for i in (0, 1))
    assert first and second
    shelf, dielectric = first.bundle.part.facts["Shelf"], second.bundle.part.facts["Dielectric"]
    assert (shelf.value, shelf.evidence.kind, shelf.evidence.by) == ("A7", EvidenceKind.ENTERED, "Skerry librarian")
    # A value that was proven keeps its proof, struck through, and a finding tells it.
    assert (dielectric.value, dielectric.evidence) == ("C0G", None)
    assert dielectric.former is not None
    assert second.findings["caution"] + second.findings["note"] > 0
    assert {row.state for row in capacitors.search(before.parts[0].name)} == {"changed"}


def test_what_someone_changed_meanwhile_is_left(capacitors: Library) -> None:
    before = open_fact_table(capacitors, "LYN-C")
    part = before.parts[0]
    bundle = fact_edits.set_fact(capacitors.load(part.id), "Dielectric", "Y5V")
    capacitors.copies.save(WorkingCopy(bundle=bundle))
    change = FactChange(part.id, part.name, "Dielectric", part.facts["Dielectric"], "C0G")
    kept = keep_fact_changes(capacitors, [change], "x")
    assert kept.kept == ()
    assert kept.left[0][0] == part.name and "“Y5V” by now" in kept.left[0][1]


def test_a_cancel_keeps_whole_parts(capacitors: Library) -> None:
    before = open_fact_table(capacitors, "LYN-C")
    after = set_cells(before, {(row, "Shelf"): "A7" for row in range(3)})
    task = Task(lambda share, _what: task.cancel() if share > 0.3 else None)
    with pytest.raises(CancelledError):
        keep_fact_changes(capacitors, list(changes_between(before, after)), "x", task)
    assert [capacitors.copies.load(before.parts[row].id) is not None for row in range(3)] == [True, True, False]


def test_the_command_prints_writes_and_changes(capacitors: Library, tmp_path: Path) -> None:
    folder = str(capacitors.folder)
    data = answer("facts", folder, "LYN-C")
    assert data["parts"] and data["names"][0] == "Manufacturer" and data["spellings"] == []
    part = data["parts"][0]["name"]
    eider("facts", folder, "LYN-C", "--out", tmp_path / "f.xlsx")
    assert len(read_table(tmp_path / "f.xlsx").rows) == len(data["parts"]) + 1
    (tmp_path / "in.csv").write_text(f"Part;Shelf\n{part};B2\n", encoding="utf-8")
    shown = eider("facts", folder, "--from", str(tmp_path / "in.csv"), "--dry-run")
    assert f"{part}: Shelf: (empty) → B2" in shown.stdout and "nothing was saved" in shown.stdout
    assert capacitors.copies.load(capacitors.find(part).id) is None
    kept = answer("facts", folder, "--from", str(tmp_path / "in.csv"))
    assert kept["kept"] == [part] and kept["left"] == []
    assert capacitors.copies.load(capacitors.find(part).id) is not None
    assert "--from" in eider("facts", folder, "--dry-run", status=2).stderr
    many = answer("facts", folder, "LYN-C", "--set", "status=obsolete", "--set", "Shelf=")
    assert sorted(c["name"] for c in many["changes"]) == ["Lifecycle"] * 3 + ["Shelf"]
    assert capacitors.load(capacitors.find(part).id).part.facts["Lifecycle"].value == "obsolete"
    assert "needs the words" in eider("facts", folder, "--set", "A=B", status=2).stderr
    assert "expected NAME=VALUE" in eider("facts", folder, "LYN", "--set", "A", status=2).stderr
    assert "no part is found" in eider("facts", folder, "unheard-of", "--set", "A=B").stdout
    assert "leave out words" in eider("facts", folder, "words", "--from", "x.csv", status=2).stderr
