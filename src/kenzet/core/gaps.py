"""F44, the widest gap: the largest circle inside a zone that holds no stitching and crosses no edge.

Glossary: a *cell* is what is left between lines and outline. Where a circle as wide as the pitch fits
between two lines, the pitch is the answer, for no wider circle can miss an even family; only where
none fits are cells cut and measured. Cost: O(n) for the first test; a noding and some offsets for the second.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.fills.base import Family, Rings
from kenzet.core.geom.clip import Straight, Stretches, clip
from kenzet.core.geom.region import Floats, Region, widest_circle

_NODE_GRID = 1e-4  # mm: lines and outline are snapped to this before they are cut into cells
_SOME = 50_000


def widest_gap(region: Region, families: Sequence[Family], stretches: Stretches) -> float:
    """The diameter in mm; the zone's own widest circle where no line lies in it."""
    rings = [family for family in families if isinstance(family, Rings)]
    if rings:
        return 2 * widest_circle(list(_between_rings(region, rings[0])))
    straight = [family for family in families if isinstance(family, Straight)]
    widest = max(_before_first(region, family) for family in straight)
    pitch = float(straight[0].pitch)
    if widest <= pitch + 1e-6 and _fits_between(region, straight, pitch):
        return pitch
    return 2 * widest_circle(_cells(region, stretches))


def _before_first(region: Region, family: Straight) -> float:
    """How wide the strip before the first line is, where lines are left out there; else 0."""
    if family.first is None:
        return 0.0
    nx, ny = family.normal
    lowest = min(x * nx + y * ny for x, y in region.reach)
    return family.place(family.first) - lowest


def _between_rings(region: Region, rings: Rings) -> Iterable[Polygon]:
    outer = region.area
    for inside in rings.insides:
        yield from _polygons(outer.difference(inside))
        outer = inside
    yield from outer.geoms


def _fits_between(region: Region, straight: Sequence[Straight], pitch: float) -> bool:
    inner = shapely.buffer(region.area, -pitch / 2 + 1e-4, join_style="mitre", mitre_limit=12)
    if inner.is_empty:
        return False
    middle = [Straight(f.angle, f.pitch, f.datum + float(f.pitch) / 2) for f in straight]
    if len(middle) == 1:
        return len(clip([(Region(inner), middle[0])])) > 0
    return any(
        shapely.intersects_xy(inner, x, y).any() for x, y in _crossings(Region(inner), middle[0], middle[1])
    )


def _crossings(region: Region, one: Straight, other: Straight) -> Iterable[tuple[Floats, Floats]]:
    """Where the lines of both families cross within the bounds of ``region``: x and y, some at a time."""
    left, low, right, high = region.bounds
    corners = [(left, low), (right, low), (left, high), (right, high)]
    spans = []
    for family in (one, other):
        nx, ny = family.normal
        reach = [(x * nx + y * ny - family.datum) / float(family.pitch) for x, y in corners]
        spans.append(np.arange(math.ceil(min(reach)), math.floor(max(reach)) + 1))
    normals = np.linalg.inv(np.array([one.normal, other.normal]))
    across = other.datum + spans[1] * float(other.pitch)
    for some in np.array_split(spans[0], max(1, len(spans[0]) * len(spans[1]) // _SOME)):
        i, j = (
            grid.ravel() for grid in np.meshgrid(one.datum + some * float(one.pitch), across, indexing="ij")
        )
        yield normals[0, 0] * i + normals[0, 1] * j, normals[1, 0] * i + normals[1, 1] * j


def _cells(region: Region, stretches: Stretches) -> list[Polygon]:
    lines = shapely.linestrings(stretches.ends.reshape(-1, 2, 2)) if len(stretches) else []
    noded = shapely.union_all([region.area.boundary, *lines], grid_size=_NODE_GRID)
    cells = shapely.polygonize([noded]).geoms
    return [cell for cell in cells if shapely.intersects(region.area, cell.representative_point())]


def _polygons(area: BaseGeometry) -> Iterable[Polygon]:
    parts = area.geoms if isinstance(area, MultiPolygon) or hasattr(area, "geoms") else [area]
    return [part for part in parts if isinstance(part, Polygon) and part.area > 0]
