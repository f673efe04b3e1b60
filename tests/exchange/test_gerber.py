"""Gerber and XNC: lands of every family come back; layers of strangers are read or told."""

import re
from pathlib import Path

import pytest

from carried_lands import carried_pad, family_part
from eider.exchange.formats.gerber.writer import gerber_files
from eider.exchange.found_parts import FoundPart
from eider.library import Library
from eider.packages.registry import all_families
from eider.services.intake.arrivals import Arrival, look_into
from eider.services.parts.part_evaluation import EvaluationRun
from eider.services.publishing.exporting import export_part
from family_samples import each_family


def _arrived(tmp_path: Path, files: dict[str, str]) -> Arrival:
    folder = tmp_path / "in"
    folder.mkdir(exist_ok=True)
    for name, text in files.items():
        (folder / name).write_text(text)
    return look_into([folder], tmp_path / "unpacked")


def _part(tmp_path: Path, files: dict[str, str]) -> FoundPart:
    (part,) = _arrived(tmp_path, files).parts
    return part


@pytest.mark.parametrize("family", each_family(sorted(all_families())))
def test_lands_of_every_family_come_back(library: Library, family: str, tmp_path: Path) -> None:
    bundle = family_part(library, family)
    pattern = bundle.footprint.pattern
    assert pattern is not None
    files = {f"P-{name}": text for name, text in gerber_files(pattern, bundle).items()}
    found = sorted(carried_pad(pad) for pad in _part(tmp_path, files).pads)
    assert found == sorted(carried_pad(pad) for pad in pattern.pads)


HEAD = "%TF.FileFunction,Copper,L1,Top*%\n%FSLAX46Y46*%\n%MOMM*%\n"


def _top(body: str) -> dict[str, str]:
    return {"P-copper-top.gbr": f"{HEAD}{body}M02*\n"}


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (HEAD.replace("LA", "LI") + "M02*", "line 2: incremental coordinates are not read"),
        (HEAD.replace("%MOMM*%", "%MOXX*%") + "M02*", "line 3: the unit XX is not read"),
        (HEAD + "%ADD10C,1*%\nD10*\nX9999999999Y0D03*\nM02*", "more than a metre"),
        (HEAD + "%ADD10C,1*%\nD10*\nX1234567890123Y0D03*\nM02*", "is not a coordinate"),
        (HEAD + "%LRnan*%\nM02*", "which is not a number"),
        ("%TF.FileFunction,Copper,L1,Top*%\nX0Y0D03*\nM02*", "names no format and no unit"),
    ],
)
def test_what_is_no_layer_is_refused_with_its_line(tmp_path: Path, text: str, says: str) -> None:
    arrival = _arrived(tmp_path, {"P-copper-top.gbr": text})
    assert arrival.parts == () and says in arrival.log[0]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ("%ADD10C,1X0.4*%\nD10*\nX0Y0D03*\n", "1 flashes of several pieces or with a hole left out"),
        ("%AMX*\n22,1,1*%\n%ADD10X*%\nD10*\nX0Y0D03*\n", "the primitive 22 of a macro is not read"),
        ("%AMX*\n21,1,1*%\n%ADD10X*%\n", "the primitive 21 has 2 numbers of 5"),
        ("%AMX*\n1,0,1,0,0*%\n%ADD10X*%\n", "a macro that leaves no area"),
        ("%ADD10C,1*%\nD10*\nX0Y0D03*\n%SRX2Y1I5J0*%\n", "SR (repeated or block) left out"),
        ("%LS2*%\n%ADD10C,1*%\nD10*\nX0Y0D03*\n", "2 flashes that are scaled left out"),
        ("%XX1*%\n", "XX: not understood, skipped"),
        ("D77*\nX0Y0D03*\n", "1 flashes without a readable aperture left out"),
        ("G36*\nX0Y0D02*\nX1000000Y1000000D01*\nX1000000Y0D01*\nX0Y1000000D01*\nX0Y0D01*\nG37*\n", "cross themselves"),
    ],
)
def test_what_is_left_out_of_a_layer_is_told(tmp_path: Path, body: str, says: str) -> None:
    last = "%ADD99C,0.3*%\nD99*\nX0Y5000000D03*\n"
    (part,) = _arrived(tmp_path, _top("%TA.AperFunction,SMDPad,CuDef*%\n" + body + last)).parts
    repeated, scaled = body.startswith("%ADD10C,1*%"), body.startswith("%LS2")
    assert says in "\n".join(part.log) and len(part.pads) == 1 + repeated - scaled


def test_a_file_that_is_cut_off_says_so(tmp_path: Path) -> None:
    part = _part(tmp_path, {"P-copper-top.gbr": HEAD + "%ADD10C,1*%\nD10*\nX0Y0D03*\n"})
    assert "end of the file is missing" in part.log[0]


def test_layers_of_one_name_are_one_pattern_and_vias_are_none_of_its_holes(tmp_path: Path) -> None:
    files = _top("%ADD10R,3X3*%\n%TO.P,REF,9*%\nD10*\nX0Y0D03*\n")
    files["P-drill-plated.xnc"] = (
        "M48\nMETRIC\n; #@! TA.AperFunction,Plated,PTH,ViaDrill\nT01C0.3\n"
        "; #@! TA.AperFunction,Plated,PTH,ComponentDrill\nT02C0.8\n%\nT01\nX0.5Y0.5\nT02\nX0Y0\nM30\n"
    )
    (pad,) = _part(tmp_path, files).pads
    assert pad.number == "9" and pad.plated and pad.hole is not None and pad.hole.width == 0.8


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("M48\nMETRIC\n%\nX1.0Y1.0\nM30\n", "line 4: the tool T00 has no diameter"),
        ("M48\nMETRIC\nT1C1\n%\nG91\nT1\nX1.0\nM30\n", "line 5: incremental coordinates"),
        ("M48\nMETRIC\nT1Cx\n%\nT1\nX1.0\nM30\n", "the tool T01 has no diameter"),
    ],
)
def test_drill_files_that_make_no_sense_are_refused(tmp_path: Path, text: str, says: str) -> None:
    assert says in _arrived(tmp_path, {"P-drill.xnc": text}).log[0]


def test_routes_of_several_legs_are_slots(tmp_path: Path) -> None:
    text = "M48\nINCH\nT1C0.04\n%\nT1\nG00X0.0Y0.0\nM15\nG01X0.1\nG01Y0.1\nM16\nG05\nM30\n"
    pads = _part(tmp_path, {"P-drill.xnc": text}).pads
    assert [tuple(round(v, 3) for v in pad.box) for pad in pads] == [
        (-0.508, -0.508, 3.048, 0.508),
        (2.032, -0.508, 3.048, 3.048),
    ]


def test_layers_and_drills_are_written_by_their_names(library: Library, tmp_path: Path) -> None:
    bundle = family_part(library, "header")
    told = export_part(bundle, ["gerber"], tmp_path / "out", EvaluationRun(library).rules_of(bundle))
    names = sorted(Path(name).name for name in told.files)
    assert names == [
        "P-component-top.gbr", "P-copper-bottom.gbr", "P-copper-top.gbr", "P-drill-plated.xnc", "P-mask-bottom.gbr",
        "P-mask-top.gbr", "P-profile.gbr", "P-silkscreen-top.gbr",
    ]  # fmt: skip
    drill = (tmp_path / "out" / "P-drill-plated.xnc").read_text()
    assert "; #@! TF.FileFunction,Plated,1,2,PTH" in drill and drill.endswith("M30\n")
    component = (tmp_path / "out" / "P-component-top.gbr").read_text()
    # The first pin is a diamond, and every pin is told with its number.
    assert "%ADD11P,0.36X4X0*%" in component and component.count("%TO.P,REF,") == 8


def test_other_readers_see_the_pads_where_they_are(library: Library) -> None:
    """The copper of a file, drawn by a plain reading of the format's rules for flashes of standard apertures."""
    bundle = family_part(library, "gullwing-dual")
    assert bundle.footprint.pattern is not None
    text = gerber_files(bundle.footprint.pattern, bundle)["copper-top.gbr"]
    sizes = {m[1]: (float(m[2]), float(m[3])) for m in re.finditer(r"%ADD(\d+)R,([\d.]+)X([\d.]+)\*%", text)}
    flashes, current = set(), ""
    for line in text.splitlines():
        if tool := re.fullmatch(r"D(\d+)\*", line):
            current = tool[1]
        elif at := re.fullmatch(r"X(-?\d+)Y(-?\d+)D03\*", line):
            flashes.add((int(at[1]) / 1e6, int(at[2]) / 1e6, *sizes[current]))
    assert flashes == {(p.x, p.y, p.width, p.height) for p in bundle.footprint.pattern.pads}
