"""Results of checks in the forms of build servers: JUnit's XML, and SARIF 2.1.0 (OASIS)."""

import json
from collections.abc import Sequence
from typing import Protocol
from xml.etree import ElementTree

from eider import __version__
from eider.checks.registry import all_checks
from eider.model.finding import Finding

_LEVELS = {"blocker": "error", "caution": "warning", "note": "note"}
_SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"


class FoundInPart(Protocol):
    """A part by its name, and what was found in it."""

    @property
    def name(self) -> str:
        """Of the part."""

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What was found."""


def junit_text(checked: Sequence[FoundInPart]) -> str:
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


def sarif_text(findings: Sequence[Finding]) -> str:
    """SARIF: a rule for each check that found something, a result for each finding; parts are logical locations."""
    titles = {entry.id: entry.title for entry in all_checks().values()}
    rules = sorted({finding.check for finding in findings})
    results = [
        {
            "ruleId": finding.check,
            "ruleIndex": rules.index(finding.check),
            "level": _LEVELS[finding.severity],
            "message": {"text": finding.message},
            "locations": [{"logicalLocations": [{"name": finding.item,
                           "fullyQualifiedName": f"{finding.item}/{finding.address}"}]}],
        }
        for finding in findings
    ]  # fmt: skip
    driver = {
        "name": "Eider",
        "version": __version__,
        "rules": [{"id": rule, "shortDescription": {"text": titles.get(rule, rule)}} for rule in rules],
    }
    document = {"$schema": _SCHEMA, "version": "2.1.0", "runs": [{"tool": {"driver": driver}, "results": results}]}
    return json.dumps(document, indent=1, ensure_ascii=False)
