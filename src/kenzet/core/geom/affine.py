"""Where a part lies in the quilt: a rotation, possibly mirrored, and a shift."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import affinity

from kenzet.core.geom.region import Floats, Point

Placing = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f): (x, y) is mapped to (a·x + c·y + e, b·x + d·y + f)."""

IDENTITY: Placing = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def invert(placing: Placing, point: Point) -> Point:
    """A ``point`` of the quilt in the coordinates of the part that ``placing`` places."""
    a, b, c, d, e, f = placing
    x, y = point[0] - e, point[1] - f
    return a * x + b * y, c * x + d * y  # the motion is rigid: its inverse is its transpose


def place(placing: Placing, point: Point) -> Point:
    """A ``point`` of a part, in the coordinates of the quilt."""
    x, y = turned(placing, point)
    return x + placing[4], y + placing[5]


def turned(placing: Placing, direction: Point) -> Point:
    """A ``direction`` in a part, in the quilt."""
    a, b, c, d, _, _ = placing
    x, y = direction
    return a * x + c * y, b * x + d * y


def is_mirrored(placing: Placing) -> bool:
    """Whether left and right of a line change places."""
    a, b, c, d, _, _ = placing
    return a * d - b * c < 0


def place_all(placing: Placing, points: Floats) -> Floats:
    """Points (n, 2) of a part, in the coordinates of the quilt."""
    a, b, c, d, e, f = placing
    placed: Floats = points @ np.array([[a, b], [c, d]]) + np.array([e, f])
    return placed


def unplaced(placing: Placing, area: shapely.Geometry) -> shapely.Geometry:
    """An area of the quilt in the coordinates of the part that ``placing`` places."""
    a, b, c, d, e, f = placing
    return affinity.affine_transform(area, [a, b, c, d, -a * e - b * f, -c * e - d * f])
