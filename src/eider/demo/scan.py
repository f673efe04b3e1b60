"""Writes the demo's boundary-scan description, as Norrvik Semi would."""

import re

from eider.demo.data import printed_pins

_TAP = {"TCK": "clock", "TDI": "in", "TDO": "out", "TMS": "mode", "TRST_N": "reset"}
_PORT = re.compile(r"P([A-K])(\d)$")


def scan_text() -> str:
    """NVK-U100P in BSDL: ten ports of eight lines as vectors, supplies as linkage, the test access port."""
    pins = printed_pins("nvk-u100p")
    lines: dict[str, dict[int, str]] = {}
    single: dict[str, tuple[str, list[str]]] = {}
    port = 0
    for pin in pins:
        if match := _PORT.match(pin.name):
            lines.setdefault(f"P{match[1]}", {})[int(match[2])] = pin.number
        elif pin.type == "bidirectional":
            # A port line that the sheet prints with its other name only.
            lines.setdefault("PG", {})[port] = pin.number
            port += 1
        else:
            way = {"input": "in", "output": "out"}.get(pin.type, "linkage")
            name = f"{pin.name}_N" if pin.active_low else pin.name
            single.setdefault(name, (way, []))[1].append(pin.number)
    ports = [f"    {name} : inout bit_vector(0 to 7)" for name in lines]
    maps = [f"{name}:({', '.join(by[i] for i in range(8))})" for name, by in lines.items()]
    for name, (way, numbers) in single.items():
        many = f"bit_vector(1 to {len(numbers)})" if len(numbers) > 1 else "bit"
        ports.append(f"    {name} : {way} {many}")
        maps.append(f"{name}:({', '.join(numbers)})" if len(numbers) > 1 else f"{name}:{numbers[0]}")
    taps = [
        f"  attribute TAP_SCAN_{what.upper()} of {name}{'_N' if name == 'TRST' else ''} : signal is true;"
        for name, what in _TAP.items()
    ]
    return "\n".join(
        [
            "-- Norrvik Semi, controller NVK-U100P; invented for the demo",
            "entity NVK_U100P is",
            '  generic (PHYSICAL_PIN_MAP : string := "QUAD100");',
            "  port (",
            ";\n".join(ports),
            "  );",
            "  use STD_1149_1_2001.all;",
            "  attribute PIN_MAP of NVK_U100P : entity is PHYSICAL_PIN_MAP;",
            "  constant QUAD100 : PIN_MAP_STRING :=  -- quad, 100 leads, 0.5 pitch",
            " &\n".join(f'    "{entry}{"," if i + 1 < len(maps) else ""}"' for i, entry in enumerate(maps)) + ";",
            *taps,
            "end NVK_U100P;",
            "",
        ]
    )
