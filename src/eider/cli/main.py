"""The entry point of the command line, and its one place for errors."""

import errno
import importlib
import os
import sys
from typing import TYPE_CHECKING

import click

from eider import __version__
from eider.cli.command_table import COMMANDS
from eider.cli.exit_status import DONE, FAILED
from eider.errors import EiderError, InputError

if TYPE_CHECKING:
    from click.shell_completion import CompletionItem

LONGEST_MESSAGE = 1000
# As a shell counts a process that the signal of a closed pipe ended: 128 and the number of SIGPIPE.
CLOSED_PIPE = 141
# The reader of the output is gone; the disk is full, or the share of this user is used up.
OUTPUT_FAULTS = (errno.EPIPE, errno.ENOSPC, errno.EDQUOT)
# A path that the user named cannot be.
PATH_FAULTS = (errno.ENAMETOOLONG, errno.ELOOP, errno.ENOTDIR)


class _LazyGroup(click.Group):
    """Imports a command's module only when the command is run: `lands` needs neither git nor PDF."""

    def list_commands(self, _context: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, _context: click.Context, name: str) -> click.Command | None:
        entry = COMMANDS.get(name)
        if entry is None:
            return None
        command: click.Command = getattr(importlib.import_module(f"eider.cli.{entry.module}"), entry.name)
        command.short_help = entry.summary
        return command

    def shell_complete(self, context: click.Context, incomplete: str) -> "list[CompletionItem]":
        from click.shell_completion import CompletionItem

        named = [CompletionItem(name, help=e.summary) for name, e in COMMANDS.items() if name.startswith(incomplete)]
        return [*named, *click.Command.shell_complete(self, context, incomplete)]

    def format_commands(self, _context: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, entry.summary) for name, entry in COMMANDS.items()])


@click.group(cls=_LazyGroup, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="eider")
def cli() -> None:
    """Make PCB library parts from datasheets, prove them, keep them in a versioned library."""


def main() -> None:
    """Run a command and end with its exit status: 0 done, 1 blockers found, 2 not done (one line on standard error)."""
    try:
        status = _run(sys.argv[1:])
        sys.stdout.flush()
    except OSError as fault:
        status = _output_status(fault)
    sys.exit(status)


def _run(arguments: list[str]) -> int:
    """The exit status of a command.

    Raises:
        OSError: its output cannot be written.
    """
    if wanted := os.environ.get("_EIDER_COMPLETE"):
        from click.shell_completion import shell_complete

        return shell_complete(cli, {}, "eider", "_EIDER_COMPLETE", wanted)
    try:
        _invoke(arguments)
    except click.exceptions.Exit as ended:
        return ended.exit_code
    except SystemExit as ended:
        return ended.code if isinstance(ended.code, int) else FAILED if ended.code else DONE
    except (click.exceptions.Abort, KeyboardInterrupt, EOFError):
        return _failed("interrupted; nothing more was done")
    except click.ClickException as fault:
        return _failed(fault.format_message())
    except EiderError as fault:
        return _failed(str(fault))
    except Exception as fault:
        if isinstance(fault, OSError) and fault.errno in OUTPUT_FAULTS:
            raise
        if isinstance(fault, OSError) and fault.errno in PATH_FAULTS:
            return _failed(f"{str(fault.filename)[:80]}: {fault.strerror}; check the path")
        # The last resort: a person gets a line, the developers a log. Logging brings sockets, which no command needs.
        from eider.services.crash_log import crash_words, log_crash

        return _failed(f"{crash_words(fault)}; the details are in {log_crash(fault)}")
    return DONE


def _invoke(arguments: list[str]) -> None:
    for argument in arguments:
        _require_text(argument)
    # click's own `main` ends with 1, which means blockers here, where the reader of a pipe is gone.
    with cli.make_context("eider", arguments) as context:
        cli.invoke(context)


def _require_text(argument: str) -> None:
    """Refuse an argument that is not text: names are kept as UTF-8, in libraries and in their index.

    Raises:
        InputError: it is not.
    """
    shown = argument.encode("ascii", "backslashreplace").decode()[:80]
    if "\0" in argument:
        raise InputError(f"{shown}: an argument cannot hold a null character")
    try:
        argument.encode()
    except UnicodeEncodeError as fault:
        raise InputError(
            f"{shown}: an argument is not UTF-8 text; rename the file, or set the locale of the terminal to UTF-8"
        ) from fault


def _failed(message: str) -> int:
    line = " ".join(message.split())
    # A message that repeats a whole file helps nobody.
    shown = line if len(line) <= LONGEST_MESSAGE else f"{line[:LONGEST_MESSAGE]}…"
    click.echo(f"eider: {shown}", err=True)
    return FAILED


def _output_status(fault: OSError) -> int:
    """The exit status where the output cannot be written: its reader has gone, or its disk is full."""
    # What is still buffered would be written, and fail again, when the interpreter ends.
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, sys.stdout.fileno())
    os.close(nowhere)
    if fault.errno == errno.EPIPE:
        return CLOSED_PIPE
    where = fault.filename or "the output"
    return _failed(f"{where}: {os.strerror(fault.errno or 0)}; free some space, or write to another disk")
