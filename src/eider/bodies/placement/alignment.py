"""Finds how a model stands on its terminals: of all ways to lay it, those that explain every terminal."""

from collections.abc import Iterator, Sequence
from typing import Literal

import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.placement.alignment_target import AlignmentTarget
from eider.bodies.placement.contacts import Contacts, scaled, standing, turned, turns
from eider.bodies.placement.pin_one_mark import MarkReading, mark_reading
from eider.bodies.placement.seating import SHORTEST_LEAD, seating_height
from eider.bodies.step_files.step_model import FaceTable, FloatArray, StepModel
from eider.geometry.plane import Box, inside_by

Rotation = tuple[tuple[float, float, float], tuple[float, float, float], tuple[float, float, float]]
# Factors by which a model is off whose maker took one unit for another.
UNIT_FACTORS = (25.4, 1 / 25.4, 1000.0, 1 / 1000.0)
# Placements whose scores differ by less are equally good.
EQUALLY_GOOD = 0.02
# Share of the terminals that a placement has to explain to be offered at all.
LEAST_SHARE = 0.6
# A contact belongs to a terminal within this share of the distance to the next terminal, and this far (mm) at most.
REACH, FARTHEST = 0.4, 1.0
# A box of a model is like that of the package within this share.
BOX_SHARE = 0.25
MOST_PLACEMENTS = 8
# A contact is no larger than the largest terminal times this, and this much more (mm).
OVERSIZE, ROUND_FOOT = 1.5, 0.3
# So many terminals are laid on every contact in turn, and so many others tell whether that is worth a closer look.
ANCHORS, PROBES = 3, 12
# A fit with less error (of 0.5) than this needs no better one.
GOOD_FIT = 0.1


class StandingTerminal(msgspec.Struct, frozen=True):
    """How one terminal stands on its pad: by how much its contact lies inside the pad's or terminal's box (mm, the
    least over the sides, negative outside), and how far its middle is from that of the box.
    """

    pad: str
    inside: float
    dx: float
    dy: float


class ModelPlacement(msgspec.Struct, frozen=True):
    """One way to place a model: multiply by `scale` and `rotation`, then add `offset` (mm).

    `score` is 1 where everything agrees; `reasons` say what speaks for it. `seating` is the height (mm) of what the
    model stands on above its lowest point. `pin1` says whether a mark tells which end is which.
    """

    rotation: Rotation
    offset: tuple[float, float, float]
    score: float
    terminals: tuple[StandingTerminal, ...]
    seating: float
    pin1: Literal["found", "ambiguous", "unknown"]
    scale: float = 1.0
    reasons: tuple[str, ...] = ()


class Alignment(msgspec.Struct, frozen=True):
    """All placements that are equally good, best first, and what could not be decided, in words."""

    placements: tuple[ModelPlacement, ...]
    doubts: tuple[str, ...] = ()
    mark_at: str = ""


def align_model(model: StepModel, target: AlignmentTarget) -> Alignment:
    """Find how a model stands on its terminals.

    Where it has none that could be recognised it is placed by its box, and that is said.
    """
    # Another unit is believed only where it explains every terminal.
    best = as_said = _candidates(model.faces, 1.0, target)
    for factor in UNIT_FACTORS:
        if best and best[0].share >= 1:
            break
        best = _candidates(scaled(model.faces, factor), factor, target)
    if not best or best[0].share < 1:
        best = as_said
    if not best:
        return _by_box(model, target)
    top = best[0].score
    equal = [candidate for candidate in best if candidate.score > top - EQUALLY_GOOD]
    faces = scaled(model.faces, equal[0].scale)
    reading = mark_reading(faces, [(c.turn, c.move) for c in equal], target)
    kept = [equal[index] for index in reading.chosen][:MOST_PLACEMENTS]
    doubts = [*_doubts(kept[0], target), *reading.doubts]
    placements = tuple(_placement(candidate, faces, target, reading) for candidate in kept)
    if reading.pin1 == "ambiguous":
        # What is flat where the package has terminals may be its underside all the same.
        others = _by_box(msgspec.structs.replace(model, faces=faces), target).placements
        known = {placement.rotation for placement in placements}
        placements += tuple(other for other in others if other.rotation not in known)
    return Alignment(placements, tuple(doubts), reading.nearest)


class _Candidate(msgspec.Struct, frozen=True):
    """A way to lay the model, and what it explains: turn, move from above (2,), height that it is at,
    share of terminals, score."""

    turn: FloatArray
    move: FloatArray
    seat: float
    scale: float
    share: float
    score: float
    contacts: Contacts
    # For each terminal the contact that stands on it, −1 for none.
    pairs: tuple[int, ...]


def _candidates(faces: FaceTable, scale: float, target: AlignmentTarget) -> list[_Candidate]:
    """All ways to lay the model that explain enough terminals, best first."""
    wanted = np.array([terminal.box for terminal in target.terminals])
    if not len(wanted):
        return []
    found = []
    for turn in turns():
        lying = turned(faces, turn)
        contacts = standing(lying, through_hole=target.through_hole)
        fitted = _fitted(contacts, wanted)
        if fitted is None:
            continue
        move, pairs, error = fitted
        seat = seating_height(lying, contacts, pairs, target)
        used = [pair for pair in pairs if pair >= 0]
        if target.through_hole and float(np.median(contacts.depth[used])) > seat - SHORTEST_LEAD:
            # What should be ends of leads does not reach below the body.
            continue
        share = len(used) / len(wanted)
        score = share * (1 - error) * (1 - _box_error(lying, target, move, seat))
        found.append(_Candidate(turn, move, seat, scale, share, score, contacts, pairs))
    return sorted(found, key=lambda candidate: -candidate.score)


def _fitted(contacts: Contacts, wanted: FloatArray) -> tuple[FloatArray, tuple[int, ...], float] | None:
    """Move the contacts onto the terminals: the move (2,), the contact of each terminal, and the error from 0 to 1."""
    contacts, numbers = _of_size(contacts, wanted)
    if len(contacts.box) < max(1, LEAST_SHARE * len(wanted)):
        return None
    middles = (wanted[:, :2] + wanted[:, 2:]) / 2
    reach = _reach(middles)
    best: tuple[FloatArray, tuple[int, ...], float] | None = None
    for move in _moves(contacts, wanted, middles):
        fitted = _fit(contacts, wanted, middles, move, reach)
        if fitted is None:
            continue
        hits, error = sum(pair >= 0 for pair in fitted[1]), fitted[2]
        if best is None or (hits, -error) > (sum(pair >= 0 for pair in best[1]), -best[2]):
            best = fitted
        if hits == len(wanted) and error < GOOD_FIT:
            break
    if best is None:
        return None
    return best[0], tuple(int(numbers[pair]) if pair >= 0 else -1 for pair in best[1]), best[2]


def _of_size(contacts: Contacts, wanted: FloatArray) -> tuple[Contacts, npt.NDArray[np.intp]]:
    """The contacts that are no larger than terminals can be, and their numbers among all; a body's underside is."""
    largest = (wanted[:, 2:] - wanted[:, :2]).max(axis=0)
    fits = (contacts.box[:, 2:] - contacts.box[:, :2] <= OVERSIZE * largest + ROUND_FOOT).all(axis=1)
    return Contacts(contacts.box[fits], contacts.solid[fits], contacts.depth[fits]), np.flatnonzero(fits)


def _fit(
    contacts: Contacts, wanted: FloatArray, middles: FloatArray, move: FloatArray, reach: float
) -> tuple[FloatArray, tuple[int, ...], float] | None:
    """Improve one move; None where it explains too few terminals."""
    hit = _pairs(contacts.centre + move, middles, reach)
    if (hit >= 0).sum() < LEAST_SHARE * len(wanted):
        return None
    # Worked out again from what stands where: rows of different reach lie symmetric to the middle of the extents.
    move = _middle(wanted[hit >= 0]) - _middle(contacts.box[hit[hit >= 0]])
    pairs = _pairs(contacts.centre + move, middles, reach)
    is_hit = pairs >= 0
    if is_hit.sum() < LEAST_SHARE * len(wanted):
        return None
    apart = np.linalg.norm(contacts.centre[pairs[is_hit]] + move - middles[is_hit], axis=1)
    error = float(np.sqrt(np.mean(apart**2)) / max(reach, 1e-9)) * 0.5
    return move, tuple(pairs.tolist()), error


def pairs_in_place(contacts: Contacts, target: AlignmentTarget) -> tuple[int, ...]:
    """For each terminal the contact that stands on it as the model is placed, −1 for none."""
    wanted = np.array([terminal.box for terminal in target.terminals]).reshape(-1, 4)
    fitting, numbers = _of_size(contacts, wanted) if len(wanted) else (contacts, np.arange(0))
    if not len(wanted) or not len(fitting.box):
        return (-1,) * len(wanted)
    middles = (wanted[:, :2] + wanted[:, 2:]) / 2
    pairs = _pairs(fitting.centre, middles, _reach(middles))
    return tuple(int(numbers[pair]) if pair >= 0 else -1 for pair in pairs)


def _reach(middles: FloatArray) -> float:
    """How far a contact may be from the middle of its terminal (mm)."""
    if len(middles) < 2:
        return FARTHEST
    apart = np.linalg.norm(middles[:, None] - middles[None, :], axis=2)
    np.fill_diagonal(apart, np.inf)
    return min(REACH * float(apart.min()), FARTHEST)


def _middle(boxes: FloatArray) -> FloatArray:
    return np.asarray((boxes[:, :2].min(axis=0) + boxes[:, 2:].max(axis=0)) / 2)


def _moves(contacts: Contacts, wanted: FloatArray, middles: FloatArray) -> Iterator[FloatArray]:
    """Moves worth trying: middle on middle, then each terminal that is far out on every contact.

    More than one of these, as that one may be missing from the model.
    """
    centres = contacts.centre
    spread, wanted_spread = np.ptp(centres, axis=0), np.ptp(middles, axis=0)
    if (spread + FARTHEST < LEAST_SHARE * wanted_spread).any():
        return
    yield _middle(wanted) - _middle(contacts.box)
    outwards = np.argsort(-np.linalg.norm(middles - middles.mean(axis=0), axis=1))
    probes = middles[np.linspace(0, len(middles) - 1, min(len(middles), PROBES)).astype(int)]
    reach = _reach(middles)
    for anchor in outwards[:ANCHORS]:
        for move in middles[anchor] - centres:
            # Most are nonsense: a few terminals tell.
            apart = np.linalg.norm(probes[:, None] - (centres + move)[None, :], axis=2).min(axis=1)
            if (apart <= reach).mean() >= LEAST_SHARE - 0.1:
                yield move


def _pairs(places: FloatArray, middles: FloatArray, reach: float) -> FloatArray:
    """For each terminal the nearest contact within reach, each contact once; −1 for none. Shape (n,)."""
    apart = np.linalg.norm(middles[:, None] - places[None, :], axis=2)
    nearest = apart.argmin(axis=1)
    pairs = np.where(apart[np.arange(len(middles)), nearest] <= reach, nearest, -1)
    used, counts = np.unique(pairs[pairs >= 0], return_counts=True)
    pairs[np.isin(pairs, used[counts > 1])] = -1
    return pairs


def _box_error(lying: FaceTable, target: AlignmentTarget, move: FloatArray | None, seat: float) -> float:
    """How much the box of the model differs from that of the package, as a share from 0 to 0.5.

    With a `move` its place counts as well, not only its size.
    """
    low, high = lying.low.min(axis=0), lying.high.max(axis=0)
    errors = []
    if target.outline is not None:
        outline = np.array(target.outline)
        size = outline[2:] - outline[:2]
        if move is None:
            errors += list(np.abs((high - low)[:2] / size - 1))
        else:
            ends = np.concatenate([low[:2] + move, high[:2] + move])
            errors += list(np.abs(ends - outline) / np.tile(size, 2))
    if target.height is not None and target.height.upper > 0:
        above = high[2] - seat
        nearest = min(max(above, target.height.lower), target.height.upper)
        errors.append(abs(above / nearest - 1))
    return float(min(0.5, 0.5 * max(errors, default=0.0)))


def _placement(
    candidate: _Candidate, faces: FaceTable, target: AlignmentTarget, reading: MarkReading
) -> ModelPlacement:
    seat, bottom = candidate.seat, float(turned(faces, candidate.turn).low[:, 2].min())
    terminals = tuple(
        _standing_terminal(candidate, index, place.number, place.box)
        for index, place in enumerate(target.terminals)
        if candidate.pairs[index] >= 0
    )
    count = len(target.terminals)
    reasons = [f"{len(terminals)} of {count} terminals stand on their places", *reading.reasons]
    return ModelPlacement(
        rotation=_rows(candidate.turn),
        offset=(_tidy(candidate.move[0]), _tidy(candidate.move[1]), _tidy(-seat)),
        score=round(float(candidate.score), 4),
        terminals=terminals,
        seating=_tidy(seat - bottom),
        pin1=reading.pin1,
        scale=candidate.scale,
        reasons=tuple(reasons),
    )


def _standing_terminal(
    candidate: _Candidate, index: int, number: str, box: tuple[float, float, float, float]
) -> StandingTerminal:
    move = np.concatenate([candidate.move, candidate.move])
    foot: Box = tuple((candidate.contacts.box[candidate.pairs[index]] + move).tolist())
    inside = inside_by(foot, box)
    dx, dy = (foot[0] + foot[2] - box[0] - box[2]) / 2, (foot[1] + foot[3] - box[1] - box[3]) / 2
    return StandingTerminal(number, _tidy(inside), _tidy(dx), _tidy(dy))


def _doubts(candidate: _Candidate, target: AlignmentTarget) -> list[str]:
    doubts = []
    missing = [t.number for t, pair in zip(target.terminals, candidate.pairs, strict=True) if pair < 0]
    if missing:
        doubts.append(f"nothing of the model is at {', '.join(missing[:8])}{' …' if len(missing) > 8 else ''}")
    if candidate.scale != 1.0:
        doubts.append(f"the model fits only when it is taken {candidate.scale:.6g} times as large: its unit is wrong")
    return doubts


def _by_box(model: StepModel, target: AlignmentTarget) -> Alignment:
    """Placed by its box against the package's; nothing tells one end from the other."""
    said = "no terminals could be recognised in the model"
    if target.outline is None:
        return Alignment((), (f"{said}, and a pattern does not tell the size of the package",))
    x0, y0, x1, y1 = target.outline
    found = []
    for turn in turns():
        lying = turned(model.faces, turn)
        error = _box_error(lying, target, None, float(lying.low[:, 2].min()))
        low, high = lying.low.min(axis=0), lying.high.max(axis=0)
        if error <= BOX_SHARE:
            offset = ((x0 + x1 - low[0] - high[0]) / 2, (y0 + y1 - low[1] - high[1]) / 2, -low[2])
            reasons = ("its box is like that of the package",)
            found.append(
                ModelPlacement(_rows(turn), _tidied(offset), round(0.5 - error, 4), (), 0.0, "unknown", reasons=reasons)
            )
    found.sort(key=lambda placement: -placement.score)
    equal = [p for p in found if p.score > found[0].score - EQUALLY_GOOD]
    if not equal:
        return Alignment((), (f"{said}, and its box is not like that of the package",))
    return Alignment(tuple(equal), (f"{said}; it was placed by its box, and may be turned",))


def _rows(turn: FloatArray) -> Rotation:
    first, second, third = (_tidied(row) for row in turn)
    return first, second, third


def _tidied(values: Sequence[float]) -> tuple[float, float, float]:
    x, y, z = map(_tidy, values)
    return x, y, z


def _tidy(value: float) -> float:
    return round(float(value), 6) + 0.0
