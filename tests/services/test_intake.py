"""Parts from elsewhere: recognised by content, put together, compared with the library, taken as drafts once."""

import json
import zipfile
from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.commands.facts import fact_edits
from eider.demo.maker_models import CONVERTER, step_of
from eider.demo.parts import LIBRARIAN, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.errors import InputError
from eider.exchange.formats.bundle import bundle_archive
from eider.exchange.formats.csv import pads_csv, pins_csv
from eider.exchange.found_parts import name_of
from eider.exchange.pad_table import read_pad_table
from eider.library import Library, init_library
from eider.model.bundle import Bundle
from eider.model.evidence import EvidenceKind
from eider.model.intake import IntakeMap
from eider.model.part import DatasheetLink
from eider.services.intake.arrivals import Arrival, look_into
from eider.services.intake.intake_reading import IntakePart, chosen_parts, held_against
from eider.services.intake.intake_taking import take_parts
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.releasing.part_releasing import release_part
from shared_libraries import capacitor, change_fact

NAME = "NVK-1216T"


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)


@pytest.fixture
def converter(library: Library) -> Bundle:
    made = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    return EvaluationRun(library).evaluated(made).bundle


def _held(library: Library, *paths: Path, mapping: IntakeMap | None = None) -> tuple[Arrival, dict[str, IntakePart]]:
    arrival = look_into(paths, library.folder.parent / "unpacked")
    parts, _log = held_against(library, arrival, mapping or IntakeMap())
    return arrival, {part.name: part for part in parts}


def _tables(folder: Path, part: Bundle) -> Path:
    folder.mkdir()
    assert part.footprint.pattern is not None
    (folder / f"{NAME}-pins.csv").write_text(pins_csv(part.symbol))
    (folder / f"{NAME}-pads.csv").write_text(pads_csv(part.footprint.pattern))
    write_converter_datasheet(folder / f"{NAME}.pdf")
    (folder / f"{NAME}.truth.json").unlink()
    return folder


def test_pieces_of_one_name_are_one_part_and_what_is_missing_is_told(
    library: Library, converter: Bundle, tmp_path: Path
) -> None:
    arrival, parts = _held(library, _tables(tmp_path / "in", converter))
    assert list(parts) == [NAME] and parts[NAME].state == "new"
    assert parts[NAME].found.kinds == ("pins", "lands", "datasheet")
    assert [words.split(":")[0] for words in parts[NAME].missing] == ["no package sheet", "no body"]
    done = take_parts(library, arrival, chosen_parts(list(parts.values()), ["new"]))
    assert done.taken == (NAME,), done.log
    made = library.load(library.find(NAME).id)
    pattern, wanted = made.footprint.pattern, converter.footprint.pattern
    assert pattern is not None and wanted is not None
    lands = [[(p.number, p.x, p.y, p.width, p.height) for p in shown.pads] for shown in (pattern, wanted)]
    assert lands[0] == lands[1]
    assert [(p.number, p.name, p.type) for p in made.symbol.pins] == [
        (p.number, p.name, p.type) for p in converter.symbol.pins
    ]
    evidence = made.symbol.pins[0].evidence
    assert evidence is not None and evidence.kind == EvidenceKind.ELSEWHERE
    assert evidence.text == f"{NAME}-pads.csv, {NAME}-pins.csv, {NAME}.pdf"
    assert [link.name for link in made.part.datasheets] == [f"{NAME}.pdf"]
    _, again = _held(library, tmp_path / "in")
    assert again[NAME].state == "same" and chosen_parts(list(again.values()), ["all"]) == ()


def test_what_differs_from_the_library_is_told_and_becomes_its_next_revision(
    library: Library, converter: Bundle, tmp_path: Path
) -> None:
    folder = _tables(tmp_path / "in", converter)
    arrival, parts = _held(library, folder)
    take_parts(library, arrival, list(parts.values()))
    text = (folder / f"{NAME}-pins.csv").read_text()
    (folder / f"{NAME}-pins.csv").write_text(text.replace("1,AVDD,", "1,AVCC,"))
    arrival, parts = _held(library, folder)
    assert parts[NAME].state == "differs"
    assert parts[NAME].differences == ("Pin 1 changed from AVDD, power input to AVCC, power input",)
    part_id = library.find(NAME).id
    assert take_parts(library, arrival, chosen_parts(list(parts.values()), [NAME])).taken == (NAME,)
    assert library.find(NAME).id == part_id and library.load(part_id).symbol.pins[0].name == "AVCC"


def test_lands_that_differ_from_those_of_a_package_sheet_become_adjustments(
    library: Library, converter: Bundle, tmp_path: Path
) -> None:
    save_part(library, EvaluationRun(library).evaluated(converter))
    assert converter.footprint.pattern is not None
    text = pads_csv(converter.footprint.pattern)
    lines = text.splitlines()
    # Pad 2 is wider, pad 16 is missing, and there is one that the package does not have.
    lines[2] = lines[2].replace(",1.55,", ",1.6,")
    (tmp_path / f"{NAME}-pads.csv").write_text("\n".join([*lines[:16], lines[16].replace("16,", "EP,", 1)]))
    arrival, parts = _held(library, tmp_path / f"{NAME}-pads.csv")
    assert parts[NAME].differences[0] == "Width of pad 2 changed from 1.55 to 1.6"
    done = take_parts(library, arrival, list(parts.values()))
    assert done.log == (
        f"{NAME}: pad 16 is not in {NAME}-pads.csv; it stays",
        f"{NAME}: pad EP of {NAME}-pads.csv is not of this package; left out",
    )
    made = library.load(converter.part.id)
    (adjustment,) = made.footprint.adjustments
    assert (adjustment.pad, adjustment.what, adjustment.value) == ("2", "width", "1.6")
    assert adjustment.why == f"from elsewhere: {NAME}-pads.csv" and made.sheet == converter.sheet
    assert made.footprint.pattern is not None and made.footprint.pattern.pads[1].width == 1.6


def test_a_bundle_goes_from_library_to_library_with_its_documents(library: Library, tmp_path: Path) -> None:
    part = capacitor(library)
    release_part(library, part, "first")
    released = library.load_release(part.part.id)
    path = tmp_path / "parts.eider.zip"
    path.write_bytes(bundle_archive([released], {}))
    other = init_library(tmp_path / "other", "Elsewhere", LIBRARIAN)
    arrival, parts = _held(other, path)
    done = take_parts(other, arrival, list(parts.values()))
    assert done.taken == (part.part.name,) and "datasheet did not come along" in done.log[0]
    made = other.load(part.part.id)
    assert made.part.release is None and made.part.footprint.revision is None
    assert made.footprint.pattern == released.footprint.pattern
    assert _held(other, path)[1][part.part.name].state == "same"
    release_part(other, made, "taken")
    # The next revision of the first library becomes the next one here.
    change_fact(library, part.part.id, "Shelf", "A7")
    path.write_bytes(bundle_archive([library.load(part.part.id)], {}))
    arrival, parts = _held(other, path)
    assert parts[part.part.name].differences == ("Shelf added: A7",)
    take_parts(other, arrival, list(parts.values()))
    now = other.load(part.part.id)
    assert now.part.facts["Shelf"].value == "A7" and now.part.release is not None and now.part.release.revision == 1


def test_another_name_with_the_same_identity_is_renamed(library: Library, tmp_path: Path) -> None:
    part = capacitor(library)
    release_part(library, part, "first")
    renamed = fact_edits.set_about(library.load(part.part.id), name="LYN-OTHER")
    (tmp_path / "x.eider.zip").write_bytes(bundle_archive([renamed], {}))
    _, parts = _held(library, tmp_path / "x.eider.zip")
    assert parts["LYN-OTHER"].state == "renamed" and parts["LYN-OTHER"].against == part.part.id


def test_names_and_facts_are_mapped(library: Library, converter: Bundle, tmp_path: Path) -> None:
    folder = _tables(tmp_path / "in", converter)
    _, parts = _held(library, folder, mapping=IntakeMap("resistor", {NAME: "Wägezelle-βeta"}))
    assert list(parts) == ["Wägezelle-βeta"] and parts["Wägezelle-βeta"].draft.part.category == "resistor"
    with pytest.raises(InputError, match="there is no category"):
        _held(library, folder, mapping=IntakeMap("smell"))


def test_archives_are_looked_into_and_what_is_not_understood_is_told(
    library: Library, converter: Bundle, tmp_path: Path
) -> None:
    folder = _tables(tmp_path / "in", converter)
    (folder / "notes.docx").write_bytes(b"not a part")
    (folder / "broken.step").write_bytes(b"ISO-10303-21; broken")
    (folder / "odd.json").write_text('{"smell": 1}')
    with zipfile.ZipFile(tmp_path / "all.zip", "w") as archive:
        for path in sorted(folder.iterdir()):
            archive.write(path, f"Zulieferer Größe/{path.name}")
        archive.writestr("../victim.csv", "x")
    arrival, parts = _held(library, tmp_path / "all.zip")
    assert list(parts) == [NAME] and parts[NAME].found.kinds == ("pins", "lands", "datasheet")
    told = "\n".join(arrival.log)
    for words in ("notes.docx: its format is not known", "odd.json is JSON, but neither", "leads out of the archive"):
        assert words in told
    with pytest.raises(InputError, match="is not there"):
        look_into([tmp_path / "nowhere"], tmp_path)


def test_the_command_lists_takes_and_does_not_take_twice(library: Library, converter: Bundle, tmp_path: Path) -> None:
    folder = _tables(tmp_path / "in", converter)
    told = answer("intake", library.folder, folder)
    assert told["found"][0]["state"] == "new" and told["taken"] == []
    assert told["found"][0]["kind"] == "pins, lands, datasheet" and told["log"] == []
    (tmp_path / "map.json").write_text(json.dumps({"names": {NAME: "BRIDGE"}}))
    told = answer("intake", library.folder, folder, "--map", tmp_path / "map.json", "--accept", "new")
    assert told["taken"] == ["BRIDGE"] and library.find("BRIDGE").state == "draft"
    told = answer("intake", library.folder, folder, "--map", tmp_path / "map.json", "--accept", "all")
    assert told["taken"] == [] and told["found"][0]["state"] == "same"
    said = eider("intake", library.folder, folder, "--accept", "unheard-of", status=2)
    assert "nothing that arrived is called unheard-of" in said.stderr


def test_a_model_comes_along_as_the_body(library: Library, converter: Bundle, tmp_path: Path) -> None:
    folder = _tables(tmp_path / "in", converter)
    (folder / f"{NAME}.step").write_bytes(step_of(CONVERTER))
    arrival, parts = _held(library, folder)
    assert "body" in parts[NAME].found.kinds
    take_parts(library, arrival, list(parts.values()))
    body = library.load(library.find(NAME).id).body
    assert body.model is not None and body.model.file == f"{NAME}.step"


@pytest.mark.parametrize(
    ("file", "name"),
    [
        ("A-1.5.pads.csv", "A-1.5"),
        ("A_pins.csv", "A"),
        ("A.eider.zip", "A"),
        ("Größe.step", "Größe"),
        ("pins.csv", "pins"),
    ],
)
def test_a_part_is_called_as_its_file(file: str, name: str) -> None:
    assert name_of(Path(file)) == name


def test_pads_are_read_in_the_unit_of_their_headings() -> None:
    rows = [
        ["Pad", "X (mil)", "Y (mil)", "Width (mil)", "Height (mil)", "Angle", "Shape", "Drill (mm)"],
        ["1", "-100", "0", "60", "80", "90", "obround", "0.9"],
        ["2", "100", "zero", "60", "80", "", "", ""],
        ["3", "100", "0", "0", "80", "", "", ""],
        ["4", "1e9", "0", "60", "80", "", "", ""],
    ]
    read = read_pad_table(rows)
    (pad,) = read.pads
    # 100 mil are 2.54 mm, 60 and 80 are 1.524 and 2.032.
    assert (pad.x, pad.width, pad.height, pad.rotation, pad.shape) == (-2.54, 1.524, 2.032, 90.0, "oval")
    assert pad.hole is not None and pad.hole.width == 0.9 and pad.layers == "all"
    assert [told.split(":")[0] for told in read.log] == ["line 3", "line 4", "line 5"]
    with pytest.raises(InputError, match="no column for x, y"):
        read_pad_table([["Pad", "Width", "Height"]])


def test_openings_that_are_an_even_expansion_are_kept_and_others_told(
    library: Library, converter: Bundle, tmp_path: Path
) -> None:
    pattern = converter.footprint.pattern
    assert pattern is not None
    pads = [replace(pad, paste=()) if pad.number == "2" else pad for pad in pattern.pads]
    odd = replace(pads[2], mask=(replace(pads[2].mask[0], width=9.0),))
    data = {"name": "LANDS", "pads": json.loads(json.dumps([_plain(p) for p in (*pads[:2], odd)]))}
    (tmp_path / "LANDS.json").write_text(json.dumps(data))
    _, parts = _held(library, tmp_path / "LANDS.json")
    assert parts["LANDS"].doubts == (
        "pad 3: the openings of mask are no even expansion; the rulebook's are taken in their place",
    )
    assert parts["LANDS"].draft.sheet.pads[0].mask == "0.05"


def _plain(pad: object) -> object:
    from eider.model.codec import to_data

    return to_data(pad)
