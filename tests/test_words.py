"""The interface and the code keep to docs/glossary.md."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

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


def _texts(path: Path) -> Iterator[tuple[int, str]]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    skipped = _docstrings(tree)
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in skipped:
            yield node.lineno, node.value


def test_no_text_on_screen_or_in_a_message_has_a_word_that_has_a_better_one() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{line}: {text}"
        for path in SOURCES
        if "demo" not in path.parts
        for line, text in _texts(path)
        if (" " in text or text[:1].isupper()) and AVOIDED.search(text)
    ]
    assert not found, "\n".join(found)


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
