"""The command that checks a library: its parts and its files, for people and for build servers."""

import os
from collections.abc import Sequence
from pathlib import Path
from xml.etree import ElementTree

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.evaluation import count_by_severity
from eider.model.finding import SEVERITY_ORDER, Finding
from eider.model.wording import counted
from eider.services.library_checking import CheckedPart, check_files, check_parts


@click.command("check")
@library_argument
@click.argument("items", metavar="[ITEM]...", nargs=-1)
@click.option(
    "--format", "form", type=click.Choice(["text", "junit"]), default="text", help="junit is for build servers."
)
@json_option
def check(folder: Path, items: tuple[str, ...], form: str, as_json: bool) -> None:
    """Run all checks over the parts of a library, or over some of them."""
    library = opened_library(folder)
    rows = [library.find(item) for item in items] if items else library.search()
    with shown_progress() as task:
        checked = list(check_parts(library, rows, task, processes=len(os.sched_getaffinity(0))))
        checked += [] if items else _by_file(check_files(library, task))
    findings = sorted((f for part in checked for f in part.findings), key=lambda f: SEVERITY_ORDER[f.severity])
    if form == "junit" and not as_json:
        finish(None, [_junit(checked)], False, findings)
    counts = count_by_severity(tuple(findings))
    summary = f"{counted(len(rows), 'part')}: " + ", ".join(counted(n, name) for name, n in counts.items())
    lines = [f"{f.item}: {line}" for f, line in zip(findings, finding_lines(findings), strict=False)]
    finish({"findings": findings, "counts": counts}, [*lines, summary], as_json, findings)


def _by_file(findings: Sequence[Finding]) -> list[CheckedPart]:
    found: dict[str, list[Finding]] = {}
    for finding in findings:
        found.setdefault(finding.item, []).append(finding)
    return [CheckedPart(name, tuple(of_file)) for name, of_file in found.items()]


def _junit(checked: Sequence[CheckedPart]) -> str:
    """JUnit's XML: a suite for each part, blockers and cautions as failures."""
    root = ElementTree.Element("testsuites")
    for name, findings in ((part.name, part.findings) for part in checked):
        failures = [f for f in findings if f.severity != "note"]
        suite = ElementTree.SubElement(root, "testsuite", name=name, failures=str(len(failures)))
        suite.set("tests", str(max(len(failures), 1)))
        for finding in failures:
            case = ElementTree.SubElement(suite, "testcase", classname=name, name=f"{finding.check} {finding.address}")
            failure = ElementTree.SubElement(case, "failure", type=finding.severity, message=finding.message)
            failure.text = finding.figures
        if not failures:
            ElementTree.SubElement(suite, "testcase", classname=name, name="all checks")
    ElementTree.indent(root)
    return ElementTree.tostring(root, encoding="unicode")
