"""Curves through the center of a block, alternating with straight lines (L36)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.origin import check_angle
from kenzet.core.fills.turned import check_count, frame_of
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Straights = Literal["in turn", "no"]


class Through(Fill):
    """``curves`` S-shaped lines from seam to seam through the center, at even angles, with straight lines between
    them."""

    label: ClassVar[str] = tr("Through the center")
    help: ClassVar[str] = tr(
        "S-shaped lines through the center of a pinwheel for one fabric, straight lines for the other."
    )
    tile: ClassVar[str] = (
        "M0 39Q24 36 36 19.500Q48 3 72 0M0 0Q12 22 36 19.500Q60 17 72 39M36 -1V40M-1 19.500H73"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 50
    lends_spacing: ClassVar[bool] = False

    kind: Literal["through"] = "through"
    spacing: Length = asked(
        "3/8 in", Form("length", tr("Swing"), tr("From the straight line to the widest point of the curve."))
    )
    curves: int = asked(2, Form("count", tr("Curves through the center"), after="spacing"))
    straights: Straights = asked(
        "in turn",
        Form(
            "choice",
            tr("Straight lines"),
            choices=(Choice("in turn", tr("in turn with them")), Choice("no", tr("none"))),
            after="curves",
        ),
    )
    angle: float = asked(45.0, Form("angle", tr("Angle of the first curve"), presets=(0, 45, 90, 135)))

    @field_validator("curves")
    @classmethod
    def _curves(cls, curves: int) -> int:
        return check_count(curves, 1, 24, tr("Curves")) or 1

    @field_validator("angle", mode="before")
    @classmethod
    def _angle(cls, value: object) -> float:
        return check_angle(value)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The curves in order, then the straight lines between them."""
        lengths = [self._half(site, self.angle + k * 180 / self.curves) for k in range(self.curves)]
        yield Paths(tuple(self._curve(site, angle, half) for angle, half in lengths))
        if self.straights == "in turn":
            between = [
                self._half(site, self.angle + (k + 0.5) * 180 / self.curves) for k in range(self.curves)
            ]
            yield Paths(tuple(_straight(site, angle, half) for angle, half in between))

    def _half(self, site: Site, angle: float) -> tuple[float, float]:
        """The angle, and half the length through the zone's bounds in that direction, mm."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        cos, sin = abs(math.cos(math.radians(angle))), abs(math.sin(math.radians(angle)))
        reaches = [
            extent / 2 / share
            for extent, share in ((frame.width, cos), (frame.height, sin))
            if share > ROUNDING
        ]
        return angle, min(reaches)

    def _curve(self, site: Site, angle: float, half: float) -> Path:
        frame = frame_of(site.region, angle, site.region.middle)
        bulge = bulge_for(half, min(float(self.spacing.mm), half / 3))
        return frame.path(np.array([(-half, 0.0, -bulge), (0.0, 0.0, bulge), (half, 0.0, 0.0)]))

    def figures(self, site: Site) -> Sequence[Figure]:
        """The length of the first curve, and the radius of its half."""
        _, half = self._half(site, self.angle)
        rise = min(float(self.spacing.mm), half / 3)
        return Figure(tr("Seam to seam through the center"), 2 * half), Figure(
            tr("Radius, sewn"), half**2 / (8 * rise) + rise / 2
        )


def _straight(site: Site, angle: float, half: float) -> Path:
    return frame_of(site.region, angle, site.region.middle).path(
        np.array([(-half, 0.0, 0.0), (half, 0.0, 0.0)])
    )
