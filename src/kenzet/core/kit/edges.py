"""The edges that a foot runs along: what laying knows of rulers and templates.

Glossary: lengths are of the *plastic*, in mm; where the needle sews follows from the foot (F25: outside an
outside edge the sewn radius is r larger, inside an inside edge r smaller).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal


@dataclass(frozen=True, slots=True)
class StraightEdge:
    """``length`` mm along and ``width`` across; ``lines`` are the etched lines' distances from it (exact mm), the
    edge itself (0) first. Lines square to it stand every ``across`` mm, slanted ones lean by ``angles`` degrees.
    """

    length: Fraction
    width: Fraction
    lines: tuple[Fraction, ...]
    across: Fraction | None = None
    angles: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class ArcEdge:
    """``usable`` mm of an arc of ``radius`` mm, run along from ``side``: a hill outside, a hollow inside."""

    side: Literal["outside", "inside"]
    radius: float
    usable: float

    def sewn(self, foot: float) -> float:
        """F25: the radius that the needle sews with a foot of ``foot`` mm; below 0 where the foot cannot go in."""
        return self.radius + foot if self.side == "outside" else self.radius - foot


@dataclass(frozen=True, slots=True)
class WaveEdge:
    """A wave ``period`` long, ``depth`` from crest to trough, over ``length`` mm."""

    period: float
    depth: float
    length: float


@dataclass(frozen=True, slots=True)
class ZigzagEdge:
    """Points ``pitch`` apart and ``rise`` high over ``length`` mm."""

    pitch: float
    rise: float
    length: float


Edge = StraightEdge | ArcEdge | WaveEdge | ZigzagEdge


def whole_circle(radius: float) -> float:
    """Its length, mm."""
    return math.tau * radius
