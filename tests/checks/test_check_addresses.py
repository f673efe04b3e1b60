"""What findings speak of is written into files and answers: every address that a check gives is read again."""

from eider.checks import PartUnderCheck, run_checks
from eider.library import Library
from eider.model.address import parse_address
from eider.rulebooks import standard_rulebook


def test_every_address_of_a_finding_is_read_again(flawed_demo: Library) -> None:
    rules = standard_rulebook()
    addresses = {
        finding.address
        for row in flawed_demo.search()
        for finding in run_checks(PartUnderCheck(flawed_demo.load(row.id), rules, flawed_demo.settings))
        if finding.address is not None
    }
    assert len(addresses) > 40
    assert {parse_address(str(address)) for address in addresses} == addresses
