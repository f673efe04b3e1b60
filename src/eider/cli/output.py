"""What commands print: with --json exactly one JSON document, without it lines for a person; and the exit status."""

import json
import sys
from collections.abc import Callable, Mapping, Sequence
from typing import Any, NoReturn, TypeVar

import click

from eider.cli.exit_status import BLOCKED, DONE
from eider.model.codec import to_data
from eider.model.finding import Finding

F = TypeVar("F", bound=Callable[..., Any])


def json_option(command: F) -> F:
    """The option --json."""
    return click.option("--json", "as_json", is_flag=True, help="Print exactly one JSON document.")(command)


def print_json(data: Any) -> None:
    """Print a result for programs."""
    click.echo(json.dumps(to_data(data), ensure_ascii=False, indent=1))


def finish(
    data: Any, lines: Sequence[str], as_json: bool, findings: Sequence[Finding] = (), *, blocked: bool = False
) -> NoReturn:
    """Print the result and end with 0, or with 1 where blockers were found or something else is `blocked`.

    Findings that are part of `data`, under that name, count without being given again.
    """
    if as_json:
        print_json(data)
    else:
        for line in lines:
            click.echo(line)
    stated = data.get("findings", ()) if isinstance(data, Mapping) else ()
    counting = (f for f in (*findings, *stated) if isinstance(f, Finding))
    blocked = blocked or any(finding.severity == "blocker" for finding in counting)
    sys.exit(BLOCKED if blocked else DONE)


def finding_lines(findings: Sequence[Finding]) -> list[str]:
    """Findings for a person, numbered."""
    lines = []
    for number, finding in enumerate(findings, start=1):
        held = f" [{finding.figures}]" if finding.figures else ""
        lines.append(f"{number:3} {finding.severity:8} {finding.check:28} {finding.message}{held}")
    return lines or ["no findings"]
