"""What the documentation takes from the code is current, and its links lead somewhere."""

import importlib.util
import re
from pathlib import Path

import pytest

from eider.checks import all_checks

ROOT = Path(__file__).parents[2]
spec = importlib.util.spec_from_file_location("tools_docs", ROOT / "tools" / "docs.py")
assert spec and spec.loader
tools_docs = importlib.util.module_from_spec(spec)
spec.loader.exec_module(tools_docs)


def test_generated_pages_are_current() -> None:
    pages = {
        **tools_docs.schemas(),
        **tools_docs.openapi(),
        **tools_docs.checks(),
        **tools_docs.graphics(),
        **tools_docs.command_pages(),
    }
    stale = [path.name for path, text in pages.items() if path.read_text(encoding="utf-8") != text]
    assert stale == []
    assert len(pages) > len(all_checks())


@pytest.mark.parametrize("page", sorted([ROOT / "README.md", *ROOT.glob("docs/**/*.md")]), ids=lambda p: p.name)
def test_links_lead_somewhere(page: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
        if "://" not in target:
            assert (page.parent / target).exists(), target
