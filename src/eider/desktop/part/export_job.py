"""Exports a part from anywhere in the window: format by format, with progress, in the kernel's process."""

from collections.abc import Callable
from pathlib import Path

from eider.commands.parts.evaluation import EvaluationRules
from eider.desktop.jobs import Jobs
from eider.model.bundle import Bundle
from eider.model.wording import counted
from eider.services.publishing.exporting import Exported, ExportRequest
from eider.services.publishing.format_registry import default_formats
from eider.services.tasks import Task


def run_export(
    jobs: Jobs,
    title: str,
    load: Callable[[], tuple[Bundle, EvaluationRules, dict[str, str]]],
    folder: Path,
    say: Callable[[str], None],
) -> None:
    """Write the part that `load` gives (in the library's thread) in every format into a folder, and say so."""

    def work(task: Task) -> list[Exported]:
        bundle, rules, documents = load()
        made = []
        keys = default_formats()
        for index, key in enumerate(keys):
            task.report(index / len(keys), f"writing {key}")
            made.append(jobs.in_kernel(ExportRequest(bundle, (key,), str(folder), rules, documents)))
        return made

    def done(results: list[Exported]) -> None:
        files = [file for result in results for file in result.files]
        failed = [entry for result in results for entry in result.log if "not written" in entry]
        say("; ".join([f"{counted(len(files), 'file')} written into {folder}", *failed]))

    jobs.run_long("export", title, work, done)
