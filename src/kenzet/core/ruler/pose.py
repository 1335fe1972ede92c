"""Where the ruler is placed for a line, and how the line stops at its ends.

Glossary: the *body* is the plastic. A line *stops* with the needle on a seam; the working edge crosses that seam
farther on. Lengths are mm.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from kenzet.core.geom.region import Edge, Point, Region
from kenzet.core.kit.kit import Kit
from kenzet.core.ruler.offset_sums import OffsetSum, edge_of, placements
from kenzet.core.tolerances import LEAST_CROSSING, ROUNDING, STOP_ERROR


@dataclass(frozen=True, slots=True)
class Stop:
    """An end of a line: the needle stops at ``needle``; the working edge crosses the seam at ``edge``.

    ``along`` is r / sin(angle) (F7): the distance along the seam from the needle to the edge's crossing; None if
    the line does not end on a straight seam.
    """

    needle: Point
    edge: Point
    along: float | None


@dataclass(frozen=True, slots=True)
class Pose:
    """The ruler as placed for one line: its four corners, etched lines, foot, stops and placements.

    ``etched`` holds (x0, y0, x1, y1) of every etched line; ``chosen`` is the index of the one on the reference, or
    None. ``moves`` is how many times the ruler is moved along (0: one placement). Without a ruler ``body`` and
    ``etched`` are empty.
    """

    body: tuple[Point, ...]
    etched: tuple[tuple[float, float, float, float], ...]
    chosen: int | None
    foot: Point
    foot_radius: float
    stops: tuple[Stop, Stop]
    moves: int


def pose(piece: Region, start: Point, end: Point, left: bool, total: OffsetSum, kit: Kit) -> Pose:
    """The ruler of ``total`` for the line from ``start`` to ``end``, with its body on the ``left`` or right; the
    working edge is r from the line."""
    length = math.dist(start, end)
    ux, uy = (end[0] - start[0]) / length, (end[1] - start[1]) / length
    side = 1.0 if left else -1.0
    bx, by = -uy * side, ux * side  # from the line towards the ruler's body
    r, edge = float(kit.foot_offset), edge_of(kit, total)
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
    """How a line ends that runs in direction ``out`` at ``needle``, with the ruler towards ``body`` (unit
    vectors), r mm from it (F7)."""
    edge = next((e for e in piece.edges if _distance(e, needle) < STOP_ERROR), None)
    if edge is None:
        return Stop(needle, (needle[0] + body[0] * r, needle[1] + body[1] * r), None)
    ex, ey = (edge.end[0] - edge.start[0]) / edge.length, (edge.end[1] - edge.start[1]) / edge.length
    sine = abs(out[0] * ey - out[1] * ex)
    toward = ex * body[0] + ey * body[1]
    if sine < LEAST_CROSSING or abs(toward) < ROUNDING:
        return Stop(needle, (needle[0] + body[0] * r, needle[1] + body[1] * r), None)
    along = r / toward  # signed: along the edge until r to the body's side
    return Stop(needle, (needle[0] + ex * along, needle[1] + ey * along), abs(along))


def _distance(edge: Edge, point: Point) -> float:
    ex, ey = edge.end[0] - edge.start[0], edge.end[1] - edge.start[1]
    share = ((point[0] - edge.start[0]) * ex + (point[1] - edge.start[1]) * ey) / edge.length**2
    share = min(max(share, 0.0), 1.0)
    return math.dist(point, (edge.start[0] + share * ex, edge.start[1] + share * ey))
