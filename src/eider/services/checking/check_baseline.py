"""A file of findings that are known: a build server counts only what is new since."""

from collections.abc import Iterable
from pathlib import Path

from eider.errors import InputError
from eider.library.atomic_files import write_atomic
from eider.model.codec import DocumentError, decode, encode
from eider.model.finding import Finding


def baseline_key(finding: Finding) -> str:
    """By what a finding is known again: its part, check and place. Figures may change without its being new."""
    return f"{finding.item} {finding.check} {finding.address}"


def save_baseline(path: Path, findings: Iterable[Finding]) -> None:
    """Write the findings to a file.

    Raises:
        LibraryError: it cannot be written.
    """
    write_atomic(path, encode(sorted({baseline_key(finding) for finding in findings})).encode())


def read_baseline(path: Path) -> frozenset[str]:
    """The known findings.

    Raises:
        InputError: the file is not there, or no baseline.
    """
    try:
        return frozenset(decode(path.read_bytes(), list[str], str(path)))
    except OSError as fault:
        raise InputError(f"{path} cannot be read: {fault.strerror}; write one with --write-baseline") from fault
    except DocumentError as fault:
        raise InputError(f"{path} is not a baseline: {fault}") from fault
