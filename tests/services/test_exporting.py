"""Export and release as use cases: one failure does not stop the others; work can be cancelled, requests sent."""

import json
import pickle
from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.packages.sheet_copies import copy_sheet
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part, rerun_recipes
from eider.demo.parts import converter_part
from eider.errors import EiderError, InputError
from eider.exchange.format_spec import FormatSpec
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.codec import decode
from eider.model.footprint import Adjustment
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink, Release
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import ExportRequest, export_part
from eider.services.publishing.format_registry import all_formats
from eider.services.releasing.part_releasing import BlockedError, StepRequest, release_part
from eider.services.tasks import CancelledError, Task
from eider.views.sheet_comparison import since_origin
from family_samples import sample


@pytest.fixture
def made(library: Library) -> Bundle:
    return converter_part(library, DatasheetLink("0" * 64, "x.pdf"))


@pytest.fixture
def rules(library: Library, made: Bundle) -> EvaluationRules:
    return rules_for(library, made)


def test_everything_as_json_reads_back(made: Bundle, rules: EvaluationRules, tmp_path: Path) -> None:
    (path,) = export_part(made, ["json"], tmp_path, rules).files
    again = decode(Path(path).read_text(encoding="utf-8"), Bundle, path)
    assert again.part == made.part
    assert again.sheet == made.sheet
    assert json.loads(Path(path).read_text(encoding="utf-8"))["format"] == "eider-working-copy/1"


def test_one_format_that_fails_does_not_stop_the_others(
    made: Bundle, rules: EvaluationRules, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_bundle: Bundle, _folder: Path) -> list[Path]:
        raise EiderError("no ink")

    monkeypatch.setitem(all_formats(), "svg", FormatSpec(key="svg", title="broken", suffixes=(), write=broken))  # type: ignore[misc]
    result = export_part(made, ["svg", "csv"], tmp_path, rules)
    assert len(result.files) == 3
    assert "svg: not written: no ink" in result.log


def test_an_unknown_format_is_refused_before_anything_is_written(
    made: Bundle, rules: EvaluationRules, tmp_path: Path
) -> None:
    with pytest.raises(InputError, match="nonsense"):
        export_part(made, ["csv", "nonsense"], tmp_path / "out", rules)
    assert not (tmp_path / "out").exists()


def test_a_folder_that_cannot_be_made_is_told(made: Bundle, rules: EvaluationRules, tmp_path: Path) -> None:
    (tmp_path / "file").touch()
    with pytest.raises(InputError, match="cannot be made"):
        export_part(made, ["csv"], tmp_path / "file" / "out", rules)


def test_names_of_parts_are_made_safe_as_file_names(made: Bundle, rules: EvaluationRules, tmp_path: Path) -> None:
    odd = fact_edits.set_about(made, name="../../x y/é")
    for path in export_part(odd, ["csv", "json"], tmp_path, rules).files:
        assert Path(path).parent == tmp_path
        assert Path(path).name.isascii()


def test_requests_can_be_sent_to_another_process(made: Bundle, rules: EvaluationRules, tmp_path: Path) -> None:
    request = ExportRequest(made, ("csv",), str(tmp_path), rules)
    assert pickle.loads(pickle.dumps(request))().log == ("csv: Pads, pins and facts as CSV: 3 files",)
    from eider.bodies.solids.body_solids import body_solids

    step = pickle.loads(pickle.dumps(StepRequest(body_solids(made.sheet), "x")))
    assert step().startswith(b"ISO-10303-21;")


def test_progress_is_reported_and_a_cancel_stops_before_writing(library: Library, made: Bundle) -> None:
    said: list[tuple[float, str]] = []
    release_part(library, made, "first", Task(lambda share, what: said.append((share, what))))
    assert [share for share, _ in said] == sorted(share for share, _ in said)
    head = library.versions.head
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError, match="cancelled while"):
        release_part(library, fact_edits.set_fact(made, "Compliance", "RoHS"), "second", task)
    assert library.versions.head == head


def test_a_body_that_did_not_change_is_not_written_again(library: Library, made: Bundle) -> None:
    asked: list[StepRequest] = []

    def make(request: StepRequest) -> bytes:
        asked.append(request)
        return request()

    release_part(library, made, "first", make_step=make)
    release_part(
        library, fact_edits.set_fact(library.load_release(made.part.id), "Compliance", "RoHS"), "second", make_step=make
    )
    assert len(asked) == 1
    higher = package_edits.set_dimension(library.load_release(made.part.id), "A", "max 1.30")
    release_part(library, higher, "third", make_step=make)
    assert len(asked) == 2


def test_the_blockers_of_a_refused_release_are_all_there(library: Library, made: Bundle) -> None:
    broken = fact_edits.set_fact(package_edits.set_dimension(made, "b", ""), "Manufacturer", "")
    with pytest.raises(BlockedError) as caught:
        release_part(library, broken, "too early")
    assert {"sheet.missing-dimension", "facts.required", "lands.not-computed"} <= {
        f.check for f in caught.value.findings
    }
    assert "and" in str(caught.value)


def test_a_rulebook_of_the_library_is_used_by_its_name(library: Library, made: Bundle) -> None:
    from eider.commands.parts.evaluation import evaluate_part
    from eider.library.atomic_files import write_atomic
    from eider.rulebooks.rulebook import standard_text

    text = standard_text().replace('name = "standard"', 'name = "fine"').replace("step = 0.05", "step = 0.01")
    write_atomic(library.folder / "rulebooks" / "fine.toml", text.encode())
    fine = footprint_edits.set_rulebook(made, "fine")
    pattern = evaluate_part(fine, rules_for(library, fine)).bundle.footprint.pattern
    # Raw 7.3153, 4.1978, 0.4068, to the nearest hundredth.
    assert pattern is not None
    assert (pattern.derivation[0].Z, pattern.derivation[0].G, pattern.derivation[0].X) == (7.32, 4.20, 0.41)
    with pytest.raises(EiderError, match="unheard-of"):
        rules_for(library, footprint_edits.set_rulebook(made, "unheard-of"))


def test_levels_release_as_footprints_of_their_own_names(library: Library, made: Bundle) -> None:
    names = []
    for level in ("A", "B", "C"):
        from eider.commands.parts.evaluation import rerun_recipes

        names.append(rerun_recipes(footprint_edits.set_level(made, level), library.rulebook()).footprint.name)  # type: ignore[arg-type]
    assert names == ["SOP65P640X120-16M", "SOP65P640X120-16N", "SOP65P640X120-16L"]
    assert replace(made.footprint, level="A").name == "SOP65P640X120-16N"


def test_all_three_levels_are_footprints_of_one_part(library: Library, made: Bundle, tmp_path: Path) -> None:
    for level in ("A", "C"):
        made = footprint_edits.set_also_level(made, level, on=True)
    made = rerun_recipes(made, library.rulebook())
    levels = {p.level: p for p in made.footprint.patterns}
    assert list(levels) == ["B", "A", "C"]
    # Toe goals .55/.35/.15: Z differs by 0.40 from level to level.
    spans = [levels[level].derivation[0].Z for level in "ABC"]
    assert spans[0] - spans[1] == pytest.approx(0.4)
    assert spans[1] - spans[2] == pytest.approx(0.4)
    exported = export_part(made, ("svg", "csv"), tmp_path, rules_for(library, made), {})
    names = sorted(Path(f).name for f in exported.files)
    assert [n for n in names if n.endswith("-lands.svg")] == [f"SOP65P640X120-16{letter}-lands.svg" for letter in "LMN"]
    assert sum("-pads" in n for n in names) == 3
    fewer = rerun_recipes(footprint_edits.set_also_level(made, "A", on=False), library.rulebook())
    assert [p.level for p in fewer.footprint.patterns] == ["B", "C"]


def test_findings_of_a_further_level_are_told_as_its_own(library: Library, made: Bundle) -> None:
    # 0.52 leaves a gap of 0.19 at level B; at C, where lands are 0.05 narrower, it leaves 0.215.
    tight = footprint_edits.adjust_pad(made, Adjustment("3", "height", "0.47"))
    both = rerun_recipes(footprint_edits.set_also_level(tight, "A", on=True), library.rulebook())
    found = [f for f in evaluate_part(both, rules_for(library, both)).findings if f.check == "lands.gap-between-lands"]
    # At A the neighbours are 0.45 wide: 0.65 − (0.47 + 0.45)/2 = 0.19; at B they are 0.40: 0.215.
    assert [f.message.split(":")[0] for f in found] == ["Level A"]
    assert found[0].measured == "0.1900 mm"


def test_a_part_begun_from_another_keeps_the_link_and_tells_what_differs(library: Library, made: Bundle) -> None:
    copy = new_parts.start_from_part(made, "NVK-1217T")
    assert copy.part.origin == Ref(made.part.id, "NVK-1216T", None)
    assert since_origin(copy, made).words == "Created from NVK-1216T: no differences"
    changed = footprint_edits.set_level(package_edits.set_dimension(copy, "b", "0.20–0.30"), "C")
    changed = footprint_edits.adjust_pad(changed, Adjustment("1", "width", "1.4"))
    assert since_origin(changed, made).words == "Created from NVK-1216T: 1 length, level, adjustments differ"
    released = replace(made, part=replace(made.part, release=Release(2, "", "", "")))
    moved_on = "Created from NVK-1216T, revision 2: no differences. NVK-1216T is at revision 3 by now"
    assert since_origin(copy, released, 3).words == moved_on
    assert since_origin(copy, released, 2).words == "Created from NVK-1216T, revision 2: no differences"


def test_another_parts_package_comes_with_its_lands_if_wished(library: Library, made: Bundle) -> None:
    near = footprint_edits.set_level(footprint_edits.adjust_pad(made, Adjustment("1", "width", "1.4")), "A")
    fresh = new_parts.new_part("NVK-1", "ic", library.settings)
    plain, whole = copy_sheet(fresh, near), copy_sheet(fresh, near, with_lands=True)
    assert plain.footprint.adjustments == ()
    assert (whole.footprint.level, whole.footprint.adjustments) == ("A", near.footprint.adjustments)
    assert whole.footprint.id == fresh.footprint.id
    assert whole.sheet.id == fresh.sheet.id
    assert whole.part.origin == Ref(near.part.id, "NVK-1216T", None)


def test_a_grid_copied_from_another_part_keeps_its_rows_and_empty_places(library: Library) -> None:
    grid = new_parts.new_part("NVK-2", "ic", library.settings)
    sheet = sample("ball-grid")
    grid = replace(grid, sheet=replace(sheet, id=grid.sheet.id, missing=("A1",)))
    copy = copy_sheet(new_parts.new_part("NVK-3", "ic", library.settings), grid)
    assert (copy.sheet.rows, copy.sheet.columns, copy.sheet.missing) == (sheet.rows, sheet.columns, ("A1",))
