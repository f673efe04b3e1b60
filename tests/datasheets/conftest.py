"""The demo's datasheets, drawn once."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from drawn_tables import Open
from eider.datasheets import Datasheet
from eider.demo.sheets import write_datasheets


@pytest.fixture(scope="session")
def sheets(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("sheets")
    write_datasheets(folder)
    return folder


@pytest.fixture
def opened(sheets: Path) -> Iterator[Open]:
    documents: list[Datasheet] = []

    def make(name: str) -> Datasheet:
        documents.append(Datasheet(sheets / f"{name}.pdf"))
        return documents[-1]

    yield make
    for document in documents:
        document.close()
