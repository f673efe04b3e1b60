"""Finds the modules of a package, so that one more family, check, format or step is one more file and nothing else.

A distribution that is installed beside Eider adds its own by entry points: the group is the name of the package here,
such as `eider.packages.families`, and each entry names a module.
"""

import importlib
import pkgutil
from collections.abc import Iterator
from functools import cache
from types import ModuleType


def modules_of(package: ModuleType) -> Iterator[ModuleType]:
    """Import every module that lies directly in a package, in the order of their names, then those of entry points."""
    for found in sorted(pkgutil.iter_modules(package.__path__), key=lambda module: module.name):
        yield importlib.import_module(f"{package.__name__}.{found.name}")
    for name in _plugins().get(package.__name__, ()):
        yield importlib.import_module(name)


@cache
def _plugins() -> dict[str, tuple[str, ...]]:
    """The modules that installed distributions add, by the package that they add to, in the order of their names."""
    from importlib.metadata import entry_points

    points = entry_points()
    groups = [group for group in points.groups if group.startswith("eider.")]
    return {group: tuple(sorted({point.value for point in points.select(group=group)})) for group in groups}
