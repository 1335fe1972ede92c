"""Zigzags in the cells of a grid of columns and rows (L19, L20, L22)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Figure, Group, PointFit, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, RowFill, chance, check_count, repeats_from
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.meeting import NEAR, even, whole_steps
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import ROUNDING

Lay = Literal["side by side", "mirrored", "crossing", "random"]
LEAST_LEG, MOST_LEG = "1/8 in", "40 in"


class Zigzag(RowFill):
    """Legs that advance ``advance`` along the row and throw ``throw`` · ``depth`` sideways (F17)."""

    label: ClassVar[str] = "Zigzag"
    help: ClassVar[str] = (
        "Lines that turn at every point of a grid. Draw the grid, join its corners, pivot with the needle down."
    )
    tile: ClassVar[str] = (
        "M-4 20 8 6 20 20 32 6 44 20 56 6 68 20 80 6M-4 32 8 18 20 32 32 18 44 32 56 18 68 32 80 18M-4 8 8 -6 20 8 32 -6 44 8 56 -6 68 8 80 -6M-4 44 8 30 20 44 32 30 44 44 56 30 68 44 80 30"
    )
    group: ClassVar[Group] = "zigzags"
    order: ClassVar[int] = 31
    lines_are: ClassVar[str] = "Zigzags"

    kind: Literal["zigzag"] = "zigzag"
    advance: Length = asked(
        "1 1/4 in", Form("length", "Each leg goes on by", "Along the row: a row of the grid.", after="typed")
    )
    throw: Length = asked(
        "3/4 in", Form("length", "and sideways by", "Across it: a column of the grid.", after="advance")
    )
    depth: int = asked(
        1, Form("count", "Columns each leg spans", "1, 2 or more: the zigzag grows deeper.", after="throw")
    )
    lay: Lay = asked(
        "side by side",
        Form(
            "choice",
            "Neighbours",
            choices=(
                Choice("side by side", "side by side"),
                Choice("mirrored", "mirrored"),
                Choice("crossing", "crossing"),
                Choice("random", "at random"),
            ),
            after="depth",
        ),
    )
    seed: int = asked(1, Form("count", "Throw of the dice", "Another number, another scatter.", only_with=("lay", ("random",)), after="lay"))  # fmt: skip

    @field_validator("advance", "throw")
    @classmethod
    def _leg(cls, length: Length) -> Length:
        return in_range(length, LEAST_LEG, MOST_LEG, "A leg")

    @field_validator("depth")
    @classmethod
    def _depth(cls, depth: int) -> int:
        return check_count(depth, 1, 12, "Columns") or 1

    @property
    def across(self) -> float:
        """How far a leg is thrown, mm."""
        return float(self.throw.mm) * self.depth

    @property
    def leg(self) -> float:
        """mm."""
        return math.hypot(float(self.advance.mm), self.across)

    def slope(self, frame: Frame) -> float:
        """F17: a/√(a²+b²); copies that are mirrored touch, so the step is what counts."""
        return float(self.advance.mm) / self.leg if self.lay in ("side by side", "random") else 1.0

    def span(self, frame: Frame) -> tuple[float, float]:
        """From 0 to the throw."""
        return 0.0, self.across

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """Two legs, from the left end of the zone or in step with the datum; mirrored rows begin one leg later."""
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
        """None where rows are thrown at random."""
        return () if self.lay == "random" else super().lattice(site)

    def places(self, frame: Frame) -> list[tuple[int, float]]:
        """Rows in order, or moved by up to half a step at random."""
        found = super().places(frame)
        if self.lay != "random":
            return found
        dice, step = chance(self.seed), float(self.step(frame))
        return [(number, v + dice.uniform(-0.45, 0.45) * step) for number, v in found]

    def turn_of(self, family: int) -> int:
        """The rows, then those that cross them."""
        return family

    def lay_out(self, site: Site) -> Iterable[Family]:
        """One family; crossing: a second one, turned over."""
        frame = self.frame(site)
        places = self.places(frame)
        rows = self.family(frame, places)
        even = self.rhythm is None and self.lay == "side by side"
        yield type(rows)(rows.paths, self.spacing.mm) if even and self.typed == "true" else rows
        if self.lay == "crossing":
            over = self.model_copy(update={"lay": "mirrored"})
            yield over.family(frame, [(2 * number + 1, v) for number, v in places])

    def figures(self, site: Site) -> Sequence[Figure]:
        """Leg, its lean, the turn at each point; step and true spacing."""
        lean = math.degrees(math.atan2(self.across, float(self.advance.mm)))
        return (
            *super().figures(site),
            Figure("Each leg", self.leg),
            Figure("Lean from the row", lean, "angle"),
            Figure("Turn at each point", 2 * lean, "angle"),
        )

    def fit_to_points(self, site: Site, points: Sequence[Point]) -> Sequence[PointFit]:
        """Advances with which a zigzag point lies on all of ``points``; steps of the rows where they lie apart sideways.

        Solutions that arrive on the opposite side are told too, after those that hit.
        """
        if len(points) < 2 or self.rhythm or self.lay == "random":
            return []
        frame = self.frame(site)
        (u0, v0), *others = [frame.into(point) for point in points]
        found = []
        for legs in whole_steps([u - u0 for u, _ in others], float(self.advance.mm)):
            aside = [v - v0 for _, v in others]
            hits = [min(abs(v), abs(v - self.across)) <= NEAR or abs(v) > self.across + NEAR for v in aside]
            right = [
                even(n) if abs(v) <= NEAR else not even(n) if abs(v - self.across) <= NEAR else True
                for n, v in zip(legs.counts, aside, strict=True)
            ]
            length = Length.near(legs.step, self.advance.unit)
            give = tuple(k for k in range(len(others)) if k in legs.give or not hits[k])
            found.append(
                PointFit(
                    (("advance", length.text), ("start", "point")),
                    site.share_of(points[0]),
                    legs.change,
                    legs.counts,
                    length,
                    "same side" if all(even(n) for n in legs.counts) else "opposite side",
                    give or tuple(k for k, ok in enumerate(right) if not ok),
                    legs.misses,
                )
            )
        return sorted(found, key=lambda meeting: (bool(meeting.give), abs(meeting.change)))

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """None where neighbours are thrown at random."""
        return () if self.lay == "random" else super().suggest_spacings(site)
