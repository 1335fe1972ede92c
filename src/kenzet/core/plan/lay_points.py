"""Lines placed through points visible on the cloth, beside a curve, or at an angle to the line before.

Glossary: a point is *seen* where seams meet, where two lines or a line and a seam cross, where a line ends or
turns, or at the crown of an arc. Only lines that come before count, and a line through such points rests on all of
them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import combinations, pairwise

import numpy as np
import shapely

from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.clip import Ints
from kenzet.core.geom.region import Floats, Point, Region
from kenzet.core.kit.curves import ranked
from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.lay_level import Template, middle_lines
from kenzet.core.ruler.line_references import DITCH, LINE, MARK, POINTS, TILT, References
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import LEAST_TURN, SAME_ANGLE, SAME_PLACE, STOP_ERROR, VISIBLE

_MOST_LINES = 600  # of a drawing that are looked at
_MOST_LEGS = 200  # of a line
_MOST_DOTS = 24  # of a line: with more it is drawn
_CROSSING = math.sin(math.radians(8))  # at a flatter angle a crossing is no point
_TILTED = math.radians(12)  # at most: beyond, nothing of the ruler lies on the line before
_SAME = 1e3 * SAME_ANGLE  # radians: flatter than that it is parallel
_CONCENTRIC = STOP_ERROR  # mm between two centres

Leg = tuple[Point, Point, Arc | None]


def lay_points(
    kit: Kit,
    drawing: Drawing,
    into: References,
    base: Sequence[Drawing] = (),
    template: Template | None = None,
) -> None:
    """Places lines that would have to be marked through points that are seen, from an earlier concentric curve, or at
    an angle to the line before, if a ruler allows it.

    If only some points of a line are seen, dots mark the others. For rows of a ``template``, the middle line is
    marked instead. ``base`` are drawings below this one that are only marked, so that all their lines are visible.
    """
    open_ = np.flatnonzero(into.kinds == MARK).tolist()
    if not open_ or drawing.lines > _MOST_LINES:
        return
    seen = _Seen(drawing, into, base)
    ditches = _in_ditches(drawing, open_)
    into.kinds[ditches] = DITCH
    for line in (line for line in open_ if line not in ditches):
        legs = _legs(drawing, line)
        if len(legs) > _MOST_LEGS:
            continue
        points = seen.through(line, legs) if _can_lay(kit, legs) else None
        if points is not None and not points[1]:
            into.kinds[line], into.points[line] = POINTS, points[0]
            continue
        if kit.sew_with == "ruler foot" and (
            _beside_curve(kit, drawing, into, line, legs, seen) or _askew(kit, drawing, into, line, seen)
        ):
            continue
        turns = len(legs) > 1 or legs[0][2] is not None
        by_middle = template is not None and middle_lines(drawing, line, template)
        if points is not None and turns and len(points[1]) <= _MOST_DOTS and not by_middle:
            into.kinds[line], into.points[line], into.dots[line] = POINTS, *points


def _in_ditches(drawing: Drawing, lines: Sequence[int]) -> list[int]:
    """Those of ``lines`` that lie in seams from end to end."""
    patches = [patch.area.boundary for patch in drawing.shape.part.patches.values()]
    seams = [drawing.shape.uncut.area.boundary, *patches]
    own = [drawing.polylines[line] for line in lines]
    some = np.array([line[[0, len(line) // 3, len(line) // 2, -1]] for line in own])
    near = shapely.STRtree(seams).query(
        shapely.points(some.reshape(-1, 2)), predicate="dwithin", distance=STOP_ERROR
    )
    on = np.bincount(np.unique(near[0]) // some.shape[1], minlength=len(own)) == some.shape[1]
    if not on.any():
        return []
    wide = shapely.union_all(seams).buffer(STOP_ERROR)
    return [
        line
        for line, may, polyline in zip(lines, on.tolist(), own, strict=True)
        if may and wide.covers(shapely.linestrings(polyline))
    ]


def _legs(drawing: Drawing, line: int) -> list[Leg]:
    """The straight sides and arcs of a line in order."""
    trace = drawing.trace(line)
    if trace is None:
        x0, y0, x1, y1 = drawing.stretches.ends[line].tolist()
        return [((x0, y0), (x1, y1), None)]
    rows = trace.arcs.tolist()
    if trace.closed:
        rows = [*rows, rows[0]]
    found: list[Leg] = []
    for (x0, y0, bulge), (x1, y1, _) in pairwise(rows):
        start, end = (x0, y0), (x1, y1)
        if math.dist(start, end) < SAME_PLACE:
            continue
        arc = Arc(start, end, bulge) if abs(bulge) > LEAST_TURN / 4 else None
        found.append((start, end, arc))
    return found


def _can_lay(kit: Kit, legs: Sequence[Leg]) -> bool:
    """Whether a ruler sews every leg from end to end; with the walking foot only straight legs are possible."""
    longest = max((float(edge.length) for _, edge in kit.straight), default=0.0)
    for start, end, arc in legs:
        if arc is None:
            if kit.sew_with == "ruler foot" and math.dist(start, end) > longest:
                return False
            continue
        fit = next(iter(ranked(kit, arc.radius, arc.angle)), None)
        if kit.sew_with == "walking foot" or fit is None or fit.verdict == "will not do":
            return False
    return bool(legs)


class _Seen:
    """What can be seen of a drawing's surroundings and of its own lines."""

    def __init__(self, drawing: Drawing, references: References, base: Sequence[Drawing]) -> None:
        self.drawing, self.references = drawing, references
        self._straight: dict[int, tuple[Ints, Floats]] = {}
        turns = [drawing.fill.turn_of(k) for k, _ in enumerate(drawing.families)]
        straight = [k for k, family in enumerate(drawing.families) if hasattr(family, "datum")]
        self._turns = [turns[straight[job % len(straight)]] for job in drawing.stretches.job.tolist()]
        self._turns += [turns[trace.family] for trace in drawing.traces]
        self._corners = shapely.STRtree(shapely.points(_seam_corners(drawing)))
        fixed = [*_fixed(drawing, base)]
        self._lines = [*fixed, *drawing.polylines]
        self._owners = [-1] * len(fixed) + list(range(drawing.lines))
        self._tree = shapely.STRtree([shapely.linestrings(line) for line in self._lines])
        spots = [
            (point, line) for line in range(drawing.lines) for point in _own_points(_legs(drawing, line))
        ]
        self._spots = shapely.STRtree(shapely.points(np.array([point for point, _ in spots]).reshape(-1, 2)))
        self._spot_lines = [line for _, line in spots]

    def straight_of(self, family: int) -> tuple[Ints, Floats]:
        """Numbers and ends (n, 2, 2) of the straight traces of a family."""
        if family not in self._straight:
            first = len(self.drawing.stretches)
            some = [
                (first + k, trace.polyline)
                for k, trace in enumerate(self.drawing.traces)
                if trace.family == family and len(trace.polyline) == 2
            ]
            numbers = np.array([number for number, _ in some], dtype=np.int64)
            self._straight[family] = numbers, np.array([line for _, line in some]).reshape(-1, 2, 2)
        return self._straight[family]

    def before(self, other: int, line: int) -> bool:
        """Whether ``other`` is always sewn before ``line``: it may be, and nothing that it rests on waits for
        ``line``."""
        if other == line or (self._turns[other], other) > (self._turns[line], line):
            return False
        waiting, known = [other], {other}
        while waiting:
            for need in self.references.needs(waiting.pop()):
                if need == line:
                    return False
                if need not in known:
                    known.add(need)
                    waiting.append(need)
        return True

    def through(self, line: int, legs: Sequence[Leg]) -> tuple[tuple[int, ...], tuple[Point, ...]]:
        """The lines that must be there so that the ends of the legs are seen, and the ends that are not seen. A
        curve may change sides half-way between two points that are seen."""
        ends = [legs[0][0], *(end for _, end, _ in legs)]
        found = [self._at(point, line) for point in ends]
        if len(legs) > 1:
            found = self._cut_ends(legs, found)
        needed: set[int] = set()
        hidden: list[Point] = []
        known = True  # whether the point before is seen or will be
        for k, lines in enumerate(found):
            if lines is not None:
                needed |= lines
            elif known and 0 < k < len(legs) and _half_way(*legs[k - 1 : k + 1]):
                known = False
                continue
            else:
                hidden.append(ends[k])
            known = True
        return tuple(sorted(needed)), tuple(_each_once(hidden))

    def _cut_ends(self, legs: Sequence[Leg], found: list[set[int] | None]) -> list[set[int] | None]:
        """If the zone's edge cuts the first or the last curve of a line, that end is placed like those of its
        neighbors."""
        cut = [
            leg[2] is not None and self._on_outline(point)
            for leg, point in ((legs[0], legs[0][0]), (legs[-1], legs[-1][1]))
        ]
        if found[0] is None and cut[0]:
            found = [set(), *found[1:]]
        return [*found[:-1], set()] if found[-1] is None and cut[1] else found

    def _on_outline(self, point: Point) -> bool:
        return bool(shapely.dwithin(self.drawing.region.area.boundary, shapely.points(point), VISIBLE))

    def _at(self, point: Point, line: int) -> set[int] | None:
        """The smallest set of lines that shows where ``point`` is; None if nothing shows it."""
        spot = shapely.points(point)
        if len(self._corners.query(spot, predicate="dwithin", distance=VISIBLE)):
            return set()
        near = [
            k
            for k in self._tree.query(spot, predicate="dwithin", distance=VISIBLE).tolist()
            if self._counts(k, line)
        ]
        best: set[int] | None = None
        for one, other in combinations(near, 2):
            if abs(_turned(_way(self._lines[one], point), _way(self._lines[other], point))) < _CROSSING:
                continue
            lines = {self._owners[k] for k in (one, other)} - {-1}
            if best is None or len(lines) < len(best):
                best = lines
        if best is not None and len(best) < 2:
            return best
        for k in self._spots.query(spot, predicate="dwithin", distance=VISIBLE).tolist():
            if self.before(self._spot_lines[k], line):
                return {self._spot_lines[k]}
        return best

    def _counts(self, k: int, line: int) -> bool:
        return self._owners[k] < 0 or self.before(self._owners[k], line)


def _seam_corners(drawing: Drawing) -> Floats:
    """The points where seams meet at an angle, as far as they are visible at the zone."""
    shape = drawing.shape
    found: list[Point] = list(shape.uncut.corners)
    near = shape.uncut.area.buffer(VISIBLE)
    shapely.prepare(near)
    for patch in shape.part.patches.values():
        if shapely.intersects(near, patch.area):
            found += Region(patch.area, shape.part.soft).corners
    points = np.array(found).reshape(-1, 2)
    inside: Floats = points[shapely.intersects_xy(near, points[:, 0], points[:, 1])]
    return inside


def _fixed(drawing: Drawing, base: Sequence[Drawing]) -> Iterable[Floats]:
    """Seams, and lines that are marked in any case."""
    for polygon in drawing.shape.uncut.area.geoms:
        for ring in (polygon.exterior, *polygon.interiors):
            yield np.asarray(ring.coords)[:, :2]
    yield from np.array(drawing.shape.seams).reshape(-1, 2, 2)
    for one in base:
        yield from one.polylines


def _own_points(legs: Sequence[Leg]) -> Iterable[Point]:
    """The points where a line visibly ends or turns, and the crowns of its arcs."""
    if not legs:
        return
    yield legs[0][0]
    for _, end, arc in legs:
        yield end
        if arc is not None and abs(arc.angle) > 4 * _CROSSING:
            yield arc.at(0.5)


def _each_once(points: Sequence[Point]) -> Iterable[Point]:
    """Points without repetitions, for lines that pass a point twice."""
    for k, point in enumerate(points):
        if all(math.dist(point, other) >= STOP_ERROR for other in points[:k]):
            yield point


def _half_way(one: Leg, other: Leg) -> bool:
    """Whether two arcs have the same radius and opposite directions."""
    a, b = one[2], other[2]
    return a is not None and b is not None and a.bulge * b.bulge < 0 and abs(a.radius - b.radius) < VISIBLE


def _way(line: Floats, point: Point) -> Floats:
    """The direction of a polyline at a point."""
    ends = shapely.linestrings(np.stack([line[:-1], line[1:]], axis=1))
    k = int(np.argmin(shapely.distance(ends, shapely.points(point))))
    way: Floats = line[k + 1] - line[k]
    found: Floats = way / max(math.hypot(*way.tolist()), SAME_PLACE)
    return found


def _turned(one: Floats, other: Floats) -> float:
    return float(one[0] * other[1] - one[1] * other[0])


def _beside_curve(
    kit: Kit, drawing: Drawing, into: References, line: int, legs: Sequence[Leg], seen: _Seen
) -> bool:
    """Places a line of one arc from an earlier concentric arc; tells whether that was possible."""
    if len(legs) != 1 or legs[0][2] is None:
        return False
    own = legs[0][2]
    fit = next(iter(ranked(kit, own.radius, own.angle)), None)
    best: tuple[float, int] | None = None
    for trace in range(len(drawing.stretches), drawing.lines):
        for _, _, arc in _legs(drawing, trace) if trace != line else ():
            if arc is None or math.dist(arc.centre, own.centre) > _CONCENTRIC:
                continue
            apart = abs(arc.radius - own.radius)
            rim = abs(apart - float(kit.foot_offset)) < STOP_ERROR
            does = rim or (fit is not None and fit.verdict != "will not do")
            if (
                apart > STOP_ERROR
                and does
                and _beside_each_other(own, arc)
                and (best is None or apart < best[0])
            ):
                exact = Fraction(apart).limit_denominator(10**6)
                if best_offset_sum(kit, exact).can_be_laid and seen.before(trace, line):
                    best = apart, trace
    if best is None:
        return False
    into.kinds[line], into.before[line] = LINE, best[1]
    into.distances[line] = Fraction(best[0]).limit_denominator(10**4)
    return True


def _beside_each_other(one: Arc, other: Arc) -> bool:
    """Whether the midpoint of one arc lies within the sector of the other."""
    (x, y), (cx, cy) = one.at(0.5), other.centre
    mid = math.atan2(y - cy, x - cx)
    mx, my = other.at(0.5)
    off = (mid - math.atan2(my - cy, mx - cx) + math.pi) % math.tau - math.pi
    return abs(off) <= abs(other.angle) / 2


def _askew(kit: Kit, drawing: Drawing, into: References, line: int, seen: _Seen) -> bool:
    """Places a straight line of a fan from the one before it, by its distance at either end; tells whether that
    was possible."""
    trace = drawing.trace(line)
    widest = max((float(edge.width) for _, edge in kit.straight), default=0.0)
    if trace is None or len(trace.polyline) != 2 or not widest:
        return False
    numbers, ends = seen.straight_of(trace.family)
    own = drawing.polylines[line]
    ways = ends[:, 1] - ends[:, 0]
    long = np.hypot(*ways.T)
    ways = ways / long[:, None]
    (ux, uy), far = (own[1] - own[0]).tolist(), math.dist(*own)
    lean = np.abs(ways[:, 0] * uy - ways[:, 1] * ux) / far
    from_start = own[None] - ends[:, :1]
    away = from_start[..., 1] * ways[:, :1] - from_start[..., 0] * ways[:, 1:]
    along = np.sort((from_start * ways[:, None]).sum(axis=2), axis=1)
    shared = np.minimum(along[:, 1], long) - np.maximum(along[:, 0], 0.0)
    may = (
        (lean > _SAME)
        & (lean < math.sin(_TILTED))
        & (away[:, 0] * away[:, 1] >= 0)
        & (shared >= 0.5 * np.ptp(along, axis=1))
    )
    may &= (
        (np.abs(away).max(axis=1) < float(kit.foot_offset) + widest)
        & (numbers != line)
        & (into.kinds[numbers] != DITCH)
    )
    for k in sorted(np.flatnonzero(may).tolist(), key=lambda k: float(np.abs(away[k]).max())):
        other = int(numbers[k])
        if not seen.before(other, line):
            continue
        start, end = (Fraction(abs(float(one))).limit_denominator(10**4) for one in away[k])
        into.kinds[line], into.before[line], into.tilts[line] = TILT, other, (start, end)
        into.distances[line] = max(start, end)
        return True
    return False
