"""Changing a rulebook: a draft over its text, and the values that are to change."""

from collections.abc import Iterator, Mapping
from functools import lru_cache

import msgspec

from eider.packages.registry import all_families
from eider.rulebooks import Rulebook
from eider.rulebooks.rule_editing import edited, standard_value, value_text
from eider.rulebooks.rule_rows import RuleRow, rule_rows, section_titles
from eider.rulebooks.rulebook import parse_rulebook

NAMES = "Names by family"


# A draft is asked for its rulebook by every cell that tells what was kept.
_parsed = lru_cache(maxsize=4)(parse_rulebook)


class RulebookDraft(msgspec.Struct, frozen=True):
    """A rulebook as it was kept, and the values that are to change, by their path."""

    name: str
    text: str
    changes: Mapping[str, str] = {}

    @property
    def kept(self) -> Rulebook:
        """The rulebook without the changes."""
        return _parsed(self.text, f"{self.name}.toml")

    @property
    def rulebook(self) -> Rulebook:
        """The rulebook with the changes."""
        return self.kept.with_values(self.changes)

    @property
    def changed_text(self) -> str:
        """Its TOML with the changes put in."""
        return edited(self.text, self.changes, f"{self.name}.toml")


class RuleChange(msgspec.Struct, frozen=True):
    """A value that is to change."""

    path: str
    before: str
    after: str
    standard: str


def with_change(draft: RulebookDraft, path: str, text: str) -> RulebookDraft:
    """The draft with another value; one that is as it was kept is not a change.

    Raises:
        RulebookError: the text is not a value for that place.
    """
    changes = {**draft.changes, path: text.strip()}
    made = msgspec.structs.replace(draft, changes=changes)
    if value_text(made.rulebook, path) == value_text(draft.kept, path):
        changes.pop(path)
        made = msgspec.structs.replace(draft, changes=changes)
    return made


def editor_sections() -> tuple[str, ...]:
    """The sections of the editor."""
    return (*section_titles(), NAMES)


def section_rows(rulebook: Rulebook, section: str) -> list[RuleRow]:
    """The lines of a section."""
    if section != NAMES:
        return rule_rows(rulebook, section)
    return [
        RuleRow("", family.title, "", (f"naming.{key}",), (rulebook.naming.get(key, ""),), ("",))
        for key, family in all_families().items()
    ]


def changes_of(draft: RulebookDraft) -> list[RuleChange]:
    """What is to change, each beside what is kept and what the standard says."""
    before, after = draft.kept, draft.rulebook
    return [
        RuleChange(path, value_text(before, path), value_text(after, path), standard_value(path))
        for path in draft.changes
    ]


def differing_rows(rulebook: Rulebook) -> Iterator[tuple[str, RuleRow]]:
    """Every line in which a rulebook says otherwise than the standard, with its section."""
    for section in editor_sections():
        for row in section_rows(rulebook, section):
            if row.differs:
                yield section, row
