"""Where a ruler is placed for a planned line: straight lines, arcs, waves and zigzags.

Glossary: as in ``bench``. A lay is found such that the needle's line passes through the ends of the planned line,
or runs along the middle of a wave.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from kenzet.core.bench.readout import Lay
from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Arc, Point
from kenzet.core.geom.region import Floats, Region
from kenzet.core.kit.curves import CurveFit, TemplateFit, ranked, templates
from kenzet.core.kit.edges import ArcEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.offset_sums import edge_of
from kenzet.core.ruler.pose import Pose
from kenzet.core.tolerances import CREST, ROUNDING, STOP_ERROR
from kenzet.texts import tr

_SAME_LEAN = 0.05  # degrees


def _straight(pose: Pose) -> Lay:
    (x0, y0), (x1, y1), _, (x3, y3) = pose.body
    if (x1 - x0) * (y3 - y0) - (y1 - y0) * (x3 - x0) < 0:  # the plastic lies at the right: run the other way
        x0, y0, x1, y1 = x1, y1, x0, y0
    return Lay((x0 + x1) / 2, (y0 + y1) / 2, math.degrees(math.atan2(y1 - y0, x1 - x0)))


def _on_arc(arc: Arc, kit: Kit) -> RulerPlacement:
    fits = ranked(kit, arc.radius, arc.angle)
    if not fits:
        raise BadValue(tr("This line is a curve; this ruler has no curved edge."), "ruler")
    best = fits[0]
    edges = kit.rulers[best.ruler].edges
    lay = lay_on_arc(best.edge, float(kit.foot_offset), arc.start, arc.end, arc.bulge)
    return RulerPlacement(best.ruler, edges.index(best.edge), lay, best)


def lay_on_arc(edge: ArcEdge, foot: float, start: Point, end: Point, bulge: float) -> Lay:
    """The lay for which the needle passes through both ends of an arc that leaves ``start`` with ``bulge``;
    through its midpoint if the edge's circle is narrower than its chord. An outside edge is placed towards the
    arc's center."""
    sewn, outside = edge.sewn(foot), edge.side == "outside"
    if (bulge > 0) != outside:  # the plastic has to come to lie at the left
        start, end = end, start
    half = math.dist(start, end) / 2
    up = 1.0 if outside else -1.0
    rise = math.sqrt(max(sewn**2 - half**2, 0.0))
    level = up * (edge.radius - rise)  # of the arc's ends, in the ruler's own coordinates
    angle = math.atan2(end[1] - start[1], end[0] - start[0])
    mx, my = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    return Lay(mx + level * math.sin(angle), my - level * math.cos(angle), math.degrees(angle))


def _on_template(
    plan: ZonePlan, drawing: Drawing, line: int, wanted: WaveEdge | ZigzagEdge, kit: Kit
) -> RulerPlacement:
    """The template placed with one of its hollows on a hollow of the line, near the line's middle."""
    fits = templates(kit, wanted)
    if not fits:
        what = "wave" if isinstance(wanted, WaveEdge) else "zigzag"
        raise BadValue(tr("This line is a {what}; this ruler has no such edge.", what=what), "ruler")
    best = fits[0]
    trace = drawing.trace(line)
    points = trace.points if trace is not None else np.array(plan.line_ends(drawing, line))
    way = points[-1] - points[0]
    if trace is not None and trace.closed:
        points, way = _upper_side(points), np.array([1.0, 0.0])
    depth = best.edge.depth if isinstance(best.edge, WaveEdge) else best.edge.rise
    return RulerPlacement(
        best.ruler,
        kit.rulers[best.ruler].edges.index(best.edge),
        _on_crest(points, way, depth / 2 - float(kit.foot_offset)),
        best,
    )


def _upper_side(points: Floats) -> Floats:
    """The middle half of the upper side of a closed line, from left to right."""
    (left, low), (right, high) = points.min(axis=0), points.max(axis=0)
    inner = np.abs(points[:, 0] - (left + right) / 2) < (right - left) / 4
    found = points[inner & (points[:, 1] > (low + high) / 2)]
    side: Floats = found[np.argsort(found[:, 0])]
    return side


def _on_crest(points: Floats, way: Floats, level: float) -> Lay:
    """The lay on a wave that runs in the direction ``way``: the crest on its left that is nearest to the middle
    lies ``level`` above the ruler's middle."""
    ux, uy = (way / math.hypot(*way)).tolist()
    across = (points - points[0]) @ np.array([-uy, ux])
    along = (points - points[0]) @ np.array([ux, uy])
    crests = across >= across.max() - CREST * (across.max() - across.min() + ROUNDING)
    nearest = np.argmin(np.where(crests, np.abs(along - along[-1] / 2), np.inf))
    x, y = points[nearest].tolist()
    return Lay(x + level * uy, y - level * ux, math.degrees(math.atan2(uy, ux)))


@dataclass(frozen=True, slots=True)
class ByAngle:
    """How to place a first line without a mark: the etched line of ruler ``ruler`` (its key) at ``degrees`` (90:
    one of those across) lies on edge number ``edge``, and the working edge crosses that edge ``along`` mm from
    its datum corner."""

    ruler: str
    degrees: float
    edge: int
    along: float


def set_by_angle(region: Region, pose: Pose, kit: Kit) -> ByAngle | None:
    """How a line that is parallel to no seam is placed with a perpendicular or slanted etched line on a seam that
    it meets."""
    for stop in pose.stops:
        if stop.along is None:
            continue
        other = pose.stops[1].needle if stop is pose.stops[0] else pose.stops[0].needle
        way = math.degrees(math.atan2(other[1] - stop.needle[1], other[0] - stop.needle[0]))
        for number, edge in enumerate(region.edges):
            along = math.dist(edge.start, stop.edge)
            beyond = abs(along + math.dist(stop.edge, edge.end) - edge.length) > STOP_ERROR
            if beyond or not 0 < along < edge.length:
                continue
            met = abs((edge.angle - way + 90) % 180 - 90)
            for key, straight in kit.straight:
                leans = [*straight.angles, *([90.0] if straight.across else [])]
                if any(abs(met - min(lean, 180 - lean)) < _SAME_LEAN for lean in leans):
                    return ByAngle(key, round(met, 1), number, along)
    return None


@dataclass(frozen=True, slots=True)
class RulerPlacement:
    """Edge number ``edge`` of ruler ``ruler`` (its key), where it is placed, and how well it fits a curve."""

    ruler: str
    edge: int
    lay: Lay
    fit: CurveFit | TemplateFit | None = None


def placement_for(
    plan: ZonePlan, drawing: Drawing, line: int, side: int, kit: Kit, ruler: str = ""
) -> RulerPlacement:
    """How to place the best ruler, or ``ruler``, for ``line``. Raises BadValue if no ruler can sew it."""
    own = kit.for_zone(ruler or None, "ruler foot")
    if not own.edges:
        raise BadValue(tr("No ruler at hand suits your foot and machine."), "ruler")
    wanted = plan.template(drawing)
    if wanted is not None:
        return _on_template(plan, drawing, line, wanted, own)
    arc = plan.arc_at(drawing, line, side)
    if arc is not None:
        return _on_arc(arc, own)
    pose, _, total = replace(plan, kit=own).pose(drawing, line, side)
    edge = edge_of(own, total)
    if edge is None or not pose.body:
        raise BadValue(tr("This line is straight. Use a straight edge."), "ruler")
    return RulerPlacement(total.ruler, own.rulers[total.ruler].edges.index(edge), _straight(pose))
