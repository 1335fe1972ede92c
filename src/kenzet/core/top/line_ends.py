"""Where lines end at the quilt's edge: on the finished edge, outside it, or at a distance inside.

A finished size is the size inside the binding: the seam allowance of the outer edge is outside it. Fills are laid
out in the whole finished zone, and only then cut.
"""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from itertools import pairwise
from typing import Literal

import shapely
from shapely.geometry import MultiPolygon, box

from kenzet.core.numbers.measure import MM_PER
from kenzet.core.tolerances import SNAP

LineEnds = Literal["finished edge", "off the edge", "inside"]

ALLOWANCE = MM_PER["in"] / 4
"""From the finished edge to the raw edge, exact mm: the seam allowance of the binding."""


def inset_for(ends: LineEnds, by: Fraction) -> Fraction:
    """How far inside the finished edge lines end, exact mm; negative if they run off the edge.

    >>> inset_for("off the edge", Fraction(12)), inset_for("finished edge", Fraction(12))
    (Fraction(-12, 1), Fraction(0, 1))
    """
    return {"finished edge": Fraction(0), "off the edge": -by, "inside": by}[ends]


def run_off(area: MultiPolygon, wide: float, high: float, by: float) -> MultiPolygon:
    """``area`` in a quilt of ``wide`` by ``high`` mm, extended by ``by`` mm wherever it touches the quilt's edge."""
    for across in (0, 1):
        far = (wide, high)[across]
        strips = [*_strips(area, across, 0.0, -by), *_strips(area, across, far, by)]
        if strips:
            joined = shapely.union_all([area, *strips])
            area = joined if isinstance(joined, MultiPolygon) else MultiPolygon([joined])
    return area


def _strips(area: MultiPolygon, across: int, at: float, by: float) -> Iterable[shapely.Polygon]:
    """A strip beside every side of ``area`` on the line x = ``at`` (y = ``at`` if ``across`` is 1)."""
    for polygon in area.geoms:
        points = shapely.get_coordinates(polygon.exterior)
        for one, other in pairwise(points):
            if max(abs(one[across] - at), abs(other[across] - at)) > SNAP:
                continue
            low, high = sorted((one[1 - across], other[1 - across]))
            near, beyond = sorted((at, at + by))
            yield box(near, low, beyond, high) if across == 0 else box(low, near, high, beyond)
