"""The plan of one zone, and every figure derived from it.

Glossary: a *drawing* is one distinct set of lines with the places that share it. Blocks turned alike share one;
lines that flow from the quilt's center may differ from block to block, and so do blocks of other sizes, blocks at
the quilt's edge, and places with a fill of their own. A *line* is a stretch of a straight family, one ring of an
echo or a piece of a path.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property
from itertools import pairwise

import numpy as np

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills.base import Figure, PointFit, Site, SliverFix, SpacingSuggestion
from kenzet.core.fills.edge_remainders import EdgeRemainder, edge_remainders
from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.edge_ticks import TickedEdge, ticked_edges
from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.curves import ranked, templates
from kenzet.core.kit.edges import ArcEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.memo import Memo
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.lay_beyond import ZoneBefore
from kenzet.core.plan.lay_lines import lay_lines
from kenzet.core.plan.widest_gap import WidestGap, gap_together, quick_gap
from kenzet.core.ruler.line_references import ANGLE, LINE, MARK, SEAM, Beyond, Reference, References
from kenzet.core.ruler.offset_sums import OffsetSum, best_offset_sum
from kenzet.core.ruler.pose import Pose, pose
from kenzet.core.tolerances import CURVE_ERROR, EQUAL, ROUNDING
from kenzet.core.top.quilt_layout import ZoneShape, from_middle
from kenzet.core.top.zone import Zone
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class FamilySide:
    """How a family at ``angle`` degrees is sewn: ``ruler`` points from the needle to the ruler; the first line is on
    a seam, on a mark or ``across`` the set before; the quilt is turned ``turns`` times."""

    angle: float
    ruler: Point
    on_seam: bool
    turns: int
    across: bool = False


@dataclass(frozen=True, slots=True)
class ByCurve:
    """What a curved edge of ruler ``name``, which sews a radius of ``sewn`` mm, could make; if nothing,
    ``refused`` says why."""

    name: str
    sewn: float
    makes: tuple[SpacingSuggestion, ...]
    refused: str = ""


@dataclass(frozen=True, eq=False)
class ZonePlan:
    """Everything computed for one zone. ``drawings`` together cover every place with a fill exactly once; ``memo``
    caches derived results.

    Lines shorter than ``least`` mm are left out, and so is what the zones ``beside`` it sew of its outline.
    ``before`` are zones sewn before it, from whose lines its own can be placed.
    """

    key: str
    zone: Zone
    kit: Kit
    drawings: tuple[Drawing, ...]
    middle: Point
    memo: Memo = field(default_factory=Memo, repr=False)
    least: float = 0.0
    beside: tuple[Zone, ...] = ()
    before: tuple[ZoneBefore, ...] = ()

    def drawing_at(self, place: str = "") -> Drawing:
        """The drawing at ``place``, or the one of most places. Raises Unknown if the zone is not quilted there."""
        for drawing in self.drawings:
            if place in drawing.places or not place:
                return drawing
        raise Unknown(tr("{name} has no lines at place {place}.", name=self.zone.name, place=place), "place")

    def has_drawing_at(self, place: str) -> bool:
        """Whether the zone is quilted there."""
        return any(place in drawing.places or not place for drawing in self.drawings)

    def layered(self, layer: int) -> ZonePlan:
        """The plan of one layer alone: 0 the zone's fill, 1 the fill on top."""
        if not any(drawing.layer != layer for drawing in self.drawings):
            return self
        if layer not in self._layers:
            own = tuple(drawing for drawing in self.drawings if drawing.layer == layer)
            self._layers[layer] = replace(self, drawings=own)
        return self._layers[layer]

    @cached_property
    def _layers(self) -> dict[int, ZonePlan]:
        """Cache of the plans of single layers."""
        return {}

    @cached_property
    def _references(self) -> dict[int, References]:
        """Cache of references, by drawing."""
        return {}

    @cached_property
    def _edge_remainders(self) -> dict[int, list[EdgeRemainder]]:
        """Cache of edge remainders, by drawing."""
        return {}

    @cached_property
    def _quick_gaps(self) -> dict[int, WidestGap]:
        """Cache of widest gaps, by drawing."""
        return {}

    @property
    def lines_in_quilt(self) -> int:
        """The zone's lines over the whole quilt."""
        return sum(drawing.lines * len(drawing.places) for drawing in self.drawings)

    @property
    def lines_to_sew(self) -> int:
        """The same without lines that are only marked."""
        return sum(one.lines * len(one.places) for one in self.drawings if one.fill.sewn)

    @property
    def stitched_in_quilt(self) -> float:
        """Stitching over the whole quilt, mm."""
        return sum(drawing.stitched * len(drawing.places) for drawing in self.drawings)

    def sum(self, drawing: Drawing) -> OffsetSum:
        """The sum by which each line is placed from the one before."""
        longest = float(drawing.lengths.max(initial=0.0))
        return best_offset_sum(self.kit, drawing.fill.spacing.mm, longest)

    def widest_gap(self, drawing: Drawing) -> WidestGap:
        """F44 at the places of ``drawing``, including what is sewn over or under it."""
        return gap_together(self._together(drawing))

    def quick_gap(self, drawing: Drawing) -> WidestGap | None:
        """F44, or None if it takes long because there are thousands of lines."""
        number = self.number_of(drawing)
        if number not in self._quick_gaps:
            together = self._together(drawing)
            found = quick_gap(drawing) if len(together) == 1 else gap_together(together)
            if found is None:
                return None
            self._quick_gaps[number] = found
        return self._quick_gaps[number]

    def _together(self, drawing: Drawing) -> list[Drawing]:
        return [one for one in self.drawings if one is drawing or set(one.places) & set(drawing.places)]

    def edge_remainders(self, drawing: Drawing) -> list[EdgeRemainder]:
        """The gaps along edges parallel to the lines, the narrowest first."""
        number = self.number_of(drawing)
        if number not in self._edge_remainders:
            self._edge_remainders[number] = edge_remainders(drawing.shape.uncut, drawing.families)
        return self._edge_remainders[number]

    def number_of(self, drawing: Drawing) -> int:
        """Its index in ``drawings``, or that of equal lines planned at another time."""
        for k, one in enumerate(self.drawings):
            if one is drawing:
                return k
        for k, one in enumerate(self.drawings):
            if (one.layer, one.places, one.fill) == (drawing.layer, drawing.places, drawing.fill):
                return k
        raise Unknown(tr("{name} has other lines by now.", name=self.zone.name), "zone")

    def fix_sliver(self, drawing: Drawing, place: str = "") -> SliverFix | None:
        """The settings that would leave no sliver along an edge."""
        return drawing.fill.fix_sliver(self._site(drawing, place))

    def suggest_spacings(self, drawing: Drawing, place: str = "") -> list[SpacingSuggestion]:
        """Spacings near the present one that come out even or meet the corners."""
        return list(drawing.fill.suggest_spacings(self._site(drawing, place)))

    def by_her_curves(self, drawing: Drawing, place: str = "") -> list[ByCurve]:
        """What each curved edge would make of the fill, or why it makes nothing."""
        site, found = self._site(drawing, place), []
        for key, edge in self.kit.edges:
            sewn = edge.sewn(float(self.kit.foot_offset)) if isinstance(edge, ArcEdge) else 0.0
            if sewn <= 0 or self.kit.sew_with == "walking foot":
                continue
            name = self.kit.rulers[key].name
            try:
                found.append(ByCurve(name, sewn, tuple(drawing.fill.by_radius(site, sewn))))
            except BadValue as refused:
                found.append(ByCurve(name, sewn, (), refused.message))
        return found

    def fit_to_points(self, drawing: Drawing, points: Sequence[Point], place: str = "") -> list[PointFit]:
        """The settings that hit all of ``points`` of the zone."""
        return list(drawing.fill.fit_to_points(self._site(drawing, place), points))

    def figures(self, drawing: Drawing, place: str = "") -> list[Figure]:
        """The fill's figures besides its spacing; empty if it does not fit."""
        return list(drawing.fill.figures(self._site(drawing, place)))

    def _site(self, drawing: Drawing, place: str) -> Site:
        return site_at(drawing.shape, place or drawing.places[0], self.middle)

    def references(self, drawing: Drawing) -> References:
        """What every line of ``drawing`` is placed from, by line number."""
        number = self.number_of(drawing)
        if number not in self._references:
            self._references[number] = lay_lines(
                self.kit,
                drawing,
                self.zone.second_first,
                self._can_be_stepped(drawing),
                self.own_template(drawing),
                self._drawn_below(drawing),
                self.before,
            )
        return self._references[number]

    def line_beyond(self, beyond: Beyond) -> Floats:
        """The line of another zone from which one of its own is placed, (n, 2) mm in the part."""
        other = next(one for one in self.before if one.word == beyond.word)
        return other.drawing.polylines[beyond.line]

    def _drawn_below(self, drawing: Drawing) -> list[Drawing]:
        """The drawings below this one whose lines are only marked, not sewn."""
        return [
            one for one in self.drawings
            if one.layer < drawing.layer and not one.fill.sewn and set(drawing.places) <= set(one.places) and self.zone.marking != "ticks"
        ]  # fmt: skip

    def _can_be_stepped(self, drawing: Drawing) -> bool:
        """Whether a template or a curved edge sews the rows of the fill."""
        hints = [trace.laid_on for trace in drawing.traces]
        if self.kit.sew_with == "walking foot" or not any(hint and hint[0] == "step" for hint in hints):
            return False
        if drawing.fill.rows_by_eye:
            return True
        if self.own_template(drawing) is not None:
            return True
        arcs = [arc for trace in drawing.traces[:1] for arc in arcs_of(trace.arcs)]
        fits = [ranked(self.kit, arc.radius, arc.angle)[:1] for arc in arcs]
        return bool(arcs) and all(some and some[0].verdict != "will not do" for some in fits)

    def sides(self, drawing: Drawing) -> list[FamilySide]:
        """How each straight family is placed in the first piece of the zone, without families whose lines are all
        marked."""
        references = self.references(drawing)
        straight = references.order[: len(drawing.stretches)]
        jobs = drawing.stretches.job[straight]
        sides = []
        for number, family in enumerate(drawing.straight):
            own = straight[jobs == number]  # of the first piece, in the order of sewing
            laid = own[references.kinds[own] != MARK]
            if not len(laid):
                continue
            (nx, ny), way = family.normal, int(references.ways[laid[0]])
            turns = len(np.unique(references.ways[laid])) - 1
            on_seam = bool(references.kinds[own[0]] == SEAM)
            across = bool((references.kinds[own] == ANGLE).any())
            sides.append(FamilySide(family.angle % 180, (-nx * way, -ny * way), on_seam, turns, across))
        return sides

    def telling_line(self, drawing: Drawing) -> int:
        """The line that best shows how the others are placed: the longest one placed from another."""
        laid = self.references(drawing)
        follows = np.flatnonzero(laid.kinds == LINE)
        if not len(follows):
            follows = np.arange(len(laid))
        if not len(follows):
            raise BadValue(tr("No line lies in this zone."), "line")
        return int(follows[np.lexsort((follows, -drawing.lengths[follows].round(3)))[0]])

    def ticked(self, drawing: Drawing, unit: Unit | None = None) -> list[TickedEdge]:
        """The zone's edges with a tick for every line that meets them, in marking steps, or in steps that suit
        ``unit``."""
        open_ends = [trace.points[k] for trace in drawing.traces if not trace.closed for k in (0, -1)]
        ends = np.concatenate([drawing.stretches.ends.reshape(-1, 2), np.array(open_ends).reshape(-1, 2)])
        step = self.kit.step_in(unit or self.kit.marking_step.unit)
        return ticked_edges(drawing.region, ends, step)

    def template(self, drawing: Drawing, place: str = "") -> WaveEdge | ZigzagEdge | None:
        """The edge of a template that would sew the fill's lines."""
        return drawing.fill.template(self._site(drawing, place))

    def own_template(self, drawing: Drawing) -> WaveEdge | ZigzagEdge | None:
        """The same, if one of the kit's templates fits or nearly fits."""
        wanted = None if self.kit.sew_with == "walking foot" else self.template(drawing)
        if wanted is None or all(fit.verdict == "will not do" for fit in templates(self.kit, wanted)):
            return None
        return wanted

    def lattice(self, drawing: Drawing) -> Sequence[Straight]:
        """The even lines on which the fill's rows and repeats stand, if it repeats."""
        return drawing.fill.lattice(self._site(drawing, ""))

    def crossings(self, drawing: Drawing, line: int) -> list[float]:
        """Where other straight lines of the drawing cross ``line``, mm from its start, ascending."""
        (x0, y0), (x1, y1) = self.line_ends(drawing, line)
        start, way = np.array((x0, y0)), np.array((x1 - x0, y1 - y0))
        ends = drawing.stretches.ends.reshape(-1, 2, 2)
        first, along = ends[:, 0], ends[:, 1] - ends[:, 0]
        cross = way[0] * along[:, 1] - way[1] * along[:, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            off = first - start
            mine = (off[:, 0] * along[:, 1] - off[:, 1] * along[:, 0]) / cross
            its = (off[:, 0] * way[1] - off[:, 1] * way[0]) / cross
        meets = np.isfinite(mine) & (mine > EQUAL) & (mine < 1 - EQUAL) & (its >= -EQUAL) & (its <= 1 + EQUAL)
        found: list[float] = sorted((mine[meets] * math.hypot(*way)).tolist())
        return found

    def line_ends(self, drawing: Drawing, line: int, side: int = -1) -> tuple[Point, Point]:
        """Start and end of a stretch, or of side ``side`` (the longest if -1) of a trace as drawn."""
        if not 0 <= line < drawing.lines:
            raise Unknown(
                tr(
                    "There are {lines} lines here; there is no number {line}.",
                    lines=drawing.lines,
                    line=line + 1,
                ),
                "line",
            )
        if line < len(drawing.stretches):
            x0, y0, x1, y1 = drawing.stretches.ends[line].tolist()
            return (x0, y0), (x1, y1)
        points = drawing.traces[line - len(drawing.stretches)].polyline
        long = np.hypot(*(points[1:] - points[:-1]).T)
        k = side if 0 <= side < len(long) else int(long.argmax())
        return tuple(points[k].tolist()), tuple(points[k + 1].tolist())

    def pose(self, drawing: Drawing, line: int, side: int = -1) -> tuple[Pose, Reference, OffsetSum]:
        """Where the ruler is placed for a line, what the line is placed from, and the sum for it."""
        self.line_ends(drawing, line, side)  # raises where there is no such line
        reference = self.references(drawing)[line]
        distance = reference.distance if reference.kind in ("seam", "line") else self.kit.foot_offset
        found, total = self.pose_from(drawing, line, distance, reference.way, side)
        return found, reference, total

    def pose_from(
        self, drawing: Drawing, line: int, distance: Fraction, way: int, side: int = -1
    ) -> tuple[Pose, OffsetSum]:
        """Where the ruler is placed for a line that is ``distance`` mm from its reference, which lies behind it,
        and the sum."""
        start, end = self.line_ends(drawing, line, side)
        total = best_offset_sum(self.kit, distance, math.dist(start, end))
        if drawing.trace(line):
            return pose(drawing.region, start, end, way < 0, total, self.kit), total
        where = drawing.region.pieces[int(drawing.stretches.job[line]) // len(drawing.straight)]
        return pose(where, start, end, way < 0, total, self.kit), total

    def arc_at(self, drawing: Drawing, line: int, side: int = -1) -> Arc | None:
        """The arc of side ``side`` of a trace; None if it is straight."""
        trace = drawing.trace(line)
        if trace is None:
            return None
        (x0, y0), (x1, y1) = self.line_ends(drawing, line, side)
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        arcs = trace.arcs.tolist()
        found = [Arc((a[0], a[1]), (b[0], b[1]), a[2]) for a, b in pairwise([*arcs, arcs[0]]) if a[2]]
        near = [arc for arc in found if arc.holds(middle, 2 * CURVE_ERROR)]
        return near[0] if near else None


def site_at(shape: ZoneShape, place: str, middle: Point) -> Site:
    """The site of a fill as seen from ``place``."""
    return Site(shape.uncut, shape.part.centre, from_middle(shape.part, place, middle), lambda: shape.seams)


def arcs_of(vertices: Floats) -> list[Arc]:
    """The arcs among the sides of an open line; its vertices are (n, 3) with bulges."""
    return [
        Arc((a[0], a[1]), (b[0], b[1]), a[2]) for a, b in pairwise(vertices.tolist()) if abs(a[2]) > ROUNDING
    ]
