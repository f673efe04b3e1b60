"""Prints coverage.py's figures by package; called by tools/coverage."""

import json
import sys
from collections import defaultdict
from pathlib import Path
from typing import Any

# Packages whose modules are told one by one when they are below the aim.
WATCHED = ("desktop", "commands", "views", "services", "catalogue")
AIM = 90


def package_of(path: str) -> str:
    """`desktop/part/steps/lands/step.py` counts for `desktop/part`, a module of the core for its first folder."""
    folders = Path(path).relative_to("src/eider").parts[:-1]
    return "/".join(folders[:2] if folders[:1] == ("desktop",) else folders[:1]) or "eider"


def share(covered: int, total: int) -> float:
    """In percent; nothing to go through counts as gone through."""
    return 100 * covered / total if total else 100.0


def ranges(lines: list[int]) -> str:
    """`12-14, 20` for 12, 13, 14, 20."""
    told: list[list[int]] = []
    for line in lines:
        if told and line == told[-1][1] + 1:
            told[-1][1] = line
        else:
            told.append([line, line])
    return ", ".join(str(a) if a == b else f"{a}-{b}" for a, b in told)


def untaken(told: dict[str, Any]) -> str:
    """The lines that no test reached, and from reached lines the ways that none took (`12→14`; `→0` leaves)."""
    lines = set(told["missing_lines"])
    ways = [f"{a}→{max(b, 0)}" for a, b in told["missing_branches"] if a not in lines and b not in lines]
    return f"lines {ranges(sorted(lines)) or 'none'}; ways {', '.join(ways) or 'none'}"


def main(path: Path) -> None:
    """Print the table, then the modules below the aim."""
    files: dict[str, Any] = json.loads(path.read_text())["files"]
    sums: dict[str, list[int]] = defaultdict(lambda: [0, 0, 0, 0])
    below: list[tuple[float, str, str]] = []
    for name, told in files.items():
        figures = told["summary"]
        counts = [figures[k] for k in ("covered_branches", "num_branches", "covered_lines", "num_statements")]
        sums[package_of(name)] = [a + b for a, b in zip(sums[package_of(name)], counts, strict=True)]
        reached = share(counts[0], counts[1])
        if reached < AIM and package_of(name).split("/")[0] in WATCHED:
            below.append((reached, name, untaken(told)))
    print(f"{'package':<24} branches  statements")
    for package, (branches, of_branches, lines, of_lines) in sorted(sums.items()):
        print(f"{package:<24} {share(branches, of_branches):7.1f}% {share(lines, of_lines):10.1f}%")
    for reached, name, missing in sorted(below):
        print(f"\n{name}: {reached:.0f} % of branches; {missing}")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
