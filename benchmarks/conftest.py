"""Benchmarks run apart from the tests: `tools/bench` writes their figures into docs/measured.md, with the machine."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
