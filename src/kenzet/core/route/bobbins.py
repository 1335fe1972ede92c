"""Where each bobbin is likely to run out, and where it is better changed before that: at a thread stop that is there anyway."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

_WORTH = 0.6  # a bobbin that is emptier than that is not changed before its time


@dataclass(frozen=True, slots=True)
class Leg:
    """What is sewn at one place: ``used`` mm of thread in the bobbin, and whether a thread begins there."""

    used: float
    begins: bool


@dataclass(frozen=True, slots=True)
class BobbinChange:
    """A full bobbin lasts goes in before place ``number`` (from 0) where the thread ends anyway (``at_stop``), else while that is sewn."""

    number: int
    at_stop: bool


def bobbin_changes(legs: Sequence[Leg], holds: float) -> Iterable[BobbinChange]:
    """Place after place, a bobbin holding ``holds`` mm.

    >>> list(bobbin_changes([Leg(50, True), Leg(30, True), Leg(40, False)], 100))
    [BobbinChange(number=2, at_stop=False)]
    >>> list(bobbin_changes([Leg(70, True), Leg(40, True)], 100))
    [BobbinChange(number=1, at_stop=True)]
    """
    used, stop = 0.0, None  # the last thread stop since the bobbin was changed, and what was used then
    for k, leg in enumerate(legs):
        if leg.begins and used:
            stop = (k, used)
        used += leg.used
        while used > holds:
            if stop is not None and stop[1] >= _WORTH * holds:
                yield BobbinChange(stop[0], True)
                used -= stop[1]
            else:
                yield BobbinChange(k, False)
                used -= holds
            stop = None
