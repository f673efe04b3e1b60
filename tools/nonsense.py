"""Calls every command with nonsense and prints those that fail unexpectedly: `nonsense.py [COMMAND …] [--all]`.

--all prints the words of the others too, for reading.
"""

import contextlib
import io
import json
import shutil
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from unittest import mock

from eider.catalogue.service import StandIn
from eider.cli.main import main
from eider.demo.build import begin_library
from eider.demo.parts import converter_part
from eider.library.documents.working_copies import WorkingCopy
from eider.model.part import DatasheetLink
from eider.packages.registry import all_families

# A call that takes longer (s) is told: nobody waits so long for a refusal.
LONGEST = 10.0
DIMS = {"E": "5.80–6.20", "E1": "3.80–4.00", "D": "4.8–5.0", "e": 1.27, "b": "0.31–0.51", "L": "0.40–1.27",
        "A": "max 1.75", "A1": "0.1–0.25"}  # fmt: skip
SHEET: dict[str, Any] = {"format": "eider-package/1", "name": "X", "family": "gullwing-dual", "pins": 8, "dims": DIMS}
PAD: dict[str, Any] = {"number": "1", "x": 0, "y": 0, "width": 1, "height": 1, "rotation": 0, "shape": "rectangle"}
VALUES: tuple[Any, ...] = (
    None, True, -1, 0, 1e9, 10**20, 1e-9, "", "x" * 5000, "\ud800", "NaN", [], [[]], {}, {"min": "x"}, ["1"],
    "1e999", "-0",
)  # fmt: skip
TEXTS = (
    "", " ", "x" * 5000, "../../etc/passwd", "\udcff", "a\0b", "-1", "100000000000000000000", "nan", "--help-me", "=",
    "a=b", "💥", "\n",
)  # fmt: skip


def sheets() -> Iterator[dict[str, Any]]:
    """Sheets with one thing wrong."""
    for key in (
        "format",
        "name",
        "family",
        "pins",
        "dims",
        "aliases",
        "thermal",
        "missing",
        "rows",
        "columns",
        "units",
        "kind",
    ):
        yield from ({**SHEET, key: value} for value in VALUES)
    for letter in ("E", "e", "b", "zz"):
        yield from ({**SHEET, "dims": {**DIMS, letter: value}} for value in VALUES)
    for family in all_families():
        for pins in (0, 1, 2, 3, 7, 10**6):
            yield {"format": "eider-package/1", "name": "X", "family": family, "pins": pins, "dims": DIMS}
        for rows, columns in ((10**5, 10**5), (3000, 3000), (0, 4), (-2, 2), (10**20, 1)):
            yield {**SHEET, "family": family, "pins": rows * columns, "rows": rows, "columns": columns,
                   "dims": {"D": 30, "E": 30, "e": 1, "b": 0.5, "A": 1.2, "A1": 0.3}}  # fmt: skip


def patterns() -> Iterator[Any]:
    """Patterns with one thing wrong."""
    yield from VALUES
    for key in (*PAD, "corner_radius", "hole", "plated", "mask", "paste", "layers", "outline", "nonsense"):
        yield from ({"pads": [{**PAD, key: value}]} for value in VALUES)
    yield {"pads": [{**PAD, "shape": "outline"}]}
    yield {"pads": [{**PAD, "shape": "outline", "outline": [[0, 0], [1, 1]]}]}
    yield {"pads": [{**PAD, "shape": "outline", "outline": [[0, 0], [1, 1], [0, 1e300]]}]}
    yield {"pads": [{**PAD, "hole": {"width": 0, "height": -1}}]}
    yield {"pads": [PAD], "turn": "x"}
    yield {"pads": [PAD] * 20_000}


def library_calls(folder: Path, out: Path) -> Iterator[list[str]]:
    """Commands on a library, with nonsense in the place of an item, a number, a file."""
    library = str(folder)
    for text in TEXTS:
        for command in ("used", "impact", "evidence", "verify", "history", "check", "search", "pinout"):
            yield [command, library, text]
        yield ["diff", library, "NVK-1216T", text, text]
        yield ["diff", library, text, "1", "2"]
        yield ["restore", library, "NVK-1216T", text]
        yield ["export", library, text, "--to", "svg", "--out", str(out)]
        yield ["export", library, "NVK-1216T", "--to", text, "--out", str(out)]
        yield ["export", library, "NVK-1216T", "--to", "svg", "--revision", text, "--out", str(out)]
        yield ["release", library, text, "--note", text]
        yield ["draft", library, text, "--name", text]
        yield ["variant", library, "NVK-1216T", "--name", text]
        yield ["withdraw", library, "NVK-1216T", "--note", text]
        yield ["claim", library, text]
        yield ["review", library, text, "--request"]
        yield ["facts", library, "--set", text]
        yield ["facts", library, "--from", text]
        yield ["family", library, text]
        yield ["bom", library, text, "--out", str(out / "x.csv")]
        yield ["intake", library, text]
        yield ["publish", library, str(out / "p"), "--to", text]
        yield ["people", library, "--set", text]
        yield ["people", library, "--releases-since", text]
        yield ["check", library, "--since", text]
        yield ["rulebook", library, text, "--set", text]
        yield ["measure", library, "NVK-1216T", text, text]
        yield ["history", library, "--since", text]
        yield ["report", library, "--out", text]
        yield ["check", text]
        yield ["open", text, "--no-window", "--to", str(out / "clone")]
        yield ["share", library, text]
        yield ["init", text] if text.strip() and "/" not in text else ["init", library]
        yield ["catalogue", "search", text, "--library", library]
        yield ["catalogue", "serve", "--port", text]
        yield ["capture", text, "--auto"]
        yield ["symbol", text]
        yield ["align", text, text]
        yield ["body", text, "--out", text]
    yield ["catalogue", "serve", "--port", "99999"]
    yield ["catalogue", "serve", "--port", "-1"]


def calls(folder: Path, out: Path) -> Iterator[list[str]]:
    """All calls; files that they need are written when they come."""
    (out / "sound.json").write_text(json.dumps(SHEET))
    for number, sheet in enumerate(sheets()):
        path = out / f"sheet{number}.json"
        path.write_text(json.dumps(sheet), encoding="utf-8", errors="surrogatepass")
        yield ["lands", str(path)]
    for number, pattern in enumerate(patterns()):
        path = out / f"pattern{number}.json"
        path.write_text(json.dumps(pattern), encoding="utf-8", errors="surrogatepass")
        yield ["joints", str(out / "sound.json"), str(path)]
        yield ["yield", str(out / "sound.json"), str(path), "--samples", "10"]
    for value in ("NaN", "Infinity", "1e400"):
        path = out / f"rotation{value}.json"
        path.write_text(json.dumps({"pads": [PAD]}).replace('"rotation": 0', f'"rotation": {value}'))
        yield ["joints", str(out / "sound.json"), str(path)]
    for text in TEXTS:
        yield ["lands", str(out / "sound.json"), "--set", text]
        yield ["lands", str(out / "sound.json"), "--set", f"pins={text}"]
        yield ["lands", str(out / "sound.json"), "--set", f"tolerances.placement={text}"]
        yield ["yield", str(out / "sound.json"), "--samples", text]
        yield ["yield", str(out / "sound.json"), "--seed", text]
        yield ["pitch", str(out / "sound.json"), text]
    yield from library_calls(folder, out)


def run(arguments: list[str]) -> tuple[int, str]:
    """The exit status of a call, and what it says on standard error."""
    errors, status = io.StringIO(), 0
    with (
        contextlib.redirect_stdout(io.StringIO()),
        contextlib.redirect_stderr(errors),
        mock.patch("sys.argv", ["eider", *arguments]),
    ):
        try:
            main()
        except SystemExit as ended:
            status = int(ended.code or 0)
        except BaseException as fault:
            return 99, f"{type(fault).__name__}: {fault}"
    return status, errors.getvalue()


def nonsense(commands: list[str], *, show_all: bool = False) -> int:
    """Make all calls, or those of some commands; returns how many failed unexpectedly or took too long."""
    work = Path(tempfile.mkdtemp(prefix="eider-nonsense-"))
    wrong = count = 0
    try:
        library = begin_library(work)
        library.copies.save(WorkingCopy(bundle=converter_part(library, DatasheetLink("0" * 64, "NVK-1216T.pdf", 4))))
        out = work / "out"
        out.mkdir()
        # A stand-in that starts is closed at once.
        with mock.patch.object(StandIn, "wait"), contextlib.chdir(out):
            for arguments in calls(library.folder, out):
                if commands and arguments[0] not in commands:
                    continue
                began, count = time.monotonic(), count + 1
                status, said = run(arguments)
                taken = time.monotonic() - began
                is_wrong = "failed unexpectedly" in said or status not in (0, 1, 2) or said.count("\n") > 1
                if is_wrong or taken > LONGEST or show_all:
                    wrong += is_wrong or taken > LONGEST
                    shown = [argument[:80] for argument in arguments]
                    print(f"{status} {taken:.1f} s {shown}: {said.strip()[:300]}", flush=True)
    finally:
        shutil.rmtree(work, ignore_errors=True)
    print(f"{count} calls, {wrong} wrong")
    return wrong


if __name__ == "__main__":
    sys.exit(min(nonsense([word for word in sys.argv[1:] if word != "--all"], show_all="--all" in sys.argv), 1))
