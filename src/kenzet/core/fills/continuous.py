"""Continuous curves from corner to corner of grid cells, bulging into them (L35)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, TurnedFill, check_many, even_wishes
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import EQUAL, ROUNDING
from kenzet.texts import tr

Cells = Literal["all", "every other"]


class Continuous(TurnedFill):
    """Arcs over the sides of square cells, alternating between the cells on both sides; or a closed curve in every
    other cell."""

    label: ClassVar[str] = tr("Continuous curves")
    help: ClassVar[str] = tr(
        "Arcs from corner to corner of a grid: out along the upper arcs, back along the lower arcs, without a stop."
    )
    tile: ClassVar[str] = (
        "M-2 6Q8 12 18 6Q28 0 36 6Q46 12 54 6Q64 0 74 6M-2 6Q8 0 18 6Q28 12 36 6Q46 0 54 6Q64 12 74 6M-2 33Q8 39 18 33Q28 27 36 33Q46 39 54 33Q64 27 74 33M-2 33Q8 27 18 33Q28 39 36 33Q46 27 54 33Q64 39 74 33M18 6Q12 19 18 33Q24 19 18 6M36 6Q30 19 36 33Q42 19 36 6M54 6Q48 19 54 33Q60 19 54 6"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 48
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Runs")

    kind: Literal["continuous"] = "continuous"
    spacing: Length = asked(
        "1 1/4 in", Form("length", tr("Cell"), tr("Side of a cell; counted from the zone's corner."))
    )
    rise: Length = asked(
        "1/4 in",
        Form(
            "length", tr("Bulge"), tr("From the side of the cell to the middle of the arc."), after="spacing"
        ),
    )
    cells: Cells = asked(
        "all",
        Form(
            "choice",
            tr("In"),
            choices=(Choice("all", tr("all cells")), Choice("every other", tr("every other cell"))),
            after="rise",
        ),
    )

    @field_validator("rise")
    @classmethod
    def _rise(cls, length: Length) -> Length:
        return in_range(length, "1/32 in", "20 in", tr("The bulge"))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Level runs, then upright ones, with upper and lower arcs alternating; or closed curves, row by row."""
        g, rise = float(self.spacing.mm), float(self.rise.mm)
        if rise > _most_rise(g):
            raise BadValue(
                tr("That bulge would cross the curve beside it: at most about a fifth of the cell."), "rise"
            )
        frame, bulge = self.frame(site), bulge_for(g, rise)
        columns, rows = (math.ceil(extent / g - EQUAL) for extent in (frame.width, frame.height))
        check_many(4 * columns * rows)
        if self.cells == "every other":
            yield Paths(
                tuple(
                    _round(frame, g, bulge, i, j)
                    for j in range(rows)
                    for i in range(columns)
                    if (i + j) % 2 == 0
                )
            )
            return
        paths = []
        for j in range(rows + 1):
            for side in (-bulge, bulge):
                points = [(frame.left + i * g, frame.low + j * g, side) for i in range(columns + 1)]
                paths.append(frame.path(np.array(points)))
        for i in range(columns + 1):
            for side in (-bulge, bulge):
                points = [(frame.left + i * g, frame.low + j * g, side) for j in range(rows + 1)]
                paths.append(frame.path(np.array(points)))
        yield Paths(tuple(paths))

    def figures(self, site: Site) -> Sequence[Figure]:
        """Radius, arc length and cells."""
        g, rise, frame = float(self.spacing.mm), float(self.rise.mm), self.frame(site)
        radius = g**2 / (8 * rise) + rise / 2
        return (
            Figure(tr("Radius, sewn"), radius),
            Figure(tr("Along an arc"), 2 * radius * math.asin(min(g / 2 / radius, 1.0))),
            Figure(tr("Cells across"), frame.width / g, "count"),
            Figure(tr("Cells up"), frame.height / g, "count"),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Cells that divide the width evenly and have room for the bulge."""
        whole = even_wishes(Fraction(self.frame(site).width).limit_denominator(10**9), self.spacing)
        return [wish for wish in whole if float(self.rise.mm) <= _most_rise(float(wish.length.mm))]


def _most_rise(g: float) -> float:
    """The rise at which neighboring arcs touch near their ends: where they start at 45 degrees."""
    return g / 2 * math.tan(math.radians(22.5)) + ROUNDING


def _round(frame: Frame, g: float, bulge: float, i: int, j: int) -> Path:
    x, y = frame.left + i * g, frame.low + j * g
    corners = [(x, y), (x + g, y), (x + g, y + g), (x, y + g)]
    return frame.path(np.array([(*c, -bulge) for c in corners]), closed=True)
