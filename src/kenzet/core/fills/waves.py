"""Waves: rows of a sine-like line, stepped, slid, grouped by a rhythm or crossed (L23 to L26)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from typing import ClassVar, Literal

import numpy as np
import shapely
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, RowFill
from kenzet.core.geom.arcs import bulge_through
from kenzet.core.geom.clip import Straight
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import whole_repeats
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import SAME_PLACE
from kenzet.texts import tr

Fit = Literal["as it is", "whole repeats"]
Crossed = Literal["no", "mirrored", "across"]
LEAST_APART = 1.6  # mm, 1/16 in: what can be sewn
PARTS = 16  # arcs a period: they stray less than CURVE_ERROR / 2 from a sine of any wave that can be sewn


@lru_cache(maxsize=64)
def one_period(period: float, depth: float) -> np.ndarray:
    """The arcs (n, 3) of a sine of ``period`` and ``depth`` (crest to trough) mm, from a rising zero crossing,
    without its end."""
    x = np.linspace(0.0, period, 2 * PARTS + 1)
    y = depth / 2 * np.sin(2 * math.pi * x / period)
    points = list(zip(x.tolist(), y.tolist(), strict=True))
    rows = [(*points[k], bulge_through(*points[k : k + 3])) for k in range(0, 2 * PARTS, 2)]
    return np.array(rows)


def wave(left: float, right: float, period: float, depth: float, phase: float) -> np.ndarray:
    """A wave from a whole period before ``left`` to one beyond ``right``; ``phase`` is the u of a rising zero
    crossing."""
    first = math.floor((left - phase) / period) - 1
    last = math.ceil((right - phase) / period) + 1
    one = one_period(period, depth)
    repeats = np.arange(first, last)
    rows = np.tile(one, (len(repeats), 1))
    rows[:, 0] += phase + np.repeat(repeats * period, len(one))
    return np.vstack([rows, (phase + last * period, 0.0, 0.0)])


def steepest(period: float, depth: float) -> float:
    """F29: the steepest slope, radians."""
    return math.atan(math.pi * depth / period)


@lru_cache(maxsize=256)
def closest(period: float, depth: float, slide: float, step: float) -> float:
    """The least distance between two equal sines, mm, the second moved ``step`` up and ``slide`` along; 0 if they
    touch or cross.

    Measured from 128 points of one to a polyline of 512 of the other.

    >>> inch = 25.4
    >>> round(closest(2.5 * inch, 0.5 * inch, 0.25 * inch, 0.25 * inch) / inch, 3)
    0.082
    """
    u = np.linspace(0.0, period, 128, endpoint=False)
    x = np.linspace(-period, 2 * period, 3 * 512)
    low = np.stack([u, depth / 2 * np.sin(math.tau * u / period)], axis=1)
    high = depth / 2 * np.sin(math.tau * (x - slide) / period) + step
    if (np.interp(u, x, high) <= low[:, 1]).any():
        return 0.0
    return float(
        shapely.distance(shapely.points(low), shapely.linestrings(np.stack([x, high], axis=1))).min()
    )


@lru_cache(maxsize=256)
def step_for(period: float, depth: float, slide: float, spacing: float) -> float:
    """The step at which their least distance is ``spacing`` mm, by bisection."""
    low, high = spacing, spacing / math.cos(steepest(period, depth)) + depth
    for _ in range(24):
        middle = (low + high) / 2
        low, high = (middle, high) if closest(period, depth, slide, middle) < spacing else (low, middle)
    return high


def tightest(period: float, depth: float) -> float:
    """F29: the radius in the hollow, mm.

    >>> round(tightest(1.25, 0.5), 3)
    0.158
    """
    return period**2 / (2 * math.pi**2 * depth)


class Waves(RowFill):
    """Rows of waves ``period`` long and ``depth`` from crest to trough."""

    label: ClassVar[str] = tr("Waves")
    help: ClassVar[str] = tr(
        "One wave in a strip, or rows of waves. Slide each row a little and the waves drift."
    )
    tile: ClassVar[str] = (
        "M-6 34Q3 24 12 34T30 34T48 34T66 34T84 34M-6 24Q3 14 12 24T30 24T48 24T66 24T84 24M-6 14Q3 4 12 14T30 14T48 14T66 14T84 14M-6 4Q3 -6 12 4T30 4T48 4T66 4T84 4"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 41
    lines_are: ClassVar[str] = tr("Waves")

    kind: Literal["waves"] = "waves"
    period: Length = asked("2 1/2 in", Form("length", tr("Crest to crest"), after="typed"))
    depth: Length = asked("1/2 in", Form("length", tr("Crest to trough"), after="period"))
    slide: Length | None = asked(
        None, Form("length", tr("Each row slides by"), empty=tr("no slide"), after="depth")
    )
    turns: int | None = asked(
        None, Form("count", tr("Back after so many rows"), empty=tr("never"), after="slide")
    )
    fit: Fit = asked(
        "as it is",
        Form(
            "choice", tr("Along the row"),
            choices=(Choice("as it is", tr("as the ruler is")), Choice("whole repeats", tr("closed to whole repeats"))),
            after="turns",
        ),
    )  # fmt: skip
    crossed: Crossed = asked(
        "no",
        Form(
            "choice", tr("Crossed"),
            choices=(Choice("no", tr("no")), Choice("mirrored", tr("by its mirror")), Choice("across", tr("by waves across"))),
            after="fit",
        ),
    )  # fmt: skip

    @field_validator("period", "depth")
    @classmethod
    def _wave(cls, length: Length) -> Length:
        return in_range(length, "1/16 in", "40 in", tr("A wave"))

    @field_validator("slide")
    @classmethod
    def _slide(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", "40 in", tr("The slide"))

    @field_validator("turns")
    @classmethod
    def _turns(cls, turns: int | None) -> int | None:
        if turns is not None and not 1 <= turns <= 200:
            raise BadValue(tr("From 1 to 200 rows, or always in the same direction."))
        return turns

    def repeat(self, frame: Frame) -> float:
        """The period as sewn, mm: as set, or adjusted so that whole repeats fill the row (F32)."""
        period = float(self.period.mm)
        if self.fit == "as it is":
            return period
        return frame.width / whole_repeats(frame.width, period)

    def slope(self, frame: Frame) -> float:
        """F30: the cosine of the steepest slope; for rows that slide, measured between them."""
        period, depth, spacing = self.repeat(frame), float(self.depth.mm), float(self.spacing.mm)
        slide = float(self.slide.mm) % period if self.slide else 0.0
        if min(slide, period - slide) < SAME_PLACE:
            return math.cos(steepest(period, depth))
        if self.typed == "step":
            return closest(period, depth, slide, spacing) / spacing
        return spacing / step_for(period, depth, slide, spacing)

    def tightest_inner_radius(self, site: Site) -> float:
        """F29."""
        return tightest(self.repeat(self.frame(site)), float(self.depth.mm))

    def span(self, frame: Frame) -> tuple[float, float]:
        """Half the depth either way."""
        half = float(self.depth.mm) / 2
        return -half, half

    def template(self, site: Site) -> WaveEdge | ZigzagEdge | None:
        """A wave of its period and depth."""
        frame = self.frame(site)
        return WaveEdge(self.repeat(frame), float(self.depth.mm), frame.width)

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """A crest on the zone's center or on the datum, shifted by ``slide`` for each row; whole repeats end with
        the zone."""
        period = self.repeat(frame)
        moved = self._moved(number) * float(self.slide.mm) if self.slide else 0.0
        if self.fit == "whole repeats":
            return period, frame.left + moved
        middle = (frame.left + frame.right) / 2 if frame.datum is None else frame.datum[0]
        return period, middle - period / 4 + moved

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """A wave that starts at a rising zero crossing."""
        period, begin = self.repeats(frame, number) or (0.0, 0.0)
        return wave(frame.left, frame.right, period, float(self.depth.mm), begin)

    def lattice(self, site: Site) -> Sequence[Straight]:
        """Empty if rows slide back and forth."""
        return () if self.slide and self.turns else super().lattice(site)

    def _moved(self, number: int) -> int:
        if self.turns is None:
            return number
        there = number % (2 * self.turns)
        return min(there, 2 * self.turns - there)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The rows; if crossed, also the same rows mirrored, or equal rows at right angles."""
        yield from super().lay_out(site)
        if self.crossed == "mirrored":
            frame = self.frame(site)
            yield self.family(frame, self.places(frame), turned_over=True)
        elif self.crossed == "across":
            across = self.model_copy(update={"angle": (self.angle + 90) % 180, "crossed": "no"})
            yield from across.lay_out(site)

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """For rows that slide, the true spacings of even steps are measured."""
        found = super().suggest_spacings(site)
        frame = self.frame(site)
        period, depth = self.repeat(frame), float(self.depth.mm)
        slide = float(self.slide.mm) % period if self.slide else 0.0
        if self.typed == "step" or min(slide, period - slide) < SAME_PLACE:
            return found
        share = self.slope(frame)
        true = [closest(period, depth, slide, float(wish.length.mm) / share) for wish in found]
        return [
            replace(wish, length=Length.near(apart, self.spacing.unit))
            for wish, apart in zip(found, true, strict=True)
            if apart > LEAST_APART
        ]

    def figures(self, site: Site) -> Sequence[Figure]:
        """Slope, hollow, repeats and the remainder."""
        frame = self.frame(site)
        period, depth = self.repeat(frame), float(self.depth.mm)
        whole = max(math.floor(frame.width / float(self.period.mm)), 0)
        found = [*super().figures(site), Figure(tr("Radius in the hollow"), tightest(period, depth))]
        found.append(Figure(tr("Steepest slope"), math.degrees(steepest(period, depth)), "angle"))
        if self.fit == "whole repeats":
            repeats = round(frame.width / period)
            found.append(Figure(tr("Repeats in a row"), repeats, "count"))
            found.append(Figure(tr("Each changed by"), period - float(self.period.mm)))
        elif whole:
            found.append(Figure(tr("Whole repeats in a row"), whole, "count"))
            found.append(Figure(tr("Left at each end"), (frame.width - whole * float(self.period.mm)) / 2))
        if self.slide and self.turns is None and self.slide.mm:
            again = Fraction(self.period.mm) / self.slide.mm
            if again.denominator == 1:
                found.append(Figure(tr("Rows until it repeats"), int(again), "count"))
        if self.rows == 1:
            found.append(Figure(tr("Clear on either side"), (frame.height - depth) / 2))
        return found
