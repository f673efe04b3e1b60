"""Sums while several threads read them."""

import sys
import threading

import pytest

from eider.geometry.expressions import evaluate_expression


def test_sums_are_read_in_several_threads_at_the_same_time() -> None:
    before, faults = sys.getswitchinterval(), []

    def read() -> None:
        for _ in range(500):
            try:
                assert evaluate_expression(
                    "(E - L)/2 + 0.1*(3 + (4 - 2))", {"E": 6.0, "L": 1.0}, "mm"
                ) == pytest.approx(3.0)
            except Exception as fault:  # whatever it is, it is told below
                faults.append(repr(fault))

    sys.setswitchinterval(1e-6)
    try:
        threads = [threading.Thread(target=read) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    finally:
        sys.setswitchinterval(before)
    assert faults == []
