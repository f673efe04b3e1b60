"""The command that checks a library: its parts and its files, for people and for build servers."""

import os
from collections.abc import Sequence
from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.parts.evaluation import count_by_severity
from eider.model.finding import SEVERITY_ORDER, Finding
from eider.model.wording import counted
from eider.reports.check_results import junit_text, sarif_text
from eider.services.checking.check_baseline import baseline_key, read_baseline, save_baseline
from eider.services.checking.library_checking import CheckedPart, changed_parts, check_files, check_parts


@click.command("check")
@library_argument
@click.argument("items", metavar="[ITEM]...", nargs=-1)
@click.option(
    "--format",
    "form",
    type=click.Choice(["text", "junit", "sarif"]),
    default="text",
    help="junit and sarif are for build servers.",
)
@click.option("--since", metavar="COMMIT", help="Only the parts that were added or changed after this commit.")
@click.option("--baseline", type=click.Path(path_type=Path), help="Findings in this file are known and do not count.")
@click.option("--write-baseline", type=click.Path(path_type=Path), help="Write the findings to such a file.")
@json_option
def check(
    folder: Path,
    items: tuple[str, ...],
    form: str,
    since: str | None,
    baseline: Path | None,
    write_baseline: Path | None,
    as_json: bool,
) -> None:
    """Run all checks over the parts of a library, or over some of them."""
    library = opened_library(folder)
    of_files: Sequence[Finding] = ()
    if since is not None:
        rows, of_files = changed_parts(library, since)
        # Items narrow it further; one that is not in the library is an error here, too.
        wanted = {library.find(item).id for item in items}
        rows = [row for row in rows if not items or row.id in wanted]
    else:
        rows = [library.find(item) for item in items] if items else library.search()
    with shown_progress() as task:
        checked = list(check_parts(library, rows, task, processes=len(os.sched_getaffinity(0))))
        if not items and since is None:
            of_files = check_files(library, task)
        checked += _by_file(of_files)
    if write_baseline is not None:
        save_baseline(write_baseline, (f for part in checked for f in part.findings))
    known = read_baseline(baseline) if baseline is not None else frozenset()
    checked = [CheckedPart(p.name, tuple(f for f in p.findings if baseline_key(f) not in known)) for p in checked]
    findings = sorted((f for part in checked for f in part.findings), key=lambda f: SEVERITY_ORDER[f.severity])
    if form != "text" and not as_json:
        finish(None, [junit_text(checked) if form == "junit" else sarif_text(findings)], False, findings)
    counts = count_by_severity(tuple(findings))
    summary = f"{counted(len(rows), 'part')}: " + ", ".join(counted(n, name) for name, n in counts.items())
    lines = [f"{f.item}: {line}" for f, line in zip(findings, finding_lines(findings), strict=False)]
    finish({"findings": findings, "counts": counts}, [*lines, summary], as_json)


def _by_file(findings: Sequence[Finding]) -> list[CheckedPart]:
    found: dict[str, list[Finding]] = {}
    for finding in findings:
        found.setdefault(finding.item, []).append(finding)
    return [CheckedPart(name, tuple(of_file)) for name, of_file in found.items()]
