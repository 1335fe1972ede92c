"""A second shape over a grid of units: diagonals across the corner units, echoed into the corners (L14)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.turned import check_count, frame_of
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr


class CornerCuts(Fill):
    """Diagonals across the corner units of the zone's bounds make an eight-sided shape; echoes fill the corners."""

    label: ClassVar[str] = tr("Corner cuts")
    help: ClassVar[str] = tr(
        "Diagonals cut the corner squares of a nine-patch. Lines echo them toward the corners, and the shape inward."
    )
    tile: ClassVar[str] = (
        "M24 -2 -2 13M16 -2 -2 8M8 -2 -2 3M48 -2 74 13M56 -2 74 8M64 -2 74 3M24 41-2 26M16 41-2 31M8 41-2 36M48 41 74 26M56 41 74 31M64 41 74 36M24 3H48L67 14V25L48 36H24L5 25V14Z"
    )
    group: ClassVar[Group] = "shapes"
    order: ClassVar[int] = 13

    kind: Literal["corner cuts"] = "corner cuts"
    spacing: Length = asked(
        "3/8 in", Form("length", tr("Spacing"), tr("Distance between lines, measured square to them."))
    )
    units: int = asked(3, Form("count", tr("Units across"), tr("3 for a nine-patch."), after="spacing"))
    inner: int = asked(1, Form("count", tr("Rounds inside the shape"), after="units"))

    @field_validator("units")
    @classmethod
    def _units(cls, units: int) -> int:
        return check_count(units, 2, 20, tr("Units across")) or 2

    @field_validator("inner")
    @classmethod
    def _inner(cls, inner: int) -> int:
        return check_count(inner, 0, 100, tr("Rounds inside")) or 0

    def lay_out(self, site: Site) -> Iterable[Family]:
        """At each corner the diagonal, then its echoes outwards; then the rings inside, from the outside in."""
        frame, s = frame_of(site.region, 0.0, site.region.middle), float(self.spacing.mm)
        w, h = frame.width / 2, frame.height / 2
        u, v = frame.width / self.units, frame.height / self.units
        depth = u * v / math.hypot(u, v)  # of the corner, square to the diagonal
        for sx, sy in ((-1, 1), (1, 1), (1, -1), (-1, -1)):
            paths = []
            for k in range(math.ceil(depth / s - ROUNDING)):
                left = 1 - k * s / depth
                ends = ((sx * (w - u * left), sy * h), (sx * w, sy * (h - v * left)))
                paths.append(frame.path(np.array([(*p, 0.0) for p in ends])))
            yield Paths(tuple(paths), self.spacing.mm)
        rings = [_ring(w, h, u, v, k * s) for k in range(1, self.inner + 1)]
        whole = [frame.path(ring, closed=True) for ring in rings if ring[1, 0] > 0 and ring[2, 1] > 0]
        yield Paths(tuple(whole), self.spacing.mm)

    def figures(self, site: Site) -> Sequence[Figure]:
        """The diagonal, the depth of the corner, the travel along the seam and the remaining tip."""
        frame, s = frame_of(site.region, 0.0, site.region.middle), float(self.spacing.mm)
        u, v = frame.width / self.units, frame.height / self.units
        long = math.hypot(u, v)
        depth = u * v / long
        lines = math.ceil(depth / s - ROUNDING)
        return (
            Figure(tr("Diagonal of a corner"), long),
            Figure(tr("Echoes in a corner"), lines - 1, "count"),
            Figure(tr("Step along the level seam"), s * long / v),
            Figure(tr("Tip left in the corner"), depth - (lines - 1) * s),
        )


def _ring(w: float, h: float, u: float, v: float, e: float) -> np.ndarray:
    """The eight-sided shape with every side moved in by ``e``."""
    a, b = w - e, h - e
    long = math.hypot(u, v)
    across = (w * v + (h - v) * u) / long - e  # of a diagonal from the middle, square to it, moved in
    x = (across * long - b * u) / v  # where it meets the moved level side
    y = (across * long - a * v) / u
    corners = [(-x, b), (x, b), (a, y), (a, -y), (x, -b), (-x, -b), (-a, -y), (-a, y)]
    return np.array([(*p, 0.0) for p in corners])
