"""Lines that are no parallel family: straight sides and arcs end to end, clipped to a region.

Glossary: a *path* is vertices (x, y, bulge), the bulge being that of the side which leaves; of an open
path's last vertex it means nothing. Its *points* are those of the polyline that is drawn, which strays
at most ``CURVE_ERROR`` from the arcs. *q* is a place on the drawn polylines: the index of the point
before it plus the share of the way to the next.

A piece along the region's outline (the ditch) is no line; one that only touches the outline is not cut there.

Cost: O(points · sides of the outline near them); memory the same.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.geom.arcs import Point, Vertex
from kenzet.core.geom.region import Floats, Region
from kenzet.core.tolerances import CURVE_ERROR, DIVISOR, FLAT, LEAST_STEP, LEAST_STRETCH, ROUNDING, SNAP

Ints = NDArray[np.int64]

_SOFT_TURN = math.radians(8.1)
_MANY_PAIRS = 400_000
_CHORD_END = 1.5 * CURVE_ERROR
_MARGIN = 1.0
"""mm by which an arc must be clear of the outline to count as far from it."""


@dataclass(frozen=True)
class Path:
    """An open or closed path; ``vertices`` is (n, 3) in mm."""

    vertices: Floats
    closed: bool = False

    @classmethod
    def of(cls, vertices: Iterable[Vertex], closed: bool = False) -> Path:
        """From points with or without a bulge."""
        return cls(np.array([(*v[:2], v[2] if len(v) == 3 else 0.0) for v in vertices]), closed)

    @cached_property
    def points(self) -> Floats:
        """(m, 2) as drawn; a closed path's first point is not repeated."""
        drawn = _drawn([self])
        return drawn.points[:-1] if self.closed else drawn.points

    @property
    def straight(self) -> bool:
        """Whether it has no arc."""
        bulges = self.vertices[:, 2] if self.closed else self.vertices[:-1, 2]
        return not np.any(np.abs(bulges) > ROUNDING)

    @cached_property
    def length(self) -> float:
        """mm, along the arcs."""
        return float(lengths([self])[0])


@dataclass(frozen=True, slots=True)
class Piece:
    """What is left of path number ``line`` inside a region."""

    line: int
    path: Path


@dataclass(frozen=True, slots=True)
class _Drawn:
    """All paths as polylines: points, and for each its path, its vertex and its share of that vertex's side.

    By vertex: its side's ``angle`` in radians (0 where it is straight), its ``centre``, how many chords it
    is drawn with (``count``) and its first point (``start``); ``near`` says of each point whether what leaves it may come near
    the outline, None where that was not asked.
    """

    points: Floats
    path: Ints
    vertex: Ints
    share: Floats
    vertices: Floats
    angle: Floats
    centre: Floats
    count: Ints
    start: Ints
    near: NDArray[np.bool_] | None

    def at(self, q: Floats) -> Floats:
        """The places (n, 2) at ``q``, on the arcs themselves."""
        low = np.minimum(np.floor(q).astype(np.int64), len(self.points) - 1)
        high = np.minimum(low + 1, len(self.points) - 1)
        places: Floats = self.points[low] + (q - low)[:, None] * (self.points[high] - self.points[low])
        vertex = self.vertex[low]
        on = (self.angle[vertex] != 0.0) & (q > low)
        if not on.any():
            return places
        v = vertex[on]
        turn = self.angle[v] * (q[on] - self.start[v]) / self.count[v]
        places[on] = self.centre[v] + _turned(self.vertices[v, :2] - self.centre[v], turn)
        return places

    def on_arc(self, q: Floats, side: Floats) -> Floats:
        """``q`` moved along their arcs to where these truly meet the lines of ``side`` (n, 4)."""
        vertex = self.vertex[np.minimum(q.astype(np.int64), len(self.points) - 2)]
        on = np.flatnonzero(self.angle[vertex] != 0.0)
        if not len(on):
            return q
        v, begin = vertex[on], side[on, :2]
        way = side[on, 2:] - begin
        way = way / np.maximum(np.hypot(*way.T), DIVISOR)[:, None]
        here, centre = self.at(q[on]), self.centre[v]
        radius = np.hypot(*(self.vertices[v, :2] - centre).T)
        foot = begin + ((centre - begin) * way).sum(axis=1)[:, None] * way
        reach = np.sqrt(np.maximum(radius**2 - ((centre - foot) ** 2).sum(axis=1), 0.0))[:, None] * way
        ahead = np.hypot(*(foot + reach - here).T) <= np.hypot(*(foot - reach - here).T)
        meets = np.where(ahead[:, None], foot + reach, foot - reach) - centre
        now = here - centre
        turn = np.arctan2(now[:, 0] * meets[:, 1] - now[:, 1] * meets[:, 0], (now * meets).sum(axis=1))
        moved = q[on] + turn / self.angle[v] * self.count[v]
        near = np.abs(turn) * radius < 20 * CURVE_ERROR
        found = q.copy()
        low, high = self.start[v].astype(float), (self.start[v] + self.count[v]).astype(float)
        found[on] = np.where(near, np.clip(moved, low, high), q[on])
        return found


def _turned(arm: Floats, turn: Floats) -> Floats:
    cos, sin = np.cos(turn), np.sin(turn)
    return np.stack([arm[:, 0] * cos - arm[:, 1] * sin, arm[:, 0] * sin + arm[:, 1] * cos], axis=1)


def _far(dx: Floats, dy: Floats) -> Floats:
    """How far that is; quicker than the library's, which minds numbers that are none of ours."""
    return np.asarray(np.sqrt(dx * dx + dy * dy))


def lengths(paths: Sequence[Path]) -> Floats:
    """mm of each path, along its arcs."""
    if not paths:
        return np.empty(0)
    vertices, owner = _end_to_end(paths)
    here, there = vertices[:-1], vertices[1:]
    chords = _far(there[:, 0] - here[:, 0], there[:, 1] - here[:, 1])
    bulge = np.abs(here[:, 2])
    bent = bulge > ROUNDING
    safe = np.where(bent, bulge, 1.0)
    whole = np.where(bent, np.arctan(safe) * (1 + safe * safe) / safe, 1.0)  # of an arc to its chord
    goes_on = owner[1:] == owner[:-1]
    return np.asarray(
        np.bincount(owner[:-1], np.where(goes_on, chords * whole, 0.0), len(paths)), dtype=float
    )


def _end_to_end(paths: Sequence[Path]) -> tuple[Floats, Ints]:
    """The vertices of all, a closed one's first once more at its end, and the path of each."""
    rows = [np.vstack([p.vertices, p.vertices[:1]]) if p.closed else p.vertices for p in paths]
    return np.concatenate(rows), np.repeat(np.arange(len(rows)), [len(row) for row in rows])


def _near(vertices: Floats, ahead: Floats, sides: Floats) -> NDArray[np.bool_]:
    """Of each vertex, whether the side that leaves it may come near a side of the outline: the disc about its chord's middle that holds
    the arc reaches one.
    """
    (x0s, y0s, bulge), (x1s, y1s) = np.ascontiguousarray(vertices.T), np.ascontiguousarray(ahead.T)
    x, y = (x0s + x1s) / 2, (y0s + y1s) / 2
    reach = _far(x1s - x0s, y1s - y0s) / 2 * np.maximum(1.0, np.abs(bulge)) + _MARGIN
    found = np.zeros(len(vertices), dtype=bool)
    for x0, y0, x1, y1 in sides.tolist():
        dx, dy = x1 - x0, y1 - y0
        far = max(math.hypot(dx, dy), DIVISOR)
        ux, uy = dx / far, dy / far
        near = np.flatnonzero(
            np.abs(y * ux - x * uy - (y0 * ux - x0 * uy)) < reach
        )  # of the side's line; then of itself
        along = np.clip((x[near] - x0) * ux + (y[near] - y0) * uy, 0.0, far)
        away_x, away_y = x[near] - x0 - along * ux, y[near] - y0 - along * uy
        found[near[away_x * away_x + away_y * away_y < reach[near] ** 2]] = True
    return found


def _drawn(paths: Sequence[Path], sides: Floats | None = None) -> _Drawn:
    """Closed paths end with their first vertex once more. With ``sides`` (n, 4) an arc that is far from all of them is one chord."""
    vertices, owner = _end_to_end(paths)
    last = np.ones(len(vertices), dtype=bool)
    np.not_equal(owner[1:], owner[:-1], out=last[:-1])
    after = np.concatenate([vertices[1:, :2], vertices[:1, :2]])
    drawn_round = (vertices[:, 2] != 0.0) & ~last
    near = None
    if sides is not None and drawn_round.any() and len(vertices) * len(sides) <= _MANY_PAIRS:
        near = _near(vertices, after, sides)
        drawn_round &= near
    arcs = np.flatnonzero(drawn_round)
    begin, bulge = vertices[arcs, :2], vertices[arcs, 2]
    dx, dy = (after[arcs] - begin).T
    chord = np.hypot(dx, dy)
    curved = np.abs(bulge) * chord / 2 > SNAP
    arcs, begin, bulge, dx, dy, chord = (each[curved] for each in (arcs, begin, bulge, dx, dy, chord))
    radius = chord * (1 + bulge**2) / (4 * np.abs(bulge))
    turn = 4 * np.arctan(bulge)
    step = 2 * np.arccos(np.clip(1 - CURVE_ERROR / np.maximum(radius, CURVE_ERROR), 0.0, 1.0))
    count = np.ones(len(vertices), dtype=np.int64)
    count[arcs] = np.maximum(4, np.ceil(np.abs(turn) / np.clip(step, LEAST_STEP, _SOFT_TURN)))
    reach = (1 - bulge**2) / (4 * bulge)
    centre, angle = np.zeros((len(vertices), 2)), np.zeros(len(vertices))
    centre[arcs, 0] = begin[:, 0] + dx / 2 - dy * reach
    centre[arcs, 1] = begin[:, 1] + dy / 2 + dx * reach
    angle[arcs] = turn
    vertex = np.repeat(np.arange(len(vertices)), count)
    start = np.cumsum(count) - count
    share = (np.arange(len(vertex)) - start[vertex]) / count[vertex]
    points = vertices.take(vertex, axis=0)[:, :2]
    if len(arcs):
        inner = np.flatnonzero(share > 0)
        v = vertex[inner]
        points[inner] = centre[v] + _turned(vertices[v, :2] - centre[v], angle[v] * share[inner])
    return _Drawn(
        points, owner[vertex], vertex, share, vertices, angle, centre, count, start, None if near is None else near[vertex]
    )  # fmt: skip


def clip_paths(region: Region, paths: Sequence[Path]) -> list[Piece]:
    """The pieces of ``paths`` inside ``region``, in the order of the paths and along each."""
    paths = [path for path in paths if len(path.vertices) > 1]
    if not paths:
        return []
    drawn = _drawn(paths, region.segments)
    points = drawn.points
    goes_on = drawn.path[1:] == drawn.path[:-1]
    long = np.append(0.0, np.cumsum(np.where(goes_on, _far(*(points[1:] - points[:-1]).T), 0.0)))
    ends = np.flatnonzero(np.append(True, ~goes_on))
    finish = np.append(ends[1:] - 1, len(points) - 1)
    q = np.concatenate([_crossings(region, drawn, goes_on), ends, finish])
    q = np.sort(q)
    at = _along(long, q)
    owner = drawn.path[np.floor(q).astype(np.int64)]
    new = np.append(True, (owner[1:] != owner[:-1]) | (at[1:] - at[:-1] > SNAP))
    q, at, owner = q[new], at[new], owner[new]
    one = np.flatnonzero(owner[1:] == owner[:-1])
    middle = np.interp((at[one] + at[one + 1]) / 2, long, np.arange(len(long), dtype=float))
    mx, my = drawn.at(middle).T
    shrunk = region.shrunk
    kept = one[shapely.intersects_xy(shrunk, mx, my)] if not shrunk.is_empty else one[:0]
    if not len(kept):
        return []
    opens = np.append(True, kept[1:] != kept[:-1] + 1) | np.append(True, owner[kept[1:]] != owner[kept[:-1]])
    closes = np.append(opens[1:], True)
    first, last = kept[opens], kept[closes] + 1
    long_enough = at[last] - at[first] > LEAST_STRETCH
    first, last = first[long_enough], last[long_enough]
    spans = _cut(drawn, owner[first], q[first], q[last])
    return list(_pieces(paths, spans, ends[spans.owner], finish[spans.owner]))


def _crossings(region: Region, drawn: _Drawn, goes_on: NDArray[np.bool_]) -> Floats:
    """The q of every place at which the paths meet a side of the outline."""
    points, sides = drawn.points, region.segments
    if len(points) * len(sides) <= _MANY_PAIRS:
        some = np.flatnonzero(goes_on if drawn.near is None else goes_on & drawn.near[:-1])
        s, e = _beyond_and_before(points, some, sides)
    else:
        segments = np.flatnonzero(goes_on)
        boxes = shapely.linestrings(np.stack([points[segments], points[segments + 1]], axis=1))
        found = region.side_tree.query(boxes)
        s, e = segments[found[0]], found[1]
    a, b = points[s], points[s + 1]
    c, f = sides[e, :2], sides[e, 2:] - sides[e, :2]
    d, w = b - a, c - a
    size, reach = np.hypot(*d.T), np.hypot(*f.T)
    cross = d[:, 0] * f[:, 1] - d[:, 1] * f[:, 0]
    slanted = np.abs(cross) > ROUNDING * size * reach
    safe = np.where(slanted, cross, 1.0)
    t = (w[:, 0] * f[:, 1] - w[:, 1] * f[:, 0]) / safe
    u = (w[:, 0] * d[:, 1] - w[:, 1] * d[:, 0]) / safe
    size, reach = np.maximum(size, DIVISOR), np.maximum(reach, DIVISOR)
    near_t, near_u = SNAP / size, SNAP / reach
    hit = slanted & (t >= -near_t) & (t <= 1 + near_t) & (u >= -near_u) & (u <= 1 + near_u)
    beside = np.abs(w[:, 0] * d[:, 1] - w[:, 1] * d[:, 0]) < SNAP * size
    level = ~slanted & beside
    found_q = [drawn.on_arc(s[hit] + np.clip(t[hit], 0.0, 1.0), sides[e[hit]])]
    if level.any():
        for end in (w[level], w[level] + f[level]):
            share = (end * d[level]).sum(axis=1) / size[level] ** 2
            found_q.append(s[level] + np.clip(share, 0.0, 1.0))
    return np.concatenate(found_q)


def _beyond_and_before(points: Floats, segments: Ints, sides: Floats) -> tuple[Ints, Ints]:
    """Pairs of segments and sides where the segment does not lie wholly on one hand of the side's line."""
    found = []
    (x, y), (ahead_x, ahead_y) = points[segments].T, points[segments + 1].T
    for x0, y0, x1, y1 in sides.tolist():
        reach = max(math.hypot(x1 - x0, y1 - y0), DIVISOR)
        ux, uy = (x1 - x0) / reach, (y1 - y0) / reach
        level = y0 * ux - x0 * uy
        here, there = y * ux - x * uy - level, ahead_y * ux - ahead_x * uy - level
        one_hand = (np.minimum(here, there) > SNAP) | (np.maximum(here, there) < -SNAP)
        found.append(segments[~one_hand])
    return np.concatenate(found), np.repeat(np.arange(len(sides)), [len(each) for each in found])


def _along(long: Floats, q: Floats) -> Floats:
    return np.interp(q, np.arange(len(long), dtype=float), long)


@dataclass(frozen=True, slots=True)
class _Spans:
    """What lies inside: path, q of start and end, and the vertices of each (n, 3)."""

    owner: Ints
    start: Floats
    end: Floats
    vertices: list[Floats]


def _cut(drawn: _Drawn, owner: Ints, start: Floats, end: Floats) -> _Spans:
    """The spans from q ``start`` to ``end``; partial arcs get the bulge of their share."""
    if not len(start):
        return _Spans(owner, start, end, [])
    many = len(start)
    places = drawn.at(np.concatenate([start, end]))
    here, there = places[:many], places[many:]
    vertex, share = _on_side(drawn, np.concatenate([start, end]))
    va, vb, ta, tb = vertex[:many], vertex[many:], share[:many], share[many:]
    whole = (tb == 0.0) & (vb > va)  # it ends on a vertex: that is the whole of the side before
    vb, tb = np.where(whole, vb - 1, vb), np.where(whole, 1.0, tb)
    several = vb > va
    angle = np.arctan(drawn.vertices[:, 2])
    opens = np.tan(angle[va] * (np.where(several, 1.0, tb) - ta))
    closes = np.tan(angle[vb] * (tb - np.where(several, 0.0, ta)))
    size = vb - va + 2
    finish = np.cumsum(size)
    begin, last = finish - size, finish - 1
    of = np.arange(int(finish[-1])) + np.repeat(va - begin, size)
    rows = drawn.vertices.take(of, axis=0, mode="clip")
    rows[last - 1, 2] = closes
    rows[begin, :2], rows[begin, 2] = here, opens
    rows[last, :2], rows[last, 2] = there, 0.0
    found = [rows[low:high] for low, high in zip(begin.tolist(), finish.tolist(), strict=True)]
    return _Spans(owner, start, end, found)


def _on_side(drawn: _Drawn, q: Floats) -> tuple[Ints, Floats]:
    """The vertex whose side holds q, and the share of the way along it."""
    low = q.astype(np.int64)
    rest = q - low
    vertex, share = drawn.vertex[low], drawn.share[low]
    following = np.minimum(low + 1, len(drawn.points) - 1)
    after = np.where(drawn.vertex[following] == vertex, drawn.share[following], 1.0)
    return vertex, np.where(rest == 0.0, share, share + rest * (after - share))


def _pieces(paths: Sequence[Path], spans: _Spans, begins: Ints, finishes: Ints) -> Iterable[Piece]:
    """A piece a span; where a closed path is inside at its first vertex, its last and first span are one."""
    owner = spans.owner.tolist()
    at_begin, at_finish = (spans.start == begins).tolist(), (spans.end == finishes).tolist()
    k = 0
    while k < len(owner):
        last = k
        while last + 1 < len(owner) and owner[last + 1] == owner[k]:
            last += 1
        mine = range(k, last + 1)
        if at_begin[k] and at_finish[last] and (k == last or paths[owner[k]].closed):
            if k == last:
                yield Piece(owner[k], paths[owner[k]])
            else:
                for each in mine[1:-1]:
                    yield Piece(owner[k], Path(spans.vertices[each]))
                yield Piece(owner[k], Path(np.vstack([spans.vertices[last][:-1], spans.vertices[k]])))
        else:
            for each in mine:
                yield Piece(owner[k], Path(spans.vertices[each]))
        k = last + 1


def with_arcs(points: Floats, closed: bool, near: float = CURVE_ERROR / 10) -> Floats:
    """The vertices of a drawn polyline whose runs of short chords lie on circles: arcs again, (n, 3).

    A run of three or more chords that turn the same way by less than 9 degrees each, whose points lie
    within ``near`` of one circle, its two ends within a chord's rise, becomes one arc. O(n).
    """
    if closed:
        points = np.vstack([_from_a_corner(points), _from_a_corner(points)[:1]])
    rows: list[tuple[float, float, float]] = []
    k, last = 0, len(points) - 1
    while k < last:
        reach, bulge = _run(points, k, near)
        rows.append((float(points[k, 0]), float(points[k, 1]), bulge))
        k = reach
    if not closed:
        rows.append((float(points[last, 0]), float(points[last, 1]), 0.0))
    return np.array(rows)


def _from_a_corner(points: Floats) -> Floats:
    """A closed ring begun at its sharpest turn, so that no arc is cut where it begins."""
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turn = np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1))
    return np.roll(points, -int(np.abs(turn).argmax()), axis=0)


def _run(points: Floats, k: int, near: float) -> tuple[int, float]:
    """How far the arc that begins at point ``k`` reaches, and its bulge; one chord and 0 where there is none."""
    circle = _circle(points[k + 1 : k + 4]) if k + 3 < len(points) else None
    if circle is None:
        return k + 1, 0.0
    cx, cy, radius = circle
    if abs(math.dist(points[k], (cx, cy)) - radius) > _CHORD_END:
        return k + 1, 0.0
    reach, angle = k, 0.0
    while reach + 1 < len(points):
        x0, y0 = points[reach] - (cx, cy)
        x1, y1 = points[reach + 1] - (cx, cy)
        turn = math.atan2(x0 * y1 - y0 * x1, x0 * x1 + y0 * y1)
        off = abs(math.hypot(x1, y1) - radius)
        if off > _CHORD_END or abs(turn) > math.radians(9.0):
            break
        if (angle and turn * angle < 0) or abs(angle + turn) > math.radians(350):
            break
        angle += turn
        reach += 1
        if off > near:  # where two arcs meet, each ends inside a chord
            break
    return (reach, math.tan(angle / 4)) if reach - k >= 3 else (k + 1, 0.0)


def _circle(three: Floats) -> tuple[float, float, float] | None:
    (ax, ay), (bx, by), (cx, cy) = three.tolist()
    cross = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    reach = max(math.dist((ax, ay), (bx, by)), math.dist((bx, by), (cx, cy)))
    if abs(cross) < FLAT * reach**2:
        return None
    b2, c2 = (bx - ax) ** 2 + (by - ay) ** 2, (cx - ax) ** 2 + (cy - ay) ** 2
    x = ax + ((cy - ay) * b2 - (by - ay) * c2) / (2 * cross)
    y = ay + ((bx - ax) * c2 - (cx - ax) * b2) / (2 * cross)
    return x, y, math.dist((x, y), (ax, ay))


def straight_path(start: Point, end: Point) -> Path:
    """One straight line."""
    return Path.of([start, end])
