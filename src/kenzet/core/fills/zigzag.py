"""Zigzags in the cells of a grid of columns and rows (L19, L20, L22)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Figure, Group, Paths, PointFit, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, RowFill, chance, check_count, repeats_from
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.meeting import MOST_CHANGE, NEAR, even, whole_steps
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Lay = Literal["side by side", "mirrored", "crossing", "random"]
LEAST_LEG, MOST_LEG = "1/8 in", "40 in"


class Zigzag(RowFill):
    """Legs that advance ``advance`` along the row and ``throw`` · ``depth`` sideways (F17)."""

    label: ClassVar[str] = tr("Zigzag")
    help: ClassVar[str] = tr(
        "Lines that turn at every point of a grid. Mark the grid, sew from corner to corner, pivot with the needle down."
    )
    tile: ClassVar[str] = (
        "M-4 20 8 6 20 20 32 6 44 20 56 6 68 20 80 6M-4 32 8 18 20 32 32 18 44 32 56 18 68 32 80 18M-4 8 8 -6 20 8 32 -6 44 8 56 -6 68 8 80 -6M-4 44 8 30 20 44 32 30 44 44 56 30 68 44 80 30"
    )
    group: ClassVar[Group] = "zigzags"
    order: ClassVar[int] = 31
    lines_are: ClassVar[str] = tr("Zigzags")

    kind: Literal["zigzag"] = "zigzag"
    advance: Length = asked(
        "1 1/4 in", Form("length", tr("Leg, along the row"), tr("One row of the grid."), after="typed")
    )
    throw: Length = asked(
        "3/4 in", Form("length", tr("Leg, across the row"), tr("One column of the grid."), after="advance")
    )
    depth: int = asked(
        1,
        Form(
            "count", tr("Columns each leg spans"), tr("With 2 or more the zigzag is deeper."), after="throw"
        ),
    )
    lay: Lay = asked(
        "side by side",
        Form(
            "choice",
            tr("Neighboring rows"),
            choices=(
                Choice("side by side", tr("side by side")),
                Choice("mirrored", tr("mirrored")),
                Choice("crossing", tr("crossing")),
                Choice("random", tr("at random")),
            ),
            after="depth",
        ),
    )
    seed: int = asked(1, Form("count", tr("Random seed"), tr("Another seed gives another pattern."), only_with=("lay", ("random",)), after="lay"))  # fmt: skip

    @field_validator("advance", "throw")
    @classmethod
    def _leg(cls, length: Length) -> Length:
        return in_range(length, LEAST_LEG, MOST_LEG, tr("A leg"))

    @field_validator("depth")
    @classmethod
    def _depth(cls, depth: int) -> int:
        return check_count(depth, 1, 12, tr("Columns")) or 1

    @property
    def across(self) -> float:
        """The width of the zigzag, mm."""
        return float(self.throw.mm) * self.depth

    @property
    def leg(self) -> float:
        """The length of a leg, mm."""
        return math.hypot(float(self.advance.mm), self.across)

    def slope(self, frame: Frame) -> float:
        """F17: a/√(a²+b²); mirrored rows touch, so that the step itself counts."""
        return float(self.advance.mm) / self.leg if self.lay in ("side by side", "random") else 1.0

    def span(self, frame: Frame) -> tuple[float, float]:
        """From 0 to the width of the zigzag."""
        return 0.0, self.across

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """Two legs, from the left end of the zone or aligned with the datum; mirrored rows begin one leg later."""
        advance = float(self.advance.mm)
        period, begin = repeats_from(frame, 2 * advance, frame.left)
        turned = self.lay == "mirrored" and number % 2 == 1
        return period, begin - advance if turned else begin

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """Points at whole advances, low ones where a repeat begins."""
        advance = float(self.advance.mm)
        _, begin = self.repeats(frame, number) or (0.0, 0.0)
        k = np.arange(-1, math.ceil(frame.width / advance - ROUNDING) + 6)
        up = np.where(k % 2 == 1, self.across, 0.0)
        return np.stack([begin + k * advance, up, np.zeros(len(k))], axis=1)

    def lattice(self, site: Site) -> Sequence[Straight]:
        """Empty if rows are placed at random."""
        return () if self.lay == "random" else super().lattice(site)

    def places(self, frame: Frame) -> list[tuple[int, float]]:
        """Rows in order, or shifted by up to half a step at random."""
        found = super().places(frame)
        if self.lay != "random":
            return found
        dice, step = chance(self.seed), float(self.step(frame))
        return [(number, v + dice.uniform(-0.45, 0.45) * step) for number, v in found]

    def turn_of(self, family: int) -> int:
        """The rows, then those that cross them."""
        return family

    def lay_out(self, site: Site) -> Iterable[Family]:
        """One family; if crossing, a second one, mirrored."""
        frame = self.frame(site)
        places = self.places(frame)
        rows = self.family(frame, places)
        even = self.rhythm is None and self.lay == "side by side"
        yield (
            replace(rows, spacing=self.spacing.mm, laid_on=(), slides=())
            if even and self.typed == "true"
            else rows
        )
        if self.lay == "crossing":
            over = self.model_copy(update={"lay": "mirrored"})
            yield over.family(frame, [(2 * number + 1, v) for number, v in places])

    def figures(self, site: Site) -> Sequence[Figure]:
        """A leg, its angle, the turn at each point; step and true spacing."""
        lean = math.degrees(math.atan2(self.across, float(self.advance.mm)))
        return (
            *super().figures(site),
            Figure(tr("Each leg"), self.leg, "sewn"),
            Figure(tr("Angle from the row"), lean, "angle"),
            Figure(tr("Turn at each point"), 2 * lean, "angle"),
        )

    def fit_to_points(self, site: Site, points: Sequence[Point]) -> Sequence[PointFit]:
        """Advances, and if necessary steps of the rows, with which a zigzag point falls on all of ``points``.

        Each solution is drawn and measured. For a missed point, the distance to the nearest zigzag point is given.
        Solutions that arrive on the opposite side come after those that hit.
        """
        if len(points) < 2 or self.rhythm or self.lay == "random":
            return []
        frame = self.frame(site)
        (u0, v0), *others = [frame.into(point) for point in points]
        aside = [v - v0 for _, v in others]
        found = []
        for legs in whole_steps([u - u0 for u, _ in others], float(self.advance.mm)):
            advance = Length.near(legs.step, self.advance.unit)
            through = site.share_of(points[0])
            begun = self.model_copy(update={"advance": advance, "start": "point", "through": through})
            tried = [
                (fill, fill.misses_of(site, points[1:])) for fill in (begun, *begun.stepped_to(frame, aside))
            ]
            best, misses = min(
                tried, key=lambda one: (max(one[1]) > NEAR, begun.steps_apart(one[0]), max(one[1]))
            )
            give = tuple(k for k, miss in enumerate(misses) if miss > NEAR)
            values = [("advance", advance.text), ("start", "point")]
            if best.spacing != self.spacing:
                values.append(("spacing", best.spacing.text))
            found.append(
                PointFit(
                    tuple(values),
                    through,
                    legs.change,
                    legs.counts,
                    advance,
                    "same side" if all(even(n) for n in legs.counts) else "opposite side",
                    give,
                    tuple(misses),
                )
            )
        return sorted(found, key=lambda way: (bool(way.give), "spacing" in dict(way.values), abs(way.change)))

    def misses_of(self, site: Site, points: Sequence[Point]) -> list[float]:
        """The distance from each of ``points`` to the nearest zigzag point as drawn, mm."""
        rows = [
            path.vertices[:, :2]
            for family in self.lay_out(site)
            if isinstance(family, Paths)
            for path in family.paths
        ]
        if not rows:
            return [math.inf for _ in points]
        drawn = np.concatenate(rows)
        return [float(np.hypot(*(drawn - point).T).min()) for point in np.array(points)]

    def stepped_to(self, frame: Frame, aside: Sequence[float]) -> Iterable[Zigzag]:
        """The same zigzag with other steps, near the present one, that divide the distances ``aside`` (mm from the
        datum) evenly."""
        step, slope = float(self.step(frame)), self.slope(frame) if self.typed == "true" else 1.0
        for v in aside:
            for far in (abs(v), abs(v - self.across), abs(v + self.across)):
                many = far / step
                for n in {math.floor(many), math.ceil(many)}:
                    if n > 0 and abs(far / n / step - 1) <= MOST_CHANGE:
                        yield self.model_copy(
                            update={"spacing": Length.near(far / n * slope, self.spacing.unit)}
                        )

    def steps_apart(self, other: Zigzag) -> float:
        """The relative difference between the two spacings."""
        return abs(float(other.spacing.mm / self.spacing.mm) - 1)

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Empty if rows are placed at random."""
        return () if self.lay == "random" else super().suggest_spacings(site)
