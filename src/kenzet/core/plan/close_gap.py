"""Adds straight lines through the widest gaps of a zone until no gap exceeds the limit (F44).

A line goes through the center of a gap, from the stitching or edge on one side to that on the other. Its direction
is one of the zone's (its lines, its edges, perpendicular to them, level, upright, both diagonals), the one that
leaves the narrowest gaps.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Region
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.widest_gap import WidestGap, search_gap
from kenzet.core.tolerances import EQUAL, VISIBLE
from kenzet.core.top.layout import multi

MOST = 12
"""The greatest number of lines; if more are needed, another spacing is the better remedy."""
_MOST_WAYS = 12
_ABOUT = 1.1  # times a gap's width: so far about its middle it is looked at what a line leaves


def closing_lines(drawings: Sequence[Drawing], limit: float) -> list[Floats]:
    """Lines, (2, 2) mm each, that leave no gap over ``limit`` mm between what ``drawings`` sew at one place; empty
    if there is no such gap, or if more than ``MOST`` are needed."""
    region = drawings[0].region
    sewn = [line for drawing in drawings if drawing.fill.sewn for line in drawing.polylines]
    angles = list(_ways(drawings))
    found: list[Floats] = []
    while (gap := search_gap(region, [*sewn, *found])).width > limit + VISIBLE:
        best = _best(region, [*sewn, *found], gap, angles)
        if best is None or len(found) == MOST:
            return []
        found.append(best)
    return found


def _ways(drawings: Sequence[Drawing]) -> Iterable[float]:
    """Directions in degrees, each once, those of the lines first."""
    lines = [family.angle for drawing in drawings for family in drawing.straight]
    edges = [
        math.degrees(math.atan2(edge.end[1] - edge.start[1], edge.end[0] - edge.start[0]))
        for edge in drawings[0].region.edges
    ]
    seen: set[int] = set()
    for angle in (*lines, *edges, *(one + 90 for one in (*lines, *edges)), 0.0, 90.0, 45.0, 135.0):
        key = round(angle) % 180
        if key not in seen and len(seen) < _MOST_WAYS:
            seen.add(key)
            yield angle


def _best(region: Region, lines: Sequence[Floats], gap: WidestGap, angles: Sequence[float]) -> Floats | None:
    middle = shapely.Point(gap.place or region.middle)
    near = multi(region.area.intersection(middle.buffer(_ABOUT * gap.width)))
    if near.is_empty:
        return None
    about = Region(near)
    left: list[tuple[float, int, Floats]] = []
    for number, angle in enumerate(angles):
        line = _through(region, lines, middle, angle)
        if line is not None:
            left.append((round(search_gap(about, [*lines, line]).width, 2), number, line))
    best = min(left, key=lambda one: one[:2], default=None)
    return best[2] if best and best[0] < gap.width - VISIBLE else None


def _through(region: Region, lines: Sequence[Floats], middle: shapely.Point, angle: float) -> Floats | None:
    """The line through ``middle`` at ``angle``, as far as it is free on either side."""
    left, low, right, high = region.bounds
    far = math.hypot(right - left, high - low)
    way = np.array([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
    at = np.array(middle.coords[0])
    whole = shapely.LineString([at - far * way, at + far * way])
    stops = shapely.union_all([region.area.boundary, *(shapely.LineString(one) for one in lines)])
    met = shapely.get_coordinates(whole.intersection(stops))
    along = (met - at) @ way
    before, after = along[along < -EQUAL], along[along > EQUAL]
    if not len(before) or not len(after):
        return None
    return np.array([at + before.max() * way, at + after.min() * way])
