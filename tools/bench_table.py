"""Writes the figures of a run of `tools/bench` into docs/measured.md: `python tools/bench_table.py RESULTS.json`."""

import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

PAGE = Path(__file__).parent.parent / "docs" / "measured.md"


def _time(seconds: float) -> str:
    return (
        f"{seconds:.2f} s"
        if seconds >= 1
        else f"{seconds * 1e3:.3g} ms"
        if seconds >= 1e-3
        else f"{seconds * 1e6:.3g} µs"
    )


def _page(results: dict[str, Any]) -> Iterator[str]:
    machine = results["machine_info"]
    commit = results.get("commit_info", {}).get("id", "")[:10]
    yield "# Measured\n"
    yield "Written by `tools/bench`; what the figures are to reach, and how they came about, is in"
    yield "[performance.md](performance.md).\n"
    yield f"{results['datetime'][:10]}, commit {commit}: {machine['cpu'].get('count', '?')} cores of "
    yield f"{machine['cpu'].get('brand_raw', 'an unknown processor')}, {machine['system']} {machine['release']}, "
    yield f"Python {machine['python_version']}.\n"
    yield "| benchmark | least | median | largest | rounds |"
    yield "|---|---|---|---|---|"
    for entry in sorted(results["benchmarks"], key=lambda entry: str(entry["fullname"])):
        stats = entry["stats"]
        name = entry["fullname"].removeprefix("benchmarks/").replace(".py::test_", ": ").replace("test_", "", 1)
        times = " | ".join(_time(stats[key]) for key in ("min", "median", "max"))
        yield f"| {name.replace('_', ' ')} | {times} | {stats['rounds']} |"


if __name__ == "__main__":
    found = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
    PAGE.write_text("\n".join(_page(found)) + "\n", encoding="utf-8")
    print(f"{PAGE} written")
