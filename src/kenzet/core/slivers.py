"""What is left along the edges that run with the lines, and whether it is worth sewing (F8, F10).

Glossary: an *edge gap* lies between an edge and the first line inside; below a quarter of the spacing
it is a sliver.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from kenzet.core.fills.base import Family
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.predicates import SNAP
from kenzet.core.geom.region import Region, parallel
from kenzet.core.spacing import SLIVER

_MICRON = 10**6


@dataclass(frozen=True, slots=True)
class EdgeGap:
    """``gap`` mm are left along edge number ``edge`` by a family of pitch ``pitch``."""

    edge: int
    gap: Fraction
    pitch: Fraction

    @property
    def sliver(self) -> bool:
        """Whether it is too narrow to be worth a line."""
        return self.gap < SLIVER * self.pitch


def edge_gaps(region: Region, families: Sequence[Family]) -> list[EdgeGap]:
    """The gap along every edge that runs with a straight family, the narrowest first."""
    found = []
    for number, edge in enumerate(region.edges):
        for family in families:
            if isinstance(family, Straight) and parallel(edge, family.angle):
                nx, ny = family.normal
                ix, iy = region.inward(edge)
                place = edge.start[0] * nx + edge.start[1] * ny - family.datum
                gap = _to_next(family, Fraction(round(place * _MICRON), _MICRON), ix * nx + iy * ny > 0)
                found.append(EdgeGap(number, gap, family.pitch))
    return sorted(found, key=lambda each: each.gap)


def _to_next(family: Straight, place: Fraction, onwards: bool) -> Fraction:
    """From ``place`` to the next line onwards (or back), never 0: a line on the edge is no line."""
    pitches = place / family.pitch
    whole = round(pitches)
    if abs(place - whole * family.pitch) < SNAP:
        pitches = Fraction(whole)
    if not onwards:
        return place - (math.ceil(pitches) - 1) * family.pitch
    line = math.floor(pitches) + 1
    return (line if family.first is None else max(line, family.first)) * family.pitch - place
