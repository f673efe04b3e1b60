"""The command tape: how a part lies in its tape, and by how much the machine turns it."""

import re
from pathlib import Path
from typing import get_args

import click

from eider.checks.part_under_check import PartUnderCheck
from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option
from eider.errors import InputError
from eider.geometry.lengths import parse_limits
from eider.lands.tape_turn import AT_ORIGIN, Pocket, Quadrant, TapeLie, pocket_faults, tape_lie
from eider.model.address import FactAddress, FieldAddress
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity

# The facts that say how a part lies in its tape, where no option does.
QUADRANT_FACT, POCKET_FACT = "Tape quadrant", "Tape pocket"


@click.command("tape")
@library_argument
@item_argument
@click.option("--quadrant", type=click.Choice(get_args(Quadrant)), help="Where pin 1 is in the pocket.")
@click.option("--pocket", metavar="A0,B0,K0", help="Sides and depth of the pocket, such as 6.9,5.4,1.6.")
@json_option
def tape(folder: Path, item: str, quadrant: Quadrant | None, pocket: str | None, as_json: bool) -> None:
    """Tell how a part lies in its tape against its footprint: the turn, where it is picked up, whether the pocket fits.

    Holes above and fed to the right, pin 1 is upper left in Q1, upper right in Q2, lower left in Q3, lower right in Q4.
    Without options the facts “Tape quadrant” and “Tape pocket” of the part are taken.
    """
    library = opened_library(folder)
    bundle = library.load(library.find(item).id)
    view = PartUnderCheck(bundle, library.rulebook(bundle.footprint.rulebook), library.settings)
    if view.recipe is None or view.dims is None:
        raise InputError(f"{bundle.part.name}: its package gives no lands; complete its dimensions first")
    height = view.dims["A"].upper if "A" in view.dims else 0.0
    at = quadrant or _quadrant_of(bundle)
    lie = tape_lie(view.recipe, view.terminals, view.rulebook.orientation, at, height)
    size = _pocket(pocket if pocket is not None else _fact(bundle, POCKET_FACT))
    findings = tuple(_findings(bundle, lie, size))
    data = {"zero": lie.zero, "quadrant": lie.quadrant, "turn": lie.turn, "pick": lie.pick, "height": lie.height,
            "size": lie.size, "pocket": size, "findings": findings}  # fmt: skip
    finish(data, [*_lines(lie), *finding_lines(findings)], as_json)


def _quadrant_of(bundle: Bundle) -> Quadrant | None:
    said = _fact(bundle, QUADRANT_FACT).strip().upper()
    return next((quadrant for quadrant in get_args(Quadrant) if quadrant == said), None)


def _fact(bundle: Bundle, name: str) -> str:
    fact = bundle.part.facts.get(name)
    return fact.value if fact is not None else ""


def _pocket(text: str) -> Pocket | None:
    """The pocket that a text names; None for nothing.

    Raises:
        InputError: it is not three lengths.
    """
    if not text.strip():
        return None
    pieces = re.split(r"\s*[,×x;]\s*", text.strip())
    if len(pieces) != 3:
        raise InputError(f"pocket “{text[:40]}”: enter A0,B0,K0, such as 6.9,5.4,1.6")
    a0, b0, k0 = (parse_limits(piece).middle for piece in pieces)
    return Pocket(a0, b0, k0)


def _findings(bundle: Bundle, lie: TapeLie, pocket: Pocket | None) -> list[Finding]:
    found: list[Finding] = []

    def add(check: str, severity: Severity, message: str, measured: str, expected: str) -> None:
        address = FactAddress(QUADRANT_FACT if check == "tape.quadrant" else POCKET_FACT)
        place = FieldAddress("lands") if check == "tape.pick-up" else address
        found.append(Finding(check, severity, bundle.part.name, place, message, measured, expected))

    if lie.quadrant is None:
        message = "Nobody has said in which quadrant of the tape pin 1 is; the turn is not known"
        add("tape.quadrant", Severity.CAUTION, message, "nothing", "Q1, Q2, Q3 or Q4")
    if max(abs(v) for v in lie.pick) > AT_ORIGIN:
        message = "The middle of the body, where the part is picked up, is not the origin of the footprint"
        add("tape.pick-up", Severity.CAUTION, message, f"{lie.pick[0]:g}, {lie.pick[1]:g} mm", "0, 0 mm")
    for message, measured, expected in pocket_faults(lie, pocket) if pocket else ():
        severity = Severity.BLOCKER if "smaller" in message else Severity.CAUTION
        add("tape.pocket", severity, message[0].upper() + message[1:], measured, expected)
    return found


def _lines(lie: TapeLie) -> list[str]:
    turn = "not known" if lie.turn is None else f"{lie.turn}° counter-clockwise from the tape to the footprint"
    return [
        f"zero orientation level {lie.zero}, pin 1 in {lie.quadrant or 'no known quadrant'}: turn {turn}",
        f"picked up at x {lie.pick[0]:g} y {lie.pick[1]:g} mm, {lie.height:g} mm high, "
        f"{lie.size[0]:g} × {lie.size[1]:g} mm over all",
    ]
