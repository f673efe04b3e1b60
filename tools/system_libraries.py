"""Prints the Debian packages of the shared libraries that Qt and EGL need and this machine lacks."""

import ctypes

PACKAGE_OF = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libEGL_mesa.so.0": "libegl-mesa0",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libdbus-1.so.3": "libdbus-1-3",
    "libfontconfig.so.1": "libfontconfig1",
}


def is_missing(library: str) -> bool:
    try:
        ctypes.CDLL(library)
    except OSError:
        return True
    return False


print(" ".join(sorted(package for library, package in PACKAGE_OF.items() if is_missing(library))))
