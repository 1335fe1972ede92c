"""What lines need outside the quilt's edge: the points where a zigzag or a curve that the edge cuts would turn.

Glossary: an *excursion* is the part of a path outside the finished edge between two crossings of it.
"""

from __future__ import annotations

import numpy as np
import shapely

from kenzet.core.fills.base import Paths
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.plan.drawing import Drawing
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import QuiltLayout


def turns_beyond_edge(laid: QuiltLayout, drawing: Drawing, place: str) -> float:
    """How far outside the finished edge the farthest turning point of a line lies that this edge cuts, mm; 0 if there
    is none.

    ``drawing`` is at ``place``. Lines that do not come back into the zone have no turning point.
    """
    placing = drawing.shape.part.places[place]
    size = np.array([laid.top.width, laid.top.height])
    outline = place_all(placing, np.array(drawing.region.extremes))
    if min(outline.min(), (size - outline).min()) > VISIBLE:
        return 0.0
    most = 0.0
    for family in drawing.families:
        if not isinstance(family, Paths) or family.on_outline:
            continue
        zone = (family.within or drawing.region).area.buffer(VISIBLE)
        for path in family.paths:
            points = path.points
            outside = _outside(place_all(placing, points), size)
            leaves, comes_back = _crossings(outside)
            for out, back in zip(leaves, comes_back, strict=True):
                far = float(outside[out + 1 : back + 1].max())
                cuts = np.array([_cut(points, outside, k) for k in (out, back)])
                if far > max(most, VISIBLE) and shapely.intersects_xy(zone, cuts).all():
                    most = far
    return most


def _outside(points: Floats, size: Floats) -> Floats:
    """How far outside the quilt each of ``points`` (n, 2) lies, mm; negative inside."""
    found: Floats = np.maximum(-points, points - size).max(axis=1)
    return found


def _crossings(outside: Floats) -> tuple[list[int], list[int]]:
    """For every excursion the first point of the chord where it leaves, and of the chord where it comes back."""
    beyond = outside > 0
    leaves = np.flatnonzero(~beyond[:-1] & beyond[1:])
    comes_back = np.flatnonzero(beyond[:-1] & ~beyond[1:])
    if len(leaves):
        comes_back = comes_back[comes_back > leaves[0]]
    return leaves[: len(comes_back)].tolist(), comes_back[: len(leaves)].tolist()


def _cut(points: Floats, outside: Floats, k: int) -> tuple[float, float]:
    """Where the chord that begins at point ``k`` crosses the edge."""
    share = outside[k] / (outside[k] - outside[k + 1])
    x, y = (points[k] + share * (points[k + 1] - points[k])).tolist()
    return x, y
