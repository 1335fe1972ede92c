"""What is left of a placement when a part of its line is sewn already."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import TypeVar

from kenzet.core.geom.region import Point
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.placement import Placement
from kenzet.core.tolerances import VISIBLE

T = TypeVar("T")


def rest_of(on: Placement, begins: float, ends: float) -> Placement:
    """``on`` with its legs, and what each has of its own, from ``begins`` to ``ends`` mm along the line as it is
    drawn; ``on`` itself if that is the whole line."""
    if begins < VISIBLE and ends > on.length - VISIBLE:
        return on
    kept = list(_kept(on.legs, begins, ends))
    if not kept:
        return on

    def of_kept(each: tuple[T, ...]) -> tuple[T, ...]:
        return tuple(each[k] for k, _ in kept) if len(each) == len(on.legs) else each

    return replace(
        on,
        legs=tuple(leg for _, leg in kept),
        sides=of_kept(on.sides),
        fits=of_kept(on.fits),
        over_line=of_kept(on.over_line),
    )


def _kept(legs: tuple[Leg, ...], begins: float, ends: float) -> Iterable[tuple[int, Leg]]:
    """The legs between two distances along the line, with their numbers; the first and the last may be cut."""
    at = 0.0
    for number, leg in enumerate(legs):
        first, last = max(begins - at, 0.0), min(ends - at, leg.length)
        at += leg.length
        if last - first > VISIBLE:
            start, end = (_along(leg, far / leg.length) for far in (first, last))
            whole = last > leg.length - VISIBLE and ends > at + VISIBLE
            yield (
                number,
                replace(leg, start=start, end=end, length=last - first, turn=leg.turn if whole else 0.0),
            )


def _along(leg: Leg, share: float) -> Point:
    if leg.arc is not None:
        return leg.arc.at(share)
    (x0, y0), (x1, y1) = leg.start, leg.end
    return x0 + share * (x1 - x0), y0 + share * (y1 - y0)
