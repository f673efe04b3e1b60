"""Public functions say which errors they raise."""

import ast
from collections.abc import Iterator
from pathlib import Path

SOURCES = Path(__file__).parents[2] / "src" / "eider"
# Docstrings of commands are their help; the entry point turns what they raise into a line.
APART = ("cli",)


def public_functions(tree: ast.Module) -> Iterator[ast.FunctionDef]:
    for holder in (tree, *(n for n in tree.body if isinstance(n, ast.ClassDef) and n.name[0] != "_")):
        yield from (f for f in holder.body if isinstance(f, ast.FunctionDef) and not f.name.startswith("_"))


def raised(node: ast.AST) -> Iterator[str]:
    """The names of what a function raises itself, not what functions inside it do."""
    for child in ast.iter_child_nodes(node):
        if isinstance(child, ast.FunctionDef | ast.ClassDef | ast.Lambda):
            continue
        if isinstance(child, ast.Raise) and child.exc is not None:
            yield ast.unparse(child.exc.func if isinstance(child.exc, ast.Call) else child.exc)
        yield from raised(child)


def test_a_public_function_that_raises_says_what() -> None:
    silent, found = [], 0
    for path in sorted(SOURCES.rglob("*.py")):
        if path.relative_to(SOURCES).parts[0] in APART:
            continue
        for function in public_functions(ast.parse(path.read_text(encoding="utf-8"))):
            said = (ast.get_docstring(function) or "").partition("Raises:")[2]
            for error in set(raised(function)):
                found += 1
                if error not in said:
                    silent.append(f"{path.relative_to(SOURCES)}:{function.lineno} {function.name} raises {error}")
    assert silent == []
    assert found > 80
