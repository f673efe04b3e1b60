"""Names of packages in a text: `TSSOP-16`, `16-lead TSSOP`, `QFN 24`."""

import re

from eider.datasheets.tables.value_reading import with_hyphens

# Letters of packages: one letter, its second forms, and the pairs that houses use.
PACKAGE_LETTER = re.compile(r"[A-Za-zθαβφ∅]\d{0,2}|[HDEL][DEp]|[bcL]p|[a-z]{2,3}\d?|e[A-Z]\d?|[DE]h")
_PACKAGE = re.compile(
    r"\b((?:[VTMHLW]?S?SOP|[STMV]?SO(?:IC)?|[VUWHTLD]?[QD]FN|SON|[LTHV]?QFP|[TFULV]?[BL]GA|PDIP|DIP|SOT|SOD|SC|TO|LCC|PLCC|WLCSP|DPAK|D2PAK|MELF)"
    r"-?\s?\d{1,4}(?:[-/]\d{1,3})?[A-Z]?)\b"
)
_LEADS_FIRST = re.compile(
    r"\b(\d{1,3})[- ](?:lead|pin|ball)s?,?\s+(?:plastic |thin |shrink |small |very |quad |flat )*"
    r"((?:[VTMHLW]?S?SOP|SOIC|SO|[VUWHTLD]?[QD]FN|SON|[LTHV]?QFP|[TFULV]?[BL]GA|PDIP|DIP|SOT))\b"
)


def last_package(text: str) -> str:
    """The last package that a text names by its usual name; empty without one."""
    found = _PACKAGE.findall(with_hyphens(text))
    return re.sub(r"\s+", "", found[-1]) if found else ""


def packages_named(text: str) -> list[str]:
    """The packages that a text names, in its order: `TSSOP-16`, `16-lead TSSOP`, `QFN 24`."""
    text = with_hyphens(text)
    found = [(m.start(), re.sub(r"\s+", "", m[1])) for m in _PACKAGE.finditer(text)]
    found += [(m.start(), f"{m[2]}-{m[1]}") for m in _LEADS_FIRST.finditer(text)]
    return [name for _at, name in sorted(found)]


def plain_package(package: str) -> str:
    """A package's name without case, hyphens and spaces."""
    return "".join(c for c in package.casefold() if c.isalnum())
