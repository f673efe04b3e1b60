"""Names of packages in a text: `TSSOP-16`, `16-lead TSSOP`, `QFN 24`."""

import re
import tomllib
import unicodedata
from collections.abc import Mapping
from functools import cache

from eider.datasheets.tables.value_reading import with_hyphens
from eider.packaged_data import packaged_text

# Letters of packages: one letter, its second forms, and the pairs that houses use.
PACKAGE_LETTER = re.compile(r"[A-Za-zθαβφ∅]\d{0,2}|[HDEL][DEp]|[bcL]p|[a-z]{2,3}\d?|e[A-Z]\d?|[DE]h")
# What packages are called: a kind, and where it has one a count of leads or a number of its form.
_KINDS = (
    r"[VTMHLW]{0,2}S?SOP|[STMV]?SO(?:IC)?|[VUWHTLDX]{0,3}[QD]FN|U?V?F?QFPN|[UWXV]{0,2}SON|[LTHVPM]{0,2}QFP|[TFULVW]{0,2}[BL]GA|[PCS]?DIP|"
    r"T?SOT|SOD|SC|(?<!\d )TO|DO|[PC]?LCC|WLCSP|DPAK|D2PAK|(?:MINI)?MELF|SOJ|SI[PL]"
)
# Its length and width, as in `SON5x6`.
_SIZE = r"\d{1,2}(?:\.\d)?\s?[x×]\s?\d{1,2}(?:\.\d)?"
# Words glued to a kind, as in `MiniSO8`.
_GLUED = r"(?:[Mm]ini|MINI|[Mm]icro|MICRO|[Pp]ower|POWER|[µμ])-?"
# A range of temperature in capitals, “0 TO 70”, is no package, and no count of leads begins with 0.
_PACKAGE = re.compile(
    rf"\b((?:{_GLUED})?(?:{_KINDS})(?:-\s?|\s?(?!0))(?:{_SIZE}|\d{{1,4}}(?:[-/]\d{{1,3}})?[A-Z]{{0,2}})|"
    r"D2?PAK|SM[ABC](?![A-Z-]))\b"
)
# An output SO at pin 2 is no package of two leads.
_TOO_FEW = re.compile(r"SO[-\s]?[1-3]")
_LEADS_FIRST = re.compile(
    r"\b(\d{1,3})\s?(?:[- ]?(?:lead|pin|ball|pole)s?\b|ピン|引脚|polig),?[- ]+"
    rf"(?:(?:plastic|thin|shrink|small|very|quad|flat|molded|moulded)[- ])*({_KINDS})\b",
    re.IGNORECASE,
)
# The count glued to the kind, `64LQFP`, or parted by words in Japanese: `64ピン・プラスチック LQFP`.
_COUNT_GLUED = re.compile(
    rf"(?<![\w.-])(\d{{1,3}})(?:ピン[・\s]*プラスチック\s*)?((?!SO|TO|DO|SC|SM)(?:{_KINDS}))(?![\w-])"
)


def last_package(text: str) -> str:
    """The last package that a text names by its usual name; empty without one."""
    found = packages_named(text)
    return found[-1] if found else ""


def packages_named(text: str) -> list[str]:
    """The packages that a text names, in its order: `TSSOP-16`, `16-lead TSSOP`, `QFN 24`."""
    text = with_hyphens(unicodedata.normalize("NFKC", text))
    found = [(m.start(), re.sub(r"\s+", "", m[1])) for m in _PACKAGE.finditer(text) if not _TOO_FEW.fullmatch(m[1])]
    found += [(m.start(), f"{m[2].upper()}-{m[1]}") for p in (_LEADS_FIRST, _COUNT_GLUED) for m in p.finditer(text)]
    return [name for _at, name in sorted(found)]


def plain_package(package: str) -> str:
    """A package's name without case, hyphens and spaces; of names that mean the same package one for all."""
    plain = "".join(c for c in package.casefold().replace("×", "x") if c.isalnum())
    kind = re.match(r"[a-z]*", plain)
    same = package_words("same")
    if plain in same or kind is None:
        return same.get(plain, plain)
    return same.get(kind[0], kind[0]) + plain[kind.end() :]


@cache
def package_words(table: str) -> Mapping[str, str]:
    """For each word of a table of `package_words.toml` what it means: a family, or the name that is taken for all."""
    tables = tomllib.loads(packaged_text("datasheets/package_words.toml"))
    return {word: meant for meant, words in tables[table].items() for word in words}
