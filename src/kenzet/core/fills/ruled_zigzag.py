"""A zigzag ruled through the corners of a marked square grid, with room for a motif in each diamond (L21)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np

from kenzet.core.fills.base import Family, Figure, Group, Paths, Site
from kenzet.core.fills.turned import Frame, TurnedFill, check_many, roomy
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

Motif = Literal["none", "ring", "spray"]
_HIGH = 1.2  # of the grid: a motif, from the corner of its diamond
_DROP = 22.0  # degrees from the upright: the sides of a drop
_RAY = 18.0  # degrees between rays


class RuledZigzag(TurnedFill):
    """Rows of 45 degree legs from corner to corner of a grid of squares ``spacing`` wide; mirrored rows make diamonds."""

    label: ClassVar[str] = tr("Diagonal zigzag")
    help: ClassVar[str] = tr(
        "Ruled through the corners of a marked grid. Mirrored rows make diamonds with room for a small motif."
    )
    tile: ClassVar[str] = (
        "M-4 26 9 13 22 26 35 13 48 26 61 13 74 26M-4 0 9 13 22 0 35 13 48 0 61 13 74 0M-4 26 9 39 22 26 35 39 48 26 61 39 74 26"
    )
    group: ClassVar[Group] = "zigzags"
    order: ClassVar[int] = 33
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Rows")

    kind: Literal["ruled zigzag"] = "ruled zigzag"
    spacing: Length = asked(
        "1 1/4 in", Form("length", tr("Grid"), tr("Side of the squares of the marked grid."))
    )
    motif: Motif = asked(
        "none",
        Form(
            "choice", tr("In each diamond"), tr("Sewn out and back from the corner, on the way."),
            choices=(Choice("none", tr("nothing")), Choice("ring", tr("a drop")), Choice("spray", tr("three rays"))),
        ),
    )  # fmt: skip

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Rows between grid lines counted from the zone's center, every second one mirrored; then motifs."""
        frame, g = self.frame(site), float(self.spacing.mm)
        middle = ((frame.left + frame.right) / 2, (frame.low + frame.high) / 2)
        columns = range(
            math.floor((frame.left - middle[0]) / g) - 1, math.ceil((frame.right - middle[0]) / g) + 2
        )
        rows = range(math.floor((frame.low - middle[1]) / g), math.ceil((frame.high - middle[1]) / g))
        check_many(len(columns) * len(rows) * (1 if self.motif == "none" else 3))
        paths = []
        for j in rows:
            points = [(middle[0] + i * g, middle[1] + (j + (i + j) % 2) * g, 0.0) for i in columns]
            paths.append(frame.path(np.array(points)))
        yield Paths(tuple(paths))
        if self.motif != "none":
            size = g * _HIGH
            centres = [
                (middle[0] + i * g, middle[1] + j * g) for i in columns for j in rows if (i + j) % 2 == 1
            ]
            fits = roomy(site.region, [frame.out(u, v) for u, v in centres], g / 2)
            there = roomy(site.region, [frame.out(u, v - g) for u, v in centres], 0.0)
            corners = [(u, v - g) for (u, v), fit, at in zip(centres, fits, there, strict=True) if fit and at]
            yield Paths(tuple(p for u, v in corners for p in _motif(frame, u, v, size, self.motif)))

    def figures(self, site: Site) -> Sequence[Figure]:
        """Leg and diamond."""
        g = float(self.spacing.mm)
        return Figure(tr("Each leg"), g * math.sqrt(2), "sewn"), Figure(tr("Diamond, point to point"), 2 * g)


def _motif(frame: Frame, u: float, v: float, size: float, motif: Motif) -> Iterable[Path]:
    """A motif from the lowest corner (u, v) of a diamond, ``size`` mm long: a drop with sides tangent to its round
    end, or rays."""
    if motif == "ring":
        half = math.radians(_DROP)
        round_ = size * math.sin(half) / (1 + math.sin(half))  # the radius of its end
        side = (size - round_) * math.cos(half)
        x, y = side * math.sin(half), side * math.cos(half)
        bulge = math.tan((math.pi + 2 * half) / 4)
        yield frame.path(np.array([(u, v, 0.0), (u + x, v + y, bulge), (u - x, v + y, 0.0), (u, v, 0.0)]))
        return
    for degrees in (90 - _RAY, 90, 90 + _RAY):
        x, y = size * math.cos(math.radians(degrees)), size * math.sin(math.radians(degrees))
        yield frame.path(np.array([(u, v, 0.0), (u + x, v + y, 0.0)]))
