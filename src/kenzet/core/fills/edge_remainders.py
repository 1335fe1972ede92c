"""The gaps left along edges parallel to the lines, and whether they are worth sewing (F8, F10).

Glossary: an *edge gap* lies between an edge and the first line inside; below a quarter of the spacing it is a
sliver.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from kenzet.core.fills.base import Family
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Region
from kenzet.core.numbers.spacing import SLIVER

_MICRON = 10**6


@dataclass(frozen=True, slots=True)
class EdgeRemainder:
    """A gap of ``gap`` mm along edge number ``edge``, left by a family whose closest lines are ``spacing`` apart."""

    edge: int
    gap: Fraction
    spacing: Fraction

    @property
    def sliver(self) -> bool:
        """Whether the gap is too narrow to be worth a line."""
        return self.gap < SLIVER * self.spacing


def edge_remainders(region: Region, families: Sequence[Family]) -> list[EdgeRemainder]:
    """The gap along every edge parallel to a straight family, the narrowest first."""
    found = []
    for family in families:
        if not isinstance(family, Straight):
            continue
        (nx, ny), least = family.normal, min(family.gaps)
        for number in region.edges_along(family.direction).tolist():
            edge = region.edges[number]
            ix, iy = region.inward(edge)
            place = edge.start[0] * nx + edge.start[1] * ny - family.datum
            exact = Fraction(round(place * _MICRON), _MICRON)
            gap = family.to_next(exact, ix * nx + iy * ny > 0)
            found.append(EdgeRemainder(number, gap, least))
    return sorted(found, key=lambda each: (each.gap, each.edge))
