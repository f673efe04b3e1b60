"""Finds the modules of a package, so that one more family, check, format or step is one more file and nothing else."""

import importlib
import pkgutil
from collections.abc import Iterator
from types import ModuleType


def modules_of(package: ModuleType) -> Iterator[ModuleType]:
    """Import every module that lies directly in a package, in the order of their names."""
    for found in sorted(pkgutil.iter_modules(package.__path__), key=lambda module: module.name):
        yield importlib.import_module(f"{package.__name__}.{found.name}")
