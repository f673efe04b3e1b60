"""Facts by their kind: what is right, how it is printed, what is said of the rest."""

import pytest

from eider.facts.fact_reading import fact_order, print_fact, read_fact
from eider.model.library import FactField

RESISTANCE = FactField("Resistance", kind="number", unit="Ω")
TEMPERATURE = FactField("Operating temperature", kind="range", unit="°C")
LIFECYCLE = FactField("Lifecycle", kind="choice", choices=("active", "not recommended", "end of life"))


@pytest.mark.parametrize(
    ("field", "text", "printed"),
    [
        (RESISTANCE, "4k7", "4.7 kΩ"), (RESISTANCE, "4700 ohm", "4.7 kΩ"), (RESISTANCE, "–", "–"), (RESISTANCE, "", ""),
        (FactField("Tolerance", kind="number", unit="%"), "±5%", "±5 %"),
        (TEMPERATURE, "−40°C…+85°C", "-40 to 85 °C"), (TEMPERATURE, "up to 85", "max 85 °C"),
        (TEMPERATURE, "85", "85 °C"),
        (LIFECYCLE, "Not-Recommended", "not recommended"), (LIFECYCLE, "ACTIVE", "active"),
        (FactField("Since", kind="date"), "28.11.2026", "2026-11-28"),
        (FactField("Since", kind="date"), "28 Nov 2026", "2026-11-28"),
        (FactField("Lead-free", kind="yes/no"), "Y", "yes"), (FactField("Lead-free", kind="yes/no"), "false", "no"),
        (FactField("Sheet", kind="link"), "https://brimfall.example/l18.pdf", "https://brimfall.example/l18.pdf"),
        (FactField("Remark"), "  as it is ", "as it is"),
    ],
)  # fmt: skip
def test_a_fact_is_printed_as_its_template_says(field: FactField, text: str, printed: str) -> None:
    assert read_fact(field, text).printed == printed
    assert print_fact(field, text) == printed


@pytest.mark.parametrize(
    ("field", "text", "accepted"),
    [
        (RESISTANCE, "X7R", "4.7 kΩ"), (TEMPERATURE, "hot", "-40 to 85 °C"),
        (LIFECYCLE, "soon", "active, not recommended"), (FactField("Since", kind="date"), "11/12/2026", "2026-11-28"),
        (FactField("Sheet", kind="link"), "l18.pdf", "https"),
        (FactField("Sheet", kind="link"), "https://[", "https"),
        (FactField("Lead-free", kind="yes/no"), "perhaps", "no"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_said_with_the_accepted_forms(field: FactField, text: str, accepted: str) -> None:
    reading = read_fact(field, text)
    assert reading.value is None
    assert text in reading.fault
    assert accepted in reading.accepted
    # It is printed as it was typed: nothing is lost.
    assert print_fact(field, text) == text


def test_values_are_put_in_order_by_their_size() -> None:
    typed = ["10k", "", "4k7", "1 MΩ", "470", "none yet"]
    assert sorted(typed, key=lambda text: fact_order(RESISTANCE, text)) == ["470", "4k7", "10k", "1 MΩ", "none yet", ""]
    lives = ["end of life", "active", "not recommended"]
    assert sorted(lives, key=lambda text: fact_order(LIFECYCLE, text)) == ["active", "not recommended", "end of life"]
    assert sorted(["b", "10 V", "a", "2 V"], key=lambda text: fact_order(None, text)) == ["2 V", "10 V", "a", "b"]
