"""Runs work on STEP files in processes that are forked from one which has the CAD kernel loaded already.

Loading the kernel takes a second; reading most files takes less. So one process, the stem, loads it once and forks for
each file: what the kernel does to a fork (or a damaged file does to the kernel) is gone with it. The stem ends when the
process that started it does.
"""

import os
import signal
import socket
import struct
import subprocess
import sys
import threading
from collections.abc import Callable, Sequence
from typing import IO, NamedTuple

# Length of a request, and number and wait status of the process that does it.
_LENGTH, _NUMBER = struct.Struct("!I"), struct.Struct("!i")
MOST_ARGUMENTS = 1 << 20
Work = Callable[[list[str]], int]


class ForkedWork(NamedTuple):
    """Work that has begun in a process of its own: what it prints, its number, and how to wait for its end."""

    output: IO[bytes]
    progress: IO[bytes]
    number: int
    wait: Callable[[], int]

    def kill(self) -> None:
        """End the process at once."""
        os.kill(self.number, signal.SIGKILL)
        self.wait()


class KernelStem:
    """The process that has the kernel; started when it is first wanted, again when it has died."""

    def __init__(self, module: str) -> None:
        self._module = module
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._line: socket.socket | None = None

    def begin(self, arguments: Sequence[str]) -> ForkedWork:
        """Begin work in a fork.

        Raises:
            OSError: no process is to be had, or the stem died and could not be started again.
        """
        output, to_output = os.pipe()
        progress, to_progress = os.pipe()
        status, to_status = os.pipe()
        with self._lock:
            try:
                self._send(arguments, [to_output, to_progress, to_status])
            finally:
                for end in (to_output, to_progress, to_status):
                    os.close(end)
        reader = os.fdopen(status, "rb")
        number = reader.read(_NUMBER.size)
        if len(number) < _NUMBER.size:
            raise OSError("the process with the CAD kernel ended; try again")

        def wait() -> int:
            with reader:
                told = reader.read(_NUMBER.size)
            return int(_NUMBER.unpack(told)[0]) if len(told) == _NUMBER.size else -signal.SIGKILL

        return ForkedWork(os.fdopen(output, "rb"), os.fdopen(progress, "rb"), int(_NUMBER.unpack(number)[0]), wait)

    def _send(self, arguments: Sequence[str], ends: list[int]) -> None:
        request = "\0".join(arguments).encode()
        for is_last in (False, True):
            line = self._line or self._start()
            try:
                socket.send_fds(line, [_LENGTH.pack(len(request))], ends)
                line.sendall(request)
                return
            except OSError:
                self._line = None
                if is_last:
                    raise

    def _start(self) -> socket.socket:
        ours, theirs = socket.socketpair()
        with theirs:
            command = [sys.executable, "-m", self._module, "--stem", str(theirs.fileno())]
            self._process = subprocess.Popen(command, pass_fds=[theirs.fileno()], stdin=subprocess.DEVNULL)
        self._line = ours
        return ours


def serve_forks(line: int, work: Work) -> None:
    """Fork for each request on a socket until its other end is closed; `work` is what a fork does."""
    # Forks are waited for by their own guards.
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    with socket.socket(fileno=line) as requests:
        while True:
            head, ends, _, _ = socket.recv_fds(requests, _LENGTH.size, 3)
            if len(head) < _LENGTH.size:
                return
            length = _LENGTH.unpack(head)[0]
            request = _received(requests, min(length, MOST_ARGUMENTS))
            if os.fork() == 0:
                requests.close()
                os._exit(_guard(request.decode().split("\0"), ends, work))
            for end in ends:
                os.close(end)


def _received(requests: socket.socket, length: int) -> bytes:
    data = b""
    while len(data) < length and (piece := requests.recv(length - len(data))):
        data += piece
    return data


def _guard(arguments: list[str], ends: list[int], work: Work) -> int:
    """Fork the process that works, tell its number, wait for it, and tell how it ended."""
    output, progress, status = ends
    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    number = os.fork()
    if number == 0:
        os.close(status)
        os.dup2(output, 1)
        os.dup2(progress, 2)
        try:
            ended = work(arguments)
            sys.stdout.flush()
            sys.stderr.flush()
        except BaseException:
            # A fault of Eider's own; whoever waits tells it as a file that cannot be read.
            ended = 1
        os._exit(ended)
    for end in (output, progress):
        os.close(end)
    os.write(status, _NUMBER.pack(number))
    _, ended = os.waitpid(number, 0)
    os.write(status, _NUMBER.pack(os.waitstatus_to_exitcode(ended)))
    return 0
