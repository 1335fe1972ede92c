"""How many lines fit, what is left over, and which spacings come out even.

All in exact fractions: in floats ``floor(width / spacing)`` with inch fractions is wrong in one case of four.
Glossary: the *extent* L is the width of a region perpendicular to the lines; a *gap* lies between two neighboring
lines, or between the last line and the edge. Lengths are all in one unit; which one does not matter. Formulas: F8
to F11, F35.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from kenzet.core.numbers.measure import rounded
from kenzet.core.tolerances import ROUNDING

SLIVER = Fraction(1, 4)  # an end gap below this share of the spacing is a sliver


@dataclass(frozen=True, slots=True)
class Fit:
    """How a family of ``lines`` sits between two stitched edges.

    ``gaps`` counts all gaps, the end ones included; ``end`` is the last gap (both end gaps where the
    family is centred); ``change`` is (spacing - wanted) / wanted.
    """

    spacing: Fraction
    lines: int
    gaps: int
    end: Fraction
    change: Fraction = Fraction(0)

    @property
    def sliver(self) -> bool:
        """Whether the end gap is too small to be worth stitching up to."""
        return self.end < SLIVER * self.spacing


def ceil(x: Fraction) -> int:
    """The smallest whole number not below ``x``."""
    return -((-x).__floor__())


def from_edge(extent: Fraction, spacing: Fraction) -> Fit:
    """F8: lines are counted from one edge; the last gap is what remains.

    >>> from_edge(Fraction("7.5"), Fraction("0.625"))
    Fit(spacing=Fraction(5, 8), lines=11, gaps=12, end=Fraction(5, 8), change=Fraction(0, 1))
    """
    lines = max(ceil(extent / spacing) - 1, 0)
    return Fit(spacing, lines, lines + 1, extent - lines * spacing)


def equalised(extent: Fraction, spacing: Fraction) -> Fit:
    """F9: the spacing nearest to ``spacing`` that leaves every gap the same."""
    gaps = max(rounded(extent / spacing, Fraction(1)).numerator, 1)
    even = extent / gaps
    return Fit(even, gaps - 1, gaps, even, (even - spacing) / spacing)


def whole_repeats(extent: float, repeat: float) -> int:
    """The number of whole repeats in ``extent`` that stretches or shrinks each repeat least (both in one unit).

    >>> whole_repeats(27, 2.5), whole_repeats(31.25, 2.5), whole_repeats(1, 2.5)  # A51; 12.5 would do: 13 change less
    (11, 13, 1)
    """
    some = max(math.floor(extent / repeat + ROUNDING), 1)
    return min((some, some + 1), key=lambda many: abs(extent / many - repeat))


def _below(x: Fraction) -> int:
    """The largest whole number strictly below ``x``: a line that falls on the edge does not count."""
    return ceil(x) - 1


def centred_on_line(extent: Fraction, spacing: Fraction) -> Fit:
    """F10 with a line on the centre."""
    side = max(_below(extent / 2 / spacing), 0)
    return Fit(spacing, 2 * side + 1, 2 * side + 2, extent / 2 - side * spacing)


def centred_on_gap(extent: Fraction, spacing: Fraction) -> Fit:
    """F10 with a gap on the centre; no line at all where the region is narrower than one spacing."""
    side = _below(extent / 2 / spacing - Fraction(1, 2)) + 1
    if side < 1:
        return Fit(spacing, 0, 1, extent)
    return Fit(spacing, 2 * side, 2 * side + 1, extent / 2 - (side - Fraction(1, 2)) * spacing)


def whole_parts(extent: Fraction, spacing: Fraction, each: int, odd: bool = False) -> list[Fraction]:
    """Spacings near ``spacing`` of which a whole number fits ``extent``, nearest first.

    ``each`` 1 takes any whole number, 2 only even ones (a line on the centre), or with ``odd`` only
    odd ones (a gap on the centre). At most three, within half and double of what was wanted.

    >>> [str(s) for s in whole_parts(Fraction(7), Fraction("0.6"), 1)]
    ['7/12', '7/11', '7/13']
    """
    about = (extent / spacing).__floor__()
    counts = [k for k in range(max(about - 4, 1), about + 6) if each == 1 or k % 2 == int(odd)]
    fits = [extent / k for k in counts if spacing / 2 <= extent / k <= spacing * 2]
    return sorted(fits, key=lambda s: abs(s - spacing))[:3]


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark along an edge: ``at`` is its exact place, ``drawn`` its place rounded to the marking step, both from
    the datum."""

    at: Fraction
    drawn: Fraction

    @property
    def error(self) -> Fraction:
        """Drawn minus true; never more than half the marking step."""
        return self.drawn - self.at


def ticks(places: Sequence[Fraction], step: Fraction) -> list[Tick]:
    """F35: each place is counted from the datum and rounded on its own to the marking ``step``, so errors do not
    add up."""
    return [Tick(at, rounded(at, step)) for at in places]


def stepping_error(spacing: Fraction, count: int, step: Fraction) -> Fraction:
    """The error of the last of ``count`` marks if a rounded spacing were stepped off mark by mark instead."""
    return abs(count * (rounded(spacing, step) - spacing))


def common_part(lengths: Sequence[float], most: int = 12, near: float = 0.02) -> float | None:
    """The greatest length that divides every one of ``lengths`` into whole numbers, within ``near``.

    ``lengths`` are positive, in mm; tries the shortest divided by 1 to ``most``. None if there is no such length.

    >>> round(common_part([30.0, 45.0, 75.0]), 6), common_part([10.0, 14.142])
    (15.0, None)
    """
    if not lengths:
        return None
    shortest = min(lengths)
    for parts in range(1, most + 1):
        unit = shortest / parts
        counts = [round(x / unit) for x in lengths]
        if all(abs(x / unit - k) * unit <= near for x, k in zip(lengths, counts, strict=True)):
            return sum(lengths) / sum(counts)
    return None
