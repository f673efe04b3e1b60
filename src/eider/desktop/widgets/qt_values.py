"""What Qt gives at any time, although its types say that it may give nothing."""

from typing import TypeVar

T = TypeVar("T")


def present(value: T | None) -> T:
    """A header, a viewport, an event of Qt's own: never None where this is asked.

    Raises:
        TypeError: it is None after all.
    """
    if value is None:
        raise TypeError("Qt gave nothing where it always gives something")
    return value
