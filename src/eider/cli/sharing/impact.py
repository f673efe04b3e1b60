"""The commands used and impact: who uses an item, and what following its newest revision would change."""

from pathlib import Path

import click

from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.model.wording import counted
from eider.services.facts.designs import design_words
from eider.services.releasing.impact import ItemUse, PartImpact, follow_item, impact_of, item_use, items_of

MOST_CHANGES = 8


@click.command("used")
@library_argument
@item_argument
@json_option
def used(folder: Path, item: str, as_json: bool) -> None:
    """Print which parts and families use an item: of a part all that it has, or one by its name or id."""
    library = opened_library(folder)
    uses = [item_use(library, head) for head in items_of(library, item)]
    finish({"item": item, "uses": uses}, [line for use in uses for line in _use_lines(use)], as_json)


def _use_lines(use: ItemUse) -> list[str]:
    names = [f"{part.name} (revision {part.revision})" if part.is_behind else part.name for part in use.parts]
    lines = [f"{use.kind} {use.name}, newest revision {use.newest}: {counted(len(use.parts), 'part')}"]
    lines += [f"    {', '.join(names)}"] if names else []
    lines += [f"    families: {', '.join(use.families)}"] if use.families else []
    return [*lines, *([f"    designs: {design_words(use.designs)}"] if use.designs else [])]


@click.command("impact")
@library_argument
@item_argument
@click.option("--follow", "names", multiple=True, help="Move this part to the newest revision (all for all of them).")
@json_option
def impact(folder: Path, item: str, names: tuple[str, ...], as_json: bool) -> None:
    """Print what following the newest revision of an item would change in the parts that use an older one.

    Of a part that is being worked on, what its changed items would change in the other parts that use them.
    """
    library = opened_library(folder)
    heads = items_of(library, item)
    row = library.index.find(item)
    copy = library.copies.load(row.id) if row else None
    found: list[tuple[str, PartImpact]] = []
    kept: list[str] = []
    with shown_progress() as task:
        for head in heads:
            if not library.index.newest_revision(head.id):
                continue
            candidate = None
            if copy is not None:
                candidate = next(made for kind, made in copy.bundle.items() if kind == head.kind)
            impacts = impact_of(library, head, candidate, task)
            found += [(head.kind, one) for one in impacts if row is None or one.id != row.id or copy is None]
            wanted = [one.id for one in impacts if one.name in names or "all" in names]
            kept += follow_item(library, head, wanted, task) if wanted and copy is None else []
    if names and not kept:
        raise InputError(f"none of the parts that could follow is called {', '.join(names)}")
    changed = [(kind, one) for kind, one in found if one.changes or one.appear or one.vanish or one.fault]
    data = {
        "item": item,
        "parts": [{"kind": kind, **_data(one)} for kind, one in changed],
        "unchanged": len(found) - len(changed),
        "followed": kept,
    }
    lines = [line for kind, one in changed for line in _impact_lines(kind, one)]
    lines.append(f"{counted(len(changed), 'part')} would change, {len(found) - len(changed)} not")
    lines += [f"{counted(len(kept), 'working copy', 'working copies')} saved"] if kept else []
    finish(data, lines, as_json)


def _data(one: PartImpact) -> dict[str, object]:
    return {
        "name": one.name, "revision": one.revision, "newest": one.newest, "changes": one.changes,
        "appear": one.appear, "vanish": one.vanish, "fault": one.fault,
    }  # fmt: skip


def _impact_lines(kind: str, one: PartImpact) -> list[str]:
    lines = [f"{one.name}: {kind} revision {one.revision} → {one.newest}{f': {one.fault}' if one.fault else ''}"]
    lines += [f"    {words}" for words in one.changes[:MOST_CHANGES]]
    if len(one.changes) > MOST_CHANGES:
        lines.append(f"    and {counted(len(one.changes) - MOST_CHANGES, 'more change')}")
    lines += [f"    appears: {finding.message}" for finding in one.appear]
    return [*lines, *(f"    vanishes: {finding.message}" for finding in one.vanish)]
