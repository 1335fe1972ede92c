"""Echoes of an outline, each from the original, so that no error adds up.

Cost: one library offset a ring. Round joins are fine enough that a ring strays from its arcs by at
most ``CURVE_ERROR``.
"""

from __future__ import annotations

import math
from typing import Literal

import shapely
from shapely.geometry import MultiPolygon

from kenzet.core.geom.predicates import CURVE_ERROR, LEAST_RING_AREA
from kenzet.core.geom.region import Region

Corners = Literal["mitred", "round"]

_LONGEST_MITRE = 12.0  # times the distance; sharper points are cut square


def inward(region: Region, distance: float, corners: Corners) -> MultiPolygon:
    """``region`` shrunk by ``distance`` mm: what the echo at that distance encloses; may be empty.

    A corner of interior angle b moves distance / sin(b/2) along its bisector (F20); at corners that
    point into the region ``corners`` says whether the echo is mitred or goes round.
    """
    shrunk = shapely.buffer(
        region.area,
        -distance,
        join_style="mitre" if corners == "mitred" else "round",
        mitre_limit=_LONGEST_MITRE,
        quad_segs=_quarter_steps(distance),
    )
    parts = [p for p in getattr(shrunk, "geoms", [shrunk]) if p.area > LEAST_RING_AREA]
    return MultiPolygon(parts)


def _quarter_steps(distance: float) -> int:
    """Chords a quarter circle so that the sagitta D(1 - cos(pi/4q)) stays under CURVE_ERROR."""
    if distance <= CURVE_ERROR:
        return 2
    return max(2, math.ceil(math.pi / 4 / math.acos(1 - CURVE_ERROR / distance)))
