"""Eider installed from a built wheel: it runs elsewhere, and brings everything that it reads."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
MENU_FILES = (
    "applications/eider.desktop",
    "metainfo/eider.metainfo.xml",
    "icons/hicolor/scalable/apps/eider.svg",
    "man/man1/eider.1",
    "bash-completion/completions/eider.bash",
    "zsh/site-functions/_eider",
    "fish/vendor_completions.d/eider.fish",
)


def run(*command: str | Path, **environment: str) -> str:
    done = subprocess.run(
        [str(piece) for piece in command],
        capture_output=True,
        text=True,
        env={**os.environ, **environment},
        timeout=120,
        check=False,
        cwd="/",
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The prefix that a wheel of this checkout was installed under, without what it stands on."""
    source, wheels, prefix = (tmp_path_factory.mktemp(name) for name in ("source", "wheels", "prefix"))
    for name in ("src", "packaging"):
        shutil.copytree(ROOT / name, source / name, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
    for name in ("pyproject.toml", "README.md", "LICENSE"):
        shutil.copy(ROOT / name, source)
    pip = (sys.executable, "-m", "pip", "--quiet", "--disable-pip-version-check")
    run(*pip, "wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", wheels, source)
    run(*pip, "install", "--no-deps", "--no-index", "--prefix", prefix, next(wheels.glob("*.whl")))
    return prefix


def test_the_command_works_and_no_data_file_is_missing(installed: Path, tmp_path: Path) -> None:
    (packages,) = installed.glob("lib/python*/site-packages")
    data = [p.relative_to(ROOT / "src") for p in (ROOT / "src").rglob("*") if p.is_file() and p.suffix != ".py"]
    wanted = [path for path in data if path.suffix not in (".pyc", ".txt") and "egg-info" not in str(path)]
    assert len(wanted) >= 20
    assert [str(path) for path in wanted if not (packages / path).exists()] == []

    def eider(*arguments: str | Path) -> str:
        return run(installed / "bin" / "eider", *arguments, PYTHONPATH=str(packages), QT_QPA_PLATFORM="offscreen")

    sheet = {"format": "eider-package/1", "name": "", "family": "chip", "pins": 2, "kind": "resistor"}
    lengths = {"D": "1.85–2.15", "E": "1.10–1.40", "L": "0.25–0.75", "A": "max 0.65"}
    path = tmp_path / "chip.json"
    path.write_text(json.dumps({**sheet, "dims": lengths}))
    assert json.loads(eider("lands", path, "--json"))["name"] == "RESC2012X65N"
    assert "released as revision 1" in eider("demo", "--headless", "--out", tmp_path / "demo")


def test_the_shell_completes_commands(installed: Path) -> None:
    (packages,) = installed.glob("lib/python*/site-packages")
    asked = {"_EIDER_COMPLETE": "bash_complete", "COMP_WORDS": "eider rule", "COMP_CWORD": "1"}
    assert run(installed / "bin" / "eider", PYTHONPATH=str(packages), **asked) == "plain,rulebook\n"


def test_the_desktop_finds_its_entry_icon_and_manual(installed: Path) -> None:
    assert [name for name in MENU_FILES if not (installed / "share" / name).exists()] == []
    entry = (installed / "share" / MENU_FILES[0]).read_text()
    assert "\nExec=eider open\n" in entry
    assert "\nIcon=eider\n" in entry
