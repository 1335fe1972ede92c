"""A few whole repeats of a border on one sheet, to be used again and again along it. Lengths are mm."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from kenzet.core.geom.clip import Straight
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import EQUAL, LEAST_ALONG, VISIBLE

_MOST_STEPS = 12
_LEAST = 2  # repeats in the zone: one alone is the zone itself


@dataclass(frozen=True, slots=True)
class Repeat:
    """``many`` repeats of ``each`` mm along a border, from ``start`` on; ``low`` to ``high`` is their extent
    across it. ``upright`` if the border runs vertically."""

    start: float
    each: float
    many: int
    low: float
    high: float
    upright: bool

    @property
    def window(self) -> tuple[float, float, float, float]:
        """Left, low, right, top in the part."""
        end = self.start + self.each * self.many
        if self.upright:
            return self.low, self.start, self.high, end
        return self.start, self.low, end, self.high

    @property
    def begins(self) -> list[float]:
        """Where each repeat begins along the border, and where the last one ends."""
        return [self.start + self.each * k for k in range(self.many + 1)]


def repeat_of(plan: ZonePlan, drawing: Drawing, room: float) -> Repeat | None:
    """As many repeats as fit into ``room`` mm, at the middle of the zone's long side or of one side of a frame;
    None if its lines do not repeat along it."""
    left, low, right, high = drawing.region.bounds
    for upright in (True, False) if high - low > right - left else (False, True):
        begin, end = (low, high) if upright else (left, right)
        each = _each(plan, drawing, upright)
        band = _band(drawing, (begin + end) / 2, upright)
        if each is None or band is None or each * _LEAST > end - begin or band[1] - band[0] > end - begin:
            continue
        many = max(min(math.floor(room / each), math.floor((end - begin) / each)), 1)
        found = Repeat((begin + end - each * many) / 2, each, many, *band, upright)
        if shapely.covers(drawing.region.area.buffer(VISIBLE), shapely.box(*found.window)):
            return found  # all of it lies in the border
    return None


def _each(plan: ZonePlan, drawing: Drawing, upright: bool) -> float | None:
    """The length of one repeat along the zone."""
    way = np.array((0.0, 1.0) if upright else (1.0, 0.0))
    lattice: Sequence[Straight] = plan.lattice(drawing) or (() if drawing.traces else drawing.straight)
    along = [abs(float(np.array(family.normal) @ way)) for family in lattice]
    steps = [float(f.pitch) / share for f, share in zip(lattice, along, strict=True) if share > LEAST_ALONG]
    if len(lattice) > 1 and steps and all(share > LEAST_ALONG or share < EQUAL for share in along):
        return _common(steps)
    template = plan.template(drawing)
    return template.period if isinstance(template, WaveEdge) and not lattice else None


def _common(steps: Sequence[float]) -> float | None:
    """The shortest distance that is a whole number of steps of every family; None if none is short enough."""
    for times in range(1, _MOST_STEPS + 1):
        each = times * steps[0]
        if all(abs(each - round(each / step) * step) < VISIBLE / 2 and each > step / 2 for step in steps):
            return each
    return None


def _band(drawing: Drawing, at: float, upright: bool) -> tuple[float, float] | None:
    """The extent of the border across, at ``at`` along it; of a frame, its upper (or right) side."""
    left, low, right, high = drawing.region.bounds
    ends = [(left - 1, at), (right + 1, at)] if upright else [(at, low - 1), (at, high + 1)]
    cut = shapely.intersection(shapely.linestrings(ends), drawing.region.area)
    parts = [p for p in getattr(cut, "geoms", [cut]) if p.geom_type == "LineString" and not p.is_empty]
    spans = sorted(
        tuple(sorted(np.asarray(p.coords)[:, 0 if upright else 1][[0, -1]].tolist())) for p in parts
    )
    return (spans[-1][0], spans[-1][1]) if spans else None
