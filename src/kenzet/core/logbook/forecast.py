"""How long the remaining sewing will take, by place and in total, and what fits into a given time.

The time for a place is that of its route at the quilter's pace (F42), for the share not yet sewn. The uncertainty
comes from earlier sittings: the time each took compared with the estimate.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.logbook.sittings import Sitting
from kenzet.core.route.needle import needle
from kenzet.core.route.turns import all_pivots
from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import PlaceRoutes
from kenzet.core.top.quilt_layout import QuiltLayout

_UNKNOWN = 0.25
"""Relative uncertainty of a time before there are sittings to learn from."""
_FEWEST = 3  # sittings
_LEAST_S = 300.0  # a shorter sitting says nothing


@dataclass(frozen=True, slots=True)
class LeftThere:
    """``seconds`` of sewing, and ``thread`` and ``length`` of lines (mm), left at visit ``number`` of the route,
    at ``place``; ``stops`` if the thread is cut at its end."""

    number: int
    place: str
    seconds: float
    stops: bool
    thread: float = 0.0
    length: float = 0.0


@dataclass(frozen=True, slots=True)
class Range:
    """An estimate in seconds with its 90 % interval."""

    seconds: float
    low: float
    high: float


def time_left(laid: QuiltLayout, ways: PlaceRoutes, sewn: Sewn) -> list[LeftThere]:
    """What is left at each place, in the order of the route."""
    kit, stitching = laid.quilt.kit, laid.quilt.stitching
    visits = ways.route.visits
    found = []
    for left in ways.left(sewn):
        if left.left == 0 or left.whole <= 0:
            continue
        visit = visits[left.number]
        one = ways.route.routes[visit.route]
        last = left.number + 1 == len(visits) or bool(visits[left.number + 1].stop)
        ends = len(one.runs) - 1 + bool(visit.stop)
        way = one.travelled + visit.across
        cost = needle(kit, stitching, one.sewn, way, len(one.unit.courses), all_pivots(one), ends - 1)
        share = left.unsewn / left.whole
        found.append(
            LeftThere(left.number, left.place, cost.seconds * share, last, cost.thread * share, left.unsewn)
        )
    return found


def spread_of(some: Sequence[Sitting], per_mm: float) -> tuple[float, float]:
    """The 90 % interval of the ratio of actual to estimated time; ``per_mm`` is the estimate for a mm of line in
    seconds, including travel."""
    known = [one for one in some if one.seconds >= _LEAST_S and one.length > 0]
    if len(known) < _FEWEST:
        return 1 - _UNKNOWN, 1 + _UNKNOWN
    times = np.array([one.seconds / (one.length * per_mm) for one in known])
    low, high = np.quantile(times, [0.05, 0.95])
    return float(low), float(high)


def in_all(left: Sequence[LeftThere], spread: tuple[float, float]) -> Range:
    """The total of several places."""
    seconds = sum(one.seconds for one in left)
    return Range(seconds, seconds * min(spread[0], 1.0), seconds * max(spread[1], 1.0))


def fits(left: Sequence[LeftThere], seconds: float, spread: tuple[float, float]) -> list[LeftThere]:
    """Whole places in sewing order that are very likely finished within ``seconds``: up to the last one that ends
    with a thread cut, or else as many as fit."""
    slow = max(spread[1], 1.0)
    spent, found, ended = 0.0, 0, 0
    for k, one in enumerate(left, 1):
        spent += one.seconds * slow
        if spent > seconds:
            break
        found = k
        ended = k if one.stops else ended
    return list(left[: ended or found])
