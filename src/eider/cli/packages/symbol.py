"""The command on pin tables: symbol."""

from collections.abc import Sequence
from pathlib import Path

import click
import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.packages.lands import bare_bundle
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import InputError
from eider.exchange.pin_source import PinSource
from eider.exchange.svg_drawings import svg_text
from eider.library.atomic_files import write_atomic
from eider.model.address import LineAddress
from eider.model.codec import encode
from eider.model.finding import Finding, Severity
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.symbol import Arrangement, Pin, PlacedPin, Symbol, SymbolMeasures
from eider.rulebooks import standard_rulebook
from eider.services.publishing.format_registry import read_pin_file
from eider.symbols.arrangement import arrange
from eider.symbols.graphics import find_graphic
from eider.symbols.pin_table import RowFault
from eider.symbols.unit_splitting import SPLITTINGS


@click.command("symbol")
@click.argument("pins", type=click.Path(path_type=Path))
@click.option(
    "--arrange", "arrangement", type=click.Choice(["number", "function"]), default="function", show_default=True
)
@click.option(
    "--sides", type=click.Choice(["2", "4"]), default="2", show_default=True, help="Arrange by number on 2 or 4 sides."
)
@click.option("--units", "way", type=click.Choice(list(SPLITTINGS)), default="one", show_default=True)
@click.option("--graphic", default="", help="A standard graphic: diode, nand, connector-pins/2x5; see the guide.")
@click.option(
    "--style",
    default="",
    metavar="KEY=VALUE[,…]",
    help="grid=2.54|2.5|1.27, pin_grids=1..3, text=1..2.54, number_text=0.5..2.54, form=iec|ieee, filled=true|false, "
    "active_low=bar|circle|wedge, same_names=listed|stacked, unconnected=shown|listed",
)
@click.option("--package", default="", help="Which package, component or sheet, where the file has several.")
@click.option("--out", type=click.Path(path_type=Path), help="Write the symbol: .svg or .pdf as a drawing, else JSON.")
@click.option("--types", is_flag=True, help="Mark the electrical type at each pin of the drawing.")
@json_option
def symbol(
    pins: Path,
    arrangement: Arrangement,
    sides: str,
    way: str,
    graphic: str,
    style: str,
    package: str,
    out: Path | None,
    types: bool,
    as_json: bool,
) -> None:
    """Make a symbol from a pin table: CSV, tab-separated, XLSX, BSDL (.bsd) or IBIS (.ibs)."""
    reading = _chosen(read_pin_file(pins), package).reading
    if graphic and find_graphic(graphic) is None:
        raise InputError(f"--graphic {graphic}: there is no such graphic; docs/guide/graphics.md lists them")
    split = tuple(SPLITTINGS[way](reading.pins))
    made = arrange(
        Symbol(
            id="",
            name=pins.stem,
            arrangement=arrangement,
            sides=4 if sides == "4" else 2,
            graphic=graphic,
            measures=_measures(style),
            pins=split,
        )
    )
    findings = (*_line_findings(pins, reading.faults), *_check(made))
    if out:
        write_atomic(out, _written(made, out.suffix.lower(), types=types))
    kinds = {pin.number: pin for pin in made.pins}
    data = {
        "units": [
            {
                "pins": [_pin_data(p, kinds[p.number]) for p in unit.pins],
                "body": unit.body,
                "name": unit.name,
                "swap": unit.swap,
                "unconnected": unit.unconnected,
            }
            for unit in made.units
        ],
        "findings": findings,
    }
    lines = [_pin_line(pin) for unit in made.units for pin in unit.pins]
    finish(data, [*lines, *finding_lines(findings)], as_json)


def _written(made: Symbol, suffix: str, *, types: bool) -> bytes:
    """The symbol as a file: a drawing where the suffix is that of one, else the document."""
    if suffix == ".svg":
        return svg_text(symbol_drawing(made, made.name, types=types), title=made.name).encode()
    if suffix == ".pdf":
        from eider.exchange.pdf_drawings import Page, pdf_pages

        return pdf_pages([Page(made.name, symbol_drawing(made, made.name, types=types))], made.name)
    return encode(made).encode()


def _measures(style: str) -> SymbolMeasures:
    """How the symbol is drawn, from `grid=2.5,form=ieee`."""
    pieces = [piece.partition("=") for piece in style.split(",") if piece.strip()]
    given = {key.strip(): value.strip() for key, _, value in pieces}
    unknown = set(given) - set(SymbolMeasures.__struct_fields__)
    if unknown:
        raise InputError(
            f"--style {style}: {', '.join(sorted(unknown))} is not known; choose one of "
            f"{', '.join(SymbolMeasures.__struct_fields__)}"
        )
    try:
        return msgspec.convert(given, SymbolMeasures, strict=False)
    except (msgspec.ValidationError, ValueError) as fault:
        said = (
            str(fault).replace("Expected `float`", "expected a number").replace("Expected `int`", "expected a number")
        )
        raise InputError(f"--style {style}: {said}") from fault


def _chosen(sources: Sequence[PinSource], package: str) -> PinSource:
    """The source of the name, or the first with pins."""
    fitting = [s for s in sources if s.reading.pins and package.lower() in s.title.lower()]
    if not fitting:
        raise InputError(f"--package {package}: there is only {', '.join(s.title for s in sources)}")
    return fitting[0]


def _pin_data(placed: PlacedPin, pin: Pin) -> dict[str, object]:
    """All there is to say of a pin, also what has its usual value."""
    return {**{name: getattr(placed, name) for name in placed.__struct_fields__}, "assumed": pin.assumed}


def _pin_line(pin: PlacedPin) -> str:
    name = f"{pin.name} (active low)" if pin.active_low else pin.name
    return f"{pin.side:6} {pin.number:>4} {name:24} {pin.type:15} ({pin.x:g}, {pin.y:g}) mm"


def _check(made: Symbol) -> tuple[Finding, ...]:
    """The checks of the symbol alone; there is no package to hold it against."""
    bundle = bare_bundle(PackageSheet(name="", family="", pins=0), None, "B")
    view = PartUnderCheck(
        msgspec.structs.replace(bundle, symbol=made),
        standard_rulebook(),
        LibrarySettings(name="", symbols=made.measures),
    )
    return run_checks(view, areas=("symbol",))


def _line_findings(path: Path, faults: tuple[RowFault, ...]) -> tuple[Finding, ...]:
    return tuple(
        Finding("symbol.line-unread", Severity.CAUTION, path.name, LineAddress(f.line), f"line {f.line}: {f.message}")
        for f in faults
    )
