"""The sums for placing a ruler: which etched line of which ruler makes a spacing, and how the ruler is moved along a
line.

Glossary: *etched* is d, the etched line that lies on the reference; *behind* is how far the working edge lies
behind the reference if the spacing is smaller than r (F3). Lengths are mm; exact where they are ``Fraction``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache

from kenzet.core.kit.edges import StraightEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.machine import WalkingFoot
from kenzet.core.numbers.measure import MM_PER
from kenzet.core.ruler.drift import anchor_every
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

EXACT = Fraction(1, 100)  # mm: what an etched line misses by less than this is not counted
THAT_LINE = Fraction(
    1, 20
)  # mm: an etched line as near to what is wanted is that line; what it misses by adds up
RULER_OVERLAP = MM_PER["in"]  # a ruler that is moved along keeps 1 in on what is sewn


class Mode(StrEnum):
    """How the ruler is used; the same etched line means different things with a foot and with a pen."""

    DRAWING = tr("marking along the ruler")
    RULER_FOOT = tr("stitching along the ruler")
    TOE = tr("a toe of the foot as gauge")
    BAR = tr("the guide bar")


def line_lands_at(etched: Fraction, foot: Fraction, mode: Mode) -> Fraction:
    """The spacing that etched line ``etched`` on the last line makes (F1; when marking: s = d).

    >>> line_lands_at(Fraction(1, 2), Fraction(1, 4), Mode.RULER_FOOT)
    Fraction(3, 4)
    """
    return etched if mode is Mode.DRAWING else etched + foot


def etched_line_for(spacing: Fraction, foot: Fraction, mode: Mode) -> Fraction:
    """F2: the etched line that makes ``spacing``; negative if the edge must lie behind the reference (F3).

    >>> etched_line_for(Fraction(5, 8), Fraction(1, 4), Mode.DRAWING)
    Fraction(5, 8)
    """
    return spacing if mode is Mode.DRAWING else spacing - foot


@lru_cache(maxsize=4096)
def offset_sum(
    spacing: Fraction, foot: Fraction, lines: tuple[Fraction, ...], mode: Mode = Mode.RULER_FOOT
) -> OffsetSum:
    """The sum for ``spacing`` with foot offset ``foot`` on a ruler with etched ``lines`` (F1 to F3).

    >>> inch = Fraction(127, 5)
    >>> str(offset_sum(inch * 5 / 8, inch / 4, (Fraction(0), inch / 4, inch * 3 / 8)).etched / inch)
    '3/8'
    """
    wanted = etched_line_for(spacing, foot, mode)
    if not lines:
        return OffsetSum(spacing, foot, mode, wanted, None, Fraction(0))
    exact = min(lines, key=lambda line: abs(line - wanted))
    if abs(exact - wanted) <= THAT_LINE:
        out = exact - wanted if abs(exact - wanted) > EXACT else Fraction(0)
        return OffsetSum(spacing, foot, mode, wanted, exact, Fraction(0), out=out)
    if wanted < 0:
        return OffsetSum(spacing, foot, mode, wanted, None, -wanted)
    below = [line for line in lines if line < wanted][-1:]
    above = [line for line in lines if line > wanted][:1]
    nearest = tuple((line, line_lands_at(line, foot, mode)) for line in below + above)
    return OffsetSum(spacing, foot, mode, wanted, None, Fraction(0), nearest)


def _best_sum(kit: Kit, spacing: Fraction, length: float, ruler: str | None) -> OffsetSum:
    if kit.sew_with == "walking foot":
        return _by_gauge(kit, spacing)
    found = [
        (replace(_near_enough(offset_sum(spacing, kit.foot_offset, edge.lines), kit), ruler=key), edge)
        for key, edge in kit.straight
        if ruler is None or key == ruler
    ]
    if not found:
        return offset_sum(spacing, kit.foot_offset, ())

    def order(one: tuple[OffsetSum, StraightEdge]) -> tuple[bool, Fraction, int, Fraction]:
        total, edge = one
        return not total.can_be_laid, abs(total.off), placements(length, float(edge.length)), edge.length

    return min(found, key=order)[0]


def _near_enough(total: OffsetSum, kit: Kit) -> OffsetSum:
    """``total`` with the nearest etched line, if that stays within the tolerance for at least two lines."""
    if total.can_be_laid or not total.nearest:
        return total
    etched, makes = min(total.nearest, key=lambda pair: abs(pair[1] - total.spacing))
    out = makes - total.spacing
    if anchor_every(float(out), float(kit.spread.mm), float(kit.tolerance.mm)) < 2:
        return total
    return replace(total, etched=etched, nearest=(), out=out)


def _by_gauge(kit: Kit, spacing: Fraction) -> OffsetSum:
    foot = kit.walking or WalkingFoot()
    for name, toe in ((tr("left toe"), foot.left), (tr("right toe"), foot.right)):
        if toe is not None and abs(toe.mm - spacing) <= THAT_LINE:
            return OffsetSum(spacing, toe.mm, Mode.TOE, Fraction(0), None, Fraction(0), gauge=name)
    if foot.bar is not None and spacing <= foot.bar.mm:
        return OffsetSum(spacing, Fraction(0), Mode.BAR, spacing, None, Fraction(0), gauge=tr("guide bar"))
    return OffsetSum(spacing, Fraction(0), Mode.BAR, spacing, None, Fraction(0))


def edge_of(kit: Kit, total: OffsetSum) -> StraightEdge | None:
    """The edge of the ruler for which ``total`` was computed."""
    found = [edge for key, edge in kit.straight if key == total.ruler]
    return next((edge for edge in found if total.etched in edge.lines), found[0] if found else None)


def placements(length: float, ruler: float, overlap: float = float(RULER_OVERLAP)) -> int:
    """The number of ruler placements along a line, each overlapping the last (mm).

    >>> placements(9.5 * 25.4, 6 * 25.4), placements(16 * 25.4, 6 * 25.4)
    (2, 3)
    """
    if length <= ruler:
        return 1
    return math.ceil((length - overlap) / max(ruler - overlap, 1.0) - ROUNDING)


def check_number(
    total: OffsetSum, edge: StraightEdge, farther: Sequence[Fraction]
) -> tuple[int, Fraction] | None:
    """The farthest earlier line that must lie under an etched line when the ruler is placed correctly: its index in
    ``farther``, and that etched line (its distance − r).

    ``farther`` are the exact distances of earlier lines from the new one, mm, from near to far. None if no etched
    line lies on any of them, or if ``total`` itself is only nearly right: the lines farther back lie elsewhere then.
    """
    if abs(total.out) > THAT_LINE:
        return None
    for index in range(len(farther) - 1, -1, -1):
        wanted = farther[index] - total.foot
        etched = min(edge.lines, key=lambda d: abs(d - wanted))
        if abs(etched - wanted) <= THAT_LINE:
            return index, etched
    return None


def whole_stitches(length: float, stitch: float) -> tuple[int, float]:
    """F40: the number of whole stitches in ``length``, and their exact length (A78).

    >>> whole_stitches(42.597, 2.5), whole_stitches(37.03, 2.5)[0], round(whole_stitches(37.03, 2.5)[1], 3)
    ((17, 2.5057058823529412), 15, 2.469)
    """
    many = max(round(length / stitch), 1)
    return many, length / many


def hand_stops(length: float, span: float, crossings: Sequence[float] = ()) -> list[float]:
    """Where the hand moves on along a line, mm from its start: at a crossing if one is within ``span``, because a
    stop does not show there (A72).

    >>> hand_stops(9.5, 5, [4.6]), hand_stops(9.5, 5), hand_stops(4, 5)
    ([4.6], [5.0], [])
    """
    stops, at = [], 0.0
    while length - at > span:
        within = [crossing for crossing in crossings if at < crossing <= at + span]
        at = max(within, default=at + span)
        stops.append(at)
    return stops


@dataclass(frozen=True, slots=True)
class OffsetSum:
    """The sum for one spacing: what lies on the reference so that the line lands ``spacing`` away.

    ``etched`` is the line of ``ruler`` (its key) that gives exactly that (0: the working edge), or None. Then
    ``behind`` > 0 is how far the reference shows in front of the plastic, or ``nearest`` has the etched lines on
    either side of ``wanted`` with their spacings. ``out`` is the error of each line if ``etched`` fits only nearly
    (F36). ``gauge`` is the part of a walking foot that runs along the reference instead.
    """

    spacing: Fraction
    foot: Fraction
    mode: Mode
    wanted: Fraction
    etched: Fraction | None
    behind: Fraction
    nearest: tuple[tuple[Fraction, Fraction], ...] = ()
    ruler: str = ""
    gauge: str = ""
    out: Fraction = Fraction(0)

    @property
    def can_be_laid(self) -> bool:
        """Whether the line can be placed without a mark: an etched line fits, the edge lies a little behind, or a
        gauge is used."""
        return self.etched is not None or 0 < self.behind < self.foot or bool(self.gauge)

    @property
    def off(self) -> Fraction:
        """F47: the error of each line with the chosen or the nearest etched line, exact mm."""
        if self.can_be_laid or not self.nearest:
            return self.out
        return min((spacing - self.spacing for _, spacing in self.nearest), key=abs)


def best_offset_sum(kit: Kit, spacing: Fraction, length: float = 0.0, ruler: str | None = None) -> OffsetSum:
    """The sum for a line ``length`` mm long, with the best ruler, or with ``ruler`` (its key).

    The best ruler fits, then needs the fewest placements, then is the shortest. A walking foot uses no ruler: a
    toe or the guide bar runs along the reference, or the line is marked.
    """
    asked = (spacing, round(length, 1), ruler)
    found = kit.sums.get(asked)
    if not isinstance(found, OffsetSum):
        found = kit.sums[asked] = _best_sum(kit, spacing, length, ruler)
    return found
