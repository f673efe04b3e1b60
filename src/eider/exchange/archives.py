"""Archives from elsewhere, read in memory with limits: nothing in them is trusted, and nothing is unpacked on disk."""

import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from eider.errors import InputError

# Limits of what is read: files, bytes of one and of all, and how much more they may be than what is packed.
MOST_FILES, LARGEST_FILE, LARGEST_SUM, MOST_RATIO = 50_000, 256 * 2**20, 2**31, 200
# Small archives of text pack well without meaning harm.
RATIO_FROM = 16 * 2**20
# The time of each file in an archive that Eider writes: two of the same content are the same.
NO_TIME = (1980, 1, 1, 0, 0, 0)


class Archive:
    """The files of an archive by their names; `left_out` says which are not read, and why."""

    def __init__(self, path: Path, opened: zipfile.ZipFile) -> None:
        self.path, self._zip = path, opened
        self.left_out: list[str] = []
        self._entries: dict[str, zipfile.ZipInfo] = {}
        entries = opened.infolist()
        if len(entries) > MOST_FILES:
            raise InputError(f"{path.name} holds {len(entries):,} files, more than {MOST_FILES:,}; split it")
        total = sum(entry.file_size for entry in entries)
        if total > LARGEST_SUM or (total > RATIO_FROM and total > MOST_RATIO * max(path.stat().st_size, 1)):
            raise InputError(f"{path.name} would unpack to {total >> 20:,} MB; that is not an archive of parts")
        for entry in entries:
            fault = _fault_of(entry)
            if fault or entry.filename in self._entries:
                self.left_out.append(f"{entry.filename[:120]}: {fault or 'its name is there twice; the first counts'}")
            elif not entry.is_dir():
                self._entries[entry.filename] = entry

    @property
    def names(self) -> tuple[str, ...]:
        """The names of its files, with forward slashes."""
        return tuple(self._entries)

    def read(self, name: str) -> bytes:
        """The content of a file.

        Raises:
            InputError: it is not there, or damaged.
        """
        if name not in self._entries:
            raise InputError(f"{self.path.name} has no {name}")
        try:
            # A header that lies about the size cannot make more of it.
            with self._zip.open(self._entries[name]) as file:
                data = file.read(LARGEST_FILE + 1)
        # Broken packing faults in as many ways as there are methods.
        except Exception as fault:
            raise InputError(f"{name} in {self.path.name} is damaged: {fault}; fetch the archive again") from fault
        if len(data) > LARGEST_FILE:
            raise InputError(f"{name} in {self.path.name} has more than {LARGEST_FILE >> 20} MB")
        return data


@contextmanager
def opened_archive(path: Path) -> Iterator[Archive]:
    """Open an archive (zip) for reading.

    Raises:
        InputError: it is not there, no archive, damaged, or beyond the limits.
    """
    try:
        opened = zipfile.ZipFile(path)
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    except Exception as fault:
        raise InputError(f"{path.name} is not an archive, or is damaged ({fault}); fetch it again") from fault
    with opened:
        yield Archive(path, opened)


def archive_bytes(files: Mapping[str, bytes]) -> bytes:
    """An archive of files by their names; the same for the same files, whenever it is made."""
    import io

    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name in sorted(files):
            archive.writestr(zipfile.ZipInfo(name, NO_TIME), files[name], zipfile.ZIP_DEFLATED)
    return buffer.getvalue()


def _fault_of(entry: zipfile.ZipInfo) -> str:
    """Why a file of an archive is not read; empty where it is."""
    names = entry.filename.rstrip("/").split("/")
    if any(name in ("", ".", "..") or "\0" in name or "\\" in name for name in names) or ":" in names[0]:
        return "its name leads out of the archive"
    if entry.flag_bits & 1:
        return "it is encrypted"
    # The upper half of the attributes is the mode of the file where a Unix wrote it: links are none of ours.
    if (entry.external_attr >> 16) & 0o170000 == 0o120000:
        return "it is a link"
    return f"it has {entry.file_size >> 20} MB" if entry.file_size > LARGEST_FILE else ""
