"""S-curves in the cells of a grid on point, mirrored on the way back, so that each cell holds a lens (L41)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site
from kenzet.core.fills.turned import TurnedFill, check_many
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.texts import tr

Grid = Literal["sewn first", "left out"]


class SCurves(TurnedFill):
    """One S from the lower to the upper corner of every cell, and its mirror image on the way back; the grid may
    be sewn first."""

    label: ClassVar[str] = tr("S-curves")
    help: ClassVar[str] = tr(
        "An S up through every cell of an on-point grid, and its mirror image on the way down."
    )
    tile: ClassVar[str] = (
        "M12 -6Q20 0 12 6.500Q4 13 12 19.500Q20 26 12 32.500Q4 39 12 45M12 -6Q4 0 12 6.500Q20 13 12 19.500Q4 26 12 32.500Q20 39 12 45M36 -6Q44 0 36 6.500Q28 13 36 19.500Q44 26 36 32.500Q28 39 36 45M36 -6Q28 0 36 6.500Q44 13 36 19.500Q28 26 36 32.500Q44 39 36 45M60 -6Q68 0 60 6.500Q52 13 60 19.500Q68 26 60 32.500Q52 39 60 45M60 -6Q52 0 60 6.500Q68 13 60 19.500Q52 26 60 32.500Q68 39 60 45"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 49
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Columns")

    kind: Literal["s-curves"] = "s-curves"
    spacing: Length = asked("7/8 in", Form("length", tr("Cell"), tr("Side of a cell of the grid on point.")))
    rise: Length = asked(
        "1/8 in",
        Form(
            "length", tr("Swing"), tr("From the middle line to the widest point of the S."), after="spacing"
        ),
    )
    grid: Grid = asked(
        "sewn first",
        Form(
            "choice",
            tr("The grid"),
            choices=(Choice("sewn first", tr("sewn first")), Choice("left out", tr("left out"))),
            after="rise",
        ),
    )

    @field_validator("rise")
    @classmethod
    def _rise(cls, length: Length) -> Length:
        return in_range(length, "1/32 in", "10 in", tr("The swing"))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The grid's lines, then column after column: up by the S, down by its mirror."""
        side, rise = float(self.spacing.mm), float(self.rise.mm)
        frame, tall = self.frame(site), side * math.sqrt(2)
        if rise > tall / 5:
            raise BadValue(
                tr("That swing leaves its cell: at most about a quarter of the cell's side."), "rise"
            )
        u0, v0 = (frame.left + frame.right) / 2, (frame.low + frame.high) / 2
        columns = range(
            math.floor((frame.left - u0) / (tall / 2)), math.ceil((frame.right - u0) / (tall / 2)) + 1
        )
        check_many(len(columns) * 4 * (frame.height / tall + 2))
        if self.grid == "sewn first":
            yield Paths(tuple(self._grid(site, 1.0)))
            yield Paths(tuple(self._grid(site, -1.0)))
        bulge = bulge_for(tall / 2, rise)
        paths = []
        for i in columns:
            u = u0 + i * tall / 2
            first = math.floor((frame.low - v0) / tall) - 1
            last = math.ceil((frame.high - v0) / tall) + 1
            shift = tall / 2 if i % 2 == 0 else 0.0
            halves = [v0 + shift + k * tall / 2 for k in range(2 * first, 2 * last + 1)]
            for way in (1, -1):
                rows = [(u, v, bulge * way * (1 if k % 2 == 0 else -1)) for k, v in enumerate(halves)]
                paths.append(frame.path(np.array(rows)))
        yield Paths(tuple(paths))

    @property
    def counted_families(self) -> frozenset[int]:
        """The curves: up and down together are one column."""
        return frozenset({2 if self.grid == "sewn first" else 0})

    def turn_of(self, family: int) -> int:
        """The grid, one direction after the other, then the curves through its corners."""
        return family

    def _grid(self, site: Site, way: float) -> Iterable[Path]:
        frame, tall = self.frame(site), float(self.spacing.mm) * math.sqrt(2)
        u0, v0 = (frame.left + frame.right) / 2, (frame.low + frame.high) / 2
        reach = frame.width + frame.height
        for k in range(-math.ceil(reach / tall), math.ceil(reach / tall) + 1):
            u = u0 + (k + 0.5) * tall
            yield frame.path(
                np.array([(u - reach, v0 - way * reach, 0.0), (u + reach, v0 + way * reach, 0.0)])
            )

    def figures(self, site: Site) -> Sequence[Figure]:
        """Length over the cell, radius."""
        tall, rise = float(self.spacing.mm) * math.sqrt(2), float(self.rise.mm)
        return Figure(tr("S, corner to corner"), tall), Figure(
            tr("Radius, sewn"), (tall / 2) ** 2 / (8 * rise) + rise / 2
        )
