"""Meeting the piecing: whole numbers of steps between features, ranked by how near they are to her wish.

Glossary: a *feature* is a place that a line, a crossing or a zigzag point must hit; the first one chosen
is the *datum*, which is always hit. *Parity* is whether a count is even or odd: a zigzag that has gone
on by an even number of legs is on the side on which it began, by an odd number on the opposite one.
Lengths are in one unit, any unit.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.tolerances import ROUNDING

NEAR = 0.4  # mm: a line this near to a feature hits it, 1/64 in
MOST_CHANGE = 0.30
_MOST = 6


def whole_steps(distances: Sequence[float], wish: float, most_change: float = MOST_CHANGE) -> list[StepFit]:
    """Steps near ``wish`` that lead from the datum to all ``distances`` in whole numbers.

    Steps that meet every feature come first, nearest to ``wish`` first; if none does, the two that miss by least
    are returned. A distance of nearly zero is always met. Returns an empty list if no step lies within
    ``most_change``.

    >>> [(s.counts, round(s.step, 4), f"{s.change:+.0%}") for s in whole_steps([7.5 * 25.4], 1.1 * 25.4)][:3]
    [((7,), 27.2143, '-3%'), ((6,), 31.75, '+14%'), ((8,), 23.8125, '-15%')]
    """
    far = max((abs(d) for d in distances), default=0.0)
    if far <= NEAR:
        return [StepFit(wish, tuple(0 for _ in distances), tuple(distances), 0.0)]
    low = max(math.floor(far / (wish * (1 + most_change)) - ROUNDING), 1)
    high = math.ceil(far / (wish * (1 - most_change)) + ROUNDING)
    found = []
    for many in range(low, high + 1):
        step = far / many
        change = (step - wish) / wish
        if abs(change) > most_change + ROUNDING:
            continue
        counts = tuple(round(d / step) for d in distances)
        misses = tuple(d - n * step for d, n in zip(distances, counts, strict=True))
        found.append(StepFit(step, counts, misses, change))
    meeting = sorted((s for s in found if s.hits), key=lambda s: abs(s.change))
    if meeting:
        return meeting[:_MOST]
    return sorted(found, key=lambda s: (round(max(abs(m) for m in s.misses), 3), abs(s.change)))[:2]


def even(count: int) -> bool:
    """Whether a zigzag is back on the side where it began after ``count`` legs."""
    return count % 2 == 0


@dataclass(frozen=True, slots=True)
class StepFit:
    """``step`` divides the distance to every feature into ``counts`` whole numbers; each feature is missed by
    ``misses`` (signed)."""

    step: float
    counts: tuple[int, ...]
    misses: tuple[float, ...]
    change: float

    @property
    def hits(self) -> bool:
        """Whether every feature is met."""
        return all(abs(miss) <= NEAR for miss in self.misses)

    @property
    def give(self) -> tuple[int, ...]:
        """The indices (from 0) of the features that are missed."""
        return tuple(k for k, miss in enumerate(self.misses) if abs(miss) > NEAR)
