"""Intake beyond the plain case: maps learned by source, single items, links, corrections, packages, and what waits."""

import json
import zipfile
from pathlib import Path

import pytest
from msgspec.structs import replace

from carried_lands import family_part
from command_line import answer, eider
from eider.demo.parts import LIBRARIAN
from eider.errors import InputError
from eider.exchange.formats.csv import pads_csv, pins_csv
from eider.exchange.formats.dxf.writer import dxf_text
from eider.lands.pad_faults import corrected_pads
from eider.library import Library, init_library
from eider.model.bundle import Bundle
from eider.model.intake import IntakeMap
from eider.model.symbol import Pin
from eider.services.intake.arrivals import Arrival, look_into
from eider.services.intake.intake_mapping import known_sources, learn_source, mapped_part, reading_hints
from eider.services.intake.intake_reading import IntakePart, chosen_parts, held_against
from eider.services.intake.intake_taking import TakingChoice, items_of, take_parts
from eider.services.intake.intake_waiting import delivery_paths, discard_delivery, keep_delivery, waiting_deliveries
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.releasing.part_releasing import release_part
from shared_libraries import capacitor

PINS = tuple(Pin(str(n), f"S{n}", "input") for n in range(1, 9))


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)


@pytest.fixture
def part(library: Library) -> Bundle:
    made = family_part(library, "gullwing-dual")
    return replace(made, symbol=replace(made.symbol, pins=PINS))


def _held(library: Library, path: Path, mapping: IntakeMap | None = None) -> tuple[Arrival, dict[str, IntakePart]]:
    mapping = mapping or IntakeMap()
    arrival = look_into([path], library.folder.parent / "unpacked", None, reading_hints(mapping))
    parts, _log = held_against(library, arrival, mapping)
    return arrival, {held.name: held for held in parts}


def _pads(part: Bundle) -> str:
    assert part.footprint.pattern is not None
    return pads_csv(part.footprint.pattern)


def _folder(tmp_path: Path, **files: str) -> Path:
    folder = tmp_path / "delivery"
    folder.mkdir(exist_ok=True)
    for name, text in files.items():
        (folder / name.replace("__", "-").replace("_csv", ".csv").replace("_dxf", ".dxf")).write_text(text)
    return folder


def test_layers_of_any_name_are_said_once_and_used_again(library: Library, part: Bundle, tmp_path: Path) -> None:
    assert part.footprint.pattern is not None
    text = dxf_text(part.footprint.pattern).replace("COPPER_TOP", "LAYER_1")
    folder = _folder(tmp_path, KEL__1__lands_dxf=text)
    told = answer("intake", library.folder, folder, "--source", "Kelder")
    assert told["found"] == [] and told["layers"]["LAYER_1"] == "none"
    assert "no layer is known to be copper: say what each layer is for" in told["log"][0]
    (tmp_path / "map.json").write_text(json.dumps({"layers": {"LAYER_1": "top"}, "licence": "own use"}))
    again = answer(
        "intake", library.folder, folder, "--source", "Kelder", "--map", tmp_path / "map.json", "--accept", "new"
    )
    assert again["taken"] == ["KEL-1"]
    assert known_sources(library)["Kelder"].layers == {"LAYER_1": "top"}
    # Without the map, what was learned of the source holds.
    assert answer("intake", library.folder, folder, "--source", "Kelder")["found"][0]["state"] == "same"
    with pytest.raises(InputError, match="“cheese” is not what a layer can be for; choose one of top, bottom"):
        reading_hints(IntakeMap(layers={"X": "cheese"}))


def test_a_part_bears_a_note_of_where_it_came_from_and_what_was_done(
    library: Library, part: Bundle, tmp_path: Path
) -> None:
    folder = _folder(tmp_path, NEW__1__pads_csv=_pads(part))
    mapping = IntakeMap(licence="own use", names={"NEW-1": "OURS-1"})
    arrival, parts = _held(library, folder, mapping)
    take_parts(library, arrival, list(parts.values()), None, mapping)
    made = library.load(library.find("OURS-1").id)
    (note,) = made.part.arrivals
    assert (note.source, note.licence, note.by) == ("NEW-1-pads.csv", "own use", LIBRARIAN.name)
    assert "called NEW-1 there" in note.log


def test_pins_and_lands_bear_the_licence_in_their_evidence(library: Library, part: Bundle, tmp_path: Path) -> None:
    folder = _folder(tmp_path, NEW__1__pins_csv=pins_csv(part.symbol))
    _arrival, parts = _held(library, folder, IntakeMap(licence="free"))
    evidence = parts["NEW-1"].draft.symbol.pins[0].evidence
    assert evidence is not None and evidence.text == "NEW-1-pins.csv; licence: free"


def test_a_table_of_parts_becomes_parts_of_their_category_with_units(library: Library, tmp_path: Path) -> None:
    text = "Name,Manufacturer,Category,Height (mm),Mystery\nLYN-1,Lyng,bead,1.2,7\nLYN-2,Lyng,,tall,\n"
    (tmp_path / "parts.csv").write_text(text)
    mapping = IntakeMap(category="connector", facts={"Mystery": "", "Height": "Height"})
    _arrival, parts = _held(library, tmp_path / "parts.csv", mapping)
    one, two = parts["LYN-1"].draft.part, parts["LYN-2"].draft.part
    assert (one.category, two.category) == ("bead", "connector")
    assert {name: fact.value for name, fact in one.facts.items()} == {"Manufacturer": "Lyng", "Height": "1.2 mm"}
    assert two.facts["Height"].value == "tall"


def test_parts_are_named_by_the_convention_of_their_category(library: Library, tmp_path: Path) -> None:
    arrival = look_into([_written(tmp_path / "r.csv", "Name,Manufacturer,Value\nX-1,Lyng,10k\n")], tmp_path / "u")
    (found,) = arrival.parts
    categories = {
        key: replace(c, part_name="{Manufacturer}-R{Value}") for key, c in library.settings.categories.items()
    }
    settings = replace(library.settings, categories=categories)
    mapped = mapped_part(found, IntakeMap(by_convention=True), settings)
    assert mapped.found.name == "Lyng-R10k" and "called X-1 there" in mapped.log
    chosen = mapped_part(found, IntakeMap(by_convention=True, names={"X-1": "MINE"}), settings)
    assert chosen.found.name == "MINE", "what someone chose holds"


def _written(path: Path, text: str) -> Path:
    path.write_text(text)
    return path


def test_single_items_of_a_part_are_taken_and_the_others_stay(library: Library, part: Bundle, tmp_path: Path) -> None:
    save_part(library, EvaluationRun(library).evaluated(part))
    pins = pins_csv(part.symbol).replace("S1", "RENAMED")
    folder = _folder(tmp_path, P__pads_csv=_pads(part).replace(",1.95,", ",2.0,", 1), P__pins_csv=pins)
    arrival, parts = _held(library, folder)
    assert parts["P"].state == "differs" and parts["P"].missing == ()
    choice = TakingChoice(items=items_of(["symbol"]))
    take_parts(library, arrival, list(parts.values()), None, None, choice)
    made = library.load(part.part.id)
    assert made.symbol.pins[0].name == "RENAMED" and made.footprint.adjustments == ()
    with pytest.raises(InputError, match="“legs” is not an item of a part"):
        items_of(["legs"])


def test_a_new_part_of_some_items_has_only_those(library: Library, part: Bundle, tmp_path: Path) -> None:
    folder = _folder(tmp_path, NEW__pads_csv=_pads(part), NEW__pins_csv=pins_csv(part.symbol))
    told = answer("intake", library.folder, folder, "--accept", "NEW", "--item", "symbol")
    assert told["taken"] == ["NEW"]
    made = library.load(library.find("NEW").id)
    assert len(made.symbol.pins) == 8 and made.footprint.pattern is None


def test_lands_and_symbols_that_are_there_are_shared_once_released(library: Library, tmp_path: Path) -> None:
    release_part(library, capacitor(library), "first")
    first = library.load(library.search()[0].id)
    pattern = first.footprint.pattern
    assert pattern is not None
    folder = _folder(tmp_path, OTHER__pads_csv=pads_csv(pattern))
    arrival, parts = _held(library, folder)
    other = parts["OTHER"]
    assert other.state == "new" and other.like.lands == (first.part.id, first.part.name)
    done = take_parts(library, arrival, [other])
    made = library.load(library.find("OTHER").id)
    assert made.part.footprint.id == first.part.footprint.id and made.part.package.id == first.part.package.id
    assert f"package, lands and body are those of {first.part.name}, and shared with it" in done.log[-1]


def test_its_own_lands_on_request(library: Library, tmp_path: Path) -> None:
    release_part(library, capacitor(library), "first")
    first = library.load(library.search()[0].id)
    assert first.footprint.pattern is not None
    folder = _folder(tmp_path, OTHER__pads_csv=pads_csv(first.footprint.pattern))
    answer("intake", library.folder, folder, "--accept", "new", "--own")
    made = library.load(library.find("OTHER").id)
    assert made.part.footprint.id != first.part.footprint.id and made.sheet.family == "custom"


def test_the_same_lands_and_pins_under_another_name_are_told(library: Library, part: Bundle, tmp_path: Path) -> None:
    save_part(library, EvaluationRun(library).evaluated(part))
    folder = _folder(tmp_path, TWIN__pads_csv=_pads(part), TWIN__pins_csv=pins_csv(part.symbol))
    arrival, parts = _held(library, folder)
    twin = parts["TWIN"]
    assert twin.state == "renamed" and twin.differences == ("the library has the same lands and pins as P",)
    assert chosen_parts([twin], ["all"]) == () and chosen_parts([twin], ["TWIN"]) == (twin,)
    # A draft is shared with nobody: the twin gets lands of its own, and that is said.
    done = take_parts(library, arrival, [twin])
    assert "its lands are those of P, which was never released: nothing is shared" in "\n".join(done.log)


@pytest.mark.parametrize("correction", ["mil", "mirror"])
def test_lands_in_another_unit_or_mirrored_are_mended(
    library: Library, part: Bundle, tmp_path: Path, correction: str
) -> None:
    assert part.footprint.pattern is not None
    wrong = corrected_pads(part.footprint.pattern.pads, "mm" if correction == "mil" else "mirror")
    folder = _folder(tmp_path, NEW__pads_csv=pads_csv(replace(part.footprint.pattern, pads=wrong)))
    _arrival, parts = _held(library, folder)
    assert parts["NEW"].faults[0].corrections == (correction,)
    _arrival, corrected = _held(library, folder, IntakeMap(corrections={"NEW": (correction,)}))
    pattern = corrected["NEW"].draft.footprint.pattern
    assert corrected["NEW"].faults == () and pattern is not None
    found = {pad.number: (pad.x, pad.y) for pad in pattern.pads}
    # A table has four digits of a mil.
    assert all(found[p.number] == pytest.approx((p.x, p.y), abs=0.001) for p in part.footprint.pattern.pads)


def test_lands_become_a_recipe_on_the_package_of_another_part(library: Library, part: Bundle, tmp_path: Path) -> None:
    save_part(library, EvaluationRun(library).evaluated(part))
    folder = _folder(tmp_path, NEW__pads_csv=_pads(part).replace(",1.95,", ",2.1,", 1))
    mapping = IntakeMap(packages={"NEW": "P"})
    arrival, parts = _held(library, folder, mapping)
    assert parts["NEW"].draft.sheet.family == "gullwing-dual" and parts["NEW"].joints == "its lands reach level B"
    assert not any("package sheet" in words for words in parts["NEW"].missing)
    take_parts(library, arrival, list(parts.values()), None, mapping, TakingChoice(share=False))
    made = library.load(library.find("NEW").id)
    assert [(a.pad, a.what, a.value) for a in made.footprint.adjustments] == [("1", "width", "2.1")]
    assert library.find("NEW").id != part.part.id


def test_silkscreen_is_left_to_the_rulebook_unless_it_is_kept(library: Library, part: Bundle, tmp_path: Path) -> None:
    assert part.footprint.pattern is not None
    folder = _folder(tmp_path, NEW__lands_dxf=dxf_text(part.footprint.pattern))
    _arrival, parts = _held(library, folder)
    assert any(
        "of silkscreen and" in words and "the rulebook makes them again" in words for words in parts["NEW"].doubts
    )
    _arrival, kept = _held(library, folder, IntakeMap(drawings="kept"))
    pattern = kept["NEW"].draft.footprint.pattern
    assert pattern is not None and pattern.silkscreen
    drawn = [stroke.points for stroke in part.footprint.pattern.silkscreen]
    assert all(stroke.points in drawn for stroke in pattern.silkscreen)


def test_an_outline_with_its_height_becomes_a_body(library: Library, tmp_path: Path) -> None:
    text = (
        ".HEADER\nLIBRARY_FILE 3.0 x 1 1\n.END_HEADER\n.ELECTRICAL\nBOX OST-1 MM 3.5\n"
        "0 -2 -1 0\n0 2 -1 0\n0 2 1 0\n0 -2 1 0\n.END_ELECTRICAL\n"
    )
    arrival, parts = _held(library, _written(tmp_path / "x.emp", text))
    take_parts(library, arrival, list(parts.values()))
    (solid,) = library.load(library.find("OST-1").id).body.composed
    assert (solid.shape, solid.height, solid.outline) == ("prism", "3.5", "-2,-1 2,-1 2,1 -2,1")


def test_what_is_kept_waits_over_a_restart_and_is_discarded(library: Library, part: Bundle, tmp_path: Path) -> None:
    folder = _folder(tmp_path, NEW__pads_csv=_pads(part))
    (folder / "deeper").mkdir()
    (folder / "deeper" / "NEW-pins.csv").write_text(pins_csv(part.symbol))
    told = answer("intake", library.folder, folder, "--keep", "--source", "Kelder")
    assert told["taken"] == []
    for path in [folder / "deeper" / "NEW-pins.csv", folder / "NEW-pads.csv"]:
        path.unlink()
    (delivery,) = waiting_deliveries(library)
    assert (delivery.names, delivery.source, delivery.copied) == (("delivery",), "Kelder", True)
    # Without files, what waits is looked at; it lies in the library's own folder, outside of git.
    found = answer("intake", library.folder)["found"]
    assert [(f["name"], f["kind"]) for f in found] == [("NEW", "pins, lands")]
    assert all(path.is_relative_to(library.folder / ".eider") for path in delivery_paths(delivery))
    discard_delivery(library, delivery)
    assert waiting_deliveries(library) == () and not list((library.folder / ".eider" / "intake").rglob("*.csv"))
    refused = eider("intake", library.folder, status=2)
    assert "nothing waits in the library; name the files to look into" in refused.stderr


def test_a_large_delivery_stays_where_it_is(
    library: Library, part: Bundle, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.services.intake.intake_waiting.MOST_FILES", 1)
    folder = _folder(tmp_path, A__pads_csv=_pads(part), B__pads_csv=_pads(part))
    delivery = keep_delivery(library, [folder])
    assert not delivery.copied and delivery_paths(delivery) == (folder.resolve(),)
    for path in folder.iterdir():
        path.unlink()
    folder.rmdir()
    with pytest.raises(InputError, match="is no longer there; discard the delivery"):
        delivery_paths(delivery)
    discard_delivery(library, delivery)
    assert waiting_deliveries(library) == ()


def test_a_damaged_archive_and_one_too_deep_do_not_stop_the_others(
    library: Library, part: Bundle, tmp_path: Path
) -> None:
    folder = _folder(tmp_path, GOOD__pads_csv=_pads(part))
    (folder / "broken.zip").write_bytes(b"PK\x03\x04 and nothing more")
    inner = (folder / "GOOD-pads.csv").read_bytes()
    for depth in range(5):
        path = tmp_path / f"{depth}.zip"
        with zipfile.ZipFile(path, "w") as archive:
            archive.writestr("DEEP-pads.csv" if depth == 0 else f"{depth}.zip", inner)
        inner = path.read_bytes()
    (folder / "deep.zip").write_bytes(inner)
    arrival = look_into([folder], tmp_path / "unpacked")
    assert [found.name for found in arrival.parts] == ["GOOD"]
    assert len(arrival.log) == 2 and any("3 deep" in words for words in arrival.log)


def test_a_source_is_learned_once_and_not_written_again(library: Library) -> None:
    learn_source(library, "Kelder", IntakeMap(unit="mil"))
    head = library.versions.head
    learn_source(library, "Kelder", IntakeMap(unit="mil"))
    assert library.versions.head == head
    learn_source(library, "Kelder", IntakeMap(unit="in"))
    assert known_sources(library) == {"Kelder": IntakeMap(unit="in")}
