"""The command line in tests: in this process, or as a shell starts it."""

import io
import json
import os
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any, NamedTuple
from unittest import mock

from eider.cli.main import main


class Said(NamedTuple):
    stdout: str
    stderr: str


def eider(*arguments: str | Path, status: int = 0) -> Said:
    """The command in this process: starting one for each would take most of the tests' time."""
    output, errors, left = io.StringIO(), io.StringIO(), 0
    with redirect_stdout(output), redirect_stderr(errors), mock.patch("sys.argv", ["eider", *map(str, arguments)]):
        try:
            main()
        except SystemExit as ended:
            left = int(ended.code or 0)
    said = Said(output.getvalue(), errors.getvalue())
    assert "Traceback" not in said.stderr
    assert left == status, said.stderr
    return said


def eider_process(*arguments: str | Path, status: int = 0) -> Said:
    """The command as a shell starts it."""
    command = [sys.executable, "-m", "eider", *map(str, arguments)]
    environment = {**os.environ, "PYTHONPATH": "src"}
    result = subprocess.run(command, capture_output=True, text=True, env=environment, timeout=120, check=False)
    assert "Traceback" not in result.stderr
    assert result.returncode == status, result.stderr
    return Said(result.stdout, result.stderr)


def answer(*arguments: str | Path, status: int = 0) -> Any:
    return json.loads(eider(*arguments, "--json", status=status).stdout)
