"""Parts evaluated by the rules of their library, one after the other, and kept as working copies."""

from eider.commands.parts.evaluation import EvaluatedPart, EvaluationRules, evaluate_part
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.services.parts.part_rules import rules_for


class EvaluationRun:
    """Evaluates part after part; what one has in common with the one before is not computed again."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._rules: dict[str, EvaluationRules] = {}
        self._last: EvaluatedPart | None = None

    def rules_of(self, bundle: Bundle) -> EvaluationRules:
        """The rules that a part is compared with, read once for each rulebook."""
        key = bundle.footprint.rulebook
        if key not in self._rules:
            self._rules[key] = rules_for(self._library, bundle)
        return self._rules[key]

    def evaluated(self, bundle: Bundle) -> EvaluatedPart:
        """The next part."""
        self._last = evaluate_part(bundle, self.rules_of(bundle), before=self._last)
        return self._last


def save_part(library: Library, part: EvaluatedPart) -> None:
    """Keep a part as a working copy, with what the checks found.

    Raises:
        LibraryError: it cannot be written.
    """
    library.copies.save(WorkingCopy(bundle=part.bundle, findings=part.counts))


def save_evaluated(library: Library, bundle: Bundle) -> None:
    """Keep a part as it is stored as a working copy, with its checks.

    Raises:
        LibraryError: it cannot be written.
    """
    save_part(library, evaluate_part(bundle, rules_for(library, bundle), fresh=False))
