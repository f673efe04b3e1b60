"""The man page and the shell completions of the command eider, from the help of the command itself."""

import re
from collections.abc import Iterator
from pathlib import Path

import click
from click.shell_completion import BashComplete, FishComplete, ShellComplete, ZshComplete

from eider.cli.main import cli

PACKAGING = Path(__file__).parent.parent / "packaging"
SHELLS: dict[str, type[ShellComplete]] = {"eider.bash": BashComplete, "_eider": ZshComplete, "eider.fish": FishComplete}

EXIT_STATUSES = (
    ("0", "Done."),
    ("1", "Done, and there are blockers among the findings."),
    ("2", "It could not be done; one line on standard error says what, where and what to do."),
)


def command_pages() -> dict[Path, str]:
    """The man page and a completion for each shell, by file."""
    pages = {PACKAGING / "eider.1": man_page()}
    for name, shell in SHELLS.items():
        pages[PACKAGING / "completions" / name] = shell(cli, {}, "eider", "_EIDER_COMPLETE").source().strip() + "\n"
    return pages


def man_page() -> str:
    """The manual page in the macros of man(7)."""
    context = click.Context(cli, info_name="eider")
    lines = [
        ".TH EIDER 1",
        ".SH NAME",
        r"eider \- make PCB library parts from datasheets, prove them, keep them in a versioned library",
        ".SH SYNOPSIS",
        r".B eider",
        r"COMMAND [OPTIONS] [ARGUMENTS]",
        ".SH DESCRIPTION",
        *_paragraphs(cli.help or ""),
        ".SH COMMANDS",
    ]
    for name in cli.list_commands(context):
        command = cli.get_command(context, name)
        assert command is not None
        inner = click.Context(command, info_name=name, parent=context)
        lines += _command(command, inner)
        if isinstance(command, click.Group):
            for part in command.list_commands(inner):
                lines += _command(
                    command.commands[part], click.Context(command.commands[part], info_name=f"{name} {part}")
                )
    lines += [
        ".SH EXIT STATUS",
        *(line for status, what in EXIT_STATUSES for line in (".TP", rf".B {status}", _escaped(what))),
    ]
    return "\n".join(lines) + "\n"


def _command(command: click.Command, context: click.Context) -> Iterator[str]:
    usage = " ".join(command.collect_usage_pieces(context))
    yield f".SS eider {context.info_name} {_escaped(usage)}"
    yield from _paragraphs(command.help or "")
    for parameter in command.params:
        record = parameter.get_help_record(context)
        # Arguments are told in the text; click has no words for them one by one.
        if record and isinstance(parameter, click.Option):
            yield ".TP"
            yield rf"\fB{_escaped(record[0])}\fR"
            yield _escaped(" ".join(record[1].split()))


def _paragraphs(text: str) -> Iterator[str]:
    for index, paragraph in enumerate(re.split(r"\n\s*\n", text.strip())):
        if index:
            yield ".PP"
        yield _escaped(" ".join(paragraph.replace("\b", "").split()))


def _escaped(text: str) -> str:
    """As text of roff: hyphens that can be copied as such, and no line that would be taken for a request."""
    plain = text.replace("\\", r"\e").replace("-", r"\-")
    return rf"\&{plain}" if plain.startswith((".", "'")) else plain
