"""A path through a freehand texture: in rows from one end to the other, as long as the texture's stitching.

A freehand texture has no exact line. What is planned is where to enter, in which rows to work, and where to leave;
the length follows from the density. Lengths are mm, in the part's coordinates.
"""

from __future__ import annotations

from weakref import WeakKeyDictionary

import numpy as np
import shapely

from kenzet.core.geom.region import Floats
from kenzet.core.plan.drawing import Drawing
from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import runs
from kenzet.core.route.initial_tours import rows
from kenzet.core.route.network import Course, Lane, network
from kenzet.core.route.solve import Solver
from kenzet.core.tolerances import EQUAL, ROUNDING, SAME_LONG

_NEVER = 1e7  # mm: no thread stop within a texture
_MOST = 1500  # rows
_NEARER = 2  # times that the rows are counted again
_WELL = 0.1
_ROUND = 0.5  # of the row distance
_TINY = 0.1  # mm
_AS_LONG = 0.6

_kept: WeakKeyDictionary[Drawing, list[Floats]] = WeakKeyDictionary()


def texture_ways(drawing: Drawing) -> list[Floats]:
    """For every piece of a texture's zone the path through it, (n, 2), from one point of its outline to another; a
    piece with a neck narrower than a row is divided there."""
    if drawing not in _kept:
        density = drawing.fill.claimed_density
        assert density is not None
        _kept[drawing] = [
            way
            for piece in drawing.region.pieces
            for polygon in piece.area.geoms
            for way in _through(polygon, density)
        ]
    return _kept[drawing]


def _through(piece: shapely.Polygon, density: float) -> list[Floats]:
    """A path with as many rows as are needed for ``density`` (mm for each mm²)."""
    wanted = density * piece.area
    found: list[list[Floats]] = []
    for across in (0.0, np.pi / 2):  # rows the other way, where bars are as wide as a row or two
        angle = _lean(piece) + across
        turned = shapely.transform(piece, lambda points, its=angle: points @ _turn(-its))
        found.append([way @ _turn(angle) for way in _as_long_as(turned, density, wanted)])
        if abs(_long(found[-1]) / wanted - 1) < _WELL:
            break
    return min(found, key=lambda ways: abs(_long(ways) - wanted))


def _as_long_as(piece: shapely.Polygon, density: float, wanted: float) -> list[Floats]:
    """The path with the number of rows for which its length is closest to ``wanted``."""
    x0, _, x1, _ = piece.bounds
    many = min(max(round((x1 - x0) * density), 1), _MOST)
    best: list[Floats] = []
    for _ in range(1 + _NEARER):
        ways = _in_rows(piece, many)
        long = _long(ways)
        if not best or abs(long - wanted) < abs(_long(best) - wanted):
            best = ways
        other = min(max(round(many * wanted / max(long, EQUAL)), 1), _MOST)
        if other == many or abs(long / wanted - 1) < SAME_LONG:
            break
        many = other
    return best


def _lean(piece: shapely.Polygon) -> float:
    """The direction of its longest extent, radians."""
    frame = np.diff(shapely.get_coordinates(shapely.oriented_envelope(piece))[:3], axis=0)
    edges = np.diff(shapely.get_coordinates(piece.exterior), axis=0)
    long, edge = (some[int(np.hypot(*some.T).round(3).argmax())] for some in (frame, edges))
    if np.hypot(*edge) > _AS_LONG * np.hypot(*long):  # a triangle lies on its longest side
        long = edge
    return float(np.arctan2(long[1], long[0]))


def _turn(angle: float) -> Floats:
    """The matrix that rotates rows of points by ``angle``."""
    c, s = np.cos(angle), np.sin(angle)
    return np.array([[c, s], [-s, c]])


def _in_rows(piece: shapely.Polygon, many: int) -> list[Floats]:
    """``many`` rows up and down, from left to right, joined inside the piece: one path unless a neck divides it."""
    x0, y0, x1, y1 = piece.bounds
    apart = (x1 - x0) / many
    inner = shapely.buffer(piece, -apart / 2, join_style="mitre")
    at = x0 + apart * (np.arange(many) + 0.5)
    uprights = shapely.linestrings([[(x, y0 - 1), (x, y1 + 1)] for x in at])
    cut = shapely.get_parts(shapely.intersection(inner, uprights))
    lines = [shapely.get_coordinates(line) for line in cut if line.length > apart / 4]
    if not lines:
        return [_once(piece)]
    found: list[Floats] = []
    for part in shapely.get_parts(inner):
        mine = [line for line in lines if part.distance(shapely.Point(line.mean(axis=0))) < _TINY]
        if mine:
            path = _joined(part, mine)
            path = np.vstack([_outside(piece, path[0]), path, _outside(piece, path[-1])])
            simple = shapely.simplify(shapely.linestrings(path), _TINY, preserve_topology=False)
            found.append(_rounded(shapely.get_coordinates(simple), _ROUND * apart))
    return found


def _joined(area: shapely.Polygon, lines: list[Floats]) -> Floats:
    """One path over all rows, along the area's outline from one to the next."""
    courses = [Course(line, False, number=k) for k, line in enumerate(lines)]
    rings = [np.asarray(ring.coords) for ring in (area.exterior, *area.interiors)]
    net = network(courses, [Lane(ring) for ring in rings], steps=0.0)
    solver = Solver(net, Costs(stop=_NEVER))
    if solver.roads.all is None:
        travel = solver.quick(None)
    else:
        tried = [solver.whole.travel(joins) for joins in (*rows(solver.whole), solver.whole.tree(None))]
        travel = min(tried, key=solver.worth)
    legs = [(leg.edge, leg.back) for run in runs(net, courses, travel) for leg in run.legs]
    paths = [net.paths[edge][::-1] if back else net.paths[edge] for edge, back in legs]
    whole = np.vstack(paths)
    keep = np.ones(len(whole), dtype=bool)
    keep[1:] = np.hypot(*np.diff(whole, axis=0).T) > EQUAL
    return whole[keep]


def _outside(piece: shapely.Polygon, point: Floats) -> Floats:
    """The point of its outline where one enters or leaves."""
    near = shapely.shortest_line(piece.boundary, shapely.Point(point))
    found: Floats = shapely.get_coordinates(near)[:1]
    return found


def _rounded(path: Floats, radius: float) -> Floats:
    """The path with rounded corners, since nobody turns sharply there."""
    sides = np.diff(path, axis=0)
    long = np.maximum(np.hypot(*sides.T), ROUNDING)
    cut = np.minimum(np.minimum(long[:-1], long[1:]) / 2, radius)[:, None]
    corner = path[1:-1]
    before = corner - sides[:-1] / long[:-1, None] * cut
    after = corner + sides[1:] / long[1:, None] * cut
    arcs = np.stack([before, before / 4 + corner / 2 + after / 4, after], axis=1).reshape(-1, 2)
    return np.vstack([path[:1], arcs, path[-1:]])


def _once(piece: shapely.Polygon) -> Floats:
    """A path from end to end, for a piece too small for rows."""
    x0, _, x1, _ = piece.bounds
    y = float(shapely.point_on_surface(piece).y)
    line = shapely.intersection(piece, shapely.linestrings([(x0 - 1, y), (x1 + 1, y)]))
    longest = max(shapely.get_parts(line), key=shapely.length)
    found: Floats = shapely.get_coordinates(longest)
    return found


def _long(ways: list[Floats]) -> float:
    """The total length, mm."""
    return sum(float(np.hypot(*np.diff(way, axis=0).T).sum()) for way in ways)
