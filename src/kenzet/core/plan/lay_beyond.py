"""Lines placed from lines of another zone: one that continues across the seam, or one that runs along it there.

The ruler lies across the seam, on what is sewn in the zone beside. The zone that comes first in the quilt is sewn
first, so that two zones never wait for each other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Floats
from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.ruler.line_references import BEYOND, MARK, Beyond, References, may_stray
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import EQUAL, ON_EDGE, SAME_ANGLE

_MOST_LINES = 2_000  # of a drawing, that are looked at
_NEAREST = 6  # lines of another zone that are tried for one line


@dataclass(frozen=True)
class ZoneBefore:
    """One drawing of a zone that is sewn before another; with the zone's ``key`` and ``name``."""

    key: str
    name: str
    drawing: Drawing

    @property
    def word(self) -> str:
        """The drawing's name in the log."""
        return f"{self.key}.{self.drawing.layer}.{self.drawing.word}"

    def is_at(self, drawing: Drawing) -> bool:
        """Whether it is at every place of ``drawing`` and shares one of its directions."""
        return set(drawing.places) <= set(self.drawing.places) and any(
            _same_way(one.direction, other.direction)
            for one in drawing.straight
            for other in self.drawing.straight
        )


def lay_beyond(kit: Kit, drawing: Drawing, before: Sequence[ZoneBefore], into: References) -> None:
    """Places straight lines that have no reference in their own zone from a line of one of the zones ``before``, if a
    straight ruler is long enough to lie on both.

    A line that is continued is preferred to one that runs beside; of several, the one that holds the ruler best.
    """
    reach = max((float(edge.length) for _, edge in kit.straight), default=0.0)
    others = [one for one in before if one.is_at(drawing)]
    if not reach or not others or kit.sew_with == "walking foot":
        return
    ends = drawing.stretches.ends.reshape(-1, 2, 2)
    jobs = drawing.stretches.job % max(len(drawing.straight), 1)
    for number, family in enumerate(drawing.straight):
        open_ = np.flatnonzero((jobs == number) & (into.kinds[: len(jobs)] == MARK))[:_MOST_LINES]
        if not len(open_):
            continue
        theirs = _Others(others, family)
        for line in open_.tolist():
            along, across = ends[line] @ theirs.way, float(ends[line, 0] @ theirs.normal)
            theirs.lay(kit, line, (along.min(), along.max()), across, reach, into)


class _Others:
    """The lines of other zones parallel to ``family``: (n,) their places across it and their extent along it, mm."""

    def __init__(self, others: Sequence[ZoneBefore], family: Straight) -> None:
        self.way, self.normal = np.array(family.direction), np.array(family.normal)
        self.of: list[Beyond] = []
        spans: list[tuple[float, float, float]] = []
        for one in others:
            stretches, straight = one.drawing.stretches, one.drawing.straight
            for number, other in enumerate(straight):
                if not _same_way(family.direction, other.direction):
                    continue
                for line in np.flatnonzero(stretches.job % len(straight) == number).tolist():
                    two = stretches.ends[line].reshape(2, 2)
                    along = two @ self.way
                    spans.append((float(two[0] @ self.normal), float(along.min()), float(along.max())))
                    self.of.append(Beyond(one.word, line, one.name))
        self.across, self.start, self.end = np.array(spans).reshape(-1, 3).T

    def lay(
        self, kit: Kit, line: int, own: tuple[float, float], across: float, reach: float, into: References
    ) -> None:
        """Places ``line``, which spans ``own`` along the direction, from the best of them that holds the ruler."""
        shared, leverage = self._held(own, reach)
        away = across - self.across
        fits = np.flatnonzero((shared > EQUAL) & (np.abs(away) < reach))
        goes_on = np.abs(away[fits]) < ON_EDGE
        order = np.lexsort((fits, np.abs(away[fits]).round(3), leverage[fits].round(3), ~goes_on))
        for k in fits[order][:_NEAREST].tolist():
            far = float(abs(away[k]))
            distance = Fraction(0) if far < ON_EDGE else Fraction(far).limit_denominator(10**6)
            total = best_offset_sum(kit, distance) if distance else None
            if total is not None and (not total.can_be_laid or total.gauge):
                continue
            off = far if total is None else float(total.off)
            if may_stray(kit, off, float(leverage[k]), 1.0) > float(kit.tolerance.mm):
                continue
            into.kinds[line], into.distances[line] = BEYOND, distance
            into.beyond[line] = self.of[k]
            if distance:
                into.ways[line] = 1 if away[k] > 0 else -1
            return

    def _held(self, own: tuple[float, float], reach: float) -> tuple[Floats, Floats]:
        """For each, the length under a ruler that covers all of ``own``, mm, and the factor by which the scatter
        of the hands grows from there to the far end of the line."""
        low, high = own
        none = np.zeros(len(self.across))
        if high - low > reach or not len(self.across):
            return none, none + 1.0
        shared, leverage = none, none + np.inf
        for begin in (none + low, none + high - reach, np.clip(self.start, high - reach, low)):
            first, last = np.maximum(begin, self.start), np.minimum(begin + reach, self.end)
            held = np.maximum(last - first, 0.0)
            whole = np.maximum(last, high) - np.minimum(first, low)
            grows = np.where(held > EQUAL, whole / np.maximum(held, EQUAL), np.inf)
            shared, leverage = np.where(grows < leverage, held, shared), np.minimum(leverage, grows)
        return shared, leverage


def _same_way(one: tuple[float, float], other: tuple[float, float]) -> bool:
    return abs(one[0] * other[1] - one[1] * other[0]) < SAME_ANGLE
