"""Names of land patterns by a company's own template (a rulebook's `naming`).

A template is text with fields in braces: `{standard}`, `{level}` (M, N, L), `{density}` (A, B, C), `{pins}`,
`{family}`, `{kind}`, and every letter of the package sheet: `{E}` with two implied decimals as in IPC-7351,
6.40 is 640; `{E:tenths}` with one, `{E:mm}` as it is. Heights are taken at their maximum, others at their middle.
"""

import re
from collections.abc import Callable, Mapping
from string import Formatter

from eider.geometry.lengths import format_length
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level
from eider.packages.family import Dims, SheetError
from eider.packages.name_codes import hundredths, level_letter, tenths
from eider.rulebooks import Rulebook

# What a name may hold: it becomes a file name.
ALLOWED = re.compile(r"[A-Za-z0-9_.+-]+")


def _plain(mm: float) -> str:
    return format_length(mm, "mm", with_unit=False)


FORMS: Mapping[str, Callable[[float], str]] = {"": hundredths, "tenths": tenths, "mm": _plain}


class NamingError(SheetError):
    """A template that cannot be filled in."""


def template_for(rulebook: Rulebook, family: str) -> str:
    """The template of a family's names; empty where the standard's name is taken."""
    return rulebook.naming.get(family) or rulebook.naming.get("*", "")


def filled(template: str, words: Mapping[str, str], lengths: Mapping[str, float]) -> str:
    """A template with its fields replaced; lengths in mm.

    Raises:
        NamingError: a brace is open, a field is not known, or the result is no name.
    """
    try:
        pieces = list(Formatter().parse(template))
    except ValueError as fault:
        raise NamingError(f"name template “{template}”: {fault}") from fault
    name = "".join(
        text + ("" if field is None else _field(field, form or "", words, lengths)) for text, field, form, _ in pieces
    )
    if not ALLOWED.fullmatch(name):
        raise NamingError(f"name template “{template}” gives “{name}”; a name is letters, digits and - _ . +")
    return name


def _field(field: str, form: str, words: Mapping[str, str], lengths: Mapping[str, float]) -> str:
    if field in words and not form:
        return words[field]
    if field in lengths and form in FORMS:
        return FORMS[form](lengths[field])
    known = ", ".join((*words, *lengths))
    raise NamingError(f"a name template knows no “{field}{':' if form else ''}{form}” here; it knows {known}")


def pattern_name(sheet: PackageSheet, dims: Dims, level: Level, rulebook: Rulebook, standard: str, ending: str) -> str:
    """The name of a pattern: by the rulebook's template, else the standard's with its `ending` for the level.

    Raises:
        NamingError: the template cannot be filled in.
    """
    template = template_for(rulebook, sheet.family)
    if not template:
        return standard + ending
    words = {
        "standard": standard,
        "level": level_letter(level),
        "density": level,
        "pins": str(sheet.pins),
        "family": sheet.family,
        "kind": sheet.kind.replace(" ", "-"),
    }
    lengths = {letter: limits.upper if letter == "A" else limits.middle for letter, limits in dims.items()}
    return filled(template, words, lengths)
