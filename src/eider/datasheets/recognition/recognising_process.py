"""Recognises pages in a process of its own, one at a time: what a page costs in time and memory is limited, and ends.

The process is asked for pages over its input, a number a line, with the box of a part behind it, and answers each with
one line: the page as JSON, or a word of why there is none.
"""

import importlib.util
import select
import subprocess
import sys
import time
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from types import TracebackType
from typing import IO

import msgspec

from eider.datasheets.recognition.recognised_page import RecognisedPage
from eider.errors import InputError
from eider.geometry.plane import Box

# The engine stands in an extra of the wheel; `./eider` installs it.
ENGINE = "rapidocr_onnxruntime"
NOT_INSTALLED = (
    "pages that are pictures can be recognised once the extra is installed: pip install 'eider[recognition]'"
)
# Seconds for a page, after which it is given up (a full page takes about ten on two cores), and between two looks at
# whether the user cancelled.
LONGEST_PAGE_S, LOOK_S = 120, 0.2
# Address space of the process: the engine takes some 900 MB, and reserves more than it takes.
MOST_MEMORY = 6 * 2**30
# Of what the engine says is wrong so many letters are shown.
MOST_WORDS = 160
# So many threads are as fast as two cores; more gain little.
THREADS = 2


class RecognitionError(InputError):
    """A page could not be recognised."""


class _Answer(msgspec.Struct, frozen=True):
    """What the process says of a page."""

    page: RecognisedPage | None = None
    fault: str = ""


def is_engine_installed() -> bool:
    """Whether pages can be recognised on this machine."""
    return importlib.util.find_spec(ENGINE) is not None


class Recogniser:
    """Recognises pages of one document; the process begins with the first page and ends with the `with`."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._process: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> "Recogniser":
        return self

    def __exit__(
        self, kind: type[BaseException] | None, fault: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._end()

    def page(self, number: int, look: Callable[[], None] = lambda: None, box: Box | None = None) -> RecognisedPage:
        """Recognise a page (from 1), or what is within a box of it; `look` is called five times a second, and may raise
        to cancel.

        Raises:
            RecognitionError: the engine is not installed, or the page takes too much time or memory.
        """
        if not is_engine_installed():
            raise RecognitionError(NOT_INSTALLED)
        asked = " ".join(map(str, (number, *(box or ()))))
        line = self._asked(asked, look)
        if not line:
            self._end()
            raise RecognitionError(
                f"page {number} of {self._path.name} takes more than {LONGEST_PAGE_S} s or too much memory to recognise"
            )
        answer = msgspec.json.decode(line, type=_Answer)
        if answer.page is None:
            raise RecognitionError(f"page {number} of {self._path.name} cannot be recognised: {answer.fault}")
        return answer.page

    def _asked(self, line: str, look: Callable[[], None]) -> bytes:
        """The line that the process answers with; empty where it ended or took too long."""
        process = self._process or self._begun()
        asked, answers = _pipes(process)
        try:
            asked.write(f"{line}\n".encode())
            asked.flush()
        except BrokenPipeError:
            return b""
        end = time.monotonic() + LONGEST_PAGE_S
        while time.monotonic() < end:
            try:
                look()
            except BaseException:
                self._end()
                raise
            if select.select([answers], [], [], LOOK_S)[0]:
                return answers.readline()
        return b""

    def _begun(self) -> subprocess.Popen[bytes]:
        command = [sys.executable, "-m", __name__, str(self._path)]
        self._process = subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
        )
        return self._process

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            process.wait()
            for pipe in _pipes(process):
                pipe.close()


def _pipes(process: subprocess.Popen[bytes]) -> tuple[IO[bytes], IO[bytes]]:
    if process.stdin is None or process.stdout is None:
        raise RecognitionError("the process that recognises pages has no pipes")
    return process.stdin, process.stdout


def _words_of(fault: Exception) -> str:
    """What to say of a fault of the engine, whose own words may be a page long."""
    lines = str(fault).strip().splitlines() or [type(fault).__name__]
    return "there is too much on it for the memory" if "alloc" in lines[-1] else lines[-1][:MOST_WORDS]


def _main() -> None:
    """What the process does."""
    import resource

    import pypdfium2

    from eider.datasheets.pages.page_frame import PageFrame
    from eider.datasheets.recognition.letter_recognition import LetterEngine
    from eider.datasheets.recognition.page_recognition import picture_scale, recognise_page, recognise_part

    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    engine = LetterEngine(THREADS)
    document = pypdfium2.PdfDocument(sys.argv[1])
    for line in sys.stdin:
        first, *edges = line.split()
        number = int(first)
        try:
            page = document[number - 1]
            crop = tuple(map(float, page.get_cropbox()))
            frame = PageFrame(crop, page.get_rotation() // 90)  # type: ignore[arg-type]  # a box has four values
            with closing(page.render(scale=picture_scale(frame.size), grayscale=True)) as bitmap:
                grey = bitmap.to_numpy()
                picture = grey.reshape(grey.shape[:2]).copy()
            page.close()
            if edges:
                x0, y0, x1, y1 = map(float, edges)
                answer = _Answer(recognise_part(picture, number, frame, engine, (x0, y0, x1, y1)))
            else:
                answer = _Answer(recognise_page(picture, number, frame, engine))
        except Exception as fault:  # whatever ails the engine on this page, the next one may be read
            answer = _Answer(fault=_words_of(fault))
        sys.stdout.buffer.write(msgspec.json.encode(answer) + b"\n")
        sys.stdout.buffer.flush()


if __name__ == "__main__":
    _main()
