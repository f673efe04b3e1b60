"""Family tables at work: what each row makes is compared with the library, then kept or released together."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal, NamedTuple

import msgspec

from eider.commands.facts.family_members import (
    MOST_MEMBERS,
    MadeMember,
    all_targets,
    base_of,
    make_member,
    unused_headings,
)
from eider.commands.parts.evaluation import EvaluatedPart, EvaluationRules, rerun_recipes, without_results
from eider.commands.parts.new_parts import start_from_part
from eider.commands.parts.recipe_merge import merge_recipes, with_identity_of
from eider.errors import EiderError, InputError
from eider.library import Library
from eider.library.documents.family_files import (
    family_file,
    require_name,
    require_unchanged,
    save_family,
)
from eider.library.git.housekeeping import keep_house
from eider.library.git.revision_compare import compare_revisions
from eider.library.item_paths import family_path
from eider.library.releases.release_commit import Released
from eider.model.bundle import Bundle
from eider.model.codec import to_data
from eider.model.family_table import AppliedFamily, FamilyBase, FamilyDefinition, FamilyRow, FamilyTable
from eider.model.finding import Finding
from eider.model.item_ref import Ref
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.releasing.change_words import change_words, place_words
from eider.services.releasing.part_releasing import release_parts
from eider.services.tasks import Task

replace = msgspec.structs.replace
MemberState = Literal["new", "changed", "same", "base", "fault"]
# So many changes of one member are told one by one.
MOST_TOLD = 60


class PlannedMember(msgspec.Struct, frozen=True):
    """What a row comes to.

    Attributes:
        state: *new* and *changed* parts are kept on request, *base* is a part that others begin as, *fault* says in
            `fault` why nothing can be made.
        changes: how the part differs from what it is now.
        by_hand: places that someone changed in the part by hand; their values stay.
        doubts: what could not be told, such as names of further pins.
    """

    row: int
    name: str
    state: MemberState
    part: EvaluatedPart | None = None
    part_id: str = ""
    changes: tuple[str, ...] = ()
    by_hand: tuple[str, ...] = ()
    doubts: tuple[str, ...] = ()
    fault: str = ""

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the checks found in the member."""
        return self.part.findings if self.part else ()


class FamilyPlan(msgspec.Struct, frozen=True):
    """All members of a table as they would be made, what the table says of itself, and the bases as they were taken."""

    table: FamilyTable
    members: tuple[PlannedMember, ...]
    doubts: tuple[str, ...]
    definition: FamilyDefinition

    @property
    def to_keep(self) -> tuple[PlannedMember, ...]:
        """The members that are new or change."""
        return tuple(m for m in self.members if m.state in ("new", "changed"))

    def count(self, state: MemberState) -> int:
        """How many members are in a state."""
        return sum(member.state == state for member in self.members)


class _Bases(NamedTuple):
    """The base parts of a definition by their id, with the revision of each."""

    parts: Mapping[str, Bundle]
    definition: FamilyDefinition


def plan_family(library: Library, table: FamilyTable, task: Task | None = None) -> FamilyPlan:
    """Make every member and hold it against the part that there is; nothing is written.

    What is wrong with a row is told at the row.

    Raises:
        InputError: a base was never released, or there are too many rows.
        CancelledError: the user cancelled.
    """
    task = task or Task()
    if len(table.rows) > MOST_MEMBERS:
        raise InputError(f"{len(table.rows)} rows; a family table holds {MOST_MEMBERS} at most")
    now, before = _bases(library, table.definition), _bases_before(library, table)
    planner = _Planner(library, table, now, before)
    members = []
    for index, row in enumerate(table.rows):
        task.report(index / max(len(table.rows), 1), f"making member {index + 1} of {len(table.rows)}")
        members.append(planner.plan(index, row))
    doubts = (*_table_doubts(table), *planner.gone())
    return FamilyPlan(table, tuple(_without_doubles(members)), doubts, now.definition)


def _bases(library: Library, definition: FamilyDefinition) -> _Bases:
    parts: dict[str, Bundle] = {}
    dated: list[FamilyBase] = []
    for base in definition.bases:
        part_id = base.part.id or library.find(base.part.name).id
        history = library.history(part_id)
        if not history:
            raise InputError(f"{base.part.name}, from which members begin, was never released; release it first")
        parts[part_id] = library.load_release(part_id)
        name = parts[part_id].part.name
        dated.append(replace(base, part=Ref(part_id, name, history[-1].revision)))
    return _Bases(parts, replace(definition, bases=tuple(dated)))


def _bases_before(library: Library, table: FamilyTable) -> _Bases | None:
    """The bases at the revisions from which the members were made last; None where none were made."""
    if table.applied is None:
        return None
    definition = table.applied.definition
    refs = [base.part for base in definition.bases]
    return _Bases({ref.id: library.load_release(ref.id, ref.revision or 0) for ref in refs}, definition)


class _Planner:
    """Makes one member after the other; what the one before has in common is not computed again."""

    def __init__(self, library: Library, table: FamilyTable, now: _Bases, before: _Bases | None) -> None:
        self._library, self._table, self._now, self._before = library, table, now, before
        applied = table.applied.rows if table.applied else ()
        self._rows_before = {row.part: row for row in applied if row.part}
        self._sets_names = "name" in all_targets(now.definition)
        self._run = EvaluationRun(library)

    def gone(self) -> Iterator[str]:
        """The parts that were made by rows that are there no more."""
        left = {row.part for row in self._table.rows}
        for part_id in self._rows_before:
            row = self._library.index.find(part_id)
            if part_id not in left and row is not None:
                yield f"{row.name} is in the table no more; the part stays as it is"

    def plan(self, index: int, row: FamilyRow) -> PlannedMember:
        """What a row comes to."""
        try:
            base = self._now.parts[self._base_id(self._now, row)]
            made = make_member(self._now.definition, row, base, self._library.settings, self._table.name)
            return self._planned(index, row, made)
        except EiderError as fault:
            name = next((text for text in row.cells.values() if text.strip()), f"row {index + 1}")
            return PlannedMember(index, name, "fault", fault=str(fault), part_id=row.part)

    @staticmethod
    def _base_id(bases: _Bases, row: FamilyRow) -> str:
        return base_of(bases.definition, row).part.id

    def _planned(self, index: int, row: FamilyRow, made: MadeMember) -> PlannedMember:
        name, rules = made.bundle.part.name, self._run.rules_of(made.bundle)
        if not (row.part or self._sets_names):
            raise InputError(f"the row sets no name, and its base is {name}; set name by a column or a rule")
        part_id = self._known_id(row, name)
        if part_id in self._now.parts:
            return self._base_member(index, part_id, made)
        if not part_id:
            fresh = start_from_part(made.bundle, name)
            part = self._run.evaluated(replace(fresh, part=replace(fresh.part, origin=None)))
            return PlannedMember(index, name, "new", part, part.bundle.part.id, doubts=made.doubts)
        mine = self._library.load(part_id)
        now = _recipe(made.bundle, mine, rules)
        merged = merge_recipes(self._made_before(part_id, mine, now, rules), without_results(mine), now)
        part = self._run.evaluated(merged.bundle)
        changes = tuple(change_words(compare_revisions(_data(mine), _data(part.bundle))))
        state: MemberState = "changed" if without_results(mine) != without_results(part.bundle) else "same"
        by_hand = tuple(dict.fromkeys(map(place_words, merged.by_hand)))
        return PlannedMember(index, name, state, part, part_id, changes, by_hand, made.doubts)

    def _known_id(self, row: FamilyRow, name: str) -> str:
        """The part of a row: the one it made before, or one that has its name already; empty for none."""
        if row.part and self._library.index.find(row.part) is not None:
            return row.part
        found = self._library.index.find(name)
        return found.id if found else ""

    def _base_member(self, index: int, part_id: str, made: MadeMember) -> PlannedMember:
        """A row of a base: it is as it is, and has to agree with what the row says."""
        base = self._now.parts[part_id]
        made_now = with_identity_of(made.bundle, base)
        differs = change_words(compare_revisions(_data(base), _data(made_now)), with_evidence=False)
        doubts = tuple(f"the base differs from its row: {words}" for words in differs)
        return PlannedMember(index, base.part.name, "base", part_id=part_id, doubts=doubts[:MOST_TOLD])

    def _made_before(self, part_id: str, mine: Bundle, now: Bundle, rules: EvaluationRules) -> Bundle:
        """What the table made of the part last; where it made nothing yet, the part is taken as it is."""
        row, before = self._rows_before.get(part_id), self._before
        if row is None or before is None:
            return without_results(mine)
        index = next((i for i, r in enumerate(self._table.rows) if r.part == part_id), None)
        if index is not None and self._table.rows[index] == row and before.definition == self._now.definition:
            return now
        base = before.parts[self._base_id(before, row)]
        made = make_member(before.definition, row, base, self._library.settings, self._table.name)
        return _recipe(made.bundle, mine, rules)


def _recipe(made: Bundle, mine: Bundle, rules: EvaluationRules) -> Bundle:
    """What is made as the recipe of a part that is there: its texts read, its names worked out, under its ids."""
    return without_results(rerun_recipes(with_identity_of(made, mine), rules.rulebook))


def _data(bundle: Bundle) -> object:
    """A recipe as plain data, without what follows from it."""
    recipe = without_results(bundle)
    return {name: to_data(getattr(recipe, name)) for name in ("part", "sheet", "symbol", "footprint", "body")}


def _table_doubts(table: FamilyTable) -> Iterator[str]:
    for heading in unused_headings(table.definition):
        yield f"column {heading} sets nothing, and no rule names it"
    headings = {column.heading for column in table.definition.columns}
    unknown = sorted({name for row in table.rows for name, text in row.cells.items() if text and name not in headings})
    for name in unknown:
        yield f"cells under {name} belong to no column"


def _without_doubles(members: Sequence[PlannedMember]) -> Iterator[PlannedMember]:
    """Two rows that come to one part are a fault of both."""
    names = Counter(member.name for member in members if member.state != "fault")
    for member in members:
        if names[member.name] > 1 and member.state != "fault":
            rows = ", ".join(str(m.row + 1) for m in members if m.name == member.name)
            yield PlannedMember(member.row, member.name, "fault", fault=f"rows {rows} make parts of one name")
        else:
            yield member


def applied_table(plan: FamilyPlan) -> FamilyTable:
    """The table after its members were kept: each row knows its part, and from what it was made."""
    parts = {member.row: member.part_id for member in plan.members if member.part_id}
    rows = tuple(replace(row, part=parts.get(index, row.part)) for index, row in enumerate(plan.table.rows))
    bases = tuple(replace(base, part=Ref(base.part.id, base.part.name)) for base in plan.definition.bases)
    definition = replace(plan.definition, bases=bases)
    return replace(plan.table, definition=definition, rows=rows, applied=AppliedFamily(plan.definition, rows))


def _require_sound(plan: FamilyPlan) -> None:
    faulty = [member for member in plan.members if member.state == "fault"]
    if faulty:
        more = f" and {len(faulty) - 1} more" if len(faulty) > 1 else ""
        raise InputError(f"row {faulty[0].row + 1}: {faulty[0].fault}{more}; correct the table first")


def keep_members(
    library: Library, plan: FamilyPlan, replaces: FamilyTable | None, task: Task | None = None
) -> FamilyTable:
    """Make working copies of all members that are new or change, and keep the table in place of one; returns it.

    Raises:
        InputError: a row has a fault. ConflictError: someone changed the table meanwhile.
        CancelledError: the user cancelled; the table is as it was, and the next plan finds what was kept.
    """
    task = task or Task()
    _require_sound(plan)
    library.require_writable()
    made = applied_table(plan)
    require_name(made.name)
    for index, member in enumerate(plan.to_keep):
        task.report(index / len(plan.to_keep), f"keeping {member.name}")
        if member.part is not None:
            save_part(library, member.part)
    save_family(library, made, f"members of family {made.name} made", replaces=replaces)
    return made


def release_members(
    library: Library, plan: FamilyPlan, note: str, replaces: FamilyTable | None, task: Task | None = None
) -> tuple[FamilyTable, tuple[Released, ...]]:
    """Release all members that are new or change, or are being worked on, and the table with them, in one commit.

    Raises:
        InputError: a row has a fault, or there is nothing to release. BlockedError: checks found blockers.
        ConflictError: someone changed the table or a member meanwhile. CancelledError: the user cancelled.
    """
    _require_sound(plan)
    made = applied_table(plan)
    require_name(made.name)
    require_unchanged(library, made.name, replaces)
    wanted = [m.part for m in plan.members if m.part and (m.state != "same" or library.copies.sum_of(m.part_id))]
    if not wanted:
        raise InputError(f"all members of {made.name} are released as the table has them; there is nothing to release")
    beside = {family_path(made.name): family_file(made)}
    bundles = [part.bundle for part in wanted]
    released = release_parts(library, bundles, note, task, beside=beside)
    keep_house(library)
    return made, released
