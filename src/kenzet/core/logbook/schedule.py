"""When the remaining work gets sewn: one session after another on the days available, in the order of the route.

A session holds what fits into its minutes at the quilter's pace, without the rests; a place that takes longer
continues in the next session. Nothing is begun in the last few minutes. The route's order is kept, so that the
ditch comes before the fill if it is sewn first.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.logbook.forecast import LeftThere
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.quilt_layout import QuiltLayout

REST_MIN = 5.0
"""Length of a rest, minutes."""
_WARM_UP_MIN = 5.0  # on a scrap, where a session has freehand stitching
_NOT_BEGUN_MIN = 5.0
_LEAST_MIN = 1.0  # so much is sewn in the shortest session
MOST = 200
"""The greatest number of sessions; if more are needed, longer sessions are advised."""


@dataclass(frozen=True, slots=True)
class Piece:
    """The part of a place that is sewn in a session: from share ``begins`` to ``ends`` of what is left there, in
    ``minutes``."""

    place: str
    begins: float
    ends: float
    minutes: float


@dataclass(frozen=True, slots=True)
class Session:
    """A session on ``day``: its pieces, number of ``rests``, and ``bobbins`` to wind before.

    ``warm_up``: begin with freehand stitching on a scrap. ``marks`` are zones with fading marks, each to be marked
    within that many hours before the session.
    """

    day: date
    pieces: tuple[Piece, ...]
    rests: int
    bobbins: int
    warm_up: bool
    marks: tuple[tuple[str, int], ...]

    @property
    def minutes(self) -> float:
        """Total length, including rests and warm-up."""
        return (
            sum(piece.minutes for piece in self.pieces) + self.rests * REST_MIN + _WARM_UP_MIN * self.warm_up
        )


def schedule(
    left: Sequence[LeftThere],
    days: Collection[int],
    minutes: int,
    begin: date,
    rest_every: int,
    thread_per_minute: float,
    kit: Kit,
    freehand: Collection[str],
    fading: Mapping[str, Collection[tuple[str, int]]],
) -> list[Session]:
    """The sessions for ``left``, in order.

    ``days`` are the days of the week (Monday 0) with ``minutes`` of sewing each, from ``begin`` on, with a rest
    after every ``rest_every`` minutes; ``thread_per_minute`` is mm of top thread. ``freehand`` places, and
    ``fading`` marks (zone and the hours that its marks stay), are by place. Without ``days`` there are no
    sessions.
    """
    found: list[Session] = []
    queue = [(one.place, 0.0, one.seconds / 60) for one in left]
    day = begin
    while queue and days and len(found) < MOST:
        if day.weekday() in days:
            pieces, queue = _taken(queue, _at_needle(minutes, rest_every), freehand)
            found.append(_session(day, pieces, rest_every, thread_per_minute, kit, freehand, fading))
        day += timedelta(days=1)
    return found


def _at_needle(minutes: int, rest_every: int) -> float:
    """The most minutes of sewing in a session of ``minutes`` with its rests."""
    most = int(minutes // REST_MIN) + 1
    return max(min((rests + 1) * rest_every, minutes - rests * REST_MIN) for rests in range(most))


def _taken(
    queue: list[tuple[str, float, float]], room: float, freehand: Collection[str]
) -> tuple[list[Piece], list[tuple[str, float, float]]]:
    """The part of the queue (place, share done, total minutes) that goes into ``room`` minutes, and the rest of
    the queue."""
    pieces: list[Piece] = []
    warm = False
    while queue:
        place, done, whole = queue[0]
        if place in freehand and not warm:
            room, warm = room - _WARM_UP_MIN, True
        need = whole * (1 - done)
        if need <= room or (not pieces and need <= _LEAST_MIN):
            pieces.append(Piece(place, done, 1.0, need))
            room -= need
            queue = queue[1:]
            continue
        if room >= _NOT_BEGUN_MIN or not pieces:
            part = max(room, _LEAST_MIN)
            pieces.append(Piece(place, done, done + part / whole, part))
            queue = [(place, done + part / whole, whole), *queue[1:]]
        break
    return pieces, queue


def _session(
    day: date,
    pieces: Sequence[Piece],
    rest_every: int,
    thread_per_minute: float,
    kit: Kit,
    freehand: Collection[str],
    fading: Mapping[str, Collection[tuple[str, int]]],
) -> Session:
    minutes = sum(piece.minutes for piece in pieces)
    places = dict.fromkeys(piece.place for piece in pieces)
    marks = {zone: hours for place in places for zone, hours in fading.get(place, ())}
    return Session(
        day, tuple(pieces), max(math.ceil(minutes / rest_every - EQUAL) - 1, 0),
        math.ceil(minutes * thread_per_minute / float(kit.bobbin.holds.mm)), any(place in freehand for place in places), tuple(marks.items()),
    )  # fmt: skip


def holds_all(sessions: Sequence[Session], left: Sequence[LeftThere]) -> bool:
    """Whether the sessions finish everything that is left, which fails if more than ``MOST`` are needed."""
    if not left:
        return True
    last = sessions[-1].pieces[-1] if sessions else None
    return last is not None and (last.place, last.ends) == (left[-1].place, 1.0)


def by_then(sessions: Sequence[Session], minutes: int, by: date) -> int:
    """The minutes that each session up to the day ``by`` would need for everything to be finished by then; 0 if it
    is, -1 if there is no session before that day."""
    if not sessions or sessions[-1].day <= by:
        return 0
    before = sum(session.day <= by for session in sessions)
    return math.ceil(minutes * len(sessions) / before) if before else -1


def fading_marks(laid: QuiltLayout, zone: str) -> int:
    """The hours that the marks of a zone stay with the tool chosen for it; 0 if they do not fade."""
    tool = laid.quilt.kit.tools.get(laid.zone(zone).mark_with or "")
    return tool.hours or 0 if isinstance(tool, Marker) else 0
