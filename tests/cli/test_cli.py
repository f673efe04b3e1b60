"""The contract of the command line: JSON alone on standard output, exit states, one line for what cannot be done."""

import json
from pathlib import Path

import click
import pytest

from command_line import answer, eider, eider_process
from eider.library import Library

SHEET = {
    "format": "eider-package/1", "name": "SO8", "family": "gullwing-dual", "pins": 8,
    "dims": {
        "E": "5.80–6.20", "E1": "3.80..4.00", "D": {"min": 4.8, "max": 5.0}, "e": 1.27, "b": "0.31-0.51",
        "L": "0.40 – 1.27", "A": "max 1.75", "A1": "3..9 mil",
    },
}  # fmt: skip
PINS = "Pin,Name,Type\n1,VDD,P\n2,nCS,I\n3,DOUT,O\n4,GND,G\n"


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    path = tmp_path / "so8.json"
    path.write_text(json.dumps(SHEET))
    return path


def test_lands(sheet: Path) -> None:
    pattern = answer("lands", sheet, "--level", "B")
    assert pattern["name"] == "SOIC127P600X175-8N"
    first = pattern["pads"][0]
    assert {key: first[key] for key in ("number", "x", "y", "width", "height", "shape", "hole")} == {
        "number": "1",
        "x": -2.475,
        "y": 1.905,
        "width": 1.95,
        "height": 0.6,
        "shape": "rectangle",
        "hole": None,
    }
    group = pattern["derivation"][0]
    assert (group["Z"], group["G"], group["X"]) == (6.9, 3.0, 0.6)
    assert (group["Z_raw"], group["G_raw"], group["X_raw"]) == pytest.approx((6.9153, 2.9783, 0.5991), abs=1e-4)
    assert {"courtyard", "silkscreen", "assembly", "findings"} <= set(pattern)


def test_lands_with_settings_and_rulebook(sheet: Path, tmp_path: Path) -> None:
    assert answer("lands", sheet, "--set", "b=0.35-0.55")["derivation"][0]["X"] == 0.65
    assert answer("lands", sheet, "--set", "tolerances.placement=0", "--set", "tolerances.fabrication=0")["derivation"][
        0
    ]["Z_raw"] == pytest.approx(6.9)
    rulebook = tmp_path / "mine.toml"
    text = Path("src/eider/rulebooks/standard.toml").read_text()
    rulebook.write_text(text.replace('name = "standard"\ndefault_level = "B"', 'name = "mine"\ndefault_level = "C"'))
    assert answer("lands", sheet, "--rulebook", rulebook)["level"] == "C"


def test_lands_in_the_other_orientation_by_a_rule_that_stands_alone(sheet: Path) -> None:
    plain, turned = answer("lands", sheet)["pads"], answer("lands", sheet, "--set", "orientation=2")["pads"]
    # A quarter counter-clockwise: (x, y) comes to lie at (−y, x).
    assert [(p["x"], p["y"]) for p in turned] == [(-p["y"], p["x"]) for p in plain]


def test_joints_of_its_own_pattern_and_of_a_bad_one(sheet: Path, tmp_path: Path) -> None:
    pattern = answer("lands", sheet)
    path = tmp_path / "pattern.json"
    path.write_text(json.dumps(pattern))
    good = answer("joints", sheet, path)
    assert good["level"] == "B"
    assert good["pads"][0] == pytest.approx(
        {"number": "1", "toe": 0.342334, "heel": 0.33915, "side": 0.030436, "level": "B"}, abs=1e-5
    ) or good["pads"][0]["toe"] == pytest.approx(0.342334, abs=1e-5)
    for pad in pattern["pads"]:
        pad["width"] = 1.0
    path.write_text(json.dumps(pattern))
    bad = answer("joints", sheet, path, status=1)
    assert bad["level"] is None
    assert "lands.joint-below-level" in {f["check"] for f in bad["findings"] if f["severity"] == "blocker"}


def test_body(sheet: Path, tmp_path: Path) -> None:
    out = tmp_path / "so8.step"
    # In a process of its own: nothing that the kernel prints may come between.
    made = json.loads(eider_process("body", sheet, "--out", out, "--json").stdout)
    assert made == {"file": str(out), "solids": 10, "bounds": [[-3, -2.45, 0], [3, 2.45, 1.75]]}
    assert out.read_text().startswith("ISO-10303-21;")


def test_symbol(tmp_path: Path) -> None:
    table = tmp_path / "pins.csv"
    table.write_text(PINS)
    out = tmp_path / "symbol.svg"
    made = answer("symbol", table, "--arrange", "function", "--out", out)
    pins = {p["number"]: p for p in made["units"][0]["pins"]}
    assert (pins["2"]["name"], pins["2"]["type"], pins["2"]["side"], pins["2"]["active_low"]) == (
        "CS",
        "input",
        "left",
        True,
    )
    assert len(made["units"][0]["body"]) == 4
    assert out.read_text().startswith("<?xml")


def test_library_from_init_to_export(tmp_path: Path) -> None:
    from eider.commands.packages import package_edits
    from eider.demo.parts import LIBRARIAN, converter_part
    from eider.library import open_library
    from eider.library.documents.working_copies import WorkingCopy
    from eider.model.part import DatasheetLink

    folder = tmp_path / "lib"
    user = f"{LIBRARIAN.name} <{LIBRARIAN.email}>"
    assert answer("init", folder, "--name", "Skerry", "--user", user)["name"] == "Skerry"
    library = open_library(folder)
    part = converter_part(library, DatasheetLink("0" * 64, "NVK-1216T.pdf"))
    library.copies.save(WorkingCopy(bundle=package_edits.set_dimension(part, "b", "0.30–0.19")))
    blocked = answer("check", folder, "NVK-1216T", status=1)
    assert blocked["counts"]["blocker"] >= 1
    assert "sheet.max-below-min" in {f["check"] for f in blocked["findings"]}
    refused = answer("release", folder, "NVK-1216T", "--note", "x", status=1)
    assert refused["revision"] is None
    junit = eider("check", folder, "--format", "junit", status=1).stdout
    assert junit.startswith("<testsuites>")
    assert 'failures="' in junit
    library.copies.save(WorkingCopy(bundle=part))
    assert answer("release", folder, "NVK-1216T", "--note", "first")["revision"] == 1
    library.copies.save(WorkingCopy(bundle=package_edits.set_dimension(library.load(part.part.id), "b", "0.19–0.34")))
    assert answer("release", folder, "NVK-1216T", "--note", "wider")["revision"] == 2
    assert [r["note"] for r in answer("history", folder, "NVK-1216T")["revisions"]] == ["first", "wider"]
    words = [d["words"] for d in answer("diff", folder, "NVK-1216T", "1", "2")["differences"]]
    assert "sheet.dims.b.text changed from 0.19–0.30 to 0.19–0.34" in words
    assert answer("search", folder, "bridge", "nvk")["count"] == 1
    made = answer("export", folder, "NVK-1216T", "--to", "step,svg,json,csv,proof", "--out", tmp_path / "out")
    assert len(made["files"]) == 9
    assert all(Path(f).stat().st_size > 100 for f in made["files"])


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("lands", "nowhere.json"), "not there"),
        (("lands",), "Missing argument"),
        (("nonsense",), "No such command"),
        (("check", "/nowhere"), "eider init"),
        (("lands", "{sheet}", "--set", "Q=1"), "not understood"),
        (("lands", "{sheet}", "--set", "b=x"), "b"),
        (("lands", "{sheet}", "--level", "D"), "D"),
        (("lands", "{sheet}", "--set", "L=3.4"), "row 1 and row 2"),
        (("joints", "{sheet}", "{sheet}"), "not a pattern"),
        (("body", "{sheet}", "--out", "/nowhere/x.step"), "/nowhere"),
        (("symbol", "{sheet}"), "no pins"),
        (("export", "{sheet}", "X", "--to", "step", "--out", "/tmp/x"), "eider init"),
    ],
)
def test_what_cannot_be_done_is_one_line_and_2(arguments: tuple[str, ...], says: str, sheet: Path) -> None:
    result = eider(*(a.format(sheet=sheet) for a in arguments), status=2)
    assert result.stdout == ""
    assert len(result.stderr.strip().splitlines()) == 1
    assert says in result.stderr


def test_the_whole_example_without_a_display(tmp_path: Path) -> None:
    made = answer("demo", "--headless", "--out", tmp_path / "demo")
    assert (made["part"], made["revisions"]) == ("NVK-1216T", 2)
    assert all(Path(f).exists() for f in made["files"])
    assert made["parts"] == 61
    checked = answer("check", Path(made["library"]))
    assert checked["counts"]["blocker"] == checked["counts"]["caution"] == 0


def test_without_a_display_the_demo_runs_the_example(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("DISPLAY", raising=False)
    monkeypatch.delenv("WAYLAND_DISPLAY", raising=False)
    monkeypatch.setenv("QT_QPA_PLATFORM", "offscreen")
    said = eider("demo", "--out", tmp_path / "demo").stdout
    assert "released as revision 1" in said
    assert str(tmp_path / "demo" / "export") in said


def test_every_command_takes_json_and_explains_itself() -> None:
    from eider.cli.main import COMMANDS, cli

    for name in COMMANDS:
        command = cli.get_command(click.Context(cli), name)
        parts = list(command.commands) if isinstance(command, click.Group) else []
        for words in [[name, part] for part in parts] or [[name]]:
            assert "--json" in eider(*words, "--help").stdout, words


def test_the_command_as_a_shell_starts_it(sheet: Path) -> None:
    assert json.loads(eider_process("lands", sheet, "--json").stdout) == answer("lands", sheet)
    assert "not there" in eider_process("lands", "nowhere.json", status=2).stderr


def test_opening_without_a_display_is_told(library: Library, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert "no display" in eider("open", library.folder, status=2).stderr
    assert "no display" in eider("open", status=2).stderr


def test_opening_what_is_no_library_is_told(tmp_path: Path) -> None:
    assert "eider init" in eider("open", tmp_path, status=2).stderr


@pytest.mark.parametrize("name", ["pins.bsd", "pins.ibs"])
def test_a_symbol_from_a_machine_readable_model(name: str, tmp_path: Path) -> None:
    from eider.demo.data import buffer_text
    from eider.demo.scan import scan_text

    path = tmp_path / name
    path.write_text(scan_text() if name.endswith("bsd") else buffer_text())
    data = answer("symbol", path)
    assert sum(len(unit["pins"]) for unit in data["units"]) == (100 if name.endswith("bsd") else 14)
    assert "there is only" in eider("symbol", path, "--package", "unheard-of", status=2).stderr


def test_a_symbol_with_graphics_in_units(tmp_path: Path) -> None:
    from eider.demo.data import buffer_text

    path = tmp_path / "gates.ibs"
    path.write_text(buffer_text())
    data = answer("symbol", path, "--units", "equal", "--graphic", "nand", "--style", "form=ieee,grid=2.5")
    assert [unit["name"] for unit in data["units"]] == ["A", "B", "C", "D", "E"]
    assert data["units"][0]["swap"] == data["units"][3]["swap"] != ""
    assert {round(pin["x"] / 2.5, 6) % 1 for unit in data["units"] for pin in unit["pins"]} == {0.0}
    for style, said in (("grid=3", "grid is one of"), ("size=1", "size is not known"), ("grid=x", "expected a number")):
        assert said in eider("symbol", path, "--style", style, status=2).stderr
    assert "no such graphic" in eider("symbol", path, "--graphic", "unheard-of", status=2).stderr


@pytest.fixture(scope="module")
def datasheet(tmp_path_factory: pytest.TempPathFactory) -> Path:
    from eider.demo.sheets import write_converter_datasheet

    path = tmp_path_factory.mktemp("pdf") / "NVK-1216T.pdf"
    write_converter_datasheet(path)
    return path


def box_of(datasheet: Path, index: int) -> str:
    place = json.loads(datasheet.with_suffix(".truth.json").read_text())["tables"][index]["places"][0]
    return ",".join(map(str, place["box"]))


def test_capture_reads_dimensions_and_proposes_letters(datasheet: Path) -> None:
    box = box_of(datasheet, 1)
    data = answer("capture", datasheet, "--page", "3", "--box", box, "--family", "gullwing-dual", "--pins", "16")
    assert (data["as"], data["page"], data["doubt"], len(data["rows"])) == ("dimensions", 3, "", 9)
    first = data["rows"][0]
    assert (first["letter"], first["limits"]) == ("H", {"min": 6.2, "max": 6.6})
    assert (first["seen"], first["page"], first["doubt"]) == ("6.20 6.60", 3, "")
    assert len(first["box"]) == 4
    assert data["letters"][0]["letters"]["H"] == "E"


def test_capture_reads_pins(datasheet: Path) -> None:
    data = answer("capture", datasheet, "--page", "2", "--box", box_of(datasheet, 0), "--as", "pins")
    assert len(data["rows"]) == 16
    assert (data["rows"][8]["name"], data["rows"][8]["active_low"]) == ("PWRDN", True)
    assert "PWRDN" in eider("capture", datasheet, "--page", "2", "--box", box_of(datasheet, 0)).stdout


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("--page", "9", "--box", "0,0,10,10"), "no page 9"),
        (("--page", "1", "--box", "1,1,2,2"), "no text lies in the rectangle"),
        (("--page", "1", "--box", "10,10,2,2"), "lower left corner first"),
        (("--page", "1", "--box", "a,b"), "expected four numbers"),
        (("--page", "3", "--box", "55,230,205,395", "--family", "unheard-of"), "unheard-of"),
    ],
)
def test_what_cannot_be_captured_is_told(datasheet: Path, arguments: tuple[str, ...], said: str) -> None:
    assert said in eider("capture", datasheet, *arguments, status=2).stderr


def test_a_missing_or_damaged_datasheet_is_told(tmp_path: Path) -> None:
    (tmp_path / "bad.pdf").write_bytes(b"%PDF-1.4 nothing")
    for name in ("bad.pdf", "gone.pdf"):
        line = eider("capture", tmp_path / name, "--page", "1", "--box", "0,0,9,9", status=2).stderr
        assert name in line
        assert line.count("\n") == 1


def test_evidence_tells_coverage_and_places(tmp_path: Path) -> None:
    eider("demo", "--headless", "--out", tmp_path / "demo")
    library = tmp_path / "demo" / "library"
    data = answer("evidence", library, "NVK-1216T")
    # The walk types a lead width by hand for its second revision.
    assert data["coverage"] == {"total": 31, "covered": 30, "confirmed": 0, "without": ["sheet.dims.b"]}
    values = {value["place"]: value for value in data["values"]}
    assert values["sheet.dims.E"]["evidence"]["page"] == 3
    assert values["sheet.dims.b"]["former_text"] == "0.19–0.30"
    assert "30 of 31 values with evidence" in eider("evidence", library, "NVK-1216T").stdout


def test_measuring_and_keeping_a_distance(tmp_path: Path) -> None:
    eider("demo", "--flawed", "--headless", "--out", tmp_path)
    flawed = tmp_path / "flawed"
    # Four holes at 3.50 are 10.50 from first to last.
    found = answer("measure", flawed, "LANDS-HOLE-SIZE", "hole 1", "hole 4", "--shall", "10.4±0.05")
    assert found == {"from": "hole 1", "to": "hole 4", "along": "direct", "mm": 10.5, "kept": "10.4±0.05"}
    findings = answer("check", flawed, "LANDS-HOLE-SIZE", status=1)["findings"]
    assert [f["measured"] for f in findings if f["check"] == "lands.kept-distance"] == ["10.5000 mm"]
    assert "there is no pad 9" in eider("measure", flawed, "LANDS-RING", "pad 9", "pad 1", status=2).stderr


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The library of the headless demo."""
    folder = tmp_path_factory.mktemp("rules")
    eider("demo", "--headless", "--out", folder)
    return folder / "library"


def test_a_rulebook_is_begun_tried_and_kept(made: Path) -> None:
    assert [r["name"] for r in answer("rulebook", made)["rulebooks"]] == ["standard"]
    tried = answer("rulebook", made, "standard", "--set", "goals.0.outer.1=0.40")
    assert tried["changes"] == [{"path": "goals.0.outer.1", "before": "0.35", "after": "0.40", "standard": "0.35"}]
    # Of sixty-one footprints the converter alone has gull-wing leads above 0.625 mm.
    assert [e["part"] for e in tried["effects"]] == ["NVK-1216T"]
    assert (tried["footprints"], tried["kept"], tried["effects"][0]["pads"]) == (61, False, 16)
    begun = answer(
        "rulebook", made, "dense", "--from", "standard", "--set", "pads.stencil=0.1", "--keep", "thin stencil"
    )
    assert (begun["revision"], begun["kept"]) == (2, True)
    assert "stencil = 0.1\n" in (made / "rulebooks" / "dense.toml").read_text()
    assert [r["kept"] for r in answer("rulebook", made)["rulebooks"]][1] == [
        "rulebook dense begun from standard",
        "thin stencil",
    ]


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("nosuch",), "not in"),
        (("standard", "--set", "pads.stencil"), "PATH=VALUE"),
        (("standard", "--set", "pads.stencil=thin"), "takes a number"),
        (("standard", "--keep", "why"), "no change"),
        (("a/b", "--from", "standard"), "not a name"),
        (("new", "--from", "standard", "--set", "nowhere=1"), "there is no"),
    ],
)
def test_what_a_rulebook_cannot_take_is_one_line(made: Path, arguments: tuple[str, ...], says: str) -> None:
    before = sorted(path.name for path in (made / "rulebooks").glob("*"))
    error = eider("rulebook", made, *arguments, status=2).stderr
    assert says in error and error.count("\n") == 1
    assert sorted(path.name for path in (made / "rulebooks").glob("*")) == before


def test_two_lengths_with_a_slash_are_asked_about(sheet: Path) -> None:
    said = eider("lands", sheet, "--set", "b=0.31/0.51", status=2).stderr
    assert "b: cannot read “0.31/0.51”" in said.replace("B: cannot", "b: cannot")
    assert "limits, such as 0.31–0.51, or a quotient, which is written in brackets: (0.31/0.51)" in said
