"""Echoes of an outline, each from the original, so that no error adds up.

Cost: one library offset a ring. Round joins are fine enough that a ring strays from its arcs by at
most ``CURVE_ERROR``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import MultiPolygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.geom.predicates import CURVE_ERROR, LEAST_RING_AREA
from kenzet.core.geom.region import Region

Corners = Literal["mitred", "bevelled", "round"]
_JOINS: dict[Corners, Literal["mitre", "bevel", "round"]] = {
    "mitred": "mitre",
    "bevelled": "bevel",
    "round": "round",
}

_LONGEST_MITRE = 12.0  # times the distance; sharper points are cut square


def inward(region: Region, distance: float, corners: Corners) -> MultiPolygon:
    """``region`` shrunk by ``distance`` mm: what the echo at that distance encloses; may be empty.

    A corner of interior angle b moves distance / sin(b/2) along its bisector (F20); at corners that
    point into the region ``corners`` says whether the echo is mitred, cut square or goes round.
    """
    return _offset(region.area, -distance, corners)


def inward_all(region: Region, distances: Sequence[float], corners: Corners) -> list[MultiPolygon]:
    """``inward`` for growing ``distances``, in one call, until one is empty."""
    shrunk = shapely.buffer(
        region.area,
        -np.array(distances),
        join_style=_JOINS[corners],
        mitre_limit=_LONGEST_MITRE,
        quad_segs=_quarter_steps(max(distances, default=0.0)),
    )
    found = []
    for area in shrunk:
        left = _wide_enough(area)
        if left.is_empty:
            break
        found.append(left)
    return found


def outward(area: BaseGeometry, distance: float, corners: Corners) -> MultiPolygon:
    """``area`` grown by ``distance`` mm: what the echo round it encloses; parts that meet are one.

    A mitred echo of a curved outline is wrong at its cusps; arcs want round joins (limits of the method).
    """
    return _offset(area, distance, corners)


def _offset(area: BaseGeometry, distance: float, corners: Corners) -> MultiPolygon:
    found = shapely.buffer(
        area,
        distance,
        join_style=_JOINS[corners],
        mitre_limit=_LONGEST_MITRE,
        quad_segs=_quarter_steps(abs(distance)),
    )
    return _wide_enough(found)


def _wide_enough(area: BaseGeometry) -> MultiPolygon:
    return MultiPolygon([p for p in getattr(area, "geoms", [area]) if p.area > LEAST_RING_AREA])


def _quarter_steps(distance: float) -> int:
    """Chords a quarter circle so that the sagitta D(1 - cos(pi/4q)) stays under CURVE_ERROR."""
    if distance <= CURVE_ERROR:
        return 2
    return max(2, math.ceil(math.pi / 4 / math.acos(1 - CURVE_ERROR / distance)))
