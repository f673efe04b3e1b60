"""The s-expressions of EDIF as trees: read with limits, and written one form to a line."""

import re
from collections.abc import Iterator
from typing import NamedTuple, TypeAlias

from eider.errors import InputError

DEEPEST, MOST_FORMS = 200, 20_000_000
# A string with its quotes, a bracket, or what is between blanks.
_TOKEN = re.compile(r'"([^"]*)"|([()])|([^\s()"]+)')
_ESCAPE = re.compile(r"%([\d\s]*)%")


class Quoted(NamedTuple):
    """A string, which is not a name and no number whatever it looks like."""

    text: str


class Form:
    """A bracketed form: its keyword in small letters, what follows, and the line where it begins."""

    __slots__ = ("items", "keyword", "line")

    def __init__(self, keyword: str, items: "list[Node]", line: int = 0) -> None:
        self.keyword, self.items, self.line = keyword, items, line

    def forms(self, *keywords: str) -> "Iterator[Form]":
        """The forms in it that are called so; all without a keyword."""
        return (item for item in self.items if isinstance(item, Form) and (not keywords or item.keyword in keywords))

    def form(self, *keywords: str) -> "Form | None":
        """The first of them."""
        return next(self.forms(*keywords), None)


Node: TypeAlias = Form | Quoted | str


def read_expression(text: str) -> Form:
    """The one form of a text.

    Raises:
        InputError: brackets or quotes do not match, it is nested too deeply, or is not a form at all.
    """
    stack: list[Form] = []
    root: Form | None = None
    count, line, last = 0, 1, 0
    for match in _TOKEN.finditer(text):
        line += text.count("\n", last, match.start())
        last = match.start()
        quoted, bracket, word = match.groups()
        if bracket == "(":
            if root is not None and not stack:
                raise InputError(f"line {line}: there is more after the end of the file's form")
            made = Form("", [], line)
            if stack:
                stack[-1].items.append(made)
            root, count = root or made, count + 1
            stack.append(made)
            if len(stack) > DEEPEST or count > MOST_FORMS:
                raise InputError(f"line {line}: forms are nested more than {DEEPEST} deep, or are too many")
        elif not stack:
            raise InputError(f"line {line}: expected a form in brackets")
        elif bracket == ")":
            stack.pop()
        elif word is not None and not stack[-1].keyword and not stack[-1].items:
            stack[-1].keyword = word.lower()
        else:
            stack[-1].items.append(Quoted(_unescaped(quoted)) if quoted is not None else word)
    if root is None or stack:
        raise InputError(f"line {line}: the file ends within a form" if stack else "there is no form in the file")
    return root


def _unescaped(text: str) -> str:
    """`%34%` is the character 34; line breaks in a string are none."""

    def character(match: re.Match[str]) -> str:
        codes = [int(code) for code in match[1].split()]
        return "".join(chr(code) for code in codes if 0 < code < 0x110000)

    return _ESCAPE.sub(character, text.replace("\n", " ").replace("\r", ""))


def quoted(text: str) -> str:
    """A string as the file has it: what is not a plain character is told by its number."""
    plain = (c if " " <= c <= "~" and c not in '"%' else f"%{ord(c)}%" for c in text)
    return f'"{"".join(plain)}"'


def identifier(text: str, typical: str) -> str:
    """A name as the file has it: as it is if it is one, else the `typical` name, renamed to it."""
    is_plain = re.fullmatch(r"[A-Za-z]\w{0,254}", text, re.ASCII) is not None
    return text if is_plain else f"(rename {typical} {quoted(text)})"


def name_of(node: Node | None) -> str:
    """The name that a node is: of a renamed one the text that is meant, of an array its name."""
    if isinstance(node, Quoted):
        return node.text
    if isinstance(node, str):
        return node.removeprefix("&")
    if node is not None and node.keyword in ("rename", "array", "name") and node.items:
        meant = [item.text for item in node.items if isinstance(item, Quoted)]
        inner = [item for item in node.items if isinstance(item, Form)]
        return meant[0] if meant else name_of(inner[0] if inner else node.items[0])
    return ""
