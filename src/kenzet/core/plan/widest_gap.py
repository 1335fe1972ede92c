"""F44, the widest gap: the largest circle inside a zone that contains no stitching and crosses no edge.

Glossary: a *cell* is an area between lines and outline. If a circle as wide as the pitch fits between two lines,
the pitch is the answer, as no wider circle can avoid an even family; only otherwise are cells cut and measured.
Cost: O(n) for the first test; a noding and some offsets for the second. With two families, no circle is wider than
the widest gap of the closer one. For paths, the circle is searched.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.fills.base import Paths, Rings
from kenzet.core.geom.clip import Straight, Stretches, clip
from kenzet.core.geom.region import Floats, Point, Region, widest_circle
from kenzet.core.plan.drawing import Drawing
from kenzet.core.tolerances import CIRCLE_ERROR, EQUAL, GAP_ERROR, NODE_GRID

_SOME = 400
_QUICK = 1_500  # lines that are cut into cells while she waits for the drawing


def widest_gap(drawing: Drawing) -> WidestGap:
    """F44 for one drawing; the zone's own widest circle if it has no lines."""
    found = _without_cells(drawing)
    return found or WidestGap(2 * widest_circle(_cells(drawing.region, drawing.stretches)))


def open_gap(region: Region) -> WidestGap:
    """F44 without lines: the widest circle inside the region."""
    circles = shapely.maximum_inscribed_circle(np.array(region.area.geoms), tolerance=CIRCLE_ERROR)
    far = shapely.length(circles)
    x, y = circles[int(far.argmax())].coords[0]
    return WidestGap(2 * float(far.max()), (x, y))


def gap_together(drawings: Sequence[Drawing]) -> WidestGap:
    """F44 for fills sewn over one another in one zone, the lowest first. ``drawings`` must not be empty.

    A freehand texture fills its own region; outside it the other lines bound the gap.
    """
    sewn = [drawing for drawing in drawings if drawing.fill.sewn]
    if len(sewn) < 2:
        return widest_gap(sewn[0] if sewn else drawings[0])
    freehand = [drawing for drawing in sewn if drawing.fill.claimed_density is not None]
    textured = shapely.union_all([drawing.region.area for drawing in freehand])
    left = [piece for piece in _polygons(drawings[0].region.area.difference(textured)) if piece.area > 1]
    widest = max((float(drawing.fill.spacing.mm) for drawing in freehand), default=0.0)
    if not left:
        return WidestGap(widest)
    lines = [line for drawing in sewn if drawing not in freehand for line in drawing.polylines]
    found = search_gap(Region(MultiPolygon(left)), lines)
    return found if found.width > widest else WidestGap(widest)


def quick_gap(drawing: Drawing) -> WidestGap | None:
    """F44 if it takes no longer than the drawing itself, else None."""
    found = _without_cells(drawing)
    return found if found or drawing.lines > _QUICK else widest_gap(drawing)


def _without_cells(drawing: Drawing) -> WidestGap | None:
    """F44 where no cells are needed; None for straight families of which no full gap fits into the zone."""
    region, families, stretches = drawing.region, drawing.families, drawing.stretches
    if drawing.fill.claimed_density is not None:
        return WidestGap(float(drawing.fill.spacing.mm))  # as wide as she sews it
    if not drawing.fill.sewn or not families:
        return search_gap(region, [])
    rings = [family for family in families if isinstance(family, Rings)]
    if any(isinstance(family, Paths) for family in families) or (rings and drawing.left_out):
        sewn = [trace.polyline for trace in drawing.traces]
        return search_gap(region, [*stretches.ends.reshape(-1, 2, 2), *sewn])
    if rings:
        return WidestGap(2 * widest_circle(list(_between_rings(region, rings[0]))))
    straight = [family for family in families if isinstance(family, Straight)]
    widest = max(_before_first(region, family) for family in straight)
    pitch = min(float(max(family.gaps)) for family in straight)
    missing = drawing.longest_out > pitch  # a pitch holds no longer where a line is missing
    if not missing and widest <= pitch + EQUAL and _fits_between(region, straight, pitch):
        return WidestGap(pitch)
    return None


def search_gap(region: Region, lines: Sequence[Floats]) -> WidestGap:
    """The widest circle that contains no line, by subdividing squares: within 1.2 mm of radius or a twentieth of the
    optimum, then grown to its full width.

    A square of half side h around a point that is d from the nearest line contains no center of a circle wider
    than d + h√2; squares that cannot beat the best circle are dropped. O(squares · log lines).
    """
    points = [region.segments.reshape(-1, 2, 2), *(np.stack([p[:-1], p[1:]], axis=1) for p in lines)]
    tree = shapely.STRtree(shapely.linestrings(np.concatenate(points)))
    area = region.area
    shapely.prepare(area)
    left, low, right, high = region.bounds
    half = max(min(right - left, high - low) / 16, 1.2)
    xs, ys = (np.arange(a + half, b + half, 2 * half) for a, b in ((left, right), (low, high)))
    x, y = (grid.ravel() for grid in np.meshgrid(xs, ys))
    best, place, near = 0.0, region.middle, 1.2
    while len(x):
        spots = shapely.points(x, y)
        found = tree.query_nearest(spots, return_distance=True, all_matches=False)
        away = found[1]
        inside = shapely.intersects_xy(area, x, y)
        if inside.any():
            k = int(np.where(inside, away, -1.0).argmax())
            if away[k] > best:
                best, place = float(away[k]), (float(x[k]), float(y[k]))
        near = max(1.2, best / 20)
        may = np.where(inside, away + half * math.sqrt(2), half * math.sqrt(2) - away) > best + near
        x, y, half = x[may], y[may], half / 2
        x = np.concatenate([x - half, x + half, x - half, x + half])
        y = np.concatenate([y - half, y - half, y + half, y + half])
    return _grown(tree, area, best, place, near)


def _grown(tree: shapely.STRtree, area: MultiPolygon, best: float, place: Point, step: float) -> WidestGap:
    """From ``place`` to the center of the widest circle near it, to a hundredth of a mm."""
    ring = [(math.cos(math.tau * k / 12), math.sin(math.tau * k / 12)) for k in range(12)]
    while step > GAP_ERROR:
        x, y = (np.array([place[axis] + step * way[axis] for way in ring]) for axis in (0, 1))
        away = tree.query_nearest(shapely.points(x, y), return_distance=True, all_matches=False)[1]
        away = np.where(shapely.intersects_xy(area, x, y), away, -1.0)
        k = int(away.argmax())
        if away[k] > best + EQUAL:
            best, place = float(away[k]), (float(x[k]), float(y[k]))
        else:
            step /= 2
    return WidestGap(2 * best, place)


def _before_first(region: Region, family: Straight) -> float:
    """The width of the strip before the first line, if lines are left out there; else 0."""
    if family.first is None:
        return 0.0
    nx, ny = family.normal
    lowest = min(x * nx + y * ny for x, y in region.extremes)
    return family.place(family.first) - lowest


def _between_rings(region: Region, rings: Rings) -> Iterable[Polygon]:
    outer = region.area
    for inside in rings.insides:
        yield from _polygons(outer.difference(inside))
        outer = inside
    yield from outer.geoms


def _fits_between(region: Region, straight: Sequence[Straight], pitch: float) -> bool:
    inner = shapely.buffer(region.area, -pitch / 2 + NODE_GRID, join_style="mitre", mitre_limit=12)
    if inner.is_empty:
        return False
    area = Region(inner)
    middle = [family.middles(max(family.gaps)) for family in straight]
    if len(middle) == 1:
        return len(clip([(area, one) for one in middle[0]])) > 0
    shapely.prepare(inner)
    return any(
        shapely.intersects_xy(inner, x, y).any()
        for one in middle[0]
        for other in middle[1]
        for x, y in _crossings(area, one, other)
    )


def _crossings(region: Region, one: Straight, other: Straight) -> Iterable[tuple[Floats, Floats]]:
    """Where lines of both families cross within the bounds of ``region``: batches of x and y."""
    left, low, right, high = region.bounds
    corners = [(left, low), (right, low), (left, high), (right, high)]
    spans = []
    for family in (one, other):
        nx, ny = family.normal
        reach = [(x * nx + y * ny - family.datum) / float(family.pitch) for x, y in corners]
        spans.append(np.arange(math.ceil(min(reach)), math.floor(max(reach)) + 1))
    normals = np.linalg.inv(np.array([one.normal, other.normal]))
    across = other.datum + spans[1] * float(other.pitch)
    many = min(max(1, len(spans[0]) * len(spans[1]) // _SOME), max(1, len(spans[0])))
    for k in range(many):  # each some from all over the region: where one fits, it is soon found
        some = spans[0][k::many]
        i, j = (
            grid.ravel() for grid in np.meshgrid(one.datum + some * float(one.pitch), across, indexing="ij")
        )
        yield normals[0, 0] * i + normals[0, 1] * j, normals[1, 0] * i + normals[1, 1] * j


def _cells(region: Region, stretches: Stretches) -> list[Polygon]:
    lines = shapely.linestrings(stretches.ends.reshape(-1, 2, 2)) if len(stretches) else []
    noded = shapely.union_all([region.area.boundary, *lines], grid_size=NODE_GRID)
    cells = shapely.polygonize([noded]).geoms
    return [cell for cell in cells if shapely.intersects(region.area, cell.representative_point())]


def _polygons(area: BaseGeometry) -> Iterable[Polygon]:
    parts = area.geoms if isinstance(area, MultiPolygon) or hasattr(area, "geoms") else [area]
    return [part for part in parts if isinstance(part, Polygon) and part.area > 0]


@dataclass(frozen=True, slots=True)
class WidestGap:
    """Its ``width`` in mm, and a ``place`` where it is; None if it is the same everywhere."""

    width: float
    place: Point | None = None
