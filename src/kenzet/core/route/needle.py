"""What a route takes: needle time (F42), thread and bobbins (F41), the roll under the arm (F43).

The time for a thread cut is our estimate. Lengths are mm, times seconds.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import INCH
from kenzet.core.route.network import CURVES
from kenzet.core.route.unit import Technique
from kenzet.core.top.stitching import Stitching

STOP_S = {"tie and bury": 90.0, "tiny stitches": 25.0, "run off": 15.0, "caught by the edge": 15.0}
TAIL = 12 * INCH
_SIDES = 6


@dataclass(frozen=True, slots=True)
class Needle:
    """Seconds at the machine, mm of top thread (the same for the bobbin), and the number of bobbins."""

    seconds: float
    thread: float
    bobbins: int


def needle(
    kit: Kit,
    stitching: Stitching,
    sewn: Mapping[Technique, float],
    travelled: float,
    laid: int,
    pivots: int,
    stops: int,
) -> Needle:
    """``sewn`` is mm by technique, ``laid`` the number of ruler placements; ``stops`` excludes the first start and
    the last end."""
    pace = stitching.pace
    minutes = travelled / float(pace.travel.mm)
    minutes += sum(far / float(getattr(pace, technique).mm) for technique, far in sewn.items())
    seconds = 60 * minutes + laid * pace.lay + pivots * pace.turn + (stops + 1) * STOP_S[stitching.ends]
    used = (
        thread(sum(sewn.values()) + travelled, float(kit.batting.thickness.mm), float(kit.stitch.mm))
        + (stops + 1) * TAIL
    )
    return Needle(seconds, used, math.ceil(used / float(kit.bobbin.holds.mm)))


def thread(sewn: float, thick: float, stitch: float) -> float:
    """F41: mm of top thread, and the same of bobbin thread.

    >>> round(thread(1000 * 25.4, 3.0, 2.5) / 25.4 / 36, 1)
    61.1
    """
    return sewn * (1 + thick / stitch)


def roll(width: float, thick: float) -> float:
    """F43: the diameter of ``width`` mm of quilt rolled up, with layers ``thick`` mm.

    >>> round(roll(30, 0.2), 2), round(roll(45, 0.25), 2)
    (2.76, 3.78)
    """
    return math.sqrt(4 * width * thick / math.pi)


def repeated_leg(lines: Sequence[Floats]) -> float | None:
    """The most common length of straight sides in zigzags and corners, mm (for F40); None if sides do not repeat.

    >>> import numpy as np
    >>> repeated_leg([np.array([[6.0 * k, 8.0 * (k % 2)] for k in range(9)])])
    10.0
    """
    sides = [np.hypot(*np.diff(line, axis=0).T) for line in lines if len(line) >= _SIDES]
    if not sides:
        return None
    every = np.concatenate(sides)
    long = every[every > CURVES]
    lengths, many = np.unique(long.round(1), return_counts=True)
    if not len(lengths):
        return None
    best = int(np.argmax(lengths * many))
    if many[best] < _SIDES or lengths[best] * many[best] < every.sum() / 2:
        return None
    return float(long[np.isclose(long, lengths[best], atol=0.06)].mean().round(3))
