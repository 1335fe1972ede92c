"""Where the needle may go: the lines to sew and the lanes to travel along, as a graph of nodes and edges.

Glossary: a *lane* is an edge for travelling without crossing open fabric: the ditch of a seam, the zone's edge,
the quilt's *rim* under the binding, a short *step* from ring to ring, a path across a *texture* that hides it; a
line that is already sewn is a lane too (*retraced*). Nodes are where lines meet lanes or each other's ends, and
the corners of rings; there is no node where lines merely cross. Lengths are mm, in the part's coordinates.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.geom.region import Floats, Point
from kenzet.core.tolerances import DIVISOR, NETWORK_GRID, ROUNDING

Ints = NDArray[np.int64]
LINE, DITCH, EDGE, STEP, RIM, TEXTURE = range(6)
KINDS = ("line", "ditch", "edge", "step", "rim", "texture")
LANES = (DITCH, EDGE, RIM)
TOUCH = 0.05  # mm: what lies nearer together is one node
CURVES = 6.0  # mm: shorter sides are what curves are drawn of
_CORNER = np.cos(np.radians(25))
_FAR = 4.5  # distances from ring to ring: a sharper corner than 26 degrees is stepped across elsewhere
_FEET = 4  # places at which one may step from a ring that has no corner


@dataclass(frozen=True, eq=False)
class Course:
    """A line to sew: its polyline (n, 2), whether it is closed, and the number of ``passes``.

    ``zone``, ``piece`` (of the zone's cloth) and ``family`` say what it belongs to, ``number`` is its number in
    its drawing. ``before`` is the ring or line from which one can step to it (its index in the list, -1 for the
    zone's outline, None if there is no step) and ``apart`` the distance. A ``freehand`` one is a path through a
    texture.
    """

    line: Floats
    closed: bool
    zone: int = 0
    piece: int = 0
    family: int = 0
    number: int = 0
    passes: int = 1
    before: int | None = None
    apart: float = 0.0
    freehand: bool = False

    @cached_property
    def curved(self) -> bool:
        """Whether it mostly consists of the short sides of drawn curves."""
        sides = np.hypot(*np.diff(self.line, axis=0).T)
        return float(sides[sides < CURVES].sum()) > float(sides.sum()) / 2


@dataclass(frozen=True, eq=False)
class Lane:
    """A seam (``ditch``), another edge to travel along, or a straight path across a ``texture``."""

    line: Floats
    kind: Literal["ditch", "edge", "texture"] = "ditch"


@dataclass(frozen=True, eq=False)
class Network:
    """Nodes ``points`` (n, 2); edge k leads from ``ends[k, 0]`` to ``ends[k, 1]`` along ``paths[k]``, has the kind
    ``kinds[k]`` (LINE, DITCH, EDGE, STEP, RIM, TEXTURE) and belongs to course ``courses[k]``, -1 for lanes.

    ``passes`` is how many times it must be sewn. ``tips`` are the nodes at the ends of the first and last line of
    every family, ``pieces`` the edges to sew in each piece of cloth, ``lines`` the two end nodes of every open
    line, in order, once for each pass. ``travel_penalty`` is a factor on the cost of travelling along each edge,
    infinite where it is forbidden.
    """

    points: Floats
    ends: Ints
    lengths: Floats
    kinds: Ints
    courses: Ints
    passes: Ints
    paths: tuple[Floats, ...]
    tips: tuple[int, ...]
    pieces: tuple[list[int], ...]
    lines: tuple[tuple[int, int], ...]
    travel_penalty: Floats

    @cached_property
    def degrees(self) -> Ints:
        """The number of passes that end at each node."""
        found = np.zeros(len(self.points), dtype=np.int64)
        np.add.at(found, self.ends[:, 0], self.passes)
        np.add.at(found, self.ends[:, 1], self.passes)
        return found

    @property
    def stitched(self) -> float:
        """The total length to sew, mm."""
        return float((self.lengths * self.passes).sum())

    def nearest(self, point: Point) -> int:
        """The node nearest to ``point`` that has an edge."""
        away = np.hypot(*(self.points - np.array(point)).T)
        return int(np.argmin(np.where(self._used, away, np.inf)))

    @cached_property
    def _used(self) -> NDArray[np.bool_]:
        found = np.zeros(len(self.points), dtype=bool)
        found[self.ends] = True
        return found


def network(
    courses: Sequence[Course],
    lanes: Sequence[Lane],
    corners: Iterable[Point] = (),
    steps: float = np.inf,
    doors: Iterable[Point] = (),
    turning: bool = False,
) -> Network:
    """Builds the graph. ``corners`` are places on lanes from which one may step, ``doors`` other places to enter or
    leave.

    Steps across open fabric are at most ``steps`` mm (0: none). A line is sewn from end to end, and a ring from
    corner to corner; where other lines end on it, it can be travelled along from there, and only with ``turning``
    can it be left half sewn.
    """
    pieces = _noded_lanes(lanes)
    wires = [course.line for course in courses] + [line for line, _ in pieces]
    cuts: list[list[float]] = [[] for _ in wires]
    tree = _tree(wires)
    ends = [point for course in courses if not course.closed for point in (course.line[0], course.line[-1])]
    _cut_where_touched(tree, wires, np.array([*ends, *corners, *doors]).reshape(-1, 2), cuts)
    stepped = _steps(courses, wires, len(courses), tree, list(corners), steps) if steps else []
    turns = [_corner_places(course) for course in courses]
    for own, its in zip(cuts, turns, strict=False):
        own += its
    _cut_where_touched(tree, wires, np.array([p for pair in stepped for p in pair]).reshape(-1, 2), cuts)
    kinds = [LINE] * len(courses) + [kind for _, kind in pieces]
    builder = _Builder()
    for k, course in enumerate(courses):
        cut = _cut(wires[k], cuts[k])
        smooth = course.closed and not turns[k]
        if turning or smooth or course.freehand:
            builder.sewn(cut, k, course.passes)
            continue
        for whole, some in _between(cut, turns[k]):
            builder.whole(whole, some, k, course.passes)
    for k in range(len(courses), len(wires)):
        for path in _cut(wires[k], cuts[k]):
            builder.add(path, kinds[k], -1, 0)
    for one, other in stepped:
        builder.add(np.array([one, other]), STEP, -1, 0)
    return builder.network(courses)


def _tips(courses: Sequence[Course]) -> list[Floats]:
    families: dict[tuple[int, int, int], list[Course]] = {}
    for course in courses:
        if not course.closed:
            families.setdefault((course.zone, course.piece, course.family), []).append(course)
    outer = [course for some in families.values() for course in (some[0], some[-1])]
    return [end for course in outer for end in (course.line[0], course.line[-1])]


def _tree(wires: Sequence[Floats]) -> shapely.STRtree:
    return shapely.STRtree([shapely.linestrings(wire) for wire in wires])


def _noded_lanes(lanes: Sequence[Lane]) -> list[tuple[Floats, int]]:
    """Lanes divided where they meet; where a seam and another edge coincide, the seam is kept."""
    found: list[tuple[Floats, int]] = []
    ditches = [shapely.linestrings(lane.line) for lane in lanes if lane.kind == "ditch"]
    edges = [shapely.linestrings(lane.line) for lane in lanes if lane.kind == "edge"]
    across = [shapely.linestrings(lane.line) for lane in lanes if lane.kind == "texture"]
    if across:
        crossed = shapely.union_all(across, grid_size=NETWORK_GRID)
        found += [(np.asarray(part.coords), TEXTURE) for part in _parts(crossed)]
    seams = shapely.union_all(ditches, grid_size=NETWORK_GRID) if ditches else shapely.MultiLineString()
    others = shapely.union_all(edges, grid_size=NETWORK_GRID) if edges else shapely.MultiLineString()
    if edges and ditches:
        others = shapely.difference(others, shapely.buffer(seams, 2 * NETWORK_GRID), grid_size=NETWORK_GRID)
        both = shapely.union_all([seams, others], grid_size=NETWORK_GRID)
        near = shapely.buffer(seams, 2 * NETWORK_GRID)
        for part in _parts(both):
            kind = DITCH if shapely.covers(near, part) else EDGE
            found.append((np.asarray(part.coords), kind))
        return found
    found += [(np.asarray(part.coords), DITCH) for part in _parts(seams)]
    return found + [(np.asarray(part.coords), EDGE) for part in _parts(others)]


def _parts(lines: shapely.Geometry) -> Iterable[shapely.LineString]:
    """The pieces from junction to junction."""
    lines = shapely.line_merge(lines)
    for part in getattr(lines, "geoms", [lines]):
        if part.geom_type == "LineString" and part.length > NETWORK_GRID:
            yield part


def _cut_where_touched(
    tree: shapely.STRtree, wires: Sequence[Floats], points: Floats, cuts: list[list[float]]
) -> None:
    """Cuts every wire where one of ``points`` lies on it."""
    if not len(points):
        return
    spots = shapely.points(points)
    which, wire = tree.query(spots, predicate="dwithin", distance=TOUCH)
    places = shapely.line_locate_point(tree.geometries[wire], spots[which])
    for number, place in zip(wire.tolist(), places.tolist(), strict=True):
        cuts[number].append(place)


def _corner_places(course: Course) -> list[float]:
    """The corners of a closed line, mm along it."""
    if not course.closed:
        return []
    places = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(course.line, axis=0).T))])
    found: list[float] = places[_corners(course.line)].tolist()
    return found


def _corners(ring: Floats) -> Ints:
    """The indices of the vertices of a closed polyline where it turns sharply."""
    points = ring[:-1]
    into, out = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turn = (into * out).sum(axis=1) / np.maximum(np.hypot(*into.T) * np.hypot(*out.T), DIVISOR)
    return np.flatnonzero(turn < _CORNER)


def _steps(
    courses: Sequence[Course],
    wires: Sequence[Floats],
    lanes_from: int,
    tree: shapely.STRtree,
    corners: list[Point],
    most: float,
) -> list[tuple[Point, Point]]:
    """Steps from each ring to the one before it, ``most`` mm away: corner to corner, or perpendicular if there is
    no corner."""
    outline = np.array(corners).reshape(-1, 2)
    lanes = tree.geometries[lanes_from:]
    found: list[tuple[Point, Point]] = []
    for course in courses:
        if course.before is None or not course.closed:
            continue
        own = course.line[_corners(course.line)]
        if course.before >= 0:
            ring = courses[course.before].line
            theirs, along = (
                ring[_corners(ring)] if courses[course.before].closed else ring[:0],
                [tree.geometries[course.before]],
            )
        else:
            theirs, along = outline, lanes
        reach = min(_FAR * course.apart, most)
        if len(own) and len(theirs):
            away = np.hypot(*(own[:, None] - theirs[None]).transpose(2, 0, 1))
            near = away.argmin(axis=1)
            pairs = [(own[k], theirs[near[k]]) for k in range(len(own)) if TOUCH < away[k, near[k]] <= reach]
        else:
            pairs = _square_across(course.line, along, reach)
        found += [((float(p[0]), float(p[1])), (float(q[0]), float(q[1]))) for p, q in pairs]
    return found


def _square_across(
    ring: Floats, along: Sequence[shapely.Geometry], reach: float
) -> list[tuple[Floats, Floats]]:
    """From a few places of a ring to the nearest point of ``along``."""
    if not len(along):
        return []
    line = shapely.linestrings(ring)
    spots = shapely.line_interpolate_point(line, np.arange(_FEET) / _FEET * line.length)
    lanes = shapely.multilinestrings(list(along)) if len(along) > 1 else along[0]
    ways = shapely.get_coordinates(shapely.shortest_line(spots, lanes)).reshape(-1, 2, 2)
    return [(one, other) for one, other in ways if TOUCH < np.hypot(*(one - other)) <= reach]


def _cut(line: Floats, places: Sequence[float]) -> list[Floats]:
    """A polyline cut at ``places`` along it."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    total = along[-1]
    inner: list[float] = []
    for place in sorted(places):
        if TOUCH < place < total - TOUCH and (not inner or place - inner[-1] > TOUCH):
            inner.append(place)
    if not inner:
        return [line]
    marks = [0.0, *inner, total]
    at = np.stack([np.interp(marks, along, line[:, 0]), np.interp(marks, along, line[:, 1])], axis=1)
    found = []
    for k in range(len(marks) - 1):
        between = line[(along > marks[k] + ROUNDING) & (along < marks[k + 1] - ROUNDING)]
        found.append(np.vstack([at[k : k + 1], between, at[k + 1 : k + 2]]))
    return found


def _between(pieces: Sequence[Floats], turns: Sequence[float]) -> Iterable[tuple[Floats, list[Floats]]]:
    """The pieces of a line joined from one of its ``turns`` (mm along it) to the next: the joined line, and its
    pieces."""
    some: list[Floats] = []
    along = 0.0
    for number, piece in enumerate(pieces):
        some.append(piece)
        along += float(np.hypot(*np.diff(piece, axis=0).T).sum())
        if number + 1 == len(pieces) or any(abs(along - turn) <= TOUCH for turn in turns):
            yield np.concatenate([some[0], *(one[1:] for one in some[1:])]), some
            some = []


class _Builder:
    """Collects edges; ends within TOUCH of each other become one node."""

    def __init__(self) -> None:
        self._paths: list[Floats] = []
        self._rows: list[tuple[int, int, int]] = []
        self._closed: list[bool] = []

    def add(self, path: Floats, kind: int, course: int, passes: int, closed: bool = False) -> None:
        """Adds an edge; a ``closed`` one cannot be travelled along."""
        self._paths.append(path)
        self._rows.append((kind, course, passes))
        self._closed.append(closed)

    def sewn(self, pieces: Iterable[Floats], course: int, passes: int) -> None:
        """Adds a line that may be left between any two of its pieces."""
        for piece in pieces:
            self.add(piece, LINE, course, passes)

    def whole(self, whole: Floats, pieces: Sequence[Floats], course: int, passes: int) -> None:
        """Adds a line that is sewn whole, and can be travelled along piece by piece."""
        self.add(whole, LINE, course, passes, closed=len(pieces) > 1)
        for piece in pieces if len(pieces) > 1 else ():
            self.add(piece, LINE, course, 0)

    def network(self, courses: Sequence[Course]) -> Network:
        spots = np.array([end for path in self._paths for end in (path[0], path[-1])]).reshape(-1, 2)
        node, points = _clustered(spots)
        ends = node.reshape(-1, 2)
        lengths = np.array([float(np.hypot(*np.diff(path, axis=0).T).sum()) for path in self._paths])
        rows = np.array(self._rows, dtype=np.int64).reshape(-1, 3)
        keep = (ends[:, 0] != ends[:, 1]) | (lengths > 4 * TOUCH)
        chosen = np.flatnonzero(keep)
        pieces: dict[tuple[int, int], list[int]] = {}
        for edge, (_, course, passes) in enumerate(rows[keep].tolist()):
            if passes:
                pieces.setdefault((courses[course].zone, courses[course].piece), []).append(edge)
        return Network(
            points, ends[keep], lengths[keep], rows[keep, 0], rows[keep, 1], rows[keep, 2],
            tuple(self._paths[k] for k in chosen.tolist()),
            tuple(dict.fromkeys(int(np.argmin(np.hypot(*(points - tip).T))) for tip in _tips(courses))),
            tuple(pieces.values()),
            tuple(_lines(courses, node, self._rows)),
            np.where(np.array(self._closed, dtype=bool)[keep], np.inf, 1.0),
        )  # fmt: skip


def _lines(
    courses: Sequence[Course], node: Ints, rows: Sequence[tuple[int, int, int]]
) -> Iterable[tuple[int, int]]:
    """For every open course the nodes of its first and its last piece."""
    ends: dict[int, tuple[int, int]] = {}
    for k, (_, course, passes) in enumerate(rows):
        if passes and not courses[course].closed:
            first, _ = ends.get(course, (int(node[2 * k]), 0))
            ends[course] = (first, int(node[2 * k + 1]))
    for course, both in sorted(ends.items()):
        yield from [both] * courses[course].passes


def _clustered(spots: Floats) -> tuple[Ints, Floats]:
    """The node of every point, and the places of the nodes."""
    if not len(spots):
        return np.zeros(0, dtype=np.int64), spots
    cells: dict[tuple[int, int], list[int]] = defaultdict(list)
    node = np.empty(len(spots), dtype=np.int64)
    points: list[tuple[float, float]] = []
    for k, (x, y) in enumerate(spots.tolist()):
        i, j = int(np.floor(x / TOUCH)), int(np.floor(y / TOUCH))
        near = next(
            (
                one
                for a in (i - 1, i, i + 1)
                for b in (j - 1, j, j + 1)
                for one in cells.get((a, b), ())
                if abs(points[one][0] - x) <= TOUCH and abs(points[one][1] - y) <= TOUCH
            ),
            None,
        )
        if near is None:
            near = len(points)
            points.append((x, y))
            cells[i, j].append(near)
        node[k] = near
    return node, np.array(points)
