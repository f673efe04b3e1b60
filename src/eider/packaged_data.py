"""The tables and other data that ship beside the modules, by path: `importlib.resources` takes longer to import."""

from pathlib import Path

_ROOT = Path(__file__).parent


def packaged_path(name: str) -> Path:
    """Where a file of Eider's own is, such as `symbols/graphics.toml`."""
    return _ROOT / name


def packaged_text(name: str) -> str:
    """The text of such a file."""
    return packaged_path(name).read_text(encoding="utf-8")
