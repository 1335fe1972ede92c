"""One distinct set of lines: stretches of straight families and rings of echoes.

Glossary: lines of a drawing are numbered, stretches first, then rings.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from shapely.geometry.polygon import orient

from kenzet.core.fills.base import Family, Fill, Rings
from kenzet.core.geom.clip import Straight, Stretches, clip
from kenzet.core.geom.region import Floats, Region
from kenzet.core.top.laid import ZoneShape


@dataclass(frozen=True, slots=True)
class Ring:
    """One closed loop of echo ``round`` (from 0): (n, 2) mm, not repeated, its reference ``distance`` out."""

    round: int
    distance: Fraction
    points: Floats

    @property
    def length(self) -> float:
        """mm."""
        return float(np.hypot(*(np.roll(self.points, -1, axis=0) - self.points).T).sum())


@dataclass(frozen=True, slots=True)
class Drawing:
    """One distinct set of lines in the part's coordinates, and the places that have it.

    ``stretches.job`` is piece × families + family.
    """

    places: tuple[str, ...]
    shape: ZoneShape
    fill: Fill
    families: tuple[Family, ...]
    stretches: Stretches
    rings: tuple[Ring, ...]

    @property
    def region(self) -> Region:
        """What the lines lie in."""
        return self.shape.region

    @property
    def lines(self) -> int:
        """How many lines to sew at one place."""
        return len(self.stretches) + len(self.rings)

    @property
    def stitched(self) -> float:
        """mm at one place."""
        return float(self.stretches.lengths.sum()) + sum(ring.length for ring in self.rings)

    def length_of(self, line: int) -> float:
        """mm of one line."""
        if line < len(self.stretches):
            return float(self.stretches.lengths[line])
        return self.rings[line - len(self.stretches)].length

    def piece_and_family(self, line: int) -> tuple[int, int]:
        """Which piece of the region and which family stretch ``line`` belongs to."""
        return divmod(int(self.stretches.job[line]), len(self.families))


def draw(shape: ZoneShape, fill: Fill, families: tuple[Family, ...], places: tuple[str, ...]) -> Drawing:
    """Clip the straight families to every piece of the region and take the rings apart."""
    straight = [family for family in families if isinstance(family, Straight)]
    stretches = clip([(piece, family) for piece in shape.region.pieces for family in straight])
    rings = tuple(ring for family in families if isinstance(family, Rings) for ring in _rings(family))
    return Drawing(places, shape, fill, families, stretches, rings)


def _rings(family: Rings) -> Iterable[Ring]:
    for number, inside in enumerate(family.insides):
        for polygon in inside.geoms:
            turned = orient(polygon)  # what the ring encloses lies on its left
            for ring in (turned.exterior, *turned.interiors):
                distance = family.first if number == 0 else family.pitch
                yield Ring(number, distance, np.asarray(ring.coords)[:-1])
