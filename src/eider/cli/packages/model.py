"""Commands on 3D bodies: align a STEP file, write a body."""

import hashlib
import math
from pathlib import Path
from typing import Any

import click
from msgspec.structs import replace

from eider.bodies.pictures.body_scene import body_scene
from eider.bodies.pictures.gltf_writer import gltf_binary
from eider.bodies.placement.alignment_target import AlignmentTarget, TerminalPlace, target_of_pattern, target_of_sheet
from eider.bodies.placement.contacts import scaled
from eider.bodies.placement.model_measure import aligned_models, placement_of
from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.bodies.step_files.step_model import StepModel
from eider.bodies.step_files.step_process import ImportedStep, import_step, placed_step
from eider.bodies.step_files.step_text import Protocol
from eider.checks import PartUnderCheck, run_checks
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.packages.lands import bare_bundle, require_lengths, sheet_argument
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.exchange.json_files import read_json
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pattern_file import read_pads
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.plane import inside_by
from eider.lands.pattern import make_pattern
from eider.library.atomic_files import write_atomic
from eider.model.body import ImportedModel, ModelTerminal
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pattern
from eider.rulebooks import standard_rulebook

PICTURE = (1200, 900)


@click.command("align")
@click.argument("step", type=click.Path(path_type=Path))
@click.argument("target", metavar="SHEET|PATTERN", type=click.Path(path_type=Path))
@click.option("--unit", type=click.Choice(sorted(MM_PER_UNIT)), help="The true unit, where the file says a wrong one.")
@json_option
def align(step: Path, target: Path, unit: str | None, as_json: bool) -> None:
    """Find how the body in a STEP file sits on the terminals of a package sheet, or on the pads of a pattern."""
    bundle, wanted = _target(target)
    with shown_progress() as task:
        read = import_step(step, task.report)
    model = _in_unit(read.model, unit)
    found = aligned_models(model, read.triangles, wanted, _sum(step), step.name)
    placed = tuple(entry for entry in found if entry.measure.terminals or entry.measure.pin1 != "unknown") or found
    findings = _findings(bundle, placed[0])
    data = {
        "file": str(step),
        "unit": read.model.unit,
        "protocol": read.model.protocol,
        "solids": len(read.model.solids),
        "triangles": read.triangles,
        "bounds": [list(map(float, end)) for end in read.model.bounds],
        "placements": [_placement_data(entry, wanted) for entry in placed],
        "findings": findings,
    }
    finish(data, [*_lines(step, read, placed), *finding_lines(findings)], as_json)


def _placement_data(model: ImportedModel, target: AlignmentTarget) -> dict[str, Any]:
    return {
        "rotation": model.rotation,
        "offset": model.offset,
        "scale": model.scale,
        "score": model.measure.score,
        "terminals": [
            _standing(terminal.number, terminal.box, _place_of(terminal, target).box)
            for terminal in model.measure.terminals
        ],
        "seating": model.measure.seating,
        "pin1": model.measure.pin1,
        "doubts": model.measure.doubts,
    }


def _place_of(terminal: ModelTerminal, target: AlignmentTarget) -> TerminalPlace:
    """The place of a terminal: the nearest of its number, of which there can be several."""
    (x0, y0, x1, y1) = terminal.box
    middle = (x0 + x1) / 2, (y0 + y1) / 2
    places = [place for place in target.terminals if place.number == terminal.number]
    return min(places, key=lambda place: math.dist(place.centre, middle))


def _standing(
    number: str, foot: tuple[float, float, float, float], land: tuple[float, float, float, float]
) -> dict[str, Any]:
    """By how much a foot lies inside its place (mm, the least over the sides), and how far its middle is from it."""
    inside = inside_by(foot, land)
    dx, dy = ((foot[i] + foot[i + 2] - land[i] - land[i + 2]) / 2 for i in (0, 1))
    return {"pad": number, "inside": round(inside, 6) + 0.0, "dx": round(dx, 6) + 0.0, "dy": round(dy, 6) + 0.0}


def _lines(step: Path, read: ImportedStep, placed: tuple[ImportedModel, ...]) -> list[str]:
    lines = [f"{step}: {read.model.protocol}, {read.model.unit}, {len(read.model.solids)} solids"]
    for number, model in enumerate(placed, start=1):
        x, y, z = model.offset
        rows = "  ".join(" ".join(f"{v:+.0f}" for v in row) for row in model.rotation)
        lines.append(f"{number}: turned [{rows}], moved {x:g}, {y:g}, {z:g} mm, score {model.measure.score:g}")
        lines.append(f"   {len(model.measure.terminals)} terminals stand, pin 1 {model.measure.pin1}")
    return [*lines, *(f"doubt: {doubt}" for doubt in placed[0].measure.doubts)]


def _target(path: Path) -> tuple[Bundle, AlignmentTarget]:
    """What a file tells: a package sheet with the lands of its nominal level, or a pattern alone."""
    data = read_json(path)
    if isinstance(data, dict) and "dims" in data:
        sheet = sheet_from_data(data, str(path))
        require_lengths(sheet)
        rules = standard_rulebook()
        return bare_bundle(sheet, make_pattern(sheet, rules.default_level, rules), "B"), target_of_sheet(sheet)
    pattern = Pattern(name=path.stem, level="B", family="", pads=read_pads(path).pads)
    nameless = PackageSheet(name="", family="", pins=len(pattern.pads))
    return bare_bundle(nameless, pattern, "B"), target_of_pattern(pattern)


def _findings(bundle: Bundle, model: ImportedModel) -> tuple[Finding, ...]:
    """What the checks of models find."""
    looked_at = replace(bundle, body=replace(bundle.body, model=model))
    found = run_checks(PartUnderCheck(looked_at, standard_rulebook(), LibrarySettings(name="")))
    return tuple(f for f in found if f.check.startswith("body.") and f.check != "body.not-as-recipe")


def _in_unit(model: StepModel, unit: str | None) -> StepModel:
    """The model as if its file said another unit."""
    if unit is None or unit == model.unit:
        return model
    factor = MM_PER_UNIT[unit] / MM_PER_UNIT.get(model.unit, 1.0)
    return replace(model, unit=unit, faces=scaled(model.faces, factor))


def _sum(path: Path) -> str:
    return hashlib.sha256(path.read_bytes()).hexdigest()


@click.command("body")
@sheet_argument
@click.option("--out", required=True, type=click.Path(path_type=Path), help="The file to write: .step or .glb.")
@click.option("--from", "source", type=click.Path(path_type=Path), help="A STEP file in place of the generated body.")
@click.option("--placement", type=click.IntRange(min=1), default=1, help="Which of the placements that align lists.")
@click.option("--protocol", type=click.Choice(["AP214", "AP242"]), default="AP214", help="Of a STEP file.")
@click.option("--picture", type=click.Path(path_type=Path), help="A PNG of the body on its lands as well.")
@json_option
def body(
    sheet: Path,
    out: Path,
    source: Path | None,
    placement: int,
    protocol: Protocol,
    picture: Path | None,
    as_json: bool,
) -> None:
    """Write the 3D body of a package sheet as STEP or glTF: generated, or someone's STEP file placed on its lands."""
    for path in (out, *([picture] if picture else [])):
        if not path.parent.is_dir():
            raise InputError(f"the folder {path.parent} is not there; make it first")
    bundle, wanted = _target(sheet)
    step, findings = None, tuple[Finding, ...]()
    if source is not None:
        with shown_progress() as task:
            step = import_step(source, task.report)
        found = aligned_models(step.model, step.triangles, wanted, _sum(source), source.name)
        if placement > len(found):
            raise InputError(f"--placement {placement}: {source.name} has {len(found)}; eider align lists them")
        bundle = replace(bundle, body=replace(bundle.body, model=found[placement - 1]))
        findings = _findings(bundle, found[placement - 1])
    name = bundle.sheet.name or out.stem
    if out.suffix.lower() == ".glb":
        write_atomic(out, _glb(bundle, name, step))
    else:
        write_atomic(out, _step(bundle, name, source, protocol))
    if picture is not None:
        write_atomic(picture, _picture(bundle, step))
    measure = bundle.body.model.measure if bundle.body.model else measure_body(body_solids(bundle.sheet))
    data: dict[str, Any] = {"file": str(out), "solids": measure.solids, "bounds": measure.bounds}
    if source is not None:
        data["findings"] = findings
    low, high = measure.bounds
    lines = [f"{out}: {measure.solids} solids, from {low} to {high} mm"]
    finish(data, [*lines, *(finding_lines(findings) if source else [])], as_json, findings)


def _glb(bundle: Bundle, name: str, step: ImportedStep | None) -> bytes:
    from eider.bodies.pictures.scene_mesh import scene_mesh

    return gltf_binary(scene_mesh(body_scene(bundle.sheet, bundle.body, None), step.fine if step else None), name)


def _step(bundle: Bundle, name: str, source: Path | None, protocol: Protocol) -> bytes:
    if source is not None and bundle.body.model is not None:
        return placed_step(source, placement_of(bundle.body.model), name, protocol)
    from eider.bodies.step_files.step_writer import step_file

    return step_file(body_solids(bundle.sheet), name, protocol)


def _picture(bundle: Bundle, step: ImportedStep | None) -> bytes:
    from eider.reports.picture import scene_png

    scene = body_scene(bundle.sheet, bundle.body, bundle.footprint.pattern)
    return scene_png(scene, step.fine if step else None, *PICTURE)
