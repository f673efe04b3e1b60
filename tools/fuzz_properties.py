"""Runs the tests' properties at random until the time is up; called by tools/fuzz."""

import ast
import re
import sys
import time
from collections.abc import Iterator

import pytest

FALSIFYING = re.compile(r"^(?:E\s+)?\s*Falsifying example: (\w+)\(", re.MULTILINE)


def example_call(text: str) -> Iterator[str]:
    """The calls that hypothesis reports as falsifying, each from its name to its closing bracket."""
    for found in FALSIFYING.finditer(text):
        lines = [line.removeprefix("E").strip() for line in text[found.start() :].splitlines()]
        call = lines[0].partition("example: ")[2]
        for line in lines[1:]:
            if call.endswith(")") and _parsed(call) is not None:
                break
            call += line.partition("  # ")[0]
        yield call


def _parsed(call: str) -> ast.Call | None:
    try:
        expression = ast.parse(call, mode="eval").body
    except SyntaxError:
        return None
    return expression if isinstance(expression, ast.Call) else None


def example_line(call: str, fixtures: frozenset[str]) -> str:
    """The decorator to paste above the test; values that come from fixtures are none of the example's."""
    parsed = _parsed(call)
    if parsed is None:
        return call
    kept = [f"{k.arg}={ast.unparse(k.value)}" for k in parsed.keywords if k.arg not in fixtures]
    return f"@example({', '.join([*map(ast.unparse, parsed.args), *kept])})"


class FailureCollector:
    """Prints the failing examples of a run as they come, each once."""

    def __init__(self) -> None:
        self.seen: set[str] = set()

    @pytest.hookimpl(hookwrapper=True)
    def pytest_runtest_makereport(self, item: pytest.Item, call: pytest.CallInfo[None]) -> Iterator[None]:
        outcome = yield
        report = outcome.get_result()  # type: ignore[attr-defined]  # pluggy's result, untyped here
        if report.when != "call" or not report.failed:
            return
        notes = "\n".join(getattr(call.excinfo.value, "__notes__", ())) if call.excinfo else ""
        fixtures = frozenset(getattr(item, "fixturenames", ()))
        lines = [example_line(found, fixtures) for found in example_call(f"{notes}\n{report.longreprtext}")]
        for line in lines or ["(no example was told; run this test alone)"]:
            told = f"{item.nodeid}\n    {line}"
            if told not in self.seen:
                self.seen.add(told)
                print(f"\n{told}", flush=True)


def main(minutes: float) -> int:
    """Round after round over all properties; returns the exit status."""
    end, collector, rounds = time.monotonic() + 60 * minutes, FailureCollector(), 0
    while time.monotonic() < end:
        options = ["-q", "-m", "hypothesis", "--hypothesis-profile=fuzz", "--no-header", "--tb=short", "-p", "no:xdist"]
        status = pytest.main(["tests", *options, "--show-capture=no", "-r", "N"], plugins=[collector])
        if status not in (pytest.ExitCode.OK, pytest.ExitCode.TESTS_FAILED):
            print(f"fuzz: the tests could not be run (pytest's exit status {int(status)})")
            return 2
        rounds += 1
    print(f"{rounds} rounds, {len(collector.seen)} failing examples")
    return 1 if collector.seen else 0


if __name__ == "__main__":
    sys.exit(main(float(sys.argv[1]) if len(sys.argv) > 1 else 10.0))
