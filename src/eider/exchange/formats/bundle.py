"""The Eider bundle: parts with all that belongs to them in one archive (docs/format/bundle.md)."""

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import TypeVar

import msgspec

from eider.errors import InputError
from eider.exchange.archives import Archive, archive_bytes, opened_archive
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile, FoundPart
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.documents.attachments import linked_documents, released_path
from eider.library.item_paths import KIND_TYPES, item_path, safe_name
from eider.model.body import Body
from eider.model.bundle import Bundle, Item
from eider.model.codec import DocumentError, decode, encode
from eider.model.footprint import Footprint
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.symbol import Symbol

BUNDLE_FILE_FORMAT = "eider-bundle/1"
MANIFEST, SUFFIX = "manifest.json", ".eider.zip"
T = TypeVar("T", bound=Item)


class BundledPart(msgspec.Struct, frozen=True):
    """A part of a bundle: its name, its revision (0 if it was not released), and the paths of its items by kind."""

    name: str
    revision: int
    items: dict[str, str]


class BundleManifest(msgspec.Struct, frozen=True):
    """What a bundle holds: its parts, and the SHA-256 of each of its files."""

    format: str
    parts: tuple[BundledPart, ...]
    files: dict[str, str]


class ReadBundle(msgspec.Struct, frozen=True):
    """The parts of a bundle, their datasheets and STEP files by their sum, and what was not read and why."""

    parts: tuple[Bundle, ...]
    documents: dict[str, bytes]
    log: tuple[str, ...]


def bundle_archive(bundles: Sequence[Bundle], documents: Mapping[str, bytes]) -> bytes:
    """The archive of parts; items that they share are in it once. `documents` are their files by their sum."""
    files: dict[str, bytes] = {}
    parts = []
    for bundle in bundles:
        paths = {}
        for kind, item in bundle.items():
            paths[kind] = _free_path(files, item_path(kind, item), f".{kind}.json", encode(item).encode())
        release = bundle.part.release
        parts.append(BundledPart(bundle.part.name, release.revision if release else 0, paths))
        for path, sha256 in _document_paths(bundle):
            if sha256 in documents:
                files[path] = documents[sha256]
    sums = {path: hashlib.sha256(data).hexdigest() for path, data in sorted(files.items())}
    manifest = BundleManifest(BUNDLE_FILE_FORMAT, tuple(parts), sums)
    return archive_bytes({**files, MANIFEST: encode(manifest).encode()})


def _free_path(files: dict[str, bytes], path: str, suffix: str, data: bytes) -> str:
    """Where an item is put: items of one name and other content, such as two revisions, lie beside each other."""
    stem, count, wanted = path.removesuffix(suffix), 1, path
    while files.get(wanted, data) != data:
        count += 1
        wanted = f"{stem}~{count}{suffix}"
    files[wanted] = data
    return wanted


def _document_paths(bundle: Bundle) -> Iterator[tuple[str, str]]:
    return ((released_path(kind, sha256), sha256) for kind, sha256 in linked_documents(bundle))


def read_bundle(path: Path) -> ReadBundle:
    """Read a bundle; a part of which something is missing or damaged is left out and told.

    Raises:
        InputError: the file is not a bundle, or is of a newer format.
    """
    with opened_archive(path) as archive:
        try:
            manifest = decode(archive.read(MANIFEST), BundleManifest, f"{MANIFEST} of {path.name}")
        except DocumentError as fault:
            raise InputError(f"{path.name} is not an Eider bundle: {fault}") from fault
        if manifest.format != BUNDLE_FILE_FORMAT:
            raise InputError(f"{path.name} has the format {manifest.format}; this Eider reads {BUNDLE_FILE_FORMAT}")
        log = list(archive.left_out)
        parts = []
        for entry in manifest.parts:
            try:
                parts.append(_read_part(archive, manifest, entry))
            except InputError as fault:
                log.append(f"{entry.name} is left out: {fault}")
        documents = {}
        for name, sha256 in {pair for part in parts for pair in _document_paths(part)}:
            if name in archive.names and hashlib.sha256(data := archive.read(name)).hexdigest() == sha256:
                documents[sha256] = data
            else:
                log.append(f"{name} is missing or is not the file that it was")
    return ReadBundle(tuple(parts), documents, tuple(sorted(log)))


def _read_part(archive: Archive, manifest: BundleManifest, entry: BundledPart) -> Bundle:
    items = {kind: _read_item(archive, manifest, entry, kind) for kind in KIND_TYPES}
    return Bundle(
        part=_as(items["part"], Part),
        sheet=_as(items["package"], PackageSheet),
        symbol=_as(items["symbol"], Symbol),
        footprint=_as(items["footprint"], Footprint),
        body=_as(items["body"], Body),
    )


def _read_item(archive: Archive, manifest: BundleManifest, entry: BundledPart, kind: str) -> Item:
    path = entry.items.get(kind)
    if path is None:
        raise InputError(f"the manifest names no {kind}")
    data = archive.read(path)
    if hashlib.sha256(data).hexdigest() != manifest.files.get(path):
        raise InputError(f"{path} is not the file that the manifest tells; fetch the bundle again")
    item: Item = decode(data, KIND_TYPES[kind], path)
    return item


def _as(item: Item, kind: type[T]) -> T:
    if not isinstance(item, kind):
        raise InputError(f"{type(item).__name__} is in place of a {kind.__name__}")
    return item


def _write(source: ExportSource, folder: Path) -> list[Path]:
    path = folder / f"{safe_name(source.bundle.part.name)}{SUFFIX}"
    documents = {sha256: Path(file).read_bytes() for sha256, file in source.documents.items()}
    write_atomic(path, bundle_archive([source.bundle], documents))
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    read = read_bundle(path)
    found = (FoundPart(name=part.part.name, source=path.name, bundle=part) for part in read.parts)
    return FoundFile(tuple(found), read.documents, read.log)


FORMAT = FormatSpec(
    key="bundle",
    title="Eider bundle, for other libraries",
    suffixes=(SUFFIX,),
    order=45,
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    archived=MANIFEST,
)
