"""Symbols: how long an arrangement takes, and how good those of the demo's parts are."""

import pytest
from pytest_benchmark.fixture import BenchmarkFixture

from eider.demo.data import pin_table_text, printed_pins
from eider.demo.scan import scan_text
from eider.exchange.formats.bsdl import read_bsdl
from eider.model.symbol import Pin, Symbol
from eider.symbols.arrangement import arrange
from eider.symbols.arrangement_quality import quality
from eider.symbols.pin_table import read_pins, split_table


def many(count: int) -> tuple[Pin, ...]:
    """Ports of sixteen lines with supplies between, as a large controller has."""
    kinds = ("bidirectional", "input", "output")
    return tuple(
        Pin(
            str(i),
            "VDD" if i % 20 == 0 else "VSS" if i % 20 == 10 else f"P{i // 16}_{i % 16}",
            "power input" if i % 10 == 0 else kinds[i // 16 % 3],
            group=f"port {i // 16}" if i % 10 else "",
        )
        for i in range(1, count + 1)
    )


@pytest.mark.parametrize("count", [100, 2000])
@pytest.mark.parametrize("way", ["number", "function"])
def test_arranging(benchmark: BenchmarkFixture, count: int, way: str) -> None:
    symbol = Symbol(id="", name="", pins=many(count), arrangement=way)  # type: ignore[arg-type]
    made = benchmark(arrange, symbol)
    assert len(made.units[0].pins) == count


def tables() -> dict[str, tuple[Pin, ...]]:
    """The pin tables of the demo's chips."""
    gates = tuple(Pin(p.number, p.name, p.type) for p in printed_pins("nvk-4gt"))
    regulator = tuple(Pin(p.number, p.name, p.type) for p in printed_pins("brm-l18"))
    return {
        "NVK-1216T": read_pins(split_table(pin_table_text())).pins,
        "NVK-U100P": read_bsdl(scan_text())[0].reading.pins,
        "NVK-4GT": gates,
        "BRM-L18": regulator,
    }


@pytest.mark.parametrize("way", ["number", "function"])
def test_quality_of_the_demo_parts(way: str) -> None:
    print()
    for name, pins in tables().items():
        symbol = arrange(Symbol(id="", name=name, pins=pins, arrangement=way))  # type: ignore[arg-type]
        print(f"{name} by {way}: {quality(symbol.units[0], pins).words}")
