"""Where lines end at the quilt's edge: on the finished edge, beyond it, or so far inside.

A finished size is the size inside the binding: the seam allowance of the outer edge lies outside it. Fills are laid out in the
whole finished zone, and only then cut.
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
"""From the finished edge to the raw edge, exact mm: what the binding takes."""


def inset_for(ends: LineEnds, by: Fraction) -> Fraction:
    """How far inside the finished edge lines end, exact mm; below 0 where they run beyond it.

    >>> inset_for("off the edge", Fraction(12)), inset_for("finished edge", Fraction(12))
    (Fraction(-12, 1), Fraction(0, 1))
    """
    return {"finished edge": Fraction(0), "off the edge": -by, "inside": by}[ends]


def run_off(area: MultiPolygon, wide: float, high: float, by: float) -> MultiPolygon:
    """``area`` in a quilt of ``wide`` by ``high`` mm, drawn out by ``by`` mm wherever it reaches the quilt's edge."""
    for across in (0, 1):
        far = (wide, high)[across]
        strips = [*_strips(area, across, 0.0, -by), *_strips(area, across, far, by)]
        if strips:
            joined = shapely.union_all([area, *strips])
            area = joined if isinstance(joined, MultiPolygon) else MultiPolygon([joined])
    return area


def _strips(area: MultiPolygon, across: int, at: float, by: float) -> Iterable[shapely.Polygon]:
    """A strip beside every side of ``area`` that lies on the line x (or, ``across`` 1, y) = ``at``."""
    for polygon in area.geoms:
        points = shapely.get_coordinates(polygon.exterior)
        for one, other in pairwise(points):
            if max(abs(one[across] - at), abs(other[across] - at)) > SNAP:
                continue
            low, high = sorted((one[1 - across], other[1 - across]))
            near, beyond = sorted((at, at + by))
            yield box(near, low, beyond, high) if across == 0 else box(low, near, high, beyond)
