"""Runs git itself for what goes over the network: its own ways of ssh, https and credentials; can be cancelled."""

import os
import re
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import NoReturn

from eider.library.errors import LibraryError

# How often (s) it is asked whether the user has cancelled, and how long a server may say nothing.
POLL, SILENCE = 0.05, 120.0
# Addresses that are safe to hand to git: the usual schemes, host:path of ssh, and paths; not `ext::`, not options.
_ADDRESS = re.compile(
    r"^(?:(?:https?|ssh|git|file)://\S+|[\w.-]+@[\w.-]+:\S+|[\w.-]+:[^:\s]\S*|/.*|\.{0,2}/.*|[\w.-][^:]*)$"
)
# No questions on a terminal, English messages, and nothing but what was asked for.
_ENVIRONMENT: Mapping[str, str] = {"GIT_TERMINAL_PROMPT": "0", "LC_ALL": "C", "GIT_OPTIONAL_LOCKS": "0"}
_SETTINGS = ("-c", "protocol.ext.allow=never", "-c", "core.hooksPath=/dev/null", "-c", "gc.auto=0")
# What git says, and what that means for a person.
_REASONS = (
    (r"could not resolve host|name or service not known", "the server's name is not known; check the address"),
    (r"connection (refused|timed out)|no route to host|couldn't connect|failed to connect|network is unreachable",
     "the server does not answer; check the network"),
    (r"authentication failed|could not read username|permission denied|access denied|error: 40[13]|http 40[13]",
     "the server does not let you in; set up access with git (ssh key or credential helper), then try again"),
    (r"no space left|disk quota|unable to write|unpack-objects abnormal|index-pack abnormal",
     "the server or this disk has no room, or the connection broke; nothing was changed"),
    (r"early eof|hung up|the remote end|broken pipe|rpc failed|connection reset|unexpected disconnect",
     "the connection broke; nothing was changed"),
    (r"does not appear to be a git repository|repository .* not found|not found|no such file",
     "there is no git repository at this address"),
)  # fmt: skip


class GitError(LibraryError):
    """What git could not do; `said` are its own words."""

    def __init__(self, message: str, said: str = "") -> None:
        super().__init__(message, said)
        self.message, self.said = message, said

    def __str__(self) -> str:
        return self.message


class OfflineError(GitError):
    """The server could not be reached, or did not let anybody in."""


def checked_address(address: str) -> str:
    """Return the address, stripped, if it is safe to hand to git.

    Raises:
        LibraryError: it is not an address of a repository.
    """
    text = address.strip()
    if text.startswith("-") or not text.isprintable() or not _ADDRESS.match(text):
        raise LibraryError(f"“{address}” is not an address of a library; write https://…, ssh://…, file://… or a path")
    return text


def run_git(
    folder: Path | None,
    arguments: Sequence[str],
    tell: Callable[[str], None] = lambda _what: None,
    *,
    silence: float = SILENCE,
) -> str:
    """What git prints; `tell` hears the last line of its progress, and may raise to cancel.

    Raises:
        GitError: git is missing or failed. OfflineError: because of the server or the way to it.
    """
    program = shutil.which("git")
    if program is None:
        raise GitError("git is not installed; sharing a library needs it. Install the package git")
    where = ["-C", str(folder)] if folder else []
    command = [program, *where, *_SETTINGS, *arguments]
    with tempfile.TemporaryFile() as out, tempfile.TemporaryFile() as errors:
        with subprocess.Popen(
            command, stdin=subprocess.DEVNULL, stdout=out, stderr=errors, env={**os.environ, **_ENVIRONMENT}
        ) as process:
            try:
                _wait(process, errors.fileno(), tell, silence)
            except BaseException:
                process.kill()
                raise
        out.seek(0)
        errors.seek(0)
        printed, said = (file.read().decode("utf-8", "replace") for file in (out, errors))
    if process.returncode:
        _raise_for(said, printed, arguments[0])
    return printed


def _wait(process: "subprocess.Popen[bytes]", errors: int, tell: Callable[[str], None], silence: float) -> None:
    """Until git ends; what does not grow its output for too long is given up."""
    heard, size, line = time.monotonic(), 0, ""
    while process.poll() is None:
        tell(line)
        with_new = os.fstat(errors).st_size
        if with_new > size:
            heard, size = time.monotonic(), with_new
            line = _last_line(errors, size)
        elif time.monotonic() - heard > silence:
            raise OfflineError(f"the server said nothing for {silence:.0f} s; try again later")
        try:
            process.wait(POLL)
        except subprocess.TimeoutExpired:
            continue


def _last_line(errors: int, size: int) -> str:
    tail = os.pread(errors, 400, max(size - 400, 0)).decode("utf-8", "replace")
    lines = [line for line in re.split(r"[\r\n]", tail) if line.strip()]
    return lines[-1].strip() if lines else ""


def _raise_for(said: str, printed: str, what: str) -> NoReturn:
    low, told = said.lower(), f"{said}\n{printed}"
    for pattern, reason in _REASONS:
        if re.search(pattern, low):
            raise OfflineError(reason, told)
    last = next((line for line in reversed(said.splitlines()) if line.strip()), "no reason given")
    raise GitError(f"git {what} failed: {last.strip()[:300]}", told)
