"""How each line is laid: the placing mode, the reference, the etched line, the ruler and its stops.

Glossary: *etched* is d, the engraved line that lies on the reference; *behind* is how far the working
edge lies behind the reference when the spacing is smaller than r (F3); ``way`` is +1 where the lines
progress along the family's normal and -1 where they progress against it; *base* is a first line that
no seam gives, so it is marked. Lengths are mm; exact where they are ``Fraction``.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Edge, Point, Region, parallel
from kenzet.core.kit.kit import Kit
from kenzet.core.sums import (
    Sum,
    best_sum,
    edge_of,
    placements,
)


@dataclass(frozen=True, slots=True)
class Reference:
    """What a line is laid from: ``kind`` is "seam", "line" or "mark", ``distance`` exact mm away (0 for a mark).

    ``line`` is the index, in the drawing's stretches, of the line before, else None.
    """

    kind: str
    distance: Fraction
    way: int
    line: int | None = None


@dataclass(frozen=True, slots=True)
class Stretch:
    """A stretch as the laying sees it: its line number and its span along the direction, mm."""

    index: int
    line: int
    start: float
    end: float

    @property
    def length(self) -> float:
        """mm."""
        return self.end - self.start


def references(
    piece: Region, family: Straight, stretches: Sequence[Stretch], kit: Kit
) -> dict[int, Reference]:
    """What each stretch of ``family`` on one connected ``piece`` is laid from, in the order of sewing.

    Lines progress away from where rulers lie best: to the right where the machine's body stands on the right, so that
    the ruler lies left of the needle, outside the throat, and the other way for a mirrored one (A80, A107); upwards
    where they are level. Where an edge runs along the family and her ruler can be laid on it,
    the family starts there; else the longest line is the base, and the lines beyond it on either
    side follow with one turn of the quilt. A line whose gap no etched line makes is drawn.
    ``stretches`` are not empty.
    """
    forward = _forward(family, kit)
    ordered = sorted(stretches, key=lambda s: (s.line * forward, s.start))
    if not any(best_sum(kit, gap).can_be_laid for gap in family.gaps):
        return {s.index: Reference("mark", Fraction(0), forward) for s in ordered}
    seams = _Seams(piece, family, kit)
    for way, run in ((forward, ordered), (-forward, ordered[::-1])):
        distance = seams.behind(run[0], way)
        if distance is not None:
            return _follow(seams, family, run, way, kit, {run[0].index: Reference("seam", distance, way)})
    base = max(ordered, key=lambda s: (round(s.length, 3), -abs(s.line)))
    placed = {base.index: Reference("mark", Fraction(0), forward)}
    ahead = [s for s in ordered if s.line * forward > base.line * forward]
    back = [s for s in ordered[::-1] if s.line * forward < base.line * forward]
    level = [s for s in ordered if s.line == base.line and s is not base]
    placed |= {s.index: Reference("mark", Fraction(0), forward) for s in level}
    beside = [s for s in ordered if s.line == base.line]
    placed = _follow(seams, family, [*beside, *ahead], forward, kit, placed)
    return _follow(seams, family, [*beside, *back], -forward, kit, placed)


def _forward(family: Straight, kit: Kit) -> int:
    """+1 where lines progress along the family's normal."""
    nx, ny = family.normal
    if abs(nx) <= 1e-9:
        return 1 if ny > 0 else -1
    return 1 if (nx > 0) == (kit.machine.throat == "right") else -1


def _follow(
    seams: _Seams, family: Straight, run: Sequence[Stretch], way: int, kit: Kit, placed: dict[int, Reference]
) -> dict[int, Reference]:
    by_line: dict[int, list[Stretch]] = {}
    for stretch in sorted(run, key=lambda s: s.start):
        by_line.setdefault(stretch.line, []).append(stretch)
    gaps = family.gaps
    can_be_laid = {gap: best_sum(kit, gap).can_be_laid for gap in gaps}
    for stretch in run:
        if stretch.index in placed:
            continue
        before = _most_beside(by_line.get(stretch.line - way, []), stretch)
        gap = gaps[(stretch.line - (1 if way > 0 else 0)) % len(gaps)]
        beside = before and _overlap(before, stretch) >= min(12.7, before.length, stretch.length) * 0.5
        if before is not None and beside and can_be_laid[gap]:
            placed[stretch.index] = Reference("line", gap, way, before.index)
            continue
        distance = seams.behind(stretch, way)
        placed[stretch.index] = (
            Reference("mark", Fraction(0), way) if distance is None else Reference("seam", distance, way)
        )
    return placed


def _most_beside(line: Sequence[Stretch], stretch: Stretch) -> Stretch | None:
    """The stretch of ``line`` (which do not overlap, in order) that lies beside most of ``stretch``."""
    first = bisect_left(line, stretch.start, key=lambda s: s.end)
    last = bisect_right(line, stretch.end, key=lambda s: s.start)
    return max(line[first:last], key=lambda s: _overlap(s, stretch), default=None)


def _overlap(one: Stretch, other: Stretch) -> float:
    return min(one.end, other.end) - max(one.start, other.start)


class _Seams:
    """The edges of a piece that run along a family: what a line can be laid from without another line."""

    def __init__(self, piece: Region, family: Straight, kit: Kit) -> None:
        along = [edge for edge in piece.edges if parallel(edge, family.angle)]
        ends = np.array([(edge.start, edge.end) for edge in along]).reshape(-1, 2, 2)
        self._across = ends[:, 0] @ np.array(family.normal)
        span = ends @ np.array(family.direction)
        self._from, self._to = span.min(axis=1), span.max(axis=1)
        self._family, self._kit = family, kit

    def behind(self, stretch: Stretch, way: int) -> Fraction | None:
        """How far behind ``stretch`` the nearest of them lies, or None where her ruler cannot be laid on it."""
        behind = way * (self._family.place(stretch.line) - self._across)
        shared = np.minimum(self._to, stretch.end) - np.maximum(self._from, stretch.start)
        found = behind[(behind > 1e-6) & (shared >= 0.5 * stretch.length)]
        if not len(found):
            return None
        distance = Fraction(float(found.min())).limit_denominator(10**6)
        return distance if best_sum(self._kit, distance).can_be_laid else None


@dataclass(frozen=True, slots=True)
class Stop:
    """An end of a line: the needle stops at ``needle``; the working edge crosses the seam at ``edge``.

    ``along`` is r / sin(angle) (F7): how far along the seam the edge crosses it from the needle's
    end, or None where the line does not end on a straight seam.
    """

    needle: Point
    edge: Point
    along: float | None


@dataclass(frozen=True, slots=True)
class Pose:
    """Where the ruler lies for one line: its four corners, etched lines, foot, stops and placements.

    ``etched`` holds (x0, y0, x1, y1) of every etched line; ``chosen`` is the index of the one on the
    reference, or None. ``moves`` is how often the ruler is slid along (0: one placement). Without a ruler ``body``
    and ``etched`` are empty.
    """

    body: tuple[Point, ...]
    etched: tuple[tuple[float, float, float, float], ...]
    chosen: int | None
    foot: Point
    foot_radius: float
    stops: tuple[Stop, Stop]
    moves: int


def pose(piece: Region, start: Point, end: Point, left: bool, total: Sum, kit: Kit) -> Pose:
    """The ruler of ``total`` for the line from ``start`` to ``end``, its body on the ``left`` or right of it; the
    working edge lies r from the line.
    """
    length = math.dist(start, end)
    ux, uy = (end[0] - start[0]) / length, (end[1] - start[1]) / length
    side = 1.0 if left else -1.0
    bx, by = -uy * side, ux * side  # from the line towards the ruler's body
    r, edge = float(kit.reach), edge_of(kit, total)
    stops = (
        stop_at(piece, start, (-ux, -uy), (bx, by), r),
        stop_at(piece, end, (ux, uy), (bx, by), r),
    )
    if edge is None:
        return Pose((), (), None, start, r, stops, 0)
    long, wide = float(edge.length), float(edge.width)
    begin = (length - long) / 2 if long >= length else -long / 24

    def at(along: float, across: float) -> Point:
        return start[0] + ux * along + bx * across, start[1] + uy * along + by * across

    body = (at(begin, r), at(begin + long, r), at(begin + long, r + wide), at(begin, r + wide))
    etched = tuple((*at(begin, r + float(d)), *at(begin + long, r + float(d))) for d in edge.lines)
    chosen = edge.lines.index(total.etched) if total.etched is not None else None
    return Pose(body, etched, chosen, start, r, stops, placements(length, long) - 1)


def stop_at(piece: Region, needle: Point, out: Point, body: Point, r: float) -> Stop:
    """How a line ends that runs ``out`` at ``needle`` with the ruler towards ``body`` (unit vectors), r mm from it (F7)."""
    edge = next((e for e in piece.edges if _distance(e, needle) < 0.05), None)
    if edge is None:
        return Stop(needle, (needle[0] + body[0] * r, needle[1] + body[1] * r), None)
    ex, ey = (edge.end[0] - edge.start[0]) / edge.length, (edge.end[1] - edge.start[1]) / edge.length
    sine = abs(out[0] * ey - out[1] * ex)
    toward = ex * body[0] + ey * body[1]
    if sine < 0.05 or abs(toward) < 1e-9:
        return Stop(needle, (needle[0] + body[0] * r, needle[1] + body[1] * r), None)
    along = r / toward  # signed: along the edge until r to the body's side
    return Stop(needle, (needle[0] + ex * along, needle[1] + ey * along), abs(along))


def _distance(edge: Edge, point: Point) -> float:
    ex, ey = edge.end[0] - edge.start[0], edge.end[1] - edge.start[1]
    share = ((point[0] - edge.start[0]) * ex + (point[1] - edge.start[1]) * ey) / edge.length**2
    share = min(max(share, 0.0), 1.0)
    return math.dist(point, (edge.start[0] + share * ex, edge.start[1] + share * ey))
