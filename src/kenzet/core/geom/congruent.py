"""Outlines that are equal up to rotation, mirror and shift, so that results for one can be reused for the other."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import MultiPolygon

from kenzet.core.geom.affine import Placing
from kenzet.core.geom.region import Floats
from kenzet.core.tolerances import DIVISOR, EQUAL, SMALLEST

_MOST_POINTS = 400


def outline_of(area: MultiPolygon) -> Floats | None:
    """The corners (n, 2), counter-clockwise, of an area that is one piece without holes; None for any other area."""
    if len(area.geoms) != 1 or area.geoms[0].interiors:
        return None
    points = shapely.get_coordinates(shapely.orient_polygons(area.geoms[0]))[:-1]
    return points if len(points) <= _MOST_POINTS else None


def placing_onto(one: Floats, other: Floats) -> Placing | None:
    """The rotation, mirror and shift that maps outline ``one`` onto ``other`` to a millionth of a mm; None if
    there is none."""
    if len(one) != len(other):
        return None
    turned = _turned_onto(one, other)
    if turned is not None:
        return turned
    mirrored = _turned_onto(one[::-1] * (-1.0, 1.0), other)
    if mirrored is None:
        return None
    a, b, c, d, e, f = mirrored
    return -a, -b, c, d, e, f


def _turned_onto(one: Floats, other: Floats) -> Placing | None:
    """The rotation and shift that maps ``one`` onto ``other``, tried for each corner to begin with.

    For one order of the corners, the best rotation about the centers is the angle of the sum of conj(a)·b over the
    corners a and b as complex numbers (least squares). O(n²).
    """
    a, b = one @ (1, 1j), other @ (1, 1j)
    mine, its = a - a.mean(), b - b.mean()
    count = np.arange(len(a))
    rolled = its[(count[:, None] + count) % len(a)]
    sums = rolled @ mine.conj()
    turns = sums / np.maximum(np.abs(sums), SMALLEST)
    strays = np.abs(turns[:, None] * mine - rolled).max(axis=1)
    k = int(strays.argmin())
    if strays[k] > EQUAL:
        return None
    turn = complex(turns[k])
    whole = complex(round(turn.real), round(turn.imag))
    turn = whole if abs(turn - whole) < DIVISOR else turn
    shift = complex(b[k] - turn * a[0])
    return turn.real, turn.imag, -turn.imag, turn.real, shift.real, shift.imag
