"""A ruler as placed on the cloth: its outline, its etched lines, and the needle's line along one of its edges.

Glossary: all coordinates are the ruler's own, mm. The *working edge* runs along x with its middle at 0; the
plastic is above it (y > 0) and the needle below, at the foot's offset. A *dead* stretch of the edge is too tight
for the round foot to touch.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from kenzet.core.geom.arcs import Point
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Floats
from kenzet.core.kit.edges import ArcEdge, Edge, StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.tolerances import EQUAL, ROUNDING

_BODY = 50.8  # mm of plastic behind an edge whose other side is not told
_PER_WAVE = 48
_GRIP = 14.0  # mm from the end of the plastic
_TOUCH = 0.05  # mm


@dataclass(frozen=True, eq=False)
class Plastic:
    """``needle`` is None if the foot cannot follow the edge at all. ``etched`` holds each line's exact distance from
    the edge and its ends (x0, y0, x1, y1), without the edge itself; ``others`` are the perpendicular and slanted
    lines.

    ``centre`` is the distance of an arc's center behind its middle, negative if in front; ``grips`` are points on
    the plastic near its ends.
    """

    rings: tuple[Floats, ...]
    edge: Path
    needle: Path | None
    etched: tuple[tuple[Fraction, tuple[float, ...]], ...]
    others: tuple[tuple[float, ...], ...]
    dead: tuple[Floats, ...]
    straight: bool
    grips: tuple[Point, Point]
    centre: float | None = None


def plastic(edges: tuple[Edge, ...], number: int, foot: float) -> Plastic:
    """Edge number ``number`` of a ruler with ``edges``, sewn along with a foot offset of ``foot`` mm (F25, F29)."""
    edge = edges[number]
    if isinstance(edge, StraightEdge):
        return _straight(edge, foot)
    if isinstance(edge, ArcEdge):
        return _arc(edge, [one for one in edges if isinstance(one, ArcEdge)], foot)
    return _template(edge, foot)


def _straight(edge: StraightEdge, foot: float) -> Plastic:
    half, wide = float(edge.length) / 2, float(edge.width)
    etched = tuple((d, (-half, float(d), half, float(d))) for d in edge.lines if d > 0)
    return Plastic(
        rings=(np.array([(-half, 0.0), (half, 0.0), (half, wide), (-half, wide)]),),
        edge=Path.of([(-half, 0.0), (half, 0.0)]),
        needle=Path.of([(-half, -foot), (half, -foot)]),
        etched=etched,
        others=tuple(_others(edge, half, wide)),
        dead=(),
        straight=True,
        grips=((-half + _GRIP, min(wide, _BODY) / 2), (half - _GRIP, min(wide, _BODY) / 2)),
    )


def _others(edge: StraightEdge, half: float, wide: float) -> Iterable[tuple[float, ...]]:
    """The lines perpendicular to the edge, counted from its middle, and the slanted lines through its middle."""
    if edge.across:
        step = float(edge.across)
        for k in range(-math.floor(half / step), math.floor(half / step) + 1):
            if abs(k * step) < half - EQUAL:
                yield (k * step, 0.0, k * step, wide)
    for angle in edge.angles:
        run = wide / math.tan(math.radians(angle))
        reach = min(1.0, half / abs(run)) if abs(run) > ROUNDING else 1.0
        yield (0.0, 0.0, run * reach, wide * reach)


def _arc(edge: ArcEdge, arcs: list[ArcEdge], foot: float) -> Plastic:
    """An outside edge bulges towards the needle, with its center in the plastic; an inside edge the other way."""
    radius, outside = edge.radius, edge.side == "outside"
    turn = min(edge.usable / radius, math.tau)
    others = [abs(one.radius - radius) for one in arcs if one.side != edge.side]
    deep = min(others[0] if others else _BODY, radius * 0.95 if outside else math.inf)
    sewn = edge.sewn(foot)
    whole = turn > math.tau - EQUAL
    inner = radius - deep if outside else radius + deep
    along, behind = _bow(radius, turn, outside, radius), _bow(inner, turn, outside, radius)
    if whole:
        disc = outside and not others
        rings = (along.points[:-1],) if disc else (along.points[:-1], behind.points[:-1])
    else:
        rings = (np.vstack([along.points, behind.points[::-1]]),)
    return Plastic(
        rings=rings,
        edge=along,
        needle=_bow(sewn, turn, outside, radius) if sewn > 0 else None,
        etched=(),
        others=(),
        dead=() if sewn > 0 else (along.points,),
        straight=False,
        grips=_on_arc((radius + inner) / 2, turn, outside, radius),
        centre=radius if outside else -radius,
    )


def _on_arc(radius: float, turn: float, outside: bool, edge: float) -> tuple[Point, Point]:
    """Points near both ends of the arc, in the middle of the plastic; for a whole circle at its left and right."""
    a = max(min(turn / 2 - _GRIP / radius, math.pi / 2), turn / 4)
    up = 1.0 if outside else -1.0
    x, y = radius * math.sin(a), up * (edge - radius * math.cos(a))
    return (-x, y), (x, y)


def _bow(radius: float, turn: float, outside: bool, edge: float) -> Path:
    """An arc concentric with an edge of radius ``edge`` through the origin, from left to right."""
    up = 1.0 if outside else -1.0
    many = max(math.ceil(turn / (math.pi / 2) - ROUNDING), 1)
    bulge = up * math.tan(turn / many / 4)
    angles = [(-turn / 2 + k * turn / many) for k in range(many + 1)]
    return Path.of([(radius * math.sin(a), up * (edge - radius * math.cos(a)), bulge) for a in angles])


def _template(edge: WaveEdge | ZigzagEdge, foot: float) -> Plastic:
    """Waves are drawn as cosines. The needle's line is parallel to the edge and has the same repeat and height
    (F29)."""
    half = edge.length / 2
    if isinstance(edge, WaveEdge):
        high = edge.depth / 2
        xs = np.linspace(-half, half, max(int(edge.length / edge.period * _PER_WAVE), 8) + 1)
        points = np.stack([xs, high * np.cos(math.tau * xs / edge.period)], axis=1)
    else:
        high = edge.rise / 2
        first = math.ceil(-half / (edge.pitch / 2))
        inner = [
            k * edge.pitch / 2 for k in range(first, -first + 1) if abs(k * edge.pitch / 2) < half - EQUAL
        ]
        xs = np.array([-half, *inner, half])
        points = np.stack([xs, high * (1 - 4 * np.abs(np.mod(xs / edge.pitch + 0.5, 1.0) - 0.5))], axis=1)
    line = LineString(points)
    beside = shapely.offset_curve(line, -foot, join_style="round", quad_segs=16)
    needle = max(getattr(beside, "geoms", [beside]), key=lambda part: part.length)
    run = np.asarray(needle.coords)
    run = run if run[0][0] <= run[-1][0] else run[::-1]
    missed = shapely.difference(line, shapely.buffer(needle, foot + _TOUCH, quad_segs=32))
    dead = [part for part in getattr(missed, "geoms", [missed]) if part.length > foot / 8]
    top = np.array([(half, high + _BODY), (-half, high + _BODY)])
    return Plastic(
        rings=(np.vstack([points, top]),),
        edge=Path.of([(x, y) for x, y in points.tolist()]),
        needle=Path.of([(x, y) for x, y in run.tolist()]),
        etched=(),
        others=(),
        dead=tuple(np.asarray(part.coords) for part in dead),
        straight=False,
        grips=((-half + _GRIP, high + _BODY / 2), (half - _GRIP, high + _BODY / 2)),
    )


def body_of(part: Plastic) -> Polygon:
    """The plastic as an area; a second ring is a hole or, around an inside edge, the outline that the hole is in."""
    rings = sorted((Polygon(ring) for ring in part.rings), key=lambda ring: -ring.area)
    return Polygon(rings[0].exterior, [ring.exterior for ring in rings[1:]])
