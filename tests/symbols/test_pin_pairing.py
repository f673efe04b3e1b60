"""Partners such as a receive and its transmit: beside each other on one side, at one height on two."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.model.symbol import Pin, Symbol
from eider.symbols.arrangement import arrange
from eider.symbols.arrangement_quality import quality
from eider.symbols.pin_moves import on_side
from eider.symbols.pin_names import bank_of
from eider.symbols.pin_pairing import face, pair_key
from eider.symbols.unit_splitting import split_by_bank


def made(*rows: tuple[str, str, str]) -> Symbol:
    pins = tuple(Pin(str(i), name, kind, group=group) for i, (name, kind, group) in enumerate(rows, start=1))
    return arrange(Symbol(id="", name="", pins=pins))


@pytest.mark.parametrize(
    ("a", "b"),
    [("UART0_RX", "UART0_TX"), ("1A", "1Y"), ("IN1+", "IN1-"), ("SDI", "SDO"), ("USB_DP", "USB_DM"), ("TXD2", "RXD2")],
)
def test_partners_have_a_key_in_common(a: str, b: str) -> None:
    assert pair_key(a) == pair_key(b) != ()


@pytest.mark.parametrize(("a", "b"), [("UART0_RX", "UART1_TX"), ("1A", "2Y"), ("SDI", "RXD"), ("IN1", "OUT2")])
def test_others_have_not(a: str, b: str) -> None:
    assert pair_key(a) != pair_key(b)


def test_a_receive_stands_beside_its_transmit() -> None:
    symbol = made(("U0_RX", "bidirectional", "u"), ("CTS", "bidirectional", "u"), ("U0_TX", "bidirectional", "u"))
    assert [pin.name for pin in on_side(symbol.units[0], "left")] == ["U0_RX", "U0_TX", "CTS"]


def test_partners_on_two_sides_stand_at_one_height() -> None:
    symbol = made(
        ("EN", "input", ""),
        ("CLK", "input", ""),
        ("RST", "input", ""),
        ("RX1", "input", "ser"),
        ("RX2", "input", "ser"),
        ("TX1", "output", "ser"),
        ("TX2", "output", "ser"),
    )
    (unit,) = symbol.units
    heights = {pin.name: pin.y for pin in unit.pins}
    assert heights["RX1"] == heights["TX1"]
    assert heights["RX2"] == heights["TX2"]
    figures = quality(unit, symbol.pins)
    assert (figures.partners, figures.facing_partners, figures.crossings) == (2, 2, 0)


def test_partners_that_cross_are_counted() -> None:
    # On the left by number IN1, IN2; on the right up from the bottom OUT1, OUT2: by number they cross.
    pins = tuple(Pin(str(i), name) for i, name in enumerate(("IN1", "IN2", "OUT1", "OUT2"), start=1))
    symbol = arrange(Symbol(id="", name="", pins=pins, arrangement="number"))
    figures = quality(symbol.units[0], pins)
    assert (figures.partners, figures.facing_partners, figures.crossings) == (2, 0, 1)
    assert "0 of 2 partners face each other, 1 crossings" in figures.words


SLOTS = st.lists(st.sampled_from(["RX1", "TX1", "RX2", "TX2", "IN", "OUT", "D0", "Q0", "EN", ""]), max_size=14).map(
    lambda names: [Pin(str(i), name) if name else None for i, name in enumerate(names)]
)


@given(SLOTS, SLOTS)
def test_facing_changes_neither_order_nor_height(left: list[Pin | None], right: list[Pin | None]) -> None:
    # Sides come with single gaps between pins and none at the ends.
    def tidy(slots: list[Pin | None]) -> list[Pin | None]:
        kept = [s for i, s in enumerate(slots) if s or (i and slots[i - 1])]
        return kept[:-1] if kept and kept[-1] is None else kept

    left, right = tidy(left), tidy(right)
    faced = face(left, right)
    assert [pin for pin in faced[0] if pin] == [pin for pin in left if pin]
    assert [pin for pin in faced[1] if pin] == [pin for pin in right if pin]
    assert max(map(len, faced)) == max(len(left), len(right))


@pytest.mark.parametrize(
    ("name", "bank"),
    [
        ("IO_L3P_15", "15"),
        ("VCCO_34", "34"),
        ("BANK2_IO7", "2"),
        ("IO_B1_4", "1"),
        ("B3_D7", "3"),
        ("CLK", ""),
        ("D15", ""),
        ("TDI_B", ""),
    ],
)
def test_banks_are_told_by_names(name: str, bank: str) -> None:
    assert bank_of(name) == bank


def test_a_unit_for_each_bank_with_its_supply_and_one_for_the_rest() -> None:
    pins = [Pin(str(i), n) for i, n in enumerate(("IO_L1P_34", "IO_L1N_34", "VCCO_34", "IO_L1P_9", "TDI"), start=1)]
    assert [pin.unit for pin in split_by_bank(pins)] == ["B", "B", "B", "A", "C"]
