"""The work in each zone, block and kind of fill, where they lie, and which change saves most (F42, J8, J28)."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from kenzet.core.advice.suited_fills import needle_minutes
from kenzet.core.errors import Unknown
from kenzet.core.fills import Fill
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Point
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.needle import needle
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.turns import all_pivots
from kenzet.core.top.document import with_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

COARSE, FINE = 1.5, 5.0
"""A motif is too large for its patch if the patch is not at least ``COARSE`` times as wide; too fine to be read if
it is below ``FINE`` mm."""


@dataclass(frozen=True, slots=True)
class Asked:
    """Minutes at the needle, thread cuts, and the number of places in the quilt."""

    minutes: float
    stops: int
    places: int


@dataclass(frozen=True, slots=True)
class Accent:
    """A kind of fill: in how many places of the quilt it lies, its area in mm², its minutes at the needle, and the
    center of its places relative to the quilt's center, as shares of width and height: (0, 0) is balanced,
    (0.5, 0) is all at the right edge."""

    label: str
    places: int
    area: float
    minutes: float
    off: Point

    @property
    def away(self) -> float:
        """Its distance from balance, as a share of the quilt."""
        return float(np.hypot(*self.off))


def asked(laid: QuiltLayout, plan: ZonePlan) -> Asked:
    """The needle time of a whole zone over the quilt. Thread cuts are left out: threads run on from zone to zone,
    so they belong to blocks."""
    minutes, places = 0.0, set[str]()
    for drawing in plan.drawings:
        minutes += needle_minutes(plan, drawing, laid.quilt.stitching)[0] * len(drawing.places)
        places |= set(drawing.places)
    return Asked(minutes, 0, len(places))


def by_block(laid: QuiltLayout, route: QuiltRoute) -> dict[str, Asked]:
    """By the name of each part: the mean work at one of its places along the route through the quilt. The part
    with the greatest total comes first."""
    kit, stitching = laid.quilt.kit, laid.quilt.stitching
    spent: dict[str, list[tuple[float, int]]] = {}
    for visit in route.visits:
        one = route.routes[visit.route]
        ends = len(one.runs) - 1 + visit.stop
        way = one.travelled + visit.across
        cost = needle(kit, stitching, one.sewn, way, len(one.unit.courses), all_pivots(one), ends - 1)
        spent.setdefault(one.unit.part.name, []).append((cost.seconds / 60, ends))
    found = {
        name: Asked(
            sum(m for m, _ in all_) / len(all_), round(sum(n for _, n in all_) / len(all_)), len(all_)
        )
        for name, all_ in spent.items()
    }
    return dict(sorted(found.items(), key=lambda one: -one[1].minutes * one[1].places))


def threads_by_zone(route: QuiltRoute) -> Counter[str]:
    """How many threads begin in each zone along the route, by zone key: a thread cut counts for the zone where the
    next thread starts."""
    found: Counter[str] = Counter()
    for number, visit in enumerate(route.visits):
        one = route.routes[visit.route]
        runs = one.runs[::-1] if visit.back else one.runs
        goes_on = 0 if number == 0 or visit.stop else 1
        for run in runs[goes_on:]:
            legs = [leg for leg in run.legs if leg.sews]
            if legs:
                first = legs[-1] if visit.back else legs[0]
                course = one.unit.courses[int(one.network.courses[first.edge])]
                found[one.unit.drawings[course.zone][0]] += 1
    return found


def accents(laid: QuiltLayout, plans: Mapping[str, ZonePlan]) -> list[Accent]:
    """Every kind of fill, the one with the fewest places first."""
    spots: dict[type[Fill], list[tuple[float, float, float]]] = {}
    minutes: dict[type[Fill], float] = {}
    for plan in plans.values():
        for drawing in plan.drawings:
            if not drawing.fill.sewn or drawing.fill.in_the_ditch:
                continue
            kind = type(drawing.fill)
            spots.setdefault(kind, []).extend(_spots(drawing))
            spent = needle_minutes(plan, drawing, laid.quilt.stitching)[0] * len(drawing.places)
            minutes[kind] = minutes.get(kind, 0.0) + spent
    found = []
    for kind, all_ in spots.items():
        at = np.array(all_)
        area = float(at[:, 2].sum())
        x, y = (at[:, :2] * at[:, 2:]).sum(axis=0) / area
        off = float(x / laid.top.width - 1 / 2), float(y / laid.top.height - 1 / 2)
        found.append(Accent(kind.label, len(all_), area, minutes[kind], off))
    return sorted(found, key=lambda one: (one.places, one.area))


def moved(
    laid: QuiltLayout, plans: Mapping[str, ZonePlan], label: str, zone: str
) -> tuple[QuiltLayout, Fill]:
    """The quilt with the kind of fill ``label`` in ``zone`` too, with the settings it has over the largest area, and
    that fill.

    Raises Unknown if there is no such kind, BadValue if it does not fit.
    """
    areas: dict[str, tuple[float, Fill]] = {}
    for key, plan in plans.items():
        for drawing in plan.drawings:
            if drawing.fill.label == label and drawing.fill.sewn:
                size = float(drawing.region.area.area) * len(drawing.places)
                areas[key] = max(
                    areas.get(key, (0.0, drawing.fill)), (size, drawing.fill), key=lambda one: one[0]
                )
    if not areas:
        raise Unknown(tr("There is no such fill in this quilt."), "name")
    fill = max(areas.values(), key=lambda one: one[0])[1]
    tried = QuiltLayout(with_zone(laid.quilt, zone, fill=fill, left_open=False), laid.memo, laid.top)
    plan_zone(tried, zone)
    return tried, fill


def _spots(drawing: Drawing) -> list[tuple[float, float, float]]:
    """The centroid of the region at each place, in the quilt's coordinates, and its area in mm²."""
    area = drawing.region.area
    middle = np.array([[area.centroid.x, area.centroid.y]])
    return [
        (*place_all(drawing.shape.part.places[place], middle)[0].tolist(), float(area.area))
        for place in drawing.places
    ]


def scale_trouble(drawing: Drawing) -> str:
    """ "coarse" if the fill is too large for its patch to be read, "fine" if it is too small; else ""."""
    fill = drawing.fill
    if not fill.sewn or not fill.is_spaced or fill.in_the_ditch or fill.claimed_density is not None:
        return ""
    spacing = float(fill.spacing.mm)
    if 2 * drawing.region.inradius < COARSE * spacing:
        return "coarse"
    return "fine" if spacing < FINE else ""
