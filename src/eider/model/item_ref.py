"""How items refer to each other: by permanent id; the name is only a hint for people."""

from typing import Annotated

import msgspec

# Ids and sums come back from files as they were written, or not at all: they become names of files and of rows.
ItemId = Annotated[str, msgspec.Meta(pattern=r"^[A-Za-z0-9_.-]{0,64}$")]
SHA256 = r"^[0-9a-f]{64}$"
Sha256 = Annotated[str, msgspec.Meta(pattern=SHA256)]


class Ref(msgspec.Struct, frozen=True, omit_defaults=True):
    """A link to an item; `revision` is set in released parts, and names the exact one."""

    id: ItemId
    name: str = ""
    revision: int | None = None
