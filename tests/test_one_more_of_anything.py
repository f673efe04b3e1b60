"""One more family, check, format or step is one file, in the tree or in an installed distribution: it works everywhere.

Each test runs in a process of its own, so that the others do not know the file.
"""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

PLUGINS = Path(__file__).parent / "plugins"
SOURCE = str(Path(__file__).parents[1] / "src")
METADATA = "Metadata-Version: 2.1\nName: eider-extra\nVersion: 1.0\n"


def installed(packages: dict[str, str], site: Path) -> Path:
    """A folder of installed distributions with one that adds the modules of some folders by entry points."""
    about = site / "eider_extra-1.0.dist-info"
    about.mkdir(parents=True)
    (about / "METADATA").write_text(METADATA)
    lines = []
    for package, folder in packages.items():
        lines.append(f"[{package}]")
        for module in (PLUGINS / folder).glob("*.py"):
            shutil.copy(module, site / f"eider_extra_{module.name}")
            lines.append(f"{module.stem} = eider_extra_{module.stem}")
    (about / "entry_points.txt").write_text("\n".join(lines))
    return site


def run(packages: dict[str, str], code: str, tmp_path: Path) -> dict[str, object]:
    """The JSON that code prints, where a distribution with the modules of some folders is installed."""
    text = "import json, sys\nfrom pathlib import Path\n" + code
    paths = f"{SOURCE}{os.pathsep}{installed(packages, tmp_path / 'site')}"
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "EIDER_TEST": str(tmp_path), "PYTHONPATH": paths}
    done = subprocess.run(
        [sys.executable, "-c", text], capture_output=True, text=True, timeout=120, check=False, env=environment
    )
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout.strip().splitlines()[-1])


SLAB = """
from click.testing import CliRunner
from eider.cli.main import cli
from eider.commands.parts import new_parts
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.library import init_library
from eider.library.git.commit_reading import Person
from eider.packages.registry import all_families
from eider.rulebooks import standard_rulebook
from eider.views.part_state import PartState, ViewOptions
from eider.views.step_registry import make_view
import os
folder = Path(os.environ["EIDER_TEST"])
sheet = {"family": "slab", "dims": {"D": "3.9–4.1", "E": "1.9–2.1", "L": "0.4–0.6", "A": "max 1.2"}, "ribs": 3}
(folder / "sheet.json").write_text(json.dumps(sheet))
lands = CliRunner().invoke(cli, ["lands", str(folder / "sheet.json"), "--json"])
body = CliRunner().invoke(cli, ["body", str(folder / "sheet.json"), "--out", str(folder / "b.step"), "--json"])
library = init_library(folder / "library", "Test", Person("Skerry librarian", "librarian@skerry.example"))
bundle = package_edits.set_family(new_parts.new_part("X", "resistor", library.settings), "slab")
for letter, text in sheet["dims"].items():
    bundle = package_edits.set_dimension(bundle, letter, text)
bundle = package_edits.set_field(bundle, "ribs", "3")
rules = EvaluationRules(standard_rulebook(), library.settings)
state = PartState(evaluate_part(bundle, rules), rules)
view = make_view(state, "package", ViewOptions())
print(json.dumps({
    "listed": "slab" in all_families(), "lands": json.loads(lands.stdout), "body": json.loads(body.stdout)["solids"],
    "fields": [f.key for f in view.fields], "drawn": len(view.drawings), "footprint": state.bundle.footprint.name,
    "solids": len(make_view(state, "body", ViewOptions()).solids),
}))
"""


def test_a_family_with_an_input_that_is_no_length_and_goals_of_its_own(tmp_path: Path) -> None:
    found = run({"eider.packages.families": "families"}, SLAB, tmp_path)
    assert (found["listed"], found["fields"], found["drawn"]) == (True, ["ribs"], 2)
    lands = found["lands"]
    assert isinstance(lands, dict)
    assert lands["name"] == "SLAB400R3N" == found["footprint"]
    # Z = 3.9 + 2 · 0.50 + √(0.2² + 0.1² + 0.05²) = 5.1291, to the nearest 0.05.
    assert lands["derivation"][0]["Z"] == 5.15
    assert found["solids"] == 3


MASS = """
from eider.checks import all_checks
from eider.commands.facts import fact_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.demo.parts import converter_part
from eider.library import init_library
from eider.library.git.commit_reading import Person
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from eider.views.step_registry import step_of
import os
library = init_library(Path(os.environ["EIDER_TEST"]) / "l", "Test", Person("Skerry librarian", "l@skerry.example"))
bundle = converter_part(library, DatasheetLink("0" * 64, "x.pdf", 4))
rules = EvaluationRules(standard_rulebook(), library.settings)
light = evaluate_part(fact_edits.set_fact(bundle, "Mass", "9 g"), rules)
heavy = evaluate_part(fact_edits.set_fact(bundle, "Mass", "12 g"), rules, before=light)
found = [f for f in heavy.findings if f.check == "mass.too-heavy"]
print(json.dumps({
    "last": list(all_checks())[-1], "title": all_checks()["mass.too-heavy"].title, "light": len(light.findings),
    "heavy": [str(f.address) for f in found], "step": step_of(found[0]),
}))
"""


def test_a_check_of_an_area_of_its_own(tmp_path: Path) -> None:
    found = run({"eider.checks.areas": "areas"}, MASS, tmp_path)
    assert found == {
        "last": "mass.too-heavy",
        "title": "A part of more than ten grams is held by more than its joints.",
        "light": 0,
        "heavy": ["facts.Mass"],
        "step": "facts",
    }


LABEL = """
from click.testing import CliRunner
from eider.cli.main import cli
from eider.demo.build import attach
from eider.demo.parts import LIBRARIAN, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.library import init_library
from eider.services.publishing.format_registry import default_formats, pin_file_patterns, read_pin_file
from eider.services.releasing.part_releasing import release_part
import os
folder = Path(os.environ["EIDER_TEST"])
write_converter_datasheet(folder / "a.pdf")
library = init_library(folder / "library", "Test", LIBRARIAN)
release_part(library, converter_part(library, attach(library, folder / "a.pdf", 4)), "first")
library.close()
arguments = ["export", str(folder / "library"), "NVK-1216T", "--to", "label", "--out", str(folder), "--json"]
made = CliRunner().invoke(cli, arguments)
file = folder / "NVK-1216T.label"
unnamed = folder / "unnamed"
unnamed.write_bytes(file.read_bytes())
print(json.dumps({
    "files": json.loads(made.stdout)["files"], "by suffix": len(read_pin_file(file)[0].reading.pins),
    "by content": len(read_pin_file(unnamed)[0].reading.pins), "patterns": "*.label" in pin_file_patterns(),
    "default": "label" in default_formats(),
}))
"""


def test_a_format_that_is_written_and_read(tmp_path: Path) -> None:
    found = run({"eider.exchange.formats": "formats"}, LABEL, tmp_path)
    assert found == {
        "files": [str(tmp_path / "NVK-1216T.label")],
        "by suffix": 16,
        "by content": 16,
        "patterns": True,
        "default": False,
    }


STORAGE = """
from PyQt6.QtTest import QTest
from eider.demo.build import attach
from eider.demo.parts import LIBRARIAN, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.library import init_library
from eider.library.documents.working_copies import WorkingCopy
from eider.commands.facts import fact_edits
import os
folder = Path(os.environ["EIDER_TEST"])
write_converter_datasheet(folder / "a.pdf")
library = init_library(folder / "library", "Test", LIBRARIAN)
bundle = fact_edits.set_fact(converter_part(library, attach(library, folder / "a.pdf", 4)), "Drawer", "14 C")
library.copies.save(WorkingCopy(bundle=bundle, findings={}))
application = make_application()
window = MainWindow(library)
window.show()
window.open_part(bundle.part.id)
while window.page is None or not (window.jobs.is_idle and window.page.controller.is_settled):
    QTest.qWait(5)
titles = [button.text() for button in window.page.trail.buttons]
window.page.go_to(titles.index("Storage"))
while not (window.jobs.is_idle and window.page.controller.is_settled):
    QTest.qWait(5)
print(json.dumps({
    "titles": titles, "shown": window.page.current.label.text(),
    "menu": [a.title for a in window.actions_list if a.id == "step.storage"],
    "state": window.page.trail.buttons[titles.index("Storage")].state_text,
}))
window.close()
"""


def test_a_step_of_the_trail_with_view_and_widget(tmp_path: Path) -> None:
    found = run({"eider.views.steps": "steps"}, STORAGE, tmp_path)
    assert found == {
        "titles": ["Source", "Pins", "Package", "Lands", "Body", "Match", "Facts", "Storage", "Review"],
        "shown": "Kept in 14 C",
        "menu": ["Storage"],
        "state": "complete",
    }
