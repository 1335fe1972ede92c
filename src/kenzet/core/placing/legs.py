"""A line leg by leg: each straight side and each arc, with the turn of the quilt at its end.

Glossary: a *leg* is a side or an arc of a line; at a *pivot* the quilt is turned with the needle down.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.region import Floats, Point
from kenzet.core.plan.drawing import Drawing
from kenzet.core.ruler.offset_sums import hand_stops
from kenzet.core.tolerances import LEAST_TURN, SAME_PLACE, VISIBLE

PIVOT = math.radians(12)
"""A smaller turn is part of a curve."""


@dataclass(frozen=True, slots=True)
class Leg:
    """From ``start`` to ``end``, ``length`` mm long; ``arc`` is None if it is straight. ``turn`` is the change of
    direction at its end in degrees, positive to the left; 0 if the line goes straight on or ends."""

    start: Point
    end: Point
    length: float
    arc: Arc | None = None
    turn: float = 0.0

    @property
    def back(self) -> Leg:
        """The same leg reversed, without its turn, which depends on the leg before."""
        arc = self.arc and Arc(self.arc.end, self.arc.start, -self.arc.bulge)
        return Leg(self.end, self.start, self.length, arc)


def legs_of(drawing: Drawing, line: int) -> tuple[Leg, ...]:
    """The legs of line ``line`` in the direction in which it is drawn."""
    trace = drawing.trace(line)
    if trace is None:
        x0, y0, x1, y1 = drawing.stretches.ends[line].tolist()
        return (Leg((x0, y0), (x1, y1), math.dist((x0, y0), (x1, y1))),)
    vertices = trace.arcs.tolist()
    if trace.closed:
        vertices = [*vertices, vertices[0]]
    return tuple(_turned(list(_legs(vertices)), trace.closed))


def _legs(vertices: Sequence[Sequence[float]]) -> Iterable[Leg]:
    for (x0, y0, bulge), (x1, y1, _) in pairwise(vertices):
        start, end = (x0, y0), (x1, y1)
        if math.dist(start, end) < SAME_PLACE:
            continue
        arc = Arc(start, end, bulge) if abs(bulge) > LEAST_TURN / 4 else None
        yield Leg(start, end, arc.radius * abs(arc.angle) if arc else math.dist(start, end), arc)


def _turned(legs: list[Leg], closed: bool) -> Iterable[Leg]:
    """Each leg with its turn; sides on one straight line are merged."""
    joined: list[Leg] = []
    for leg in legs:
        last = joined[-1] if joined else None
        if last and not last.arc and not leg.arc and abs(_turn(last, leg)) < LEAST_TURN:
            joined[-1] = Leg(last.start, leg.end, math.dist(last.start, leg.end))
        else:
            joined.append(leg)
    for leg, onward in zip(joined, [*joined[1:], joined[0] if closed else None], strict=True):
        turn = _turn(leg, onward) if onward is not None and (closed or onward is not joined[0]) else 0.0
        yield replace(leg, turn=round(math.degrees(turn), 3) if abs(turn) > PIVOT else 0.0)


def _turn(leg: Leg, onward: Leg) -> float:
    """The change of direction in radians, positive to the left."""
    turn = _direction(onward, 0.0) - _direction(leg, 1.0)
    return (turn + math.pi) % math.tau - math.pi


def _direction(leg: Leg, share: float) -> float:
    way = math.atan2(leg.end[1] - leg.start[1], leg.end[0] - leg.start[0])
    return way if leg.arc is None else way + leg.arc.angle * (share - 0.5)


def turned_back(legs: Sequence[Leg]) -> tuple[Leg, ...]:
    """The legs of a line that is sewn from its end to its start."""
    turns = [-leg.turn for leg in legs]
    return tuple(
        replace(leg.back, turn=turn)
        for leg, turn in zip(reversed(legs), [*reversed(turns[:-1]), turns[-1] if legs else 0.0], strict=True)
    )


def hand_moves(
    drawing: Drawing,
    line: int,
    crossings: Sequence[float],
    span: float,
    begins: float,
    ends: float,
    back: bool,
) -> list[float]:
    """Where the hand on the ruler moves, mm from where sewing begins, for the stretch ``begins`` to ``ends`` mm of
    a line: at a pivot, a crest or trough, or a crossing within ``span``, if there is one, because a stop does
    not show there."""
    length = ends - begins
    if length <= span:
        return []
    legs = legs_of(drawing, line)
    along = np.cumsum([leg.length for leg in legs])
    good = [*crossings, *along[:-1].tolist(), *_crests(drawing.polylines[line], legs)]
    good = [ends - at if back else at - begins for at in good]
    return hand_stops(length, span, sorted(at for at in good if VISIBLE < at < length - VISIBLE))


def _crests(line: Floats, legs: Sequence[Leg]) -> Iterable[float]:
    """The distances along a wavy line at which it is farthest to either side."""
    if not any(leg.arc for leg in legs) or math.dist(line[0], line[-1]) < VISIBLE:
        return
    way = (line[-1] - line[0]) / math.dist(line[0], line[-1])
    across = line @ np.array([-way[1], way[0]])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    rises = np.sign(np.diff(across))
    turns = np.flatnonzero(rises[1:] * rises[:-1] < 0) + 1
    yield from along[turns].tolist()
