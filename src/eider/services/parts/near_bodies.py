"""Models that the library has already and that are made for a package like this one."""

import msgspec

from eider.errors import EiderError
from eider.geometry.limits import Limits
from eider.library import Library
from eider.model.body import Body, ImportedModel
from eider.model.bundle import Bundle
from eider.model.item_ref import Ref
from eider.model.package_sheet import PackageSheet
from eider.services.parts.model_importing import place_again
from eider.services.tasks import Task
from eider.views.sheet_comparison import PackageSheetDifference, compare_sheets

# A model of a package that differs by more (mm, in all lengths together) is another package.
FARTHEST = 2.0


class NearBody(msgspec.Struct, frozen=True):
    """A body of the library with someone's model: of which part, how far its package is from this one, and in what.

    `ref` is how a part refers to the body. `distance` is the sum over the letters that both sheets have of how far the
    middles of their limits are apart (mm); `fits` whether the limits of each overlap. `users` are the parts that have
    this body.
    """

    part_id: str
    name: str
    model: ImportedModel
    body: Body
    ref: Ref
    distance: float
    fits: bool
    differences: tuple[PackageSheetDifference, ...]
    users: tuple[str, ...]

    @property
    def can_be_shared(self) -> bool:
        """Whether the packages are the same, so that the body is there as it does here."""
        return self.distance == 0 and self.fits


def near_bodies(library: Library, bundle: Bundle, task: Task | None = None) -> tuple[NearBody, ...]:
    """The models of the library for a package of the same family and count of pins, the nearest first.

    Raises:
        CancelledError: the user cancelled.
    """
    task = task or Task()
    library.index.follow_commits()
    rows = library.index.parts_with_models(bundle.sheet.family)
    found = []
    for index, row in enumerate(rows):
        task.report(index / len(rows), f"comparing with {row.name}")
        try:
            other = library.load_release(row.id)
        except EiderError:
            # A part that cannot be read is told by eider check.
            continue
        model = other.body.model
        if row.id == bundle.part.id or model is None or other.sheet.pins != bundle.sheet.pins:
            continue
        distance, fits = _distance(bundle.sheet, other.sheet)
        if distance <= FARTHEST:
            differences = tuple(d for d in compare_sheets(bundle.sheet, other.sheet) if not d.is_same)
            users = tuple(library.index.users_of(other.body.id))
            found.append(
                NearBody(row.id, row.name, model, other.body, other.part.body, distance, fits, differences, users)
            )
    return tuple(sorted(found, key=lambda near: (near.distance, near.name)))


def _distance(this: PackageSheet, other: PackageSheet) -> tuple[float, bool]:
    """How far the lengths that both sheets have are apart (mm), and whether the limits of each overlap."""
    total, fits = 0.0, True
    for letter in this.dims:
        a, b = this.limits(letter), other.limits(letter)
        if a is not None and b is not None:
            total += abs(a.middle - b.middle)
            fits = fits and _overlap(a, b)
    return round(total, 6), fits


def _overlap(a: Limits, b: Limits) -> bool:
    return a.lower <= b.upper and b.lower <= a.upper


def use_near_body(library: Library, near: NearBody, sheet: PackageSheet) -> ImportedModel:
    """The model of another part for this package: placed where it stands on this one, and measured there.

    Raises:
        EiderError: its file or this sheet cannot be used.
    """
    return place_again(library, near.model, sheet)[0]
