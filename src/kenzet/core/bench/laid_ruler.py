"""The outline of the ruler as placed for a line: a straight ruler, the curved edge for an arc, or a template."""

from __future__ import annotations

import math

import numpy as np

from kenzet.core.bench.place_ruler import lay_on_arc, placement_for
from kenzet.core.bench.readout import Lay
from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.ruler_outline import plastic
from kenzet.core.placing.cloth import ruler_at
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan

NOTHING: Floats = np.zeros((0, 2))


def laid_ruler(plan: ZonePlan, drawing: Drawing, on: Placement, back: bool = False) -> Floats:
    """The outline (n, 2) of the ruler in its first position, mm in the part's coordinates; empty if no ruler is used.

    For a line of several legs it is placed for the leg sewn first, which is the last one if the line is sewn
    ``back``.
    """
    if plan.kit.sew_with == "walking foot" or not on.legs:
        return NOTHING
    number = len(on.legs) - 1 if back else 0
    fit = on.fits[min(number, len(on.fits) - 1)] if on.fits else None
    if on.by == "curve" and isinstance(fit, CurveFit):
        return _along_arc(plan, on.legs[number], fit)
    if on.by == "template" and isinstance(fit, TemplateFit):
        return _template(plan, drawing, on, fit)
    if on.by in ("tilt", "two points") and on.legs[number].arc is None:
        return _along(plan, on.legs[number], on.way)
    if (
        on.by in ("etched line", "edge behind")
        and drawing.trace(on.line) is not None
        and on.legs[number].arc is None
    ):
        return _along(plan, on.legs[number], on.sides[number].way if on.sides else on.way)
    return ruler_at(plan, drawing, on)


def _along_arc(plan: ZonePlan, leg: Leg, fit: CurveFit) -> Floats:
    return NOTHING if leg.arc is None else ruler_on_arc(plan.kit, leg.arc, fit)


def ruler_on_arc(kit: Kit, arc: Arc, fit: CurveFit) -> Floats:
    """The outline of the ruler whose edge sews an arc, placed so that the needle passes through both ends."""
    edges, foot = kit.rulers[fit.ruler].edges, float(kit.foot_offset)
    lay = lay_on_arc(fit.edge, foot, arc.start, arc.end, arc.bulge)
    return lay.put(_outline(plastic(edges, edges.index(fit.edge), foot).rings))


def _outline(rings: tuple[Floats, ...]) -> Floats:
    """The rings of a ruler as one outline: around, across to the hole, and around that the other way."""
    if len(rings) == 1:
        return rings[0]
    edge, other = (np.vstack([ring, ring[:1]]) for ring in rings)
    outline: Floats = np.vstack([edge, other[::-1]])
    return outline


def stop_dots(arc: Arc, fit: CurveFit) -> tuple[Point, Point]:
    """The points on the ruler's edge when the needle is at the start and at the end of an arc: one foot offset
    away from them."""
    cx, cy = arc.centre
    share = 1 + (fit.edge.radius - fit.sewn) / arc.radius
    start, end = ((cx + (x - cx) * share, cy + (y - cy) * share) for x, y in (arc.start, arc.end))
    return start, end


def _template(plan: ZonePlan, drawing: Drawing, on: Placement, fit: TemplateFit) -> Floats:
    repeat = fit.edge.period if isinstance(fit.edge, WaveEdge) else fit.edge.pitch
    trace = drawing.trace(on.line)
    long = on.length if trace is not None and trace.closed else math.dist(on.legs[0].start, on.legs[-1].end)
    if long < 2 * repeat:
        return NOTHING  # a scrap of a row does not show where it waves
    try:
        found = placement_for(plan, drawing, on.line, -1, plan.kit, fit.ruler)
    except BadValue:
        return NOTHING
    edges = plan.kit.rulers[found.ruler].edges
    return found.lay.put(plastic(edges, found.edge, float(plan.kit.foot_offset)).rings[0])


def _along(plan: ZonePlan, leg: Leg, way: int) -> Floats:
    """The longest straight edge, placed one foot offset beside the leg."""
    edges = [(key, edge) for key, edge in plan.kit.straight]
    if not edges:
        return NOTHING
    key, edge = max(edges, key=lambda one: one[1].length)
    (x0, y0), (x1, y1) = leg.start, leg.end
    if way > 0:  # the plastic lies at the right of the line as it is drawn
        x0, y0, x1, y1 = x1, y1, x0, y0
    angle = math.atan2(y1 - y0, x1 - x0)
    foot = float(plan.kit.foot_offset)
    lay = Lay(
        (x0 + x1) / 2 - foot * math.sin(angle), (y0 + y1) / 2 + foot * math.cos(angle), math.degrees(angle)
    )
    mine = plan.kit.rulers[key].edges
    return lay.put(plastic(mine, mine.index(edge), foot).rings[0])
