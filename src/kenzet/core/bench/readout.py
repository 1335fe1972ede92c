"""The ruler bench: what can be read off a ruler placed anywhere on the cloth.

Glossary: a *lay* is a position of the ruler: the middle of its working edge at (x, y) mm in the part, the edge at
``angle`` degrees, with the plastic on the left of that direction and the needle on its right. A *reference* is a
straight seam or line. ``t`` of a reference is its distance from the needle's line, positive towards the plastic. A
reading does not depend on the direction in which a reference was drawn. Cost: O(references + sides of the zone).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import numpy as np

from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.geom.arcs import Point
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.path_clip import clip_paths
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Floats, Region
from kenzet.core.kit.ruler_outline import Plastic
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.pose import Stop, stop_at
from kenzet.core.top.quilt_layout import ZoneShape
from kenzet.texts import tr

On = Literal["seam", "line", "hand"]
LEVEL = math.radians(0.02)
"""Radians: a reference within this angle counts as parallel to the edge: 0.1 mm over 12 in."""
ON_IT = 0.05
"""mm: an etched line no farther than this from a reference counts as lying on it."""
_BESIDE = 6.0  # mm that a reference must share with the ruler
_FAR = 1e5


@dataclass(frozen=True, slots=True)
class Lay:
    """A position of the ruler, as defined above."""

    x: float
    y: float
    angle: float

    def put(self, points: Floats) -> Floats:
        """Points (n, 2) of the ruler in the coordinates of the part."""
        c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        turned: Floats = points[:, :2] @ np.array([(c, s), (-s, c)]) + (self.x, self.y)
        return turned

    def put_path(self, path: Path) -> Path:
        """A path of the ruler in the coordinates of the part; its bulges do not change."""
        return Path(np.hstack([self.put(path.vertices), path.vertices[:, 2:]]), path.closed)


@dataclass(frozen=True, slots=True)
class Held:
    """Reference number ``reference`` is parallel to the edge, ``away`` mm from the needle's line (negative: the
    needle is past it).

    It lies under etched line ``etched`` (0: the edge), or under none; ``bare`` is its distance in front of the
    edge (F3).
    """

    reference: int
    away: float
    etched: Fraction | None
    bare: float


def read(
    part: Plastic,
    lay: Lay,
    region: Region,
    references: Sequence[BenchReference],
    foot: float,
    whole: bool = True,
) -> BenchReading:
    """The reading of a ruler at ``lay``. With ``whole``, a straight ruler is moved along the line from edge to
    edge of the zone; otherwise it sews only its own length."""
    held = sorted(_held(part, lay, references, foot), key=lambda one: (one.etched is None, abs(one.away)))
    sewn = sewn_line(part, lay, region, whole)
    return BenchReading(tuple(held), sewn, _stops(region, sewn, foot) if sewn else ())


def _stops(region: Region, sewn: Path, foot: float) -> tuple[Stop, Stop]:
    (ax, ay, first), (bx, by, _) = sewn.vertices[0].tolist(), sewn.vertices[1].tolist()
    (cx, cy, last), (dx, dy, _) = sewn.vertices[-2].tolist(), sewn.vertices[-1].tolist()
    begins = math.atan2(by - ay, bx - ax) - 2 * math.atan(
        first
    )  # an arc leaves half its angle before its chord
    ends = math.atan2(dy - cy, dx - cx) + 2 * math.atan(last)

    def stop(at: Point, way: float, out: float) -> Stop:
        ux, uy = math.cos(way), math.sin(way)
        return stop_at(region, at, (ux * out, uy * out), (-uy, ux), foot)

    return stop((ax, ay), begins, -1.0), stop((dx, dy), ends, 1.0)


def _held(part: Plastic, lay: Lay, references: Sequence[BenchReference], foot: float) -> Iterable[Held]:
    if not part.straight:
        return
    ends = part.edge.vertices[:, 0]
    c, s = math.cos(math.radians(lay.angle)), math.sin(math.radians(lay.angle))
    for number, ref in enumerate(references):
        ax, ay = ref.start[0] - lay.x, ref.start[1] - lay.y
        bx, by = ref.end[0] - lay.x, ref.end[1] - lay.y
        u0, u1 = ax * c + ay * s, bx * c + by * s
        v0, v1 = ay * c - ax * s, by * c - bx * s
        if abs(v1 - v0) > LEVEL * abs(u1 - u0):
            continue
        if min(max(u0, u1), ends[1]) - max(min(u0, u1), ends[0]) < _BESIDE:
            continue
        behind = (v0 + v1) / 2  # of the edge, under the plastic
        lines = (Fraction(0), *(d for d, _ in part.etched))
        near = min(lines, key=lambda d: abs(float(d) - behind))
        on = near if abs(float(near) - behind) <= ON_IT else None
        yield Held(number, behind + foot, on, -behind if on is None and -foot < behind < 0 else 0.0)


def sewn_line(part: Plastic, lay: Lay, region: Region, whole: bool = True) -> Path | None:
    """The part of the needle's line inside the zone; of several the one nearest to the ruler's middle, then the
    longest. Its direction has the plastic on the left."""
    if part.needle is None:
        return None
    path = lay.put_path(part.needle)
    if part.straight and whole:
        below = float(part.needle.vertices[0, 1])
        path = Path(np.hstack([lay.put(np.array([(-_FAR, below), (_FAR, below)])), np.zeros((2, 1))]))
    c, s = math.cos(math.radians(lay.angle)), math.sin(math.radians(lay.angle))

    def rank(one: Path) -> tuple[float, float, float]:
        u0, u1 = ((one.vertices[[0, -1], :2] - (lay.x, lay.y)) @ np.array([c, s])).tolist()
        return round(max(u0, -u1, 0.0), 2), -round(one.length, 1), -u0

    return min((piece.path for piece in clip_paths(region, [path])), key=rank, default=None)


def references_in(plan: ZonePlan | None, shape: ZoneShape, place: str) -> list[BenchReference]:
    """Everything straight that a ruler can be placed from in a zone at ``place``: its edges, the seams in it, its
    straight lines."""
    region = shape.region
    names = edge_names(region)
    found = [
        BenchReference("seam", tr("the {name}", name=name), edge.start, edge.end)
        for name, edge in zip(names, region.edges, strict=True)
    ]
    found += [BenchReference("seam", tr("a seam"), start, end) for start, end in shape.seams]
    for drawing in plan.drawings if plan else ():
        if place not in drawing.places:
            continue
        by_hand = drawing.layer == BY_HAND
        ends = [*drawing.stretches.ends.tolist()]
        ends += [
            [*trace.points[0].tolist(), *trace.points[-1].tolist()]
            for trace in drawing.traces
            if by_hand and trace.path.straight and len(trace.points) == 2
        ]
        for number, (x0, y0, x1, y1) in enumerate(ends, 1):
            name = tr("your line {number}", number=number) if by_hand else tr("line {number}", number=number)
            found.append(BenchReference("hand" if by_hand else "line", name, (x0, y0), (x1, y1)))
    return found


@dataclass(frozen=True, slots=True)
class BenchReading:
    """The references under the ruler, the nearest first, the line ``sewn`` in the zone, and the ends of that line."""

    held: tuple[Held, ...]
    sewn: Path | None
    ends: tuple[Stop, ...]


@dataclass(frozen=True, slots=True)
class BenchReference:
    """A straight seam or line from which a ruler can be placed."""

    kind: On
    name: str
    start: Point
    end: Point
