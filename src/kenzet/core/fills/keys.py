"""Rungs perpendicular to an edge, straight or curved (L39)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import pairwise
from typing import ClassVar, Literal

import numpy as np
import shapely
from shapely.geometry import LineString
from shapely.geometry.polygon import orient

from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.origin import pick
from kenzet.core.fills.turned import check_many, even_wishes
from kenzet.core.geom.paths import Path, straight_path
from kenzet.core.geom.region import Edge, Floats, Region
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import from_edge
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import EQUAL, ROUNDING
from kenzet.texts import tr

Base = Literal["edge", "all round"]


class Keys(Fill):
    """Rungs ``spacing`` apart along a base edge, each perpendicular to it and as long as the zone is there.

    With ``all round``, every side of the outer outline has rungs up to the bisectors of its corners.
    """

    label: ClassVar[str] = tr("Rungs")
    help: ClassVar[str] = tr(
        "Short lines square to an edge, like piano keys in a border. They fan out along a curve."
    )
    tile: ClassVar[str] = "M-2 8H74M-2 31H74M6 8V31M16 8V31M26 8V31M36 8V31M46 8V31M56 8V31M66 8V31"
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 8
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Rungs")

    kind: Literal["keys"] = "keys"
    spacing: Length = asked(
        "1 1/4 in", Form("length", tr("Spacing"), tr("Along the base edge, from its corner."))
    )
    base: Base = asked(
        "edge",
        Form(
            "choice",
            tr("From"),
            choices=(
                Choice("edge", tr("one edge"), picks="edge"),
                Choice("all round", tr("all round, mitred")),
            ),
        ),
    )
    at: int | None = asked(None, Form("count", tr("Which edge"), empty=tr("the longest")))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Rung by rung from the base's corner; if there is no straight edge, one side of the outline is the base."""
        region = site.region
        if self.base == "all round":
            runs = _runs(region)
            yield Paths(tuple(p for run, mitres in runs for p in self._rungs(region, run, mitres)))
        elif region.edges:
            edge = self._edge(region)
            run = np.array([edge.start, edge.end])
            rungs = tuple(self._rungs(region, run))
            whole = (
                len(rungs) == from_edge(Fraction(edge.length).limit_denominator(10**6), self.spacing.mm).lines
            )
            yield Paths(rungs, self.spacing.mm if whole else None)
        else:
            run = max((run for run, _ in _runs(region)), key=lambda run: round(LineString(run).length, 2))
            yield Paths(tuple(self._rungs(region, run)))

    def _edge(self, region: Region) -> Edge:
        if self.at is not None:
            return pick(region.edges, self.at, "at", "edge")
        return max(region.edges, key=lambda e: round(e.length, 3))

    def _rungs(
        self, region: Region, run: Floats, mitres: tuple[float, float] = (math.inf, math.inf)
    ) -> Iterable[Path]:
        """Rungs at whole spacings along ``run``, inwards until the zone ends or the mitre stops them.

        ``mitres`` are the tangents of half the corner angles at the run's ends.
        """
        line = LineString(run)
        s, long = float(self.spacing.mm), line.length
        left, low, right, high = region.bounds
        far = math.hypot(right - left, high - low)
        many = math.ceil(long / s - ROUNDING) - 1
        check_many(20 * many)
        for k in range(1, many + 1):
            here = line.interpolate(k * s)
            before, after = (line.interpolate(min(max(k * s + d, 0.0), long)) for d in (-0.05, 0.05))
            ux, uy = after.x - before.x, after.y - before.y
            size = math.hypot(ux, uy)
            way = self._inwards(region, (here.x, here.y), (-uy / size, ux / size))
            if way is None:
                continue
            ray = LineString([(here.x, here.y), (here.x + way[0] * far, here.y + way[1] * far)])
            inside = [
                g
                for g in getattr(ray.intersection(region.area), "geoms", [ray.intersection(region.area)])
                if g.length > 0
            ]
            first = next((g for g in inside if g.distance(here) < EQUAL), None)
            if first is None:
                continue
            reach = min(first.length, k * s * mitres[0], (long - k * s) * mitres[1])
            if reach > 0.5:
                yield straight_path((here.x, here.y), (here.x + way[0] * reach, here.y + way[1] * reach))

    @staticmethod
    def _inwards(
        region: Region, here: tuple[float, float], normal: tuple[float, float]
    ) -> tuple[float, float] | None:
        for sign in (1.0, -1.0):
            x, y = here[0] + normal[0] * sign * 0.2, here[1] + normal[1] * sign * 0.2
            if shapely.intersects_xy(region.area, x, y):
                return normal[0] * sign, normal[1] * sign
        return None

    def count_at_most(self, site: Site) -> int:
        """Rungs along the whole outline."""
        return int(site.region.area.length / float(self.spacing.mm)) + site.region.stretches_at_most + 1

    def figures(self, site: Site) -> Sequence[Figure]:
        """The number of rungs and the gap that is left."""
        if self.base == "all round" or not site.region.edges:
            return ()
        fit = from_edge(Fraction(self._edge(site.region).length).limit_denominator(10**6), self.spacing.mm)
        return (
            Figure(tr("Rungs along the edge"), fit.lines, "count"),
            Figure(tr("Last gap"), float(fit.end)),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that divide the base evenly."""
        if self.base == "all round" or not site.region.edges:
            return ()
        return even_wishes(Fraction(self._edge(site.region).length).limit_denominator(10**6), self.spacing)


def _runs(region: Region) -> list[tuple[Floats, tuple[float, float]]]:
    """The sides of the outer outlines with their mitres: straight edges one by one, arcs between corners as
    polylines."""
    corners = {(round(x, 3), round(y, 3)) for x, y in region.corners}
    found: list[tuple[Floats, tuple[float, float]]] = []
    for polygon in region.area.geoms:
        points = np.asarray(orient(polygon).exterior.coords)[:-1]
        at = [k for k, p in enumerate(points.tolist()) if (round(p[0], 3), round(p[1], 3)) in corners]
        if not at:
            found.append((np.vstack([points, points[:1]]), (math.inf, math.inf)))
            continue
        turned = np.roll(points, -at[0], axis=0)
        cuts = [k - at[0] for k in at] + [len(points)]
        whole = np.vstack([turned, turned[:1]])
        halves = [_half_angle(turned, k) for k in cuts]
        found += [
            (whole[a : b + 1], (math.tan(one), math.tan(other)))
            for (a, b), (one, other) in zip(pairwise(cuts), pairwise(halves), strict=True)
        ]
    return found


def _half_angle(points: Floats, k: int) -> float:
    """Half the interior angle at point ``k`` of a ring with its inside on the left, at most a right angle."""
    here, before, after = (points[(k + d) % len(points)] for d in (0, -1, 1))
    back, on = before - here, after - here
    inner = math.atan2(on[0] * back[1] - on[1] * back[0], float(on @ back)) % math.tau
    return min(inner / 2, math.radians(89.9))
