"""The one answer to how a line is placed, on every screen and sheet and at the machine.

What a line is laid on is planned with its drawing. It holds as long as that is there; where it is not (a line was skipped,
unpicked, or another order is sewn) the line is laid on what is: the line on its other side, a seam there, one farther
over that a ruler of hers reaches. What nothing places is drawn, or done by eye.

Nothing is ever to be laid whose verdict is "will not do".
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Literal

import numpy as np

from kenzet.core.fills.base import Paths
from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.curves import CurveFit, TemplateFit, ranked, templates
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.marks.marking import Marks, marks_of, placed_by_ticks
from kenzet.core.memo import Table
from kenzet.core.placing.legs import Leg, legs_of
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import Compass, ZonePlan, compass
from kenzet.core.ruler.drift import error_after
from kenzet.core.ruler.line_references import SHORT, Reference, References, may_stray
from kenzet.core.ruler.offset_sums import EXACT, OffsetSum, best_offset_sum, check_number, edge_of, placements
from kenzet.core.tolerances import DIVISOR, SAME_ANGLE, STOP_ERROR

On = Literal["last", "line", "drawn", "seam", "mark", "points", "angle", "ditch", "tape", "nothing"]
By = Literal[
    "etched line",
    "edge behind",
    "angle",
    "gauge",
    "rim",
    "curve",
    "template",
    "follow",
    "two points",
    "ditch",
    "tape",
    "eye",
]
_FAR = 6  # lines over


@dataclass(frozen=True, eq=False)
class Placement:
    """Of line ``line``: what it is laid ``on``, and ``by`` what.

    ``on`` is "last" (the line just sewn), "line" (one sewn earlier, the ``over``-th from it; ``reference`` is its number), "drawn" (the
    same, only drawn as yet), "seam", "mark" (it is drawn itself), "points" (ticks or dots at its ends), "angle" (a line that it
    crosses), "ditch", "tape", or "nothing". ``distance`` is exact mm from it; the line progresses ``way`` +1 along its family's
    normal or -1 against it: what it is laid from, and the ruler, lie behind. ``total`` is the sum with etched line and foot,
    ``fits`` has her curved edge for each arc, or her template. ``error`` is within what the line comes to lie, mm, nineteen
    times of twenty. ``sides`` are the placements of the legs of a line that turns, where each has its own.
    """

    line: int
    on: On
    by: By
    legs: tuple[Leg, ...]
    distance: Fraction = Fraction(0)
    over: int = 1
    way: int = 1
    reference: int | None = None
    angle: float = 0.0
    total: OffsetSum | None = None
    fits: tuple[CurveFit | TemplateFit | None, ...] = ()
    error: float = 0.0
    check: tuple[int, Fraction] | None = None
    lays: int = 0
    sides: tuple[Placement, ...] = ()
    stepped: bool = False
    slide: float = 0.0
    crosses: tuple[float, Compass] | None = None

    @property
    def length(self) -> float:
        """mm of the whole line."""
        return sum(leg.length for leg in self.legs)

    @property
    def verdict(self) -> Literal["does", "nearly", "by hand"]:
        """How well what is laid does it; "by hand" where nothing is laid."""
        if self.by in ("follow", "eye", "ditch"):
            return "by hand"
        nearly = any(fit is not None and fit.verdict == "can be nudged" for fit in self.fits)
        return "nearly" if nearly or (self.total is not None and self.total.out) else "does"

    @property
    def needs(self) -> tuple[int, ...]:
        """The lines of the drawing that must be sewn, or drawn, for it."""
        own = () if self.reference is None else (self.reference,)
        return tuple(dict.fromkeys([*own, *(line for side in self.sides for line in side.needs)]))


PLANNED = Table[tuple[ZonePlan, int], dict[int, Placement]]("placements by plan and drawing", 500)
BESIDE = Table[tuple[ZonePlan, int], dict[int, list[Reference]]](
    "lines beside lines, by plan and drawing", 500
)
MIRRORED = Table[tuple[ZonePlan, int], References]("references from the other side, by plan and drawing", 500)


def planned(plan: ZonePlan, drawing: Drawing, line: int) -> Placement:
    """How ``line`` is placed where everything goes as it is planned."""
    kept = plan.memo.once(PLANNED, (plan, plan.number_of(drawing)), dict)
    if line not in kept:
        kept[line] = _Placing(plan, drawing, line).planned()
    return kept[line]


def placed(plan: ZonePlan, drawing: Drawing, line: int, sewn: Collection[int], last: int | None) -> Placement:
    """How ``line`` is placed now that the lines ``sewn`` of its drawing are there, ``last`` the last of them."""
    found = planned(plan, drawing, line)
    if not all(other in sewn for other in found.needs):
        return _Placing(plan, drawing, line).on_what_is_there(found, sewn, last)
    if found.on == "line" and found.reference == last:
        return replace(found, on="last")
    return found


class _Placing:
    """Of one line."""

    def __init__(self, plan: ZonePlan, drawing: Drawing, line: int) -> None:
        self.plan, self.drawing, self.line, self.kit = plan, drawing, line, plan.kit
        self.references = plan.references(drawing)
        self.own = self.references[line]
        self.legs = legs_of(drawing, line)

    @cached_property
    def marks(self) -> Marks:
        """What is drawn of the zone."""
        return marks_of(self.plan, self.drawing)

    def planned(self) -> Placement:
        """As its drawing and its marks have it."""
        if self.own.kind == "ditch":
            return self._made("ditch", "ditch")
        if self.line in self.marks.lines:
            return self._drawn()
        return self._by_marks() or self._from_lines_and_seams()

    def _from_lines_and_seams(self) -> Placement:
        """What its own reference says."""
        sides = self.references.sides.get(self.line)
        if sides:
            return self._turning(sides)
        if self.own.kind == "angle":
            return self._made(
                "angle", "angle", reference=self.own.line, angle=self.own.angle, way=self.own.way,
                error=float(self.kit.tolerance.mm), distance=self.kit.reach, lays=self._lays(None), crosses=self._crossing(),
            )  # fmt: skip
        if self.own.kind == "step":
            return self._stepped()
        if self.own.kind in ("seam", "line"):
            on: On = "seam" if self.own.kind == "seam" else "line"
            return self._on(on, self.own.distance, self.own.way, self.own.line)
        return self._by_eye()

    def _crossing(self) -> tuple[float, Compass] | None:
        """How far from its nearer end the line that it is laid across is crossed, and which end that is."""
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
        return (long - along if back else along), compass(qx if back else -qx, qy if back else -qy)

    def _stepped(self) -> Placement:
        """From the row before: the template is moved on, and the foot cancels out."""
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
        return self._made(
            "line", by if fits else "eye", distance=self.own.distance, way=self.own.way, reference=self.own.line, fits=fits, stepped=True,
            slide=slide, error=error_after(max(run, 1), 0.0, float(self.kit.spread.mm)),
        )  # fmt: skip

    def on_what_is_there(self, found: Placement, sewn: Collection[int], last: int | None) -> Placement:
        """Where what was planned is not."""
        there = [one for one in self._beside() if one.line in sewn]
        there.sort(key=lambda one: one.line != last)
        for one in there:
            return self._on("last" if one.line == last else "line", one.distance, one.way, one.line)
        seam = self._from_other_side()
        if seam is not None:
            return self._on("seam", seam.distance, seam.way, None)
        drawn = set(self.marks.lines) - set(sewn)
        along = self._along_the_chain(sewn, last)
        return (
            along
            or self._farther(sewn, last, "line")
            or self._farther(drawn, None, "drawn")
            or self._by_eye()
        )

    def _made(self, on: On, by: By, **values: object) -> Placement:
        return Placement(self.line, on, by, self.legs, **values)  # type: ignore[arg-type]

    def _by_eye(self) -> Placement:
        return self._made(
            "nothing", "eye", way=self.own.way, distance=self.kit.reach, error=float(self.kit.tolerance.mm)
        )

    def _by_marks(self) -> Placement | None:
        """Where ticks, dots, tape or powder give it its place."""
        marks = self.marks
        spread = float(self.kit.spread.mm)
        if marks.stencil:
            return self._drawn()
        if marks.tape and self.line in marks.tape.lines:
            return self._made("tape", "tape", error=spread)
        if marks.method == "dots" or (marks.ticks and placed_by_ticks(self.drawing)[self.line]):
            fits = self._fits()
            if fits is None:
                return self._made(
                    "points", "eye", distance=self.kit.reach, error=float(self.kit.tolerance.mm)
                )
            by: By = "curve" if fits else "two points"
            if self.kit.sew_with == "walking foot":
                by = "eye" if fits else "two points"
            return self._made(
                "points", by, distance=self.kit.reach, fits=fits, error=spread, lays=self._lays(None)
            )
        return None

    def _drawn(self) -> Placement:
        """It is followed: with an edge of hers beside it where one does it."""
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
            distance=self.kit.reach,
            way=self.own.way,
            fits=fits,
            error=spread,
            lays=self._lays(None),
        )

    def _fits(self) -> tuple[CurveFit | TemplateFit | None, ...] | None:
        """For a line with arcs or of a template her edge for each; empty for a straight one, None where one will not do."""
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
            found.append(fits[0])
        return tuple(found) if any(found) else ()

    def _on(self, on: On, distance: Fraction, way: int, reference: int | None, over: int = 1) -> Placement:
        """On a seam or a line that runs along it."""
        longest = max((leg.length for leg in self.legs), default=0.0)
        total = best_offset_sum(self.kit, distance, longest)
        if not total.can_be_laid:
            return self._by_eye()
        fits = self._fits()
        if fits is None and abs(distance - self.kit.reach) <= EXACT and self.kit.sew_with == "ruler foot":
            return self._made(
                on,
                "rim",
                distance=distance,
                way=way,
                reference=reference,
                over=over,
                error=2 * float(self.kit.spread.mm),
            )
        if fits is None:  # a curve that no edge of hers sews: her eye keeps the distance
            return self._made(
                on,
                "eye",
                distance=distance,
                way=way,
                reference=reference,
                over=over,
                total=total,
                error=float(self.kit.tolerance.mm),
            )
        by: By = "gauge" if total.gauge else "edge behind" if total.etched is None else "etched line"
        if fits and not total.gauge:
            by = "template" if isinstance(fits[0], TemplateFit) else "curve"
        edge = edge_of(self.kit, total)
        run = int(self.references.runs[self.line]) if on == "line" else 0
        check = (
            check_number(total, edge, run)
            if edge and total.etched is not None and on == "line" and not fits
            else None
        )
        return self._made(
            on, by, distance=distance, way=way, reference=reference, over=over, total=total, fits=fits,
            error=self._error(on, total, run), check=check, lays=self._lays(total),
        )  # fmt: skip

    def _error(self, on: On, total: OffsetSum, run: int) -> float:
        spread = float(self.kit.spread.mm)
        return (
            error_after(max(run, 1), float(total.off), spread)
            if on != "seam"
            else abs(float(total.off)) + 2 * spread
        )

    def _lays(self, total: OffsetSum | None) -> int:
        """How often the ruler is laid down for it."""
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
            error = 0.0 if total is None else may_stray(self.kit, float(total.off), 1.0, 1.0)
            found.append(
                Placement(
                    self.line, on, by, (leg,), side.distance, 1, self._side_of(leg, side.line), side.line,
                    total=total, error=error, lays=lays,
                )
            )  # fmt: skip
        first = found[0]
        return replace(
            first, legs=self.legs, sides=tuple(found), error=max(side.error for side in found),
            lays=sum(side.lays for side in found),
        )  # fmt: skip

    def _side_of(self, leg: Leg, line: int | None) -> int:
        """+1 where what a leg is laid on lies to the right of it, seen from its start, as for a family whose normal points left."""
        if line is None:
            return 1
        x, y = self.drawing.polylines[line].mean(axis=0).tolist()
        (x0, y0), (x1, y1) = leg.start, leg.end
        return -1 if (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0) > 0 else 1

    def _beside(self) -> Iterable[Reference]:
        """The lines on either side from which it can be laid."""
        key = (self.plan, self.plan.number_of(self.drawing))
        return self.plan.memo.once(BESIDE, key, lambda: _lines_beside(self.references)).get(self.line, [])

    def _from_other_side(self) -> Reference | None:
        """The seam that it would be laid from if lines progressed the other way, or that it is planned from."""
        if self.own.kind == "seam":
            return self.own
        machine = self.kit.machine

        def mirrored() -> References:
            other = machine.model_copy(update={"throat": "left" if machine.throat == "right" else "right"})
            return replace(self.plan, kit=self.kit.model_copy(update={"machine": other})).references(
                self.drawing
            )

        found = self.plan.memo.once(MIRRORED, (self.plan, self.plan.number_of(self.drawing)), mirrored)[
            self.line
        ]
        return found if found.kind == "seam" and self.line not in self.references.sides else None

    def _along_the_chain(self, sewn: Collection[int], last: int | None) -> Placement | None:
        """On the line that what it is planned on is laid on, and so on, as far as one is sewn or a seam begins them, and a ruler of
        hers reaches.
        """
        distance, line, over = Fraction(0), self.line, 0
        while over < _FAR:
            over += 1
            on = self.references[line]
            if on.kind not in ("line", "seam") or line in self.references.sides:
                return None
            distance += on.distance
            if on.kind == "seam" or on.line is None or on.line in sewn:
                break
            line = on.line
        else:
            return None
        there = on.kind == "line" and on.line is not None
        if best_offset_sum(self.kit, distance).etched is None or not (there or on.kind == "seam"):
            return None
        kind: On = "seam" if not there else "last" if on.line == last else "line"
        found = self._on(kind, distance, self.own.way, on.line, over)
        strays = may_stray(self.kit, found.error, found.length, self._shared_with(on.line))
        return found if strays <= float(self.kit.tolerance.mm) + found.error else None

    def _shared_with(self, line: int | None) -> float:
        """How much of a straight line lies beside another, mm; of one that turns all of it."""
        own = self.legs[0]
        if line is None or len(self.legs) > 1 or own.arc is not None:
            return sum(leg.length for leg in self.legs)
        way = np.array([own.end[0] - own.start[0], own.end[1] - own.start[1]]) / own.length
        other = (self.drawing.polylines[line] - np.array(own.start)) @ way
        return float(min(other.max(), own.length) - max(other.min(), 0.0))

    def _farther(self, others: Collection[int], last: int | None, on: On) -> Placement | None:
        """On the nearest of ``others`` of its family and piece that lies beside it and that one of her rulers reaches."""
        drawing, line = self.drawing, self.line
        many = len(drawing.stretches)
        beside = np.array([other for other in others if other < many], dtype=np.int64)
        if line >= many or not len(beside) or self.kit.sew_with == "walking foot":
            return None
        jobs, lines, ends = drawing.stretches.job, drawing.stretches.line, drawing.stretches.ends
        beside = beside[jobs[beside] == jobs[line]]
        family = drawing.straight[int(jobs[line]) % len(drawing.straight)]
        along = ends.reshape(-1, 2, 2) @ np.array(family.direction)
        shared = np.minimum(along[beside].max(axis=1), along[line].max()) - np.maximum(
            along[beside].min(axis=1), along[line].min()
        )
        own = float(np.ptp(along[line]))
        beside, shared = beside[shared >= SHORT / 2], shared[shared >= SHORT / 2]
        apart = np.abs(lines[beside] - lines[line])
        for k in np.argsort(apart, kind="stable").tolist():
            over = int(apart[k])
            if not 0 < over <= _FAR:
                continue
            first = int(min(lines[beside[k]], lines[line]))
            distance = sum((family.gaps[(first + n) % len(family.gaps)] for n in range(over)), Fraction(0))
            total = best_offset_sum(self.kit, distance, drawing.length_of(line))
            strays = may_stray(self.kit, float(total.off), own, float(shared[k]))
            if total.etched is not None and strays <= float(self.kit.tolerance.mm) + STOP_ERROR:
                way = 1 if lines[line] > lines[beside[k]] else -1
                kind: On = "last" if int(beside[k]) == last and on == "line" else on
                return self._on(kind, distance, way, int(beside[k]), over)
        return None


def _lines_beside(references: References) -> dict[int, list[Reference]]:
    found: dict[int, list[Reference]] = {}
    for line, own in references.items():
        if own.kind == "line" and own.line is not None and line not in references.sides:
            found.setdefault(line, []).append(own)
            if own.line not in references.sides:
                found.setdefault(own.line, []).append(Reference("line", own.distance, -own.way, line))
    return found


def ruler_at(plan: ZonePlan, drawing: Drawing, placement: Placement) -> Floats:
    """The corners of the straight ruler where it lies for a straight line, (4, 2) in the part; empty where none does."""
    straight = placement.by in ("etched line", "edge behind", "angle", "two points")
    if drawing.trace(placement.line) is not None or not straight or plan.kit.sew_with == "walking foot":
        return np.zeros((0, 2))
    pose, _ = plan.pose_from(drawing, placement.line, placement.distance, placement.way)
    return np.array(pose.body).reshape(-1, 2)


def reference_points(plan: ZonePlan, drawing: Drawing, placement: Placement) -> Floats:
    """Where what it is laid on lies, (n, 2) mm in the part: the line sewn or drawn, or the seam beside it; empty where that is
    its own mark, or nothing.
    """
    if placement.reference is not None:
        return drawing.polylines[placement.reference]
    if placement.on != "seam" or not placement.legs or placement.legs[0].arc is not None:
        return np.zeros((0, 2))
    leg, far = placement.legs[0], float(placement.distance)
    ux, uy = (leg.end[0] - leg.start[0]) / leg.length, (leg.end[1] - leg.start[1]) / leg.length
    edges = [
        *(edge for piece in drawing.shape.uncut.pieces for edge in piece.edge_ends),
        *np.array(drawing.shape.seams).reshape(-1, 2, 2),
    ]
    best: tuple[float, Floats] | None = None
    for ends in edges:
        away = (ends - np.array(leg.start)) @ np.array([-uy, ux])
        along = (ends - np.array(leg.start)) @ np.array([ux, uy])
        shared = min(along.max(), leg.length) - max(along.min(), 0.0)
        if (
            abs(abs(away.mean()) - far) < STOP_ERROR + np.ptp(away)
            and np.ptp(away) < STOP_ERROR + 1e3 * SAME_ANGLE * np.ptp(along)
            and shared > 0
            and (best is None or shared > best[0])
        ):
            best = shared, ends
    return best[1] if best else np.zeros((0, 2))


def ends_of(placement: Placement) -> tuple[Point, Point]:
    """Where the line begins and ends as it is drawn."""
    return placement.legs[0].start, placement.legs[-1].end
