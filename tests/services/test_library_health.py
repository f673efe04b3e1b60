"""The health of a library and what is in it twice, against a small library counted by hand."""

from pathlib import Path
from xml.etree import ElementTree

import msgspec
import pytest

from command_line import answer, eider
from eider.commands.lands.footprint_edits import adjust_pad
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import InputError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.index.item_reader import ItemHead
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink, Fact
from eider.reports.health_page import share_words
from eider.services.checking.duplicates import duplicates_among, find_duplicates, merge_items
from eider.services.checking.library_health import library_health, save_report
from eider.services.releasing.part_releasing import release_parts

replace = msgspec.structs.replace
FIRST, SECOND = "LYN-C1608-100N", "LYN-C1608-1U"


def _chip(library: Library, value: str) -> Bundle:
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    return rerun_recipes(
        chip_part(library, series, size, value, DatasheetLink("0" * 64, "LYN-C.pdf", 2)), library.rulebook()
    )


def _released(bundle: Bundle) -> Bundle:
    """As if its items had been released."""
    refs = {n: replace(getattr(bundle.part, n), revision=1) for n in ("package", "symbol", "footprint", "body")}
    return replace(bundle, part=replace(bundle.part, **refs))


def _apart(bundle: Bundle) -> Bundle:
    """A part whose items are others, under names that say so."""
    part, mark = bundle.part, "-twin"
    refs = {
        name: Ref(f"{getattr(part, name).id}{mark}", revision=1) for name in ("package", "symbol", "footprint", "body")
    }
    return replace(
        bundle,
        part=replace(part, **refs),
        sheet=replace(bundle.sheet, id=refs["package"].id, name="another package"),
        symbol=replace(bundle.symbol, id=refs["symbol"].id, name="another symbol"),
        footprint=replace(bundle.footprint, id=refs["footprint"].id, name="another footprint", package=refs["package"]),
        body=replace(bundle.body, id=refs["body"].id, name="another body", package=refs["package"]),
    )


def _moved(bundle: Bundle, by: float) -> Bundle:
    """The first pad moved by so much (mm)."""
    pattern = bundle.footprint.pattern
    assert pattern is not None
    first = replace(pattern.pads[0], x=pattern.pads[0].x + by)
    return replace(
        bundle, footprint=replace(bundle.footprint, pattern=replace(pattern, pads=(first, *pattern.pads[1:])))
    )


def test_equal_items_under_other_names_are_found_and_shared_ones_are_not(library: Library) -> None:
    first, second = _released(_chip(library, "100 nF")), _released(_chip(library, "1 µF"))
    shared = replace(second, sheet=first.sheet, symbol=first.symbol, footprint=first.footprint, body=first.body)
    drafts = [_chip(library, "100 nF"), _chip(library, "1 µF")]
    assert duplicates_among([first, shared]) == duplicates_among(drafts) == ()
    found = duplicates_among([first, _apart(second)])
    assert [(one.kind, one.degree) for one in found] == [
        ("package", "equal"),
        ("footprint", "equal"),
        ("symbol", "equal"),
        ("body", "equal"),
    ]
    assert found[1].users == ((FIRST,), (SECOND,))
    assert found[1].words.endswith("and another footprint: equal")


@pytest.mark.parametrize(
    ("by", "degree"), [(0.0002, "equal"), (0.02, "nearly equal"), (0.05, "nearly equal"), (0.06, "")]
)
def test_lands_are_nearly_equal_up_to_five_hundredths(library: Library, by: float, degree: str) -> None:
    first = _released(_chip(library, "100 nF"))
    pattern = first.footprint.pattern
    assert pattern is not None
    # The figures are in the middle of the steps of 0.0005 mm, so that 0.0002 mm more round alike.
    round_figures = replace(first, footprint=replace(first.footprint, pattern=replace(pattern, pads=tuple(
        replace(pad, x=round(pad.x, 3)) for pad in pattern.pads
    ))))  # fmt: skip
    found = duplicates_among([round_figures, _moved(_apart(round_figures), by)])
    assert [one.degree for one in found if one.kind == "footprint"] == ([degree] if degree else [])


def test_one_orderable_number_twice_is_told_whatever_its_spaces(library: Library) -> None:
    first, second = _chip(library, "100 nF"), _chip(library, "1 µF")

    def numbered(bundle: Bundle, number: str, maker: str = "Lynaes") -> Bundle:
        facts = {**bundle.part.facts, "Part number": Fact(number), "Manufacturer": Fact(maker)}
        return replace(bundle, part=replace(bundle.part, facts=facts))

    def parts_twice(*bundles: Bundle) -> list[tuple[tuple[str, ...], str]]:
        return [(one.names, one.degree) for one in duplicates_among(bundles) if one.kind == "part"]

    assert parts_twice(numbered(first, "LYN 100"), numbered(second, "lyn100")) == [((FIRST, SECOND), "same number")]
    assert parts_twice(numbered(first, "LYN 100"), numbered(second, "LYN 100", "Ohmic")) == []


def _two_series(library: Library) -> None:
    """A capacitor and a resistor 1005, whose lands come out the same under two names."""
    for key, value in (("lyn-c", "100 nF"), ("lyn-r", "100 kΩ")):
        series = chips(key)
        size = next(size for size in series.sizes if size.size == "1005")
        release_parts(library, [chip_part(library, series, size, value, DatasheetLink("0" * 64, "L.pdf", 2))], "first")


def test_lands_that_follow_from_another_package_are_not_merged(library: Library) -> None:
    _two_series(library)
    (lands,) = [one for one in find_duplicates(library) if one.kind == "footprint"]
    assert lands.names == ("CAPC1005X55N", "RESC1005X40N")
    keep, other = (ItemHead(i, "footprint", n) for i, n in zip(lands.ids, lands.names, strict=True))
    with pytest.raises(InputError, match="LYN-R1005-100K has RESC1005X40; .* merge the packages first"):
        merge_items(library, keep, other)
    assert {row.state for row in library.search()} == {"released"}
    for wrong in (keep, ItemHead(other.id, "symbol", "s")):
        with pytest.raises(InputError, match="cannot be merged"):
            merge_items(library, keep, wrong)


def _twins(library: Library) -> tuple[ItemHead, ItemHead]:
    """Two symbols that were different when they were released, and are the same since."""
    first = _chip(library, "100 nF")
    second = _chip(library, "1 µF")
    named = replace(second, symbol=replace(second.symbol, reference="CX"))
    release_parts(library, [first], "first")
    release_parts(library, [rerun_recipes(named, library.rulebook())], "second")
    again = library.load(library.find(SECOND).id)
    mended = replace(again, symbol=replace(again.symbol, reference="C"))
    release_parts(library, [rerun_recipes(mended, library.rulebook())], "as the others")
    (found,) = find_duplicates(library)
    assert found.degree == "equal" and found.users == ((FIRST,), (SECOND,))
    keep, other = (ItemHead(i, found.kind, n) for i, n in zip(found.ids, found.names, strict=True))
    return keep, other


def test_merging_moves_all_that_use_the_other_and_removes_nothing(library: Library) -> None:
    keep, other = _twins(library)
    assert merge_items(library, keep, other) == (SECOND,)
    moved = library.load(library.find(SECOND).id)
    assert moved.part.symbol.id == keep.id
    release_parts(library, [moved], "merged")
    assert library.load(library.find(SECOND).id).part.symbol == Ref(keep.id, keep.name, 1), "no new revision of it"
    assert len(library.history(other.id)) == 2, "what was released stays"
    assert find_duplicates(library) == ()


@pytest.mark.parametrize(
    ("some", "everything", "words"),
    [(0, 0, "–"), (1, 1, "100 %"), (9999, 10_000, "99.9 %"), (1, 3, "33.3 %"), (0, 5, "0.0 %")],
)
def test_a_share_is_never_rounded_up_to_the_whole(some: int, everything: int, words: str) -> None:
    assert share_words(some, everything) == words


def test_each_figure_names_its_parts_and_days_are_kept(library: Library) -> None:
    release_parts(library, [_chip(library, "100 nF")], "first")
    draft = adjust_pad(_chip(library, "1 µF"), Adjustment("1", "height", "1.0"))
    facts = {**draft.part.facts, "Lifecycle": Fact("obsolete")}
    draft = replace(draft, part=replace(draft.part, facts=facts, datasheets=()))
    library.copies.save(WorkingCopy(bundle=draft, findings={}))
    health = library_health(library)
    figures = {figure.key: figure.parts for figure in health.figures}
    assert figures["drafts"] == (SECOND,) and figures["no datasheet"] == (SECOND,)
    assert figures["not active"] == (SECOND,) and figures["withdrawn"] == ()
    assert figures["unconfirmed"] == (FIRST, SECOND)
    assert health.parts == 2 and sum(category.parts for category in health.categories) == 2
    found = {name for check in health.checks for name in check.parts}
    assert sum(check.count for check in health.checks) == sum(sum(c.findings.values()) for c in health.categories)
    assert SECOND in found
    assert len(library_health(library).days) == 1, "a day is measured once"
    library.files.write(".eider/health.json", b"{ damaged")
    assert len(library_health(library).days) == 1


def test_the_report_is_a_page_or_data_by_its_name(library: Library, tmp_path: Path) -> None:
    release_parts(library, [_chip(library, "100 nF")], "first")
    page = tmp_path / "health.html"
    told = answer("report", library.folder, "--out", page)
    assert told["parts"] == 1 and told["file"] == str(page)
    text = page.read_text()
    tree = ElementTree.fromstring(text.partition("\n")[2].replace('<meta charset="utf-8">', ""))
    assert [h.text for h in tree.iter("h1")] == [f"Health of {library.settings.name}"]
    assert FIRST in text and "Parts in which nobody ticked a value" in text
    data = tmp_path / "health.json"
    eider("report", library.folder, "--out", data)
    assert msgspec.json.decode(data.read_bytes())["figures"][1]["parts"] == [FIRST]
    assert "neither .html nor .json" in eider("report", library.folder, "--out", tmp_path / "h.txt", status=2).stderr
    with pytest.raises(InputError):
        save_report(tmp_path / "h.doc", library_health(library))


def test_duplicates_are_listed_and_merged_from_the_command_line(library: Library) -> None:
    keep, other = _twins(library)
    assert answer("duplicates", library.folder)["duplicates"][0]["ids"] == [keep.id, other.id]
    told = eider("duplicates", library.folder, "--merge", keep.id, other.id).stdout
    assert f"1 part moved from symbol {other.name} to {keep.name}" in told
    assert answer("duplicates", library.folder)["duplicates"] == []
    told = eider("duplicates", library.folder, "--merge", "x", "y", status=2).stderr
    assert "eider duplicates prints the ids" in told
