"""How a line is placed if everything is sewn as planned.

No placement uses a ruler whose verdict is "will not do".
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import cached_property

import numpy as np
import shapely

from kenzet.core.fills.base import Paths
from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.region import Point
from kenzet.core.kit.curves import CurveFit, TemplateFit, ranked, templates
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.marks.marking import Marks, marks_of
from kenzet.core.memo import Table
from kenzet.core.placing.checks import check_on, farther_back
from kenzet.core.placing.legs import Leg, legs_of
from kenzet.core.placing.neighbors import Neighbors
from kenzet.core.placing.placement import By, Check, On, Onward, Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.drift import error_after
from kenzet.core.ruler.line_references import Reference, may_stray
from kenzet.core.ruler.offset_sums import (
    THAT_LINE,
    OffsetSum,
    best_offset_sum,
    edge_of,
    placements,
)
from kenzet.core.tolerances import DIVISOR, STOP_ERROR, VISIBLE

PLANNED = Table[tuple[ZonePlan, int], dict[int, Placement]]("placements by plan and drawing", 500)


def planned(plan: ZonePlan, drawing: Drawing, line: int) -> Placement:
    """How ``line`` is placed if everything is sewn as planned."""
    kept = plan.memo.once(PLANNED, (plan, plan.number_of(drawing)), dict)
    if line not in kept:
        kept[line] = Placing(plan, drawing, line).planned()
    return kept[line]


class Placing:
    """Computes the placement of one line."""

    def __init__(self, plan: ZonePlan, drawing: Drawing, line: int) -> None:
        self.plan, self.drawing, self.line, self.kit = plan, drawing, line, plan.kit
        self.references = plan.references(drawing)
        self.own = self.references[line]
        self.legs = legs_of(drawing, line)
        self.beside = Neighbors(plan, drawing, line, self.legs)
        self.among: Collection[int] | None = None
        """The lines that are counted on the way to a reference; None: all."""

    @cached_property
    def marks(self) -> Marks:
        """The marks of the drawing."""
        return marks_of(self.plan, self.drawing)

    def planned(self) -> Placement:
        """The placement that follows from its drawing and its marks."""
        if self.own.kind == "ditch":
            return self._made("ditch", "ditch")
        if self.line in self.marks.lines:
            return self._by_middle_line() if self.line in self.marks.middles else self._drawn()
        found = self._by_marks()
        if found is None and self.line in self.references.dots and self.line not in self.marks.dotted:
            return self._by_eye()
        return found or self._from_lines_and_seams()

    def _from_lines_and_seams(self) -> Placement:
        """The placement from its planned reference."""
        sides = self.references.sides.get(self.line)
        if sides:
            return self._turning(sides)
        how = {
            "angle": self._across,
            "step": self._stepped,
            "points": self._through_points,
            "tilt": self._askew,
            "level": self._level,
            "beyond": self._beyond,
        }.get(self.own.kind)
        if how is not None:
            return how()
        if self.own.kind in ("seam", "line"):
            on: On = "seam" if self.own.kind == "seam" else "line"
            return self._on(on, self.own.distance, self.own.way, self.own.line)
        return self._by_eye()

    def _across(self) -> Placement:
        """By a slanted etched line on a line that it crosses."""
        return self._made(
            "angle", "angle", reference=self.own.line, angle=self.own.angle, way=self.own.way,
            error=float(self.kit.tolerance.mm), distance=self.kit.foot_offset, lays=self._lays(None), crosses=self._crossing(),
        )  # fmt: skip

    def _through_points(self) -> Placement:
        """From where seams or lines meet at one end of each leg to where they meet at the other."""
        fits = self._fits() or ()
        by: By = "curve" if fits else "two points"
        return self._made(
            "corners", by, distance=self.kit.foot_offset, fits=fits, through=self.references.points[self.line], lays=self._lays(None),
            error=2 * float(self.kit.spread.mm), dots=self.references.dots.get(self.line, ()),
        )  # fmt: skip

    def _level(self) -> Placement:
        """By the center line of a template, at a distance from a seam."""
        return self._made(
            "seam", "template", distance=self.own.distance, way=self.own.way, fits=self._fits() or (), level=True, onward=self._onward(),
            dots=self.references.dots.get(self.line, ()), error=2 * float(self.kit.spread.mm),
        )  # fmt: skip

    def _beyond(self) -> Placement:
        """From a line of another zone, which runs beside it or which it continues."""
        distance = self.own.distance
        total = best_offset_sum(self.kit, distance, self.legs[0].length) if distance else None
        by: By = "edge behind" if total is not None and total.etched is None else "etched line"
        return self._made(
            "beyond", by, distance=distance or self.kit.foot_offset, way=self.own.way, total=total, beyond=self.references.beyond[self.line],
            error=float(self.kit.tolerance.mm), lays=1,
        )  # fmt: skip

    def _by_middle_line(self) -> Placement:
        """By the center line of a template along the line's own center line, which is marked."""
        crest = self.marks.middles[self.line][0].crest
        return self._made(
            "mark", "template", distance=self.kit.foot_offset, way=self.own.way, fits=self._fits() or (), level=True, dots=(crest,),
            error=2 * float(self.kit.spread.mm),
        )  # fmt: skip

    def _askew(self) -> Placement:
        """At different distances from the line before at its start and at its end."""
        under = tuple(far - self.kit.foot_offset for far in self.references.tilts[self.line])
        run = int(self.references.runs[self.line])
        return self._made(
            "line", "tilt", distance=self.own.distance, way=self._side_of(self.legs, self.own.line, self.own.distance), reference=self.own.line, tilt=under, lays=self._lays(None),
            error=error_after(max(run, 1), 0.0, float(self.kit.spread.mm)),
        )  # fmt: skip

    def _crossing(self) -> tuple[float, Point] | None:
        """The distance at which its reference is crossed, from the reference's nearer end, and the direction in which
        that end lies."""
        if self.own.line is None:
            return None
        own, other = (self.drawing.polylines[k] for k in (self.line, self.own.line))
        (px, py), (qx, qy) = (own[1] - own[0]).tolist(), (other[1] - other[0]).tolist()
        dx, dy = (own[0] - other[0]).tolist()
        turned = qx * py - qy * px
        if abs(turned) < DIVISOR:
            return None
        long = math.hypot(qx, qy)
        along = long * (dx * py - dy * px) / turned
        back = along > long / 2
        return (long - along if back else along), ((qx, qy) if back else (-qx, -qy))

    def _stepped(self) -> Placement:
        """From the row before: the template is moved on by the step, so that the foot's offset cancels out."""
        if self.drawing.fill.freehand_rows:
            return self._made(
                "line", "freehand", distance=self.own.distance, way=self.own.way, reference=self.own.line,
                error=2 * float(self.kit.tolerance.mm), onward=self._onward(),
            )  # fmt: skip
        fits = self._fits() or ()
        by: By = "template" if fits and isinstance(fits[0], TemplateFit) else "curve"
        trace = self.drawing.trace(self.line)
        family = self.drawing.families[trace.family] if trace else None
        slides = family.slides if isinstance(family, Paths) else ()
        row = trace.line + (self.own.way < 0) if trace else 0
        slide = self.own.way * slides[row] if row < len(slides) else 0.0
        wanted = self.plan.template(self.drawing)
        if wanted is not None:  # a whole repeat along the rows is none
            repeat = wanted.period if isinstance(wanted, WaveEdge) else wanted.pitch
            slide = (slide + repeat / 2) % repeat - repeat / 2
        run = int(self.references.runs[self.line])
        if not fits and not slide and self._is_echoed_by_rim():
            return self._made(
                "line", "rim", distance=self.own.distance, way=self.own.way, reference=self.own.line, onward=self._onward(),
                error=float(self.kit.tolerance.mm) + error_after(max(run, 1), 0.0, float(self.kit.spread.mm)),
            )  # fmt: skip
        return self._made(
            "line", by if fits else "eye", distance=self.own.distance, way=self.own.way, reference=self.own.line, fits=fits, stepped=True,
            slide=slide, along=family.way if isinstance(family, Paths) else None, onward=self._onward(), error=error_after(max(run, 1), 0.0, float(self.kit.spread.mm)),
        )  # fmt: skip

    def _is_echoed_by_rim(self) -> bool:
        """Whether a row stepped by the foot's offset keeps that distance from the row before everywhere, within
        the tolerance."""
        by_foot = (
            abs(self.own.distance - self.kit.foot_offset) <= THAT_LINE and self.kit.sew_with == "ruler foot"
        )
        if not by_foot or self.own.line is None:
            return False
        near = shapely.LineString(self.drawing.polylines[self.own.line])
        away = shapely.distance(near, shapely.points(self.drawing.polylines[self.line]))
        inner = away[away < float(self.own.distance) + VISIBLE]  # beyond its end the row before is farther
        return bool(
            len(inner) and (abs(inner - float(self.kit.foot_offset)) < float(self.kit.tolerance.mm)).all()
        )

    def _onward(self) -> Onward | None:
        """The direction in which a row lies from the row or the seam before, by the lines as they are drawn: a family
        may be counted against its normal."""
        trace = self.drawing.trace(self.line)
        family = self.drawing.families[trace.family] if trace else None
        if isinstance(family, Paths) and family.way is not None:
            x, y = -family.way[1], family.way[0]
            sign = self.own.way if self.own.line is None else self.beside.side_along((x, y), self.own.line)
            return sign * x, sign * y
        if trace is None or not trace.closed:
            return None
        return "in" if shapely.LinearRing(trace.points).is_ccw == (self.own.way > 0) else "out"

    def _made(self, on: On, by: By, **values: object) -> Placement:
        reference = values.get("reference")
        if isinstance(reference, int) and on != "angle":
            values |= {
                "towards": self.beside.towards(reference),
                "over": self.beside.over(reference, self.among),
            }
        return Placement(self.line, on, by, self.legs, **values)  # type: ignore[arg-type]

    def _by_eye(self) -> Placement:
        return self._made(
            "nothing",
            "eye",
            way=self.own.way,
            distance=self.kit.foot_offset,
            error=float(self.kit.tolerance.mm),
        )

    def _by_marks(self) -> Placement | None:
        """By ticks, dots, tape or powder, if these give its place."""
        marks = self.marks
        spread = float(self.kit.spread.mm)
        if marks.stencil:
            return self._drawn()
        if marks.tape and self.line in marks.tape.lines:
            return self._made("tape", "tape", error=spread)
        if marks.at_ends(self.line):
            fits = self._fits()
            if fits is None:
                return self._made(
                    "points", "eye", distance=self.kit.foot_offset, error=float(self.kit.tolerance.mm)
                )
            by: By = "curve" if fits else "two points"
            if self.kit.sew_with == "walking foot":
                by = "eye" if fits else "two points"
            return self._made(
                "points", by, distance=self.kit.foot_offset, fits=fits, error=spread, lays=self._lays(None)
            )
        return None

    def _drawn(self) -> Placement:
        """It follows its own mark, with a ruler's edge beside it if one fits."""
        spread = float(self.kit.spread.mm)
        fits = self._fits()
        if self.kit.sew_with == "walking foot" or fits is None or not self.kit.edges:
            return self._made("mark", "follow", error=spread)
        by: By = "etched line" if not fits else "template" if isinstance(fits[0], TemplateFit) else "curve"
        if by == "etched line" and not self.kit.straight:
            return self._made("mark", "follow", error=spread)
        return self._made(
            "mark",
            by,
            distance=self.kit.foot_offset,
            way=self.own.way,
            fits=fits,
            error=spread,
            lays=self._lays(None),
        )

    def _fits(self, way: int = 0) -> tuple[CurveFit | TemplateFit | None, ...] | None:
        """The best edge for each arc, or for a template's line; empty for a straight line, None if no edge fits.

        With a reference on the right of the line (``way`` 1) or on its left (-1), an edge that lies on the
        reference's side comes first: what it is placed from is under it.
        """
        wanted = self.plan.template(self.drawing)
        if wanted is not None:
            some = [fit for fit in templates(self.kit, wanted) if fit.verdict != "will not do"]
            if some:
                return (some[0],)
        found: list[CurveFit | TemplateFit | None] = []
        for leg in self.legs:
            if leg.arc is None:
                found.append(None)
                continue
            fits = [
                fit for fit in ranked(self.kit, leg.arc.radius, leg.arc.angle) if fit.verdict != "will not do"
            ]
            if not fits:
                return None
            near = [fit for fit in fits if not (way and _is_over(leg.arc, fit, way))]
            found.append((near or fits)[0])
        return tuple(found) if any(found) else ()

    def _on(self, on: On, distance: Fraction, way: int, reference: int | None) -> Placement:
        """From a seam or a line that runs along it."""
        own_way = way
        if self.drawing.trace(self.line) is not None and self.legs:
            way = self._side_of(self.legs, reference, distance)
        longest = max((leg.length for leg in self.legs), default=0.0)
        total = best_offset_sum(self.kit, distance, longest)
        if not total.can_be_laid:
            return self._by_eye()
        fits = self._fits(way)
        if (
            fits is None
            and abs(distance - self.kit.foot_offset) <= THAT_LINE
            and self.kit.sew_with == "ruler foot"
        ):
            return self._made(
                on,
                "rim",
                distance=distance,
                way=way,
                reference=reference,
                error=2 * float(self.kit.spread.mm),
            )
        if fits is None:  # a curve that none of her edges sews: her eye keeps the distance
            return self._made(
                on,
                "eye",
                distance=distance,
                way=way,
                reference=reference,
                total=total,
                error=float(self.kit.tolerance.mm),
            )
        by: By = "gauge" if total.gauge else "edge behind" if total.etched is None else "etched line"
        if fits and not total.gauge:
            by = "template" if isinstance(fits[0], TemplateFit) else "curve"
        run = int(self.references.runs[self.line]) if on == "line" else 0
        check = None if fits else self._checked_by(total, own_way, distance, reference)
        return self._made(
            on, by, distance=distance, way=way, reference=reference, total=total, fits=fits,
            over_line=tuple(
                isinstance(fit, CurveFit) and leg.arc is not None and _is_over(leg.arc, fit, way)
                for leg, fit in zip(self.legs, fits, strict=False)
            ),
            error=self._error(on, total, run), check=check, lays=self._lays(total),
        )  # fmt: skip

    def _checked_by(
        self, total: OffsetSum, way: int, distance: Fraction, reference: int | None
    ) -> Check | None:
        """The line farther back than its reference that must lie under another etched line."""
        if reference is None:
            return None
        chain = farther_back(self.references, self.marks, self.beside, way, distance, reference)
        found = check_on(self.kit, total, list(chain))
        if found is None:
            return None
        line, etched = found
        return Check(line, self.beside.over(line, self.among), etched)

    def _error(self, on: On, total: OffsetSum, run: int) -> float:
        spread = float(self.kit.spread.mm)
        return (
            error_after(max(run, 1), float(total.off), spread)
            if on != "seam"
            else abs(float(total.off)) + 2 * spread
        )

    def _lays(self, total: OffsetSum | None) -> int:
        """How many times the ruler is put down for it."""
        edge = edge_of(self.kit, total) if total else next((edge for _, edge in self.kit.straight), None)
        if edge is None:
            return 0
        return sum(placements(leg.length, float(edge.length)) for leg in self.legs if leg.arc is None)

    def _turning(self, sides: tuple[Reference, ...]) -> Placement:
        """Each leg from what runs along it."""
        found = []
        for leg, side in zip(self.legs, sides, strict=False):
            on: On = "seam" if side.kind == "seam" else "ditch" if side.kind == "ditch" else "line"
            total = best_offset_sum(self.kit, side.distance, leg.length) if on != "ditch" else None
            by: By = (
                "ditch"
                if total is None
                else "gauge"
                if total.gauge
                else "edge behind"
                if total.etched is None
                else "etched line"
            )
            lays = (
                0
                if total is None
                else placements(leg.length, float(edge.length))
                if (edge := edge_of(self.kit, total))
                else 0
            )
            of = side.line
            towards, over = (
                (None, 1)
                if of is None
                else (self.beside.towards(of, leg), self.beside.over(of, self.among, leg))
            )
            error = 0.0 if total is None else may_stray(self.kit, float(total.off), 1.0, 1.0)
            found.append(
                Placement(
                    self.line, on, by, (leg,), side.distance, over, self._side_of((leg,), of, side.distance), of,
                    towards=towards, total=total, error=error, lays=lays,
                )
            )  # fmt: skip
        first = found[0]
        return replace(
            first, legs=self.legs, sides=tuple(found), error=max(side.error for side in found),
            lays=sum(side.lays for side in found),
        )  # fmt: skip

    def _side_of(self, legs: Sequence[Leg], line: int | None, distance: Fraction) -> int:
        """+1 if the reference of the legs is on their right, seen from their start, as for a family whose normal
        points left; else -1."""
        on = self._seams if line is None else shapely.LineString(self.drawing.polylines[line])
        left, right = (
            min(on.distance(shapely.Point(at)) for leg in legs for at in _beside(leg, side * float(distance)))
            for side in (1, -1)
        )
        return -1 if left < right - STOP_ERROR else 1

    @cached_property
    def _seams(self) -> shapely.Geometry:
        """All visible seams: the zone's edge, and those inside it."""
        drawing = self.drawing
        seams = np.array(drawing.shape.seams).reshape(-1, 2, 2)
        return shapely.union_all([drawing.shape.uncut.area.boundary, *shapely.linestrings(seams)])


def _is_over(arc: Arc, fit: CurveFit, way: int) -> bool:
    """Whether a ruler whose edge sews ``arc`` lies on the other side of it than a reference on its right (``way`` 1)
    or left (-1): the plastic of an outside edge lies towards the arc's center, that of an inside edge away from
    it."""
    centre_is_left = arc.bulge > 0
    reference_is_outside = centre_is_left == (way > 0)
    return reference_is_outside == (fit.edge.side == "outside")


def _beside(leg: Leg, far: float) -> Iterable[Point]:
    """Points ``far`` mm to the left of a leg, at its middle and near its ends."""
    for share in (0.5, 0.1, 0.9):
        if leg.arc is not None:
            (x, y), (cx, cy) = leg.arc.at(share), leg.arc.centre
            out = far / leg.arc.radius * (-1 if leg.arc.bulge > 0 else 1)
            yield x + out * (x - cx), y + out * (y - cy)
        else:
            (x0, y0), (x1, y1) = leg.start, leg.end
            ux, uy = (x1 - x0) / leg.length, (y1 - y0) / leg.length
            yield x0 + share * (x1 - x0) - far * uy, y0 + share * (y1 - y0) + far * ux
