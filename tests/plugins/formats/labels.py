"""A format from outside: the text of a label for the drawer, and pins read back from it."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.pin_source import PinSource, source_of
from eider.model.symbol import Pin


def _write(source: ExportSource, folder: Path) -> list[Path]:
    path = folder / f"{source.bundle.part.name}.label"
    lines = [f"LABEL {source.bundle.part.name}", *(f"{pin.number} {pin.name}" for pin in source.bundle.symbol.pins)]
    path.write_text("\n".join(lines), encoding="utf-8")
    return [path]


def _read_pins(path: Path) -> list[PinSource]:
    lines = path.read_text(encoding="utf-8").splitlines()
    pins = [(n, Pin(*line.split(" ", 1))) for n, line in enumerate(lines, start=1) if n > 1]
    return [source_of(lines[0].removeprefix("LABEL "), pins, ())]


FORMAT = FormatSpec(
    key="label",
    title="Label for the drawer",
    suffixes=(".label",),
    is_default=False,
    write=_write,
    read_pins=_read_pins,
    recognises=lambda head: head.startswith(b"LABEL "),
)
