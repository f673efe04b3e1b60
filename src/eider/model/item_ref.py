"""How items refer to each other: by permanent id; the name is only a hint for people."""

import msgspec


class Ref(msgspec.Struct, frozen=True, omit_defaults=True):
    """A link to an item; `revision` is set in released parts, and names the exact one."""

    id: str
    name: str = ""
    revision: int | None = None
