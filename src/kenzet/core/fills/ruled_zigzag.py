"""A zigzag ruled through the corners of a drawn square grid, with a place for a motif in each diamond (L21)."""

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

Motif = Literal["none", "ring", "spray"]


class RuledZigzag(TurnedFill):
    """Rows of 45 degree legs from corner to corner of a grid of squares ``spacing`` wide; mirrored rows make diamonds."""

    label: ClassVar[str] = "Diagonal zigzag"
    help: ClassVar[str] = (
        "Ruled through the corners of a drawn grid; mirrored rows stand as diamonds, each with room for a small motif."
    )
    tile: ClassVar[str] = (
        "M-4 26 9 13 22 26 35 13 48 26 61 13 74 26M-4 0 9 13 22 0 35 13 48 0 61 13 74 0M-4 26 9 39 22 26 35 39 48 26 61 39 74 26M19.5 13a2.5 2.5 0 105 0 2.5 2.5 0 10-5 0M45.5 13a2.5 2.5 0 105 0 2.5 2.5 0 10-5 0M6.500 26a2.5 2.5 0 105 0 2.5 2.5 0 10-5 0M32.500 26a2.5 2.5 0 105 0 2.5 2.5 0 10-5 0M58.500 26a2.5 2.5 0 105 0 2.5 2.5 0 10-5 0"
    )
    group: ClassVar[Group] = "zigzags"
    order: ClassVar[int] = 33
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = "Rows"

    kind: Literal["ruled zigzag"] = "ruled zigzag"
    spacing: Length = asked("1 1/4 in", Form("length", "Grid", "Side of the squares of the drawn grid."))
    motif: Motif = asked(
        "none",
        Form(
            "choice", "In each diamond", "Sewn out and back from the corner, on the way.",
            choices=(Choice("none", "nothing"), Choice("ring", "a small ring"), Choice("spray", "three short rays")),
        ),
    )  # fmt: skip

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Rows between grid lines that are counted from the zone's middle, every second one mirrored; then motifs."""
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
            size = g * 0.3
            centres = [
                (middle[0] + i * g, middle[1] + j * g) for i in columns for j in rows if (i + j) % 2 == 1
            ]
            fits = roomy(site.region, [frame.out(u, v) for u, v in centres], size)
            whole = [centre for centre, fit in zip(centres, fits, strict=True) if fit]
            yield Paths(tuple(p for u, v in whole for p in _motif(frame, u, v, size, self.motif)))

    def figures(self, site: Site) -> Sequence[Figure]:
        """Leg and diamond."""
        g = float(self.spacing.mm)
        return Figure("Each leg", g * math.sqrt(2)), Figure("Diamond, point to point", 2 * g)


def _motif(frame: Frame, u: float, v: float, size: float, motif: Motif) -> Iterable[Path]:
    if motif == "ring":
        yield frame.path(np.array([(u - size / 2, v, 1.0), (u + size / 2, v, 1.0)]), closed=True)
        return
    for degrees in (50, 90, 130):
        x, y = size * math.cos(math.radians(degrees)), size * math.sin(math.radians(degrees))
        yield frame.path(np.array([(u, v - size / 2, 0.0), (u + x, v - size / 2 + y, 0.0)]))
