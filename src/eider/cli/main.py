"""The entry point of the command line, and its one place for errors."""

import importlib
import sys
from collections.abc import Mapping

import click

from eider import __version__
from eider.cli.output import FAILED
from eider.errors import EiderError
from eider.services.crash_log import crash_words, log_crash

LONGEST_MESSAGE = 1000
# A command's module is imported when the command is wanted: `lands` needs neither git nor PDF.
COMMANDS: Mapping[str, str] = {
    "open": "window:open_window",
    "lands": "package:lands",
    "joints": "package:joints",
    "yield": "joint_yield:yield_command",
    "pitch": "pitch:pitch",
    "body": "model:body",
    "align": "model:align",
    "symbol": "symbol:symbol",
    "init": "library:init",
    "search": "library:search",
    "check": "check:check",
    "release": "library:release",
    "used": "impact:used",
    "impact": "impact:impact",
    "withdraw": "withdraw:withdraw",
    "people": "people:people",
    "history": "library:history",
    "restore": "library:restore",
    "diff": "comparison:diff",
    "report": "health:report",
    "duplicates": "health:duplicates",
    "export": "library:export",
    "intake": "intake:intake",
    "draft": "draft:draft",
    "print": "print_lands:print_lands",
    "publish": "publish:publish",
    "capture": "capture:capture_command",
    "evidence": "evidence:evidence",
    "pinout": "pinout:pinout",
    "verify": "verify:verify",
    "measure": "measure:measure",
    "facts": "facts:facts",
    "bom": "bill:bom",
    "variant": "variant:variant",
    "family": "family:family",
    "catalogue": "catalogue:catalogue",
    "share": "sharing:share",
    "sync": "sharing:sync",
    "claim": "sharing:claim",
    "unclaim": "sharing:unclaim",
    "settle": "sharing:settle",
    "review": "review:review",
    "rulebook": "rulebook:rulebook",
    "demo": "demo:demo",
}


class _LazyGroup(click.Group):
    def list_commands(self, _context: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, _context: click.Context, name: str) -> click.Command | None:
        if name not in COMMANDS:
            return None
        module, _, attribute = COMMANDS[name].partition(":")
        command: click.Command = getattr(importlib.import_module(f"eider.cli.{module}"), attribute)
        return command


@click.group(cls=_LazyGroup, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="eider")
def cli() -> None:
    """Make PCB library parts from datasheets, prove them, keep them in a versioned library."""


def main() -> None:
    """Run a command; whatever goes wrong is one line on standard error and the exit status 2."""
    try:
        cli.main(prog_name="eider", standalone_mode=False)
    except click.exceptions.Abort:
        _fail("interrupted; nothing more was done")
    except click.ClickException as fault:
        _fail(" ".join(fault.format_message().split()))
    except EiderError as fault:
        _fail(" ".join(str(fault).split()))
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(FAILED)
    except Exception as fault:  # the last resort: a person gets a line, the developers a log
        _fail(f"{crash_words(fault)}; the details are in {log_crash(fault)}")


def _fail(message: str) -> None:
    # A message that repeats a whole file helps nobody.
    shown = message if len(message) <= LONGEST_MESSAGE else f"{message[:LONGEST_MESSAGE]}…"
    click.echo(f"eider: {shown}", err=True)
    sys.exit(FAILED)
