"""What two states of a part have to have in common to be one and the same to someone who reads it."""

import msgspec

from eider.commands.parts.evaluation import without_results
from eider.library.releases.release_commit import REF_FIELDS
from eider.model.bundle import Bundle

replace = msgspec.structs.replace


def released_recipe(bundle: Bundle) -> Bundle:
    """The recipe of a part without its release and the revisions of its links."""
    links = {name: replace(getattr(bundle.part, name), revision=None) for name in REF_FIELDS}
    return without_results(replace(bundle, part=replace(bundle.part, release=None, **links)))
