"""The values of a rulebook as an editor shows them: by section, each with title, unit and the standard's value."""

import tomllib
from functools import cache

import msgspec

from eider.model.codec import convert
from eider.packaged_data import packaged_text
from eider.rulebooks.rule_editing import standard_value, value_text
from eider.rulebooks.rulebook import Rulebook, standard_rulebook

LEVEL_NAMES = ("A", "B", "C")
GOALS, GRIDS = "Goals", "Ball grids"
FILLETS = {
    "outer": "outer end (toe)", "inner": "inner end (heel)", "side": "side", "courtyard": "courtyard excess",
}  # fmt: skip


class FieldSpec(msgspec.Struct, frozen=True):
    """A value of the rulebook: where it stands and what it is called."""

    path: str
    title: str
    unit: str = ""
    levels: bool = False
    choices: tuple[str, ...] = ()


class SectionSpec(msgspec.Struct, frozen=True):
    """Values that are shown together."""

    title: str
    fields: tuple[FieldSpec, ...]


class RuleRow(msgspec.Struct, frozen=True):
    """A line of the editor: one value, or three, one for each level; the standard's beside it.

    `paths` are where the values stand; `sure` is false where the standard's figure is to be looked at first.
    """

    group: str
    title: str
    unit: str
    paths: tuple[str, ...]
    values: tuple[str, ...]
    standard: tuple[str, ...]
    choices: tuple[str, ...] = ()
    sure: bool = True

    @property
    def differs(self) -> bool:
        """Whether the rulebook says otherwise than the standard."""
        return self.values != self.standard


@cache
def sections() -> tuple[SectionSpec, ...]:
    """The sections of the editor after that of the goals."""
    text = packaged_text("rulebooks/fields.toml")
    return convert(tomllib.loads(text)["sections"], tuple[SectionSpec, ...], "fields.toml")


def section_titles() -> tuple[str, ...]:
    """The names of all sections, in the order in which they are shown."""
    return (GOALS, *(section.title for section in sections()), GRIDS)


def rule_rows(rulebook: Rulebook, section: str) -> list[RuleRow]:
    """The lines of a section."""
    if section == GOALS:
        return _goal_rows(rulebook)
    if section == GRIDS:
        return _grid_rows(rulebook)
    fields = next(s.fields for s in sections() if s.title == section)
    return [_row(rulebook, field) for field in fields]


def _grid_rows(rulebook: Rulebook) -> list[RuleRow]:
    """The land of each ball of the table, the shares for what is not in it, and the step to which these are rounded."""
    fields = [
        FieldSpec(f"grids.lands.{index}.1", f"land of a ball of {ball:g}", "mm")
        for index, (ball, _) in enumerate(rulebook.grids.lands)
    ]
    for index, step in enumerate(rulebook.grids.steps):
        of = f"balls from {step.at_least:g} mm on"
        fields.append(FieldSpec(f"grids.steps.{index}.collapsing", f"collapsing {of}: smaller by the share"))
        fields.append(FieldSpec(f"grids.steps.{index}.non_collapsing", f"others, {of}: larger by the share"))
    fields.append(FieldSpec("grids.step", "rounded to", "mm"))
    fields.append(FieldSpec("grids.mask_overlap", "mask-defined lands: copper under the mask", "mm"))
    return [_row(rulebook, field) for field in fields]


def _row(rulebook: Rulebook, field: FieldSpec) -> RuleRow:
    paths = tuple(f"{field.path}.{i}" for i in range(3)) if field.levels else (field.path,)
    values = tuple(value_text(rulebook, path) for path in paths)
    return RuleRow("", field.title, field.unit, paths, values, tuple(map(standard_value, paths)), field.choices)


def _goal_rows(rulebook: Rulebook) -> list[RuleRow]:
    """Fillets and courtyard of every row of goals, and its step; the standard's is the row of the same title."""
    standard = {row.title: index for index, row in enumerate(standard_rulebook().goals)}
    rows = []
    for index, goals in enumerate(rulebook.goals):
        same = standard.get(goals.title)
        for key, title in FILLETS.items():
            if getattr(goals, key) is None:
                continue
            paths = tuple(f"goals.{index}.{key}.{i}" for i in range(3))
            theirs = tuple(standard_value(f"goals.{same}.{key}.{i}") if same is not None else "" for i in range(3))
            values = tuple(value_text(rulebook, path) for path in paths)
            rows.append(RuleRow(goals.title, title, "mm", paths, values, theirs, sure=goals.sure))
        step = f"goals.{index}.step"
        theirs = (standard_value(f"goals.{same}.step") if same is not None else "",)
        rows.append(
            RuleRow(goals.title, "rounded to", "mm", (step,), (value_text(rulebook, step),), theirs, sure=goals.sure)
        )
    return rows
