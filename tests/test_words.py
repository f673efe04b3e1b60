"""The interface and the code keep to docs/glossary.md."""

import ast
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import click
import pytest

from eider.checks import all_checks
from eider.cli.command_table import COMMANDS
from eider.cli.main import cli
from eider.packaged_data import packaged_text

ROOT = Path(__file__).parent.parent
SOURCES = sorted((ROOT / "src" / "eider").rglob("*.py"))
# Words and turns that read translated, or name a thing that has a better name (docs/glossary.md, “Words to prefer”).
AVOIDED = re.compile(
    r"\b(mend(s|ed|ing)?|take over|taken over|take back|takes? .* back|too near|there stands|what speaks|"
    r"stands? (on|at|in) (the|a|page)|is none|in force|go on counting|kept so far|bare numbers|turned by|"
    r"own drawing|dressing|any more|of its own|shall be|the maker|maker's|aslant|from above|from the side|"
    r"what went in|to look at)\b",
    re.IGNORECASE,
)


def _docstrings(tree: ast.AST) -> set[int]:
    found = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and node.body:
            first = node.body[0]
            if isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant):
                found.add(id(first.value))
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            found.add(id(node.value))
    return found


@cache
def _texts(path: Path) -> tuple[tuple[int, str], ...]:
    """The texts of a module but its docstrings, with their lines; read once for all tests."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    skipped = _docstrings(tree)
    return tuple(
        (node.lineno, node.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in skipped
    )


def test_no_text_on_screen_or_in_a_message_has_a_word_that_has_a_better_one() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{line}: {text}"
        for path in SOURCES
        if "demo" not in path.parts
        for line, text in _texts(path)
        if (" " in text or text[:1].isupper()) and AVOIDED.search(text)
    ]
    assert not found, "\n".join(found)


# Habits of another language, in whatever users read: the guide, and docstrings that are shown as help and as checks.
TRANSLATED = re.compile(
    r"\b(stands? (twice|at|beside|behind|before|between)|held against|in hand|anew|taken? over|is none|"
    r"are none|somebody|whoever|(?<!there )is no (?!longer|more|need|room|reason|way|doubt|other|such)\w+)\b",
    re.IGNORECASE,
)
GUIDE = sorted((ROOT / "docs" / "guide").rglob("*.md"))


def _shown_docstrings() -> Iterator[tuple[str, str]]:
    """The docstrings that users read: titles and reasons of checks, and the help of commands and options."""
    for entry in all_checks().values():
        yield entry.id, f"{entry.title} {entry.why}"
    context = click.Context(cli)
    for name in cli.list_commands(context):
        command = cli.get_command(context, name)
        assert command is not None
        yield f"eider {name}", command.help or ""
        yield from ((f"eider {name} {p.name}", p.help or "") for p in command.params if isinstance(p, click.Option))


def test_what_is_shown_of_docstrings_reads_as_written_in_english() -> None:
    texts = [*_shown_docstrings(), *((f"eider {name}", entry.summary) for name, entry in COMMANDS.items())]
    found = [f"{where}: {text}" for where, text in texts if TRANSLATED.search(text) or AVOIDED.search(text)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize("page", GUIDE, ids=lambda page: page.name)
def test_the_guide_reads_as_written_in_english(page: Path) -> None:
    lines = page.read_text(encoding="utf-8").splitlines()
    found = [f"{number}: {line}" for number, line in enumerate(lines, start=1) if TRANSLATED.search(line)]
    assert not found, "\n".join(found)


def _screen_texts() -> str:
    return "\n".join(text for path in SOURCES for _, text in _texts(path))


def test_each_control_that_the_guide_names_is_on_the_screen() -> None:
    # Settings and categories of a new library are on the screen too.
    shown = _screen_texts() + packaged_text("library/default.toml") + packaged_text("rulebooks/fields.toml")
    shown = shown.lower()
    named: dict[str, str] = {}
    for page in (page for page in GUIDE if page.parent.name == "guide"):
        for phrase in re.findall(r"(?<![*\w])\*([A-Z][^*\n]{2,60})\*(?![*\w])", page.read_text(encoding="utf-8")):
            for piece in phrase.split(" › "):
                named.setdefault(piece.rstrip("…").strip(), page.name)
    missing = [f"{page}: {name}" for name, page in sorted(named.items()) if name.lower() not in shown]
    assert not missing, "\n".join(missing)


def test_the_search_for_words_finds_one() -> None:
    assert AVOIDED.search("lands 1 and 2 are too near")
    assert AVOIDED.search("Take over")
    assert not AVOIDED.search("lands 1 and 2 are too close")


def _glossary_names() -> list[str]:
    text = (ROOT / "docs" / "glossary.md").read_text(encoding="utf-8").partition("## Words to prefer")[0]
    rows = [line.rstrip("| ").rpartition("|")[2] for line in text.splitlines() if line.startswith("|")]
    return [name for row in rows for name in re.findall(r"`(\w+)`", row)]


@pytest.mark.parametrize("name", _glossary_names())
def test_each_name_of_the_glossary_is_in_the_code(name: str) -> None:
    declared = re.compile(rf"^\s*(class|def) {name}\b|^{name}\b", re.MULTILINE)
    assert any(path.stem == name or declared.search(path.read_text(encoding="utf-8")) for path in SOURCES)
