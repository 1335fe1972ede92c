"""Powdering a grid through a stencil: where it is put down, and how many times (F38). Lengths are mm."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import shapely

from kenzet.core.geom.clip import Ints, Straight
from kenzet.core.geom.region import Floats
from kenzet.core.kit.things.base import Thing
from kenzet.core.kit.things.rulers import Stencil
from kenzet.core.plan.drawing import Drawing
from kenzet.core.tolerances import EQUAL, ROUNDING

_SAME = 0.1
_LEAST = 1.0  # mm²: less of a zone is not powdered
LAY_S = 25.0


@dataclass(frozen=True, eq=False)
class StencilPlan:
    """``stencil`` is its key in the kit. ``corners`` (4, 2) are those of every placement in order; each overlaps
    an earlier one by one ``grid``. ``partial`` of them extend beyond the zone."""

    stencil: str
    grid: float
    columns: int
    rows: int
    corners: tuple[Floats, ...]
    partial: int

    @property
    def placements(self) -> int:
        """The number of placements."""
        return len(self.corners)

    @property
    def seconds(self) -> float:
        """The time for all placements."""
        return self.placements * LAY_S


def placements(width: float, side: float, grid: float) -> int:
    """F38: the number of placements along ``width``; each overlaps the last by one grid line, to align it.

    >>> placements(50, 18, 1), placements(12, 18, 1)
    (3, 1)
    """
    return max(math.ceil((width - grid) / (side - grid) - ROUNDING), 1)


def stencil_plan(drawing: Drawing, tools: Mapping[str, Thing]) -> StencilPlan | None:
    """With the stencil that has exactly this grid and needs the fewest placements; None if there is none."""
    families = drawing.straight
    if len(families) != 2 or abs(math.sin(math.radians(families[0].angle - families[1].angle))) < 1 - EQUAL:
        return None
    gaps = {float(gap) for family in families for gap in family.gaps}
    found = []
    for key, tool in tools.items():
        if not isinstance(tool, Stencil) or tool.state != "at hand":
            continue
        grid, side = float(tool.grid.mm), float(tool.side.mm)
        if side > grid and all(abs(gap - grid) <= _SAME for gap in gaps):
            found.append(_with(drawing, key, side, grid))
    return min(found, key=lambda plan: plan.placements, default=None)


def _with(drawing: Drawing, key: str, side: float, grid: float) -> StencilPlan:
    """Placements beginning at the last line of either family before the zone, without those that miss the zone."""
    one, other = drawing.straight
    reach = np.array(drawing.region.extremes)
    ways = np.array([other.normal, one.normal])
    starts, spans = zip(*(_span(family, reach) for family in (other, one)), strict=True)
    columns, rows = (placements(span, side, grid) for span in spans)
    low = np.linalg.solve(ways, np.array(starts))
    cells = np.stack(np.meshgrid(np.arange(columns), np.arange(rows)), axis=-1).reshape(-1, 2)
    square = np.array([(0, 0), (1, 0), (1, 1), (0, 1)], dtype=float) * side
    corners = (square + cells[:, None] * (side - grid)) @ ways + low
    areas = shapely.polygons(corners)
    laid = shapely.area(shapely.intersection(areas, drawing.region.area)) > _LEAST
    within = shapely.covers(drawing.region.area.buffer(_SAME), areas)
    order = np.flatnonzero(laid)[_registered(cells[laid])]
    return StencilPlan(key, grid, columns, rows, tuple(corners[order]), int((laid & ~within).sum()))


def _span(family: Straight, reach: Floats) -> tuple[float, float]:
    """The place of the last line before the zone, along the family's normal, and the distance from there to the
    zone's end."""
    across = reach @ np.array(family.normal)
    steps = math.floor((float(across.min()) - family.datum) / float(family.pitch) + EQUAL)
    start = family.datum + steps * float(family.pitch)
    return start, float(across.max()) - start


def _registered(cells: Ints) -> list[int]:
    """An order of the cells (n, 2) in which each, if possible, is next to an earlier one, and near the last."""
    order, left = [0], set(range(1, len(cells)))
    while left:
        rest = np.array(sorted(left))
        away = np.abs(cells[rest][:, None] - cells[order]).sum(axis=2)
        loose = away.min(axis=1) > 1
        chosen = int(rest[np.lexsort((away[:, -1], loose))[0]])
        order.append(chosen)
        left.remove(chosen)
    return order
