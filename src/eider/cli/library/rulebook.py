"""The command rulebook: list rulebooks, begin one, see what a change would do to the library, keep it."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument
from eider.cli.output import finish, json_option
from eider.commands.lands.rulebook_draft import RulebookDraft, changes_of, differing_rows, with_change
from eider.errors import InputError
from eider.library import Library, open_library
from eider.library.documents.stored_rulebooks import new_rulebook, rulebook_history, rulebook_names, save_rulebook
from eider.model.wording import counted
from eider.services.releasing.rulebook_effects import open_draft, rulebook_effects


@click.command("rulebook")
@library_argument
@click.argument("name", default="")
@click.option("--from", "origin", default="", metavar="NAME", help="Begin a new rulebook as a copy of this one.")
@click.option("--set", "settings", multiple=True, metavar="PATH=VALUE", help="A change, such as pads.stencil=0.1.")
@click.option("--keep", default="", metavar="NOTE", help="Keep the changes as the next revision, and why.")
@json_option
def rulebook(folder: Path, name: str, origin: str, settings: tuple[str, ...], keep: str, as_json: bool) -> None:
    """Show the rulebooks of a library, or one; try changes, see which footprints they change, and keep them."""
    library = open_library(folder)
    if not name:
        _list(library, as_json)
    draft = open_draft(library, origin or name)
    for setting in settings:
        path, equals, value = setting.partition("=")
        if not equals:
            raise InputError(f"--set {setting}: expected PATH=VALUE, such as tolerances.placement=0.03")
        draft = with_change(draft, path.strip(), value)
    if origin:
        # Only once every change is known to fit.
        new_rulebook(library, name, origin)
        draft = RulebookDraft(name, open_draft(library, name).text, draft.changes)
    found = rulebook_effects(library, draft)
    revision = draft.kept.revision
    if keep and not draft.changes:
        raise InputError("there is no change to save; name one with --set PATH=VALUE")
    if keep:
        revision = save_rulebook(library, name, draft.changed_text, keep).revision
    changes = changes_of(draft)
    data = {
        "rulebook": name,
        "revision": revision,
        "kept": bool(keep),
        "changes": changes,
        "effects": found.changed,
        "footprints": found.looked_at,
    }
    lines = [f"{name}, revision {revision}, used by {counted(found.looked_at, 'footprint')}"]
    if not changes:
        lines += [
            f"  {section}: {row.group or ''} {row.title}: {' / '.join(row.values)}, standard "
            f"{' / '.join(row.standard) or 'none'}"
            for section, row in differing_rows(draft.kept)
        ]
    lines += [f"  {c.path}: {c.before or 'empty'} → {c.after or 'empty'} (standard {c.standard})" for c in changes]
    lines += [f"  {effect.part}: {effect.words}" for effect in found.changed]
    if changes:
        lines.append(
            f"{len(found.changed)} of {counted(found.looked_at, 'footprint')} change{'; kept' if keep else ''}"
        )
    finish(data, lines, as_json)


def _list(library: Library, as_json: bool) -> None:
    names = rulebook_names(library)
    data = [
        {"name": n, "revision": library.rulebook(n).revision, "kept": [h.note for h in rulebook_history(library, n)]}
        for n in names
    ]
    finish({"rulebooks": data}, [f"{d['name']}, revision {d['revision']}" for d in data], as_json)
