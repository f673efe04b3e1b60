"""The entry point of the command line, and its one place for errors."""

import logging
import sys
import traceback
from pathlib import Path

import click
import platformdirs

from eider import __version__
from eider.cli import demo, library, package, symbol
from eider.cli.output import FAILED
from eider.errors import EiderError


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="eider")
def cli() -> None:
    """Make PCB library parts from datasheets, prove them, keep them in a versioned library."""


for _module in (package, symbol, library, demo):
    for _command in _module.COMMANDS:
        cli.add_command(_command)


def main() -> None:
    """Run a command; whatever goes wrong is one line on standard error and the exit status 2."""
    try:
        cli.main(standalone_mode=False)
    except click.exceptions.Abort:
        _fail("interrupted; nothing further was done")
    except click.ClickException as fault:
        _fail(" ".join(fault.format_message().split()))
    except EiderError as fault:
        _fail(" ".join(str(fault).split()))
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(FAILED)
    except Exception as fault:  # the last resort: a person gets a line, the developers a log
        _fail(f"a fault of Eider itself ({type(fault).__name__}: {fault}); the details are in {_log()}")


def _fail(message: str) -> None:
    click.echo(f"eider: {message}", err=True)
    sys.exit(FAILED)


def _log() -> Path:
    path = Path(platformdirs.user_log_dir("eider", ensure_exists=True)) / "faults.log"
    with path.open("a", encoding="utf-8") as file:
        file.write(traceback.format_exc() + "\n")
    logging.getLogger(__name__).debug("fault written to %s", path)
    return path
