"""An open channel between dense areas (L40)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, ReferenceHint, Site
from kenzet.core.fills.turned import Frame, TurnedFill
from kenzet.core.fills.waves import steepest, tightest, wave
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range

Guides = Literal["mirrored", "alike"]


class Channel(TurnedFill):
    """Two guide waves across the middle keep a channel open; beyond them the same waves repeat ``spacing`` apart."""

    label: ClassVar[str] = "Open channel"
    help: ClassVar[str] = "Two waves leave a ribbon unquilted between dense lines on either side."
    tile: ClassVar[str] = (
        "M-2 3Q18 -3 36 3T74 3M-2 7Q18 1 36 7T74 7M-2 11Q18 5 36 11T74 11M-2 27Q18 33 36 27T74 27M-2 31Q18 37 36 31T74 31M-2 35Q18 41 36 35T74 35"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 52

    kind: Literal["channel"] = "channel"
    spacing: Length = asked("1/4 in", Form("length", "Dense lines apart", "On both sides of the channel."))
    wide: Length = asked(
        "1 1/4 in", Form("length", "Channel, on average", "Between the two guide waves.", after="spacing")
    )
    period: Length = asked("5 in", Form("length", "Crest to crest", after="wide"))
    depth: Length = asked("1/2 in", Form("length", "Crest to trough", after="period"))
    guides: Guides = asked(
        "mirrored",
        Form(
            "choice",
            "The two waves",
            choices=(Choice("mirrored", "mirror each other"), Choice("alike", "run alike")),
            after="depth",
        ),
    )

    @field_validator("wide", "period", "depth")
    @classmethod
    def _size(cls, length: Length) -> Length:
        return in_range(length, "1/16 in", "100 in", "The channel")

    def tightest_inner_radius(self, site: Site) -> float:
        """F29."""
        return tightest(float(self.period.mm), float(self.depth.mm))

    @property
    def rows_by_eye(self) -> bool:
        """The dense lines follow the guide, or one another."""
        return True

    def widths(self) -> tuple[float, float]:
        """The narrowest and the widest place of the channel, mm."""
        wide, depth = float(self.wide.mm), float(self.depth.mm)
        return (wide - depth, wide + depth) if self.guides == "mirrored" else (wide, wide)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Both guides from the channel outwards, each side to the zone's end. Raises BadValue: pinched shut."""
        narrow, _ = self.widths()
        if narrow < float(self.spacing.mm):
            raise BadValue(
                "The channel would be pinched shut: make it wider, or the waves shallower.", "wide"
            )
        frame = self.frame(site)
        middle = (frame.low + frame.high) / 2
        for side in (1.0, -1.0):
            paths = tuple(self._side(frame, middle, side))
            step: ReferenceHint = ("step", self.spacing.mm)
            yield Paths(paths, laid_on=(None, *(step for _ in paths[1:])))

    def _side(self, frame: Frame, middle: float, side: float) -> Iterable[Path]:
        depth, s = float(self.depth.mm), float(self.spacing.mm)
        turned = side if self.guides == "mirrored" else 1.0
        shape = wave(frame.left, frame.right, float(self.period.mm), depth, (frame.left + frame.right) / 2)
        shape = shape * np.array([1.0, turned, turned])
        for k in range(math.ceil((frame.height / 2 + depth) / s)):
            rows = shape.copy()
            rows[:, 1] += middle + side * (float(self.wide.mm) / 2 + k * s)
            yield frame.path(rows)

    def figures(self, site: Site) -> Sequence[Figure]:
        """Narrowest and widest place, and how much of the zone stays open."""
        narrow, wide = self.widths()
        frame = self.frame(site)
        return (
            Figure("Narrowest place", narrow),
            Figure("Widest place", wide),
            Figure(
                "Dense lines apart on the slopes",
                float(self.spacing.mm) * math.cos(steepest(float(self.period.mm), float(self.depth.mm))),
            ),
            Figure("Open, percent of the height", 100 * float(self.wide.mm) / frame.height, "count"),
        )
