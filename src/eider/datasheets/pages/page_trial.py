"""Tries the pages of a document in a process of its own before it is let in.

PDFium cannot be stopped once it reads a page: one that is drawn of itself, or of a million lines, would take all memory
or all time of the process that shows it. What happens here happens to a process that nobody misses.
"""

import contextlib
import resource
import signal
import subprocess
import sys
from pathlib import Path

import platformdirs

from eider.datasheets.pages.document import DatasheetError

# For one page, and for the process as a whole.
LONGEST_PAGE_S, MOST_MEMORY = 30, 2 * 2**30
# Drawn small: what takes long is how much there is, not how large it is.
SCALE = 0.25


def try_pages_once(path: Path, sha256: str) -> None:
    """Try the pages of a document that this machine sees for the first time; by its sum it is known again.

    Raises:
        DatasheetError: as `try_pages`.
    """
    mark = Path(platformdirs.user_cache_dir("eider")) / "tried-documents" / sha256
    if mark.exists():
        return
    try_pages(path)
    # Where nothing can be noted it is tried again the next time.
    with contextlib.suppress(OSError):
        mark.parent.mkdir(parents=True, exist_ok=True)
        mark.touch()


def try_pages(path: Path) -> None:
    """Read and draw every page of a document once, elsewhere; do so before it is opened here.

    Raises:
        DatasheetError: a page takes longer than half a minute or more memory than there should be need of.
    """
    command = [sys.executable, "-m", __name__, str(path), str(LONGEST_PAGE_S), str(MOST_MEMORY)]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    if done.returncode > 0 and "MemoryError" not in done.stderr:
        # The trial itself failed, which says nothing of the document.
        reason = (done.stderr.strip().splitlines() or ["no reason was given"])[-1]
        raise DatasheetError(f"{path.name} cannot be tried before it is opened: {reason}; check how Eider is installed")
    if done.returncode:
        page = done.stdout.count("\n") + 1
        raise DatasheetError(
            f"page {page} of {path.name} takes more than {LONGEST_PAGE_S} s or {MOST_MEMORY >> 30} GB to read; "
            "print it to a new PDF, or leave the page out"
        )


def _limited(seconds: int, memory: int) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    signal.signal(signal.SIGALRM, signal.SIG_DFL)
    signal.alarm(seconds)


def _main() -> None:
    path, seconds, memory = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
    import pypdfium2

    _limited(seconds, memory)
    try:
        document = pypdfium2.PdfDocument(path)
    except (pypdfium2.PdfiumError, OSError):
        # Whoever opens it says what is wrong with it.
        return
    for index in range(len(document)):
        _limited(seconds, memory)
        # A page that is merely damaged says so when it is looked at.
        with contextlib.suppress(pypdfium2.PdfiumError):
            page = document[index]
            page.get_textpage().count_chars()
            page.render(scale=SCALE)
        print(index + 1, flush=True)


if __name__ == "__main__":
    _main()
