"""Who uses an item, what following its newest revision would change, and that nothing follows by itself."""

import pytest

from command_line import answer, eider
from eider.commands.lands import footprint_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import InputError, NotFoundError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.footprint import Adjustment
from eider.model.part import DatasheetLink
from eider.services.releasing.impact import follow_item, impact_of, item_use, items_of
from eider.services.releasing.part_releasing import release_part, release_parts
from eider.services.tasks import CancelledError, Task

FIRST, SECOND, OTHER = "LYN-C1608-100N", "LYN-C1608-1U", "LYN-C2012-100N"


@pytest.fixture
def stocked(library: Library) -> Library:
    """Two capacitors that share package, footprint and body, and one of another size."""
    series, sheet = chips(), DatasheetLink("0" * 64, "LYN-C.pdf", 2)
    sizes = {size.size: size for size in series.sizes}
    made = [
        chip_part(library, series, sizes[size], value, sheet)
        for size, value in (("1608", "100 nF"), ("1608", "1 µF"), ("2012", "100 nF"))
    ]
    release_parts(library, made, "first")
    return library


def _wider(library: Library) -> None:
    """The footprint of the first part with one pad wider, released."""
    part = library.load(library.find(FIRST).id)
    wide = footprint_edits.adjust_pad(part, Adjustment("1", "height", "1.0"))
    wide = footprint_edits.adjust_pad(wide, Adjustment("2", "height", "1.0"))
    release_part(library, rerun_recipes(wide, library.rulebook()), "wider")


def test_who_uses_what_is_told(stocked: Library) -> None:
    heads = {head.kind: head for head in items_of(stocked, FIRST)}
    assert [part.name for part in item_use(stocked, heads["footprint"]).parts] == [FIRST, SECOND]
    assert [part.name for part in item_use(stocked, heads["symbol"]).parts] == [FIRST, SECOND, OTHER]
    (named,) = items_of(stocked, heads["symbol"].name)
    assert named == heads["symbol"]
    with pytest.raises(NotFoundError, match="no part and no item"):
        items_of(stocked, "unheard-of")


def test_what_following_would_change_is_told_and_only_the_chosen_follow(stocked: Library) -> None:
    head = next(head for head in items_of(stocked, FIRST) if head.kind == "footprint")
    assert impact_of(stocked, head) == ()
    before = stocked.load(stocked.find(SECOND).id)
    _wider(stocked)
    assert stocked.load(stocked.find(SECOND).id) == before, "nothing follows by itself"
    use = item_use(stocked, head)
    assert [(part.name, part.revision, part.is_behind) for part in use.parts] == [(FIRST, 2, False), (SECOND, 1, True)]
    (found,) = impact_of(stocked, head)
    assert (found.name, found.revision, found.newest) == (SECOND, 1, 2)
    height = before.footprint.pattern.pads[0].height  # type: ignore[union-attr]
    assert f"Height of pad 1 changed from {height:g} to 1" in "; ".join(found.changes).replace("1.0", "1")
    assert follow_item(stocked, head, [found.id]) == (SECOND,)
    moved = stocked.load(found.id)
    assert moved.part.footprint.revision == 2 and moved.footprint.pattern.pads[0].height == 1.0  # type: ignore[union-attr]
    release_part(stocked, moved, "follows the wider lands")
    assert item_use(stocked, head).parts[1].is_behind is False
    with pytest.raises(InputError, match="does not use"):
        follow_item(stocked, head, [stocked.find(OTHER).id])


def test_a_change_that_is_not_released_yet_tells_what_it_would_do_to_the_others(stocked: Library) -> None:
    part = stocked.load(stocked.find(FIRST).id)
    short = rerun_recipes(footprint_edits.adjust_pad(part, Adjustment("1", "width", "0.3")), stocked.rulebook())
    stocked.copies.save(WorkingCopy(bundle=short))
    head = next(head for head in items_of(stocked, FIRST) if head.kind == "footprint")
    found = {one.name: one for one in impact_of(stocked, head, short.footprint)}
    assert set(found) == {FIRST, SECOND}
    assert any("fillet" in finding.message for finding in found[SECOND].appear)
    told = answer("impact", stocked.folder, FIRST)
    assert [(one["kind"], one["name"]) for one in told["parts"]] == [("footprint", SECOND)]


def test_the_commands(stocked: Library) -> None:
    folder = stocked.folder
    used = answer("used", folder, FIRST)
    assert {use["kind"]: len(use["parts"]) for use in used["uses"]} == {
        "package": 2, "symbol": 3, "footprint": 2, "body": 2,
    }  # fmt: skip
    _wider(stocked)
    told = answer("impact", folder, FIRST)
    assert [one["name"] for one in told["parts"]] == [SECOND] and told["followed"] == []
    assert answer("impact", folder, FIRST, "--follow", SECOND)["followed"] == [SECOND]
    assert "none of the parts" in eider("impact", folder, FIRST, "--follow", OTHER, status=2).stderr
    assert stocked.find(SECOND).state == "changed"


def test_it_is_cancelled(stocked: Library) -> None:
    _wider(stocked)
    head = next(head for head in items_of(stocked, FIRST) if head.kind == "footprint")
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError):
        impact_of(stocked, head, None, task)
