"""Where each bobbin is likely to run out, and where to change it earlier, at a thread cut that is there anyway."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

_WORTH = 0.6  # a bobbin that is emptier than that is not changed before its time


@dataclass(frozen=True, slots=True)
class Leg:
    """The sewing at one place: ``used`` mm of bobbin thread, and whether a thread begins there."""

    used: float
    begins: bool


@dataclass(frozen=True, slots=True)
class BobbinChange:
    """A full bobbin goes in before place ``number`` (from 0), where the thread is cut anyway (``at_stop``), or
    else during that place."""

    number: int
    at_stop: bool


def bobbin_changes(legs: Sequence[Leg], holds: float) -> Iterable[BobbinChange]:
    """The changes in order, for bobbins holding ``holds`` mm.

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
