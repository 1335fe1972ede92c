"""Echoes of an outline, each computed from the original, so that errors do not add up.

Cost: one library offset a ring. Round joins have enough chords that a ring strays from its arcs by at most
``CURVE_ERROR``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import MultiPolygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.geom.region import Region
from kenzet.core.tolerances import CURVE_ERROR, LEAST_RING_AREA, VISIBLE

Corners = Literal["mitred", "bevelled", "round"]
_JOINS: dict[Corners, Literal["mitre", "bevel", "round"]] = {
    "mitred": "mitre",
    "bevelled": "bevel",
    "round": "round",
}

_THREAD = 2.0  # mm of outline that are lost with what is too thin
_LONGEST_MITRE = 12.0  # times the distance; sharper points are cut square


def inward(region: Region, distance: float, corners: Corners) -> MultiPolygon:
    """``region`` shrunk by ``distance`` mm: what the echo at that distance encloses; may be empty.

    A corner of interior angle b moves distance / sin(b/2) along its bisector (F20); at corners that
    point into the region ``corners`` says whether the echo is mitred, cut square or goes round.
    """
    return _offset(region.area, -distance, corners)


def inward_all(region: Region, distances: Sequence[float], corners: Corners) -> list[MultiPolygon]:
    """``inward`` for ascending ``distances``, in one call, up to the first empty result."""
    shrunk = shapely.buffer(
        region.area,
        -np.array(distances),
        join_style=_JOINS[corners],
        mitre_limit=_LONGEST_MITRE,
        quad_segs=_quarter_steps(max(distances, default=0.0)),
    )
    return _wide_enough(shrunk)


def outward(area: BaseGeometry, distance: float, corners: Corners) -> MultiPolygon:
    """``area`` grown by ``distance`` mm: the area inside the echo around it; parts that meet are merged.

    A mitred echo of a curved outline is wrong at its cusps (a limit of the method), so use round joins for arcs.
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
    return next(iter(_wide_enough([found])), MultiPolygon())


def _without_threads(area: BaseGeometry) -> BaseGeometry:
    """``area`` without parts too thin to be seen. Where an arm is exactly twice as wide as the ring's distance,
    rounding leaves either nothing there or a ring of no width."""
    opened = shapely.buffer(
        shapely.buffer(area, -VISIBLE / 2, join_style="mitre", mitre_limit=_LONGEST_MITRE),
        VISIBLE / 2, join_style="mitre", mitre_limit=_LONGEST_MITRE,
    )  # fmt: skip
    return shapely.intersection(area, opened) if area.length - opened.length > _THREAD else area


def _wide_enough(areas: Sequence[BaseGeometry]) -> list[MultiPolygon]:
    """From each area the pieces that are large enough for a ring; ends at the first area that has none."""
    areas = [_without_threads(area) for area in areas]
    parts, of = shapely.get_parts(areas, return_index=True)
    wide = shapely.area(parts) > LEAST_RING_AREA
    parts, of = parts[wide], of[wide]
    counts = np.bincount(of, minlength=len(areas))
    till = int(len(areas) if counts.all() else counts.argmin())
    if counts[:till].max(initial=0) <= 1:
        return list(shapely.multipolygons(parts[:till, None]))
    parts, of = parts[of < till], of[of < till]
    return list(shapely.multipolygons(parts, indices=of))


def _quarter_steps(distance: float) -> int:
    """The number of chords a quarter circle, such that the sagitta D(1 - cos(π/4q)) stays under ``CURVE_ERROR``."""
    if distance <= CURVE_ERROR:
        return 2
    return max(2, math.ceil(math.pi / 4 / math.acos(1 - CURVE_ERROR / distance)))
