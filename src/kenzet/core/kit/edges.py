"""The edges of rulers and templates that a foot can run along.

Glossary: lengths are of the *plastic*, in mm; the sewn line follows from the foot (F25: along an outside edge the
sewn radius is larger by r, along an inside edge smaller by r).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal


@dataclass(frozen=True, slots=True)
class StraightEdge:
    """``length`` mm along and ``width`` across; ``lines`` are the distances of the etched lines from the edge (exact
    mm), the edge itself (0) first.

    Perpendicular lines are ``across`` mm apart, slanted ones are at ``angles`` degrees.
    """

    length: Fraction
    width: Fraction
    lines: tuple[Fraction, ...]
    across: Fraction | None = None
    angles: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class ArcEdge:
    """``usable`` mm of an arc of ``radius`` mm; ``side`` says whether the foot runs along its outside (a hill) or
    its inside (a hollow)."""

    side: Literal["outside", "inside"]
    radius: float
    usable: float

    def sewn(self, foot: float) -> float:
        """F25: the radius sewn with a foot offset of ``foot`` mm; negative if the foot does not fit in."""
        return self.radius + foot if self.side == "outside" else self.radius - foot


@dataclass(frozen=True, slots=True)
class WaveEdge:
    """A wave with repeat ``period`` and ``depth`` from crest to trough, over ``length`` mm."""

    period: float
    depth: float
    length: float


@dataclass(frozen=True, slots=True)
class ZigzagEdge:
    """Points at distance ``pitch``, ``rise`` high, over ``length`` mm."""

    pitch: float
    rise: float
    length: float


Edge = StraightEdge | ArcEdge | WaveEdge | ZigzagEdge


def whole_circle(radius: float) -> float:
    """The circumference of a circle, mm."""
    return math.tau * radius
