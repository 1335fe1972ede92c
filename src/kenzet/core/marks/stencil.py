"""Powdering a grid through a stencil: how often it is laid down (F38). Lengths are mm."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from kenzet.core.drawing import Drawing
from kenzet.core.kit.things.base import Thing
from kenzet.core.kit.things.rulers import Stencil

_SAME = 0.1
LAY_S = 25.0


@dataclass(frozen=True, slots=True)
class StencilPlan:
    """``stencil`` is its key in the kit; ``columns`` by ``rows`` placements, each laid over the last by one ``grid``;
    ``partial`` of them reach beyond the zone.
    """

    stencil: str
    grid: float
    columns: int
    rows: int
    partial: int

    @property
    def placements(self) -> int:
        """How often it is laid down."""
        return self.columns * self.rows

    @property
    def seconds(self) -> float:
        """For all of them."""
        return self.placements * LAY_S


def placements(width: float, side: float, grid: float) -> int:
    """F38: along ``width``, each laid over the last by one grid line to register.

    >>> placements(50, 18, 1), placements(12, 18, 1)
    (3, 1)
    """
    return max(math.ceil((width - grid) / (side - grid) - 1e-9), 1)


def stencil_plan(drawing: Drawing, tools: Mapping[str, Thing]) -> StencilPlan | None:
    """With the stencil of hers that has this very grid and is laid down fewest times; None where she has none."""
    families = drawing.straight
    if len(families) != 2 or abs(math.sin(math.radians(families[0].angle - families[1].angle))) < 1 - 1e-6:
        return None
    gaps = {float(gap) for family in families for gap in family.gaps}
    reach = np.array(drawing.region.reach)
    spans = [float(np.ptp(reach @ np.array(family.direction))) for family in families]
    found = []
    for key, tool in tools.items():
        if not isinstance(tool, Stencil) or tool.state != "at hand":
            continue
        grid, side = float(tool.grid.mm), float(tool.side.mm)
        if side > grid and all(abs(gap - grid) <= _SAME for gap in gaps):
            columns, rows = (placements(span, side, grid) for span in spans)
            whole = [max(math.floor((span - grid) / (side - grid) + 1e-9), 0) for span in spans]
            found.append(StencilPlan(key, grid, columns, rows, columns * rows - whole[0] * whole[1]))
    return min(found, key=lambda plan: plan.placements, default=None)
