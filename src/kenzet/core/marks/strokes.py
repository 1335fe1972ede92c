"""The order in which strokes are drawn, and how the ruler is placed for each with a pen: along its edge, without a
foot.

Glossary: the *lean* of a stroke is its direction in [0, 180). Strokes of equal lean follow each other, so that the
quilt is turned once for each direction; strokes on one straight line share one placement of the ruler.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import numpy as np

from kenzet.core.geom.region import Floats, Point, Region
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import Marks
from kenzet.core.ruler.offset_sums import THAT_LINE

_ON = 0.05  # mm
_SAME_LEAN = 0.05  # degrees
How = Literal[
    "etched on the stroke before",
    "etched on a seam",
    "from end to end",
    "along the same ruler",
    "slid along",
    "over the sheet",
]


@dataclass(frozen=True, slots=True)
class End:
    """Where a stroke ends: on edge number ``edge``, ``along`` mm from its datum corner, and whether that is a
    corner."""

    edge: int | None
    along: float
    corner: bool


@dataclass(frozen=True, eq=False)
class Stroke:
    """A stroke as drawn, from its first point to its last. ``etched`` is the line of ``ruler`` (its key) to put on
    what the stroke is placed from (marking: s = d); ``turn``: the quilt is turned before it."""

    points: Floats
    lean: float | None
    how: How
    etched: Fraction | None
    ruler: str
    edge: int | None
    ends: tuple[End, End] | None
    turn: bool


def ordered(region: Region, marks: Marks, kit: Kit) -> list[Stroke]:
    """The strokes of ``marks``: direction by direction, each from one side to the other; curves last."""
    straight = [line for line in marks.strokes if len(line) == 2]
    curves = [line for line in marks.strokes if len(line) != 2]
    straight.sort(key=lambda line: (round(_lean(line), 1) % 180, *_place(line)))
    found: list[Stroke] = []
    for line in straight:
        before = found[-1] if found else None
        found.append(_stroke(region, _from_the_left(line), before, kit))
    turn = bool(straight)
    for line in curves:
        found.append(Stroke(line, None, "over the sheet", None, "", None, None, turn))
        turn = False
    return found


def _lean(line: Floats) -> float:
    (x0, y0), (x1, y1) = line.tolist()
    return math.degrees(math.atan2(y1 - y0, x1 - x0)) % 180


def _place(line: Floats) -> tuple[float, float]:
    """Its place across its direction, then along it."""
    lean = math.radians(round(_lean(line), 1) % 180)
    middle = line.mean(axis=0)
    across = float(middle @ np.array([-math.sin(lean), math.cos(lean)]))
    return round(across, 1), float(middle @ np.array([math.cos(lean), math.sin(lean)]))


def _from_the_left(line: Floats) -> Floats:
    """From left to right, or downwards if it is upright: as a right hand draws."""
    (x0, y0), (x1, y1) = line.tolist()
    return line if (x0, -y0) <= (x1, -y1) else line[::-1]


def _stroke(region: Region, line: Floats, before: Stroke | None, kit: Kit) -> Stroke:
    lean = _lean(line)
    turn = before is not None and (
        before.lean is None or abs((before.lean - lean + 90) % 180 - 90) > _SAME_LEAN
    )
    ends = (_end(region, line[0]), _end(region, line[-1]))
    how, etched, ruler, edge = _laid(region, line, None if turn else before, kit)
    return Stroke(line, lean, how, etched, ruler, edge, ends, turn)


def _laid(
    region: Region, line: Floats, before: Stroke | None, kit: Kit
) -> tuple[How, Fraction | None, str, int | None]:
    """How the ruler is placed for a stroke; from tick to tick if no etched line fits."""
    (ux, uy) = ((line[1] - line[0]) / np.hypot(*(line[1] - line[0]))).tolist()
    if before is not None:
        away = abs(float((line[0] - before.points[0]) @ np.array([-uy, ux])))
        both = np.concatenate([line, before.points]) @ np.array([ux, uy])
        span, longest = (
            float(np.ptp(both)),
            max((float(edge.length) for _, edge in kit.straight), default=0.0),
        )
        if away < _ON:
            return "along the same ruler" if span <= longest else "slid along", None, before.ruler, None
        found = _etched(away, kit, span)
        if found:
            return "etched on the stroke before", *found, None
    for number in region.edges_along((ux, uy)).tolist():
        edge = region.edges[number]
        away = abs((line[0][0] - edge.start[0]) * -uy + (line[0][1] - edge.start[1]) * ux)
        found = _etched(away, kit)
        if found and away > _ON:
            return "etched on a seam", *found, number
    return "from end to end", None, "", None


def _etched(away: float, kit: Kit, span: float = 0.0) -> tuple[Fraction, str] | None:
    """An etched line ``away`` mm from the edge of a ruler that is at least ``span`` mm long."""
    for key, edge in kit.straight:
        if float(edge.length) < span:
            continue
        near = min(edge.lines, key=lambda line: abs(float(line) - away))
        if near > 0 and abs(float(near) - away) <= THAT_LINE:
            return near, key
    return None


def _end(region: Region, point: Floats) -> End:
    x, y = point.tolist()
    if any(math.dist((x, y), corner) < _ON for corner in region.corners):
        return End(_edge_of(region, (x, y)), 0.0, True)
    number = _edge_of(region, (x, y))
    along = math.dist(region.edges[number].start, (x, y)) if number is not None else 0.0
    return End(number, along, False)


def _edge_of(region: Region, point: Point) -> int | None:
    for number, edge in enumerate(region.edges):
        off = math.dist(edge.start, point) + math.dist(point, edge.end) - edge.length
        if off < _ON:
            return number
    return None
