"""A length with its tolerance, as a datasheet gives it."""

import msgspec


class Limits(msgspec.Struct, frozen=True, omit_defaults=True):
    """Minimum, nominal and maximum of one length in millimetres; at least one is given.

    A reversed pair (maximum below minimum) can be held, so that a check can speak of it.
    """

    min: float | None = None
    nom: float | None = None
    max: float | None = None

    def __post_init__(self) -> None:
        if self.min is None and self.nom is None and self.max is None:
            raise ValueError("a length needs a minimum, a nominal or a maximum")

    @property
    def lower(self) -> float:
        """The smallest value that the length can take; of a maximum alone, that maximum."""
        return next(v for v in (self.min, self.nom, self.max) if v is not None)

    @property
    def upper(self) -> float:
        """The largest value that the length can take; of a minimum alone, that minimum."""
        return next(v for v in (self.max, self.nom, self.min) if v is not None)

    @property
    def middle(self) -> float:
        """The nominal value, or the middle between the limits."""
        return self.nom if self.nom is not None else (self.lower + self.upper) / 2

    @property
    def spread(self) -> float:
        """Maximum less minimum: the tolerance C of the solder-joint equations; never below zero."""
        return max(0.0, self.upper - self.lower)

    @property
    def is_exact(self) -> bool:
        """Whether the length has no tolerance of its own (basic, reference or nominal alone)."""
        return self.upper == self.lower

    @property
    def is_reversed(self) -> bool:
        """Whether the maximum lies below the minimum."""
        return self.upper < self.lower

    def less(self, length: float) -> "Limits":
        """The same tolerance about a length that is so much shorter (mm)."""
        if length == 0:
            return self
        taken = {name: getattr(self, name) for name in ("min", "nom", "max")}
        return Limits(**{name: value - length for name, value in taken.items() if value is not None})
