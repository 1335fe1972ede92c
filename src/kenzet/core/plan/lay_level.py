"""Rows sewn with a template and placed by their center line: at a distance from a straight seam, with a crest at a
dot.

Glossary: the *middle line* of a wave or of a row of points is the straight line half-way between crests and
troughs.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np
import shapely

from kenzet.core.fills.base import Paths
from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.drawing import Drawing, Trace
from kenzet.core.ruler.line_references import LEVEL, MARK, References
from kenzet.core.tolerances import EQUAL, SAME_ANGLE, STOP_ERROR, VISIBLE

_FARTHEST = 4 * INCH
"""mm from a seam: farther away, hands cannot keep a ruler parallel to it."""
_CORNER = math.radians(45)
_SAME = 1e3 * SAME_ANGLE

Template = WaveEdge | ZigzagEdge


@dataclass(frozen=True, eq=False)
class MiddleLine:
    """The middle line of a row, or of one side of a round: ``ends`` (2, 2) mm; ``crest`` is the crest nearest to
    its center, ``crests`` (n, 2) are all of them."""

    ends: Floats
    crest: Point
    crests: Floats

    @property
    def way(self) -> Floats:
        """Its unit direction."""
        run: Floats = self.ends[1] - self.ends[0]
        return run / float(np.hypot(*run))


def middle_lines(drawing: Drawing, line: int, wanted: Template) -> list[MiddleLine]:
    """The middle line of a row, or of each side of a closed round; empty if a side is too short to show both crest
    and trough."""
    trace = drawing.trace(line)
    if trace is None:
        return []
    height = wanted.depth if isinstance(wanted, WaveEdge) else wanted.rise
    found = [_middle_line(points, way, height) for points, way in _sides(drawing, trace)]
    return [one for one in found if one is not None] if None not in found else []


def _sides(drawing: Drawing, trace: Trace) -> Iterable[tuple[Floats, Floats]]:
    """The points of each side that oscillates about one straight line, and that line's direction."""
    family = drawing.families[trace.family]
    if isinstance(family, Paths) and family.way is not None:
        yield trace.polyline, np.array(family.way)
    elif trace.closed:
        points = trace.points
        steps = np.diff(np.vstack([points[-1:], points, points[:1]]), axis=0)
        turn = np.diff(np.arctan2(steps[:, 1], steps[:, 0]))
        corners = np.flatnonzero(np.abs((turn + math.pi) % math.tau - math.pi) > _CORNER)
        if not 3 <= len(corners) <= 8:
            return
        around = np.vstack([points[corners[0] :], points[: corners[0] + 1]])
        cuts = [*(corners - corners[0]).tolist(), len(points)]
        for start, end in pairwise(cuts):
            side = around[start : end + 1]
            yield side, (side[-1] - side[0]) / np.hypot(*(side[-1] - side[0]))


def _middle_line(points: Floats, way: Floats, height: float) -> MiddleLine | None:
    normal = np.array([-way[1], way[0]])
    along, across = points @ way, points @ normal
    if np.ptp(across) < height - STOP_ERROR or np.ptp(along) < EQUAL:
        return None
    middle = (across.max() + across.min()) / 2
    crests = points[across >= across.max() - VISIBLE / 10]
    nearest = crests[np.argmin(np.abs(crests @ way - (along.max() + along.min()) / 2))]
    ends = np.array([at * way + middle * normal for at in (along.min(), along.max())])
    return MiddleLine(ends, (float(nearest[0]), float(nearest[1])), crests)


@dataclass(frozen=True, eq=False)
class Level:
    """A line whose middle line is ``distance`` mm from a straight ``seam`` (2, 2), to the left of it if ``way`` is
    1; ``dots`` has one crest, unless a crest lies on a seam."""

    distance: Fraction
    way: int
    dots: tuple[Point, ...]
    seam: Floats


def levels(drawing: Drawing, wanted: Template) -> dict[int, Level]:
    """The lines of a drawing that can be placed like that, by number."""
    pieces = drawing.shape.uncut.pieces
    seams = np.concatenate(
        [*(piece.edge_ends for piece in pieces), np.array(drawing.shape.seams).reshape(-1, 2, 2)]
    )
    if not len(seams):
        return {}
    seen = shapely.multilinestrings(list(seams))
    found = {}
    for line in range(len(drawing.stretches), drawing.lines):
        sides = middle_lines(drawing, line, wanted)
        away = [_from_seam(side, seams) for side in sides]
        known = [one for one in away if one is not None]
        if not away or len(known) < len(away) or np.ptp([abs(far) for far, _ in known]) > STOP_ERROR:
            continue
        crests = np.concatenate([side.crests for side in sides])
        on_seam = bool(shapely.dwithin(seen, shapely.points(crests), VISIBLE).any())
        far, seam = known[0]
        dots = () if on_seam else (sides[0].crest,)
        found[line] = Level(Fraction(abs(far)).limit_denominator(10**4), 1 if far > 0 else -1, dots, seam)
    return found


def lay_level(known: Mapping[int, Level], into: References) -> None:
    """Lines that would have to be marked are placed like that if possible."""
    for line, level in known.items():
        if into.kinds[line] == MARK:
            into.kinds[line], into.distances[line], into.ways[line] = LEVEL, level.distance, level.way
            if level.dots:
                into.dots[line] = level.dots


def _from_seam(side: MiddleLine, seams: Floats) -> tuple[float, Floats] | None:
    """The distance of a middle line to the left of the nearest parallel seam, mm, and that seam; None if no seam
    runs beside most of it."""
    way = side.way
    normal = np.array([-way[1], way[0]])
    runs = seams[:, 1] - seams[:, 0]
    level = np.abs(runs @ normal) < _SAME * np.hypot(*runs.T)
    along, own = seams @ way, side.ends @ way
    shared = np.minimum(along.max(axis=1), own.max()) - np.maximum(along.min(axis=1), own.min())
    far = side.ends[0] @ normal - seams[:, 0] @ normal
    fits = level & (shared > 0.7 * np.ptp(own)) & (np.abs(far) <= _FARTHEST) & (np.abs(far) > STOP_ERROR)
    if not fits.any():
        return None
    best = int(np.argmin(np.where(fits, np.abs(far).round(3), np.inf)))
    return float(far[best]), seams[best]
