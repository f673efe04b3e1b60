"""The rules that the parts of a library are held to."""

from eider.commands.parts.evaluation import EvaluationRules
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_MATERIALS
from eider.model.bundle import Bundle


def rules_for(library: Library, bundle: Bundle) -> EvaluationRules:
    """The rulebook of a part's footprint, the settings of its library, and the library's own materials."""
    materials = SHARED_MATERIALS.read_sound(library)
    return EvaluationRules(library.rulebook(bundle.footprint.rulebook), library.settings, materials)
