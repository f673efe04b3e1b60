"""A sound package of every family, with plain dimensions."""

from collections.abc import Iterable

import pytest
from msgspec import structs

from eider.model.outline import PadSpec
from eider.model.package_sheet import PackageSheet
from helpers import make_sheet

SAMPLES: dict[str, dict[str, object]] = {
    "chip": {"pins": 2, "kind": "capacitor", "D": "1.6±0.1", "E": "0.8±0.1", "L": "0.35±0.15", "A": "0.8±0.1"},
    "gullwing-dual": {
        "pins": 8, "E": "5.8–6.2", "E1": "3.8–4.0", "D": "4.8–5.0", "e": "1.27", "b": "0.31–0.51", "L": "0.4–1.27",
        "A": "max 1.75", "A1": "0.1–0.25", "c": "0.17–0.25",
    },
    "gullwing-quad": {
        "pins": 32, "D": "8.8–9.2", "D1": "6.9–7.1", "E": "8.8–9.2", "E1": "6.9–7.1", "e": "0.8", "b": "0.3–0.45",
        "L": "0.45–0.75", "A": "max 1.6", "A1": "0.05–0.15", "c": "0.09–0.2",
    },
    "transistor": {
        "pins": 3, "E": "2.1–2.64", "E1": "1.2–1.4", "D": "2.8–3.04", "e": "0.95", "b": "0.3–0.5", "L": "0.4–0.6",
        "A": "max 1.12", "A1": "0.01–0.1", "c": "0.08–0.2",
    },
    "no-lead-quad": {
        "pins": 24, "D": "3.9–4.1", "E": "3.9–4.1", "e": "0.5", "b": "0.18–0.3", "L": "0.3–0.5", "A": "max 0.8",
        "A1": "0–0.05", "c": "0.2", "D2": "2.4–2.6", "E2": "2.4–2.6",
    },
    "no-lead-dual": {
        "pins": 10, "D": "2.9–3.1", "E": "2.9–3.1", "e": "0.5", "b": "0.18–0.3", "L": "0.3–0.5", "A": "max 0.8",
        "A1": "0–0.05", "c": "0.2", "D2": "2.2–2.4", "E2": "1.5–1.7",
    },
    "j-lead-dual": {
        "pins": 20, "E": "8.31–8.51", "E1": "7.49–7.75", "D": "12.57–12.83", "e": "1.27", "b": "0.38–0.51",
        "L": "0.9–1.3", "A": "max 3.75", "A1": "0.6–0.8", "c": "0.2",
    },
    "j-lead-quad": {
        "pins": 20, "D": "9.78–10.03", "D1": "8.89–9.04", "E": "9.78–10.03", "E1": "8.89–9.04", "e": "1.27",
        "b": "0.33–0.53", "L": "1.2–1.6", "A": "max 4.57", "A1": "0.51–0.8", "c": "0.2",
    },
    "cylinder": {"pins": 2, "kind": "diode", "D": "3.4–3.6", "E": "1.5–1.7", "L": "0.3–0.55"},
    "moulded": {
        "pins": 2, "kind": "capacitor polarised", "D": "3.3–3.7", "E": "2.6–3.0", "b": "2.1–2.3", "L": "0.5–1.1",
        "A": "max 2.1",
    },
    "flat-lead": {
        "pins": 2, "kind": "diode", "E": "2.3–2.7", "E1": "1.6–1.8", "D": "1.15–1.35", "b": "0.25–0.35", "L": "0.2–0.4",
        "A": "max 0.8", "c": "0.12",
    },
    "gullwing-diode": {
        "pins": 2, "kind": "diode", "E": "3.55–3.85", "E1": "2.55–2.85", "D": "1.4–1.8", "b": "0.45–0.7",
        "L": "0.25–0.5", "A": "max 1.35", "A1": "0–0.1", "c": "0.12",
    },
    "chip-array": {
        "pins": 8, "kind": "resistor", "E": "1.5–1.7", "D": "3.1–3.3", "e": "0.8", "b": "0.3–0.5", "L": "0.2–0.4",
        "A": "max 0.6",
    },
    "castellated": {
        "pins": 4, "kind": "oscillator", "D": "3.1–3.3", "E": "2.4–2.6", "e": "1.65", "b": "0.8–1.0", "L": "0.7–0.9",
        "A": "max 1.2",
    },
    "can": {"pins": 2, "D": "6.5–6.7", "E": "6.5–6.7", "E3": "7.1–7.5", "b": "0.5–0.8", "L": "2.3–2.7", "A": "max 5.7"},
    "tab": {
        "pins": 3, "H": "9.4–10.4", "D": "5.97–6.22", "E": "6.35–6.73", "e": "2.29", "b": "0.64–0.89", "L": "1.4–1.78",
        "D2": "5.21–5.6", "E2": "4.32–5.2", "L3": "0.89–1.27", "A": "max 2.4",
    },
    "ball-grid": {"pins": 64, "D": "7.9–8.1", "E": "7.9–8.1", "e": "0.8", "b": "0.4–0.5", "A": "max 1.2", "A1": "0.3"},
    "land-grid": {"pins": 64, "D": "7.9–8.1", "E": "7.9–8.1", "e": "0.8", "b": "0.35–0.45", "A": "max 1", "A1": "0.03"},
    "dual-in-line": {
        "pins": 14, "E": "7.62–8.25", "E1": "6.1–7.11", "D": "18.67–19.69", "e": "2.54", "b": "0.36–0.56",
        "A": "max 5.08", "A1": "min 0.38", "c": "0.2–0.36",
    },
    "single-in-line": {
        "pins": 9, "D": "22.5–23.1", "E1": "2.2–2.5", "e": "2.54", "b": "0.4–0.6", "A": "max 5.08", "A1": "0.3",
        "c": "0.2–0.3",
    },
    "header": {"pins": 8, "e": "2.54", "b": "0.62–0.66", "A": "max 8.5"},
    "axial": {"pins": 2, "kind": "resistor", "span": "10.16", "d": "0.5–0.6", "D": "2.2–2.5", "L": "6.1–6.5"},
    "radial": {
        "pins": 2, "kind": "capacitor polarised", "span": "1.8–2.2", "d": "0.45–0.55", "D": "max 5", "L": "max 11.5",
    },
    "tab-through-hole": {
        "pins": 3, "E": "9.8–10.4", "e": "2.54", "b": "0.7–0.9", "c": "0.4–0.6", "D": "15–15.8", "A": "4.4–4.6",
    },
    "butt-lead": {
        "pins": 8, "E": "7.62–8.0", "E1": "6.2–6.6", "D": "9–9.6", "e": "2.54", "b": "0.4–0.6", "c": "0.2–0.3",
        "A": "max 4.2", "A1": "0.4–0.6",
    },
    "surface-header": {
        "pins": 20, "E": "4.8–5.0", "E1": "3.6–3.8", "D": "9.4–9.6", "e": "0.8", "b": "0.25–0.35", "L": "0.5–0.7",
        "c": "0.2", "A": "max 3.1",
    },
    "dual-row-no-lead": {
        "pins": 76, "D": "7.9–8.1", "E": "7.9–8.1", "e": "0.65", "eR": "0.75", "b": "0.2–0.3", "L": "0.35–0.45",
        "A": "max 0.9", "A1": "0–0.05", "c": "0.2", "D2": "4.3–4.5", "E2": "4.3–4.5",
    },
    "coaxial-socket": {
        "pins": 2, "e": "5.08", "d": "1.2–1.3", "b": "0.9–1.0", "D": "6.2–6.5", "E": "6.2–6.5", "A": "max 9.6",
    },
    "mounting-hole": {"pins": 1, "kind": "plated", "d": "3.2", "D": "6.4"},
    "fiducial": {"pins": 1, "d": "1", "D": "2"},
    "test-point": {"pins": 1, "kind": "round", "D": "1.5"},
    "solder-jumper": {"pins": 3, "kind": "solder jumper", "L": "1", "b": "1.5", "g": "0.3"},
    "edge-contacts": {"pins": 10, "e": "1", "b": "0.7", "L": "3.2", "s": "0.5"},
    "module-edge": {"pins": 16, "D": "18", "E": "20", "e": "2", "d": "0.8", "b": "1.2", "L": "1.4"},
    "custom": {"pins": 2, "D": "15.9–16.1", "E": "7.9–8.1", "A": "max 5", "s": "14", "w": "2.4"},
}  # fmt: skip
GIVEN = (PadSpec("1", x="-s/2", width="w", height="3*w/2", mirror="y"), PadSpec("", y="1.5", hole="1.1", plated=False))


def sample(key: str, **changes: str) -> PackageSheet:
    """The package of a family, with some lengths changed."""
    sheet = make_sheet(key, **{**SAMPLES[key], **changes})  # type: ignore[arg-type]
    return structs.replace(sheet, pads=GIVEN) if key == "custom" else sheet


def foreign_sample(key: str) -> PackageSheet:
    """The package of which other programs made the body: with few enough terminals for a small file."""
    made = sample(key)
    return structs.replace(made, pins=min(made.pins, 16)) if key != "no-lead-quad" else made


# One family of each structure: two ends, rows on two and four sides, grids, holes, tabs, uneven rows, by hand.
STRUCTURES = frozenset(
    {
        "ball-grid", "castellated", "chip", "custom", "gullwing-dual", "gullwing-quad", "header", "mounting-hole",
        "no-lead-quad", "radial", "tab", "transistor",
    }
)  # fmt: skip


def each_family(keys: Iterable[str] = SAMPLES) -> list[object]:
    """Families as parameters: one of each structure always, the others in the sweep."""
    return [key if key in STRUCTURES else pytest.param(key, marks=pytest.mark.sweep) for key in keys]
