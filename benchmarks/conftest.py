"""Benchmarks run apart from the tests: `tools/bench`. Figures go into docs/performance.md by hand, with the machine."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
