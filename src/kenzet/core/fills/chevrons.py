"""Diagonal echoes in four quadrants (L11)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site, SpacingSuggestion, check_spacing
from kenzet.core.fills.turned import Frame, even_wishes, frame_of
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import EQUAL, ROUNDING
from kenzet.texts import tr

Diagonals = Literal["sewn", "left out"]
_QUADRANTS = ((-1.0, 0.0), (0.0, 1.0), (1.0, 0.0), (0.0, -1.0))


class Chevrons(Fill):
    """Chevrons around both axes of the zone's bounds, with arms parallel to its diagonals (F18)."""

    label: ClassVar[str] = tr("Diagonal echo")
    help: ClassVar[str] = tr(
        "Both diagonals, and chevrons that echo them into all four quarters. In a rectangle they follow its own diagonals."
    )
    tile: ClassVar[str] = (
        "M-2 -1 74 40M-2 40 74 -1M-2 8 20 19.500-2 31M-2 17 3 19.500-2 22M74 8 52 19.500 74 31M74 17 69 19.500 74 22M15 -2 36 9.500 57 -2M32 -2 36 0 40 -2M15 41 36 29.500 57 41M32 41 36 39 40 41"
    )
    group: ClassVar[Group] = "shapes"
    order: ClassVar[int] = 11
    lines_are: ClassVar[str] = tr("Chevrons")

    kind: Literal["chevrons"] = "chevrons"
    spacing: Length = asked(
        "3/4 in", Form("length", tr("Spacing"), tr("Distance between arms, measured square to them."))
    )
    upright: Length | None = asked(
        None, Form("length", tr("Spacing above and below"), empty=tr("like left and right"), after="spacing")
    )
    diagonals: Diagonals = asked(
        "sewn",
        Form(
            "choice",
            tr("The diagonals"),
            choices=(Choice("sewn", tr("sewn")), Choice("left out", tr("left out"))),
        ),
    )

    @field_validator("upright")
    @classmethod
    def _upright(cls, length: Length | None) -> Length | None:
        return length and check_spacing(length)

    def turn_of(self, family: int) -> int:
        """The diagonals, from which all others are placed, then the quadrants."""
        return min(family, 1) if self.diagonals == "sewn" else 0

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The diagonals, then the quadrants: left, above, right, below; in each from the center outwards."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        if self.diagonals == "sewn":
            corners = [
                (frame.left, frame.low),
                (frame.right, frame.high),
                (frame.left, frame.high),
                (frame.right, frame.low),
            ]
            yield Paths(
                tuple(
                    frame.path(np.array([(*a, 0.0), (*b, 0.0)]))
                    for a, b in zip(corners[::2], corners[1::2], strict=True)
                )
            )
        for ux, uy in _QUADRANTS:
            s = self._spacing_of(ux == 0.0)
            yield Paths(tuple(self._quadrant(frame, ux, uy, float(s))), s)

    @property
    def counted_families(self) -> frozenset[int] | None:
        """The chevrons, without the diagonals."""
        return frozenset(range(1, 1 + len(_QUADRANTS))) if self.diagonals == "sewn" else None

    def _spacing_of(self, above: bool) -> Fraction:
        return (self.upright or self.spacing).mm if above else self.spacing.mm

    def apex_step(self, frame: Frame, above: bool) -> float:
        """How far the apex moves along its axis from chevron to chevron, mm (F6)."""
        half = math.hypot(frame.width, frame.height)
        sine = (frame.width if above else frame.height) / half
        return float(self._spacing_of(above)) / sine

    def _quadrant(self, frame: Frame, ux: float, uy: float, s: float) -> Iterable[Path]:
        w, h = frame.width / 2, frame.height / 2
        step = self.apex_step(frame, ux == 0.0)
        reach = w if uy == 0.0 else h
        for k in range(1, math.ceil(reach / step - ROUNDING)):
            apex = (ux * k * step, uy * k * step)
            arms = [(ux * w - uy * w * side, uy * h + ux * h * side) for side in (1.0, -1.0)]
            points = [
                (apex[0] + arms[0][0], apex[1] + arms[0][1]),
                apex,
                (apex[0] + arms[1][0], apex[1] + arms[1][1]),
            ]
            yield frame.path(np.array([(*p, 0.0) for p in points]))

    def figures(self, site: Site) -> Sequence[Figure]:
        """The steps of the apex along both seams, and the number of chevrons."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        steps = [self.apex_step(frame, above) for above in (False, True)]
        many = [
            max(math.ceil(reach / step - ROUNDING) - 1, 0)
            for reach, step in zip((frame.width / 2, frame.height / 2), steps, strict=True)
        ]
        if abs(steps[0] - steps[1]) < EQUAL:
            return Figure(tr("Step along the middle seam"), steps[0]), Figure(
                tr("Chevrons in a quarter"), many[0], "count"
            )
        return (
            Figure(tr("Step along the level seam"), steps[0]),
            Figure(tr("Step along the upright seam"), steps[1]),
            Figure(tr("Chevrons left and right, each"), many[0], "count"),
            Figure(tr("Chevrons above and below, each"), many[1], "count"),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings with which the last chevron ends one whole step from the end of the axis."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        share = float(self.spacing.mm) / self.apex_step(frame, above=False)
        return even_wishes(Fraction(frame.width / 2 * share).limit_denominator(10**9), self.spacing)
