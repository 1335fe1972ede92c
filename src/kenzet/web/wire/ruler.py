"""Where the ruler is placed for one line, in words and in the part's coordinates."""

from __future__ import annotations

import math

import numpy as np

from kenzet.core.bench.laid_ruler import ruler_on_arc, stop_dots
from kenzet.core.geom.arcs import Arc
from kenzet.core.kit.curves import CurveFit, ranked, templates
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import COARSE, Unit
from kenzet.core.placing.as_it_lies import as_it_lies
from kenzet.core.placing.place_line import planned
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.pose import Pose
from kenzet.core.tolerances import SAME_PLACE, VISIBLE
from kenzet.say import sum_words
from kenzet.say import words as w
from kenzet.say.placing_words import lay_words, mark_tag, on_words, seen_words
from kenzet.say.ruler_words import (
    _stop_words,
    caution_of,
    check_rows,
    fit_words,
    hand_rows,
    laid_words,
    ruler_choices,
    stitch_rows,
)
from kenzet.say.sum_words import tag
from kenzet.texts import tr
from kenzet.web.wire import zone as z
from kenzet.web.wire.drawn import flat


def ruler_view(found: ZonePlan, kit: Kit, body: z.RulerRequest) -> z.RulerView:
    """The ruler, or the curved edges, for one line."""
    drawing, unit = found.drawing_at(body.place), body.unit
    line = found.telling_line(drawing) if body.line is None else body.line
    found.line_ends(drawing, line, body.side)  # raises where there is no such line
    placing = drawing.shape.part.places[body.place or drawing.places[0]]
    own = planned(found, drawing, line)
    on = as_it_lies(own, placing)
    wanted = found.template(drawing, body.place)
    if wanted is not None:
        return _template_view(found, drawing, on, wanted, unit)
    arc = found.arc_at(drawing, line, body.side)
    if arc is not None:
        return _curve_view(found, on, arc, _edge_for(own, arc), unit)
    side = _on_side(on, body.side)
    pose, total = found.pose_from(drawing, line, side.distance or found.kit.foot_offset, side.way, body.side)
    start, end = found.line_ends(drawing, line, body.side)
    trace = drawing.trace(line)
    sides = trace is not None and len(trace.points) > 2
    name, marked = on_words(side), side.total is None
    result = tr("from the seam") if side.on == "seam" else tr("apart")
    moves = tr("long enough") if pose.moves == 0 else tr("slide it along {moves} ×", moves=pose.moves)
    length = w.shown(math.dist(start, end), unit, COARSE[unit], about=True)
    return z.RulerView(
        line=line,
        ends=[*start, *end],
        body=[v for point in pose.body for v in point],
        etched=[list(line) for line in pose.etched],
        chosen=None if marked else pose.chosen,
        foot=list(pose.foot),
        radius=pose.foot_radius,
        stops=_stops(found.kit, pose, unit, sides),
        laid=laid_words(found.kit, drawing.region, pose, side, unit),
        sum=None if marked else sum_words.the_sum(total, found.kit, unit, name, result),
        curves=[],
        rulers=[]
        if marked or found.kit.sew_with == "walking foot"
        else ruler_choices(kit, total.spacing, math.dist(start, end), unit),
        ruler=total.ruler,
        rows=[
            w.Row(label=[tr("This side") if sides else tr("This line")], words=[length]),
            *([w.Row(label=[tr("Your ruler")], words=[moves])] if pose.body else []),
            *check_rows(on, unit),
            *(
                stitch_rows(found.kit, math.dist(start, end))
                if sides
                else hand_rows(found, drawing, line, unit)
            ),
        ],
        tag=tag(total, seen_words(side), unit) if side.total else mark_tag(found.kit, side, unit),
        caution=caution_of(found.kit),
    )


def _on_side(on: Placement, side: int) -> Placement:
    """The placement of side ``side`` of a line with corners; of the line if it has one placement for all."""
    return on.sides[side] if 0 <= side < len(on.sides) else on.sides[0] if on.sides else on


def _template_view(
    found: ZonePlan, drawing: Drawing, on: Placement, wanted: WaveEdge | ZigzagEdge, unit: Unit
) -> z.RulerView:
    """A wave or a zigzag: which template sews it, and where its edge is placed (F29)."""
    kit, line, trace = found.kit, on.line, drawing.trace(on.line)
    points = trace.polyline if trace is not None else np.array(found.line_ends(drawing, line))
    fits = templates(kit, wanted) if kit.sew_with == "ruler foot" else []
    sizes = (
        [(tr("Crest to crest"), wanted.period), (tr("Crest to trough"), wanted.depth)]
        if isinstance(wanted, WaveEdge)
        else [(tr("Point to point"), wanted.pitch), (tr("How high"), wanted.rise)]
    )
    return z.RulerView(
        line=line,
        ends=points.ravel().tolist(),
        body=[],
        etched=[],
        chosen=None,
        foot=points[0].tolist(),
        radius=float(kit.foot_offset),
        stops=[],
        laid=_by_template(kit, on, wanted, bool(fits), unit),
        sum=None,
        rows=[
            *(
                w.Row(label=[label], words=[w.shown(mm, unit, COARSE[unit] / 2, about=True)])
                for label, mm in sizes
            ),
            *(
                []
                if isinstance(wanted, WaveEdge)
                else stitch_rows(kit, math.hypot(wanted.pitch / 2, wanted.rise))
            ),
        ],
        curves=[fit_words(kit, fit, unit) for fit in fits[:6]],
        rulers=[],
        ruler="",
        tag=[],
        caution=caution_of(found.kit),
    )


def _by_template(
    kit: Kit, on: Placement, wanted: WaveEdge | ZigzagEdge, has_one: bool, unit: Unit
) -> w.Words:
    """How it is placed, and where the needle runs beside it."""
    if kit.sew_with == "walking foot":
        return lay_words(kit, on, unit)
    wave = isinstance(wanted, WaveEdge)
    if not has_one:
        kind = tr("wave") if wave else tr("zigzag")
        return w.told(
            "{lay} You have no {kind} at hand for it: a template of this size would guide the foot.",
            lay=lay_words(kit, on, unit),
            kind=kind,
        )
    laid: w.Words = w.told(
        "{lay} The needle runs {offset} beside the plastic: place its middle that far off the line’s own middle",
        lay=lay_words(kit, on, unit),
        offset=w.shown(kit.foot_offset, unit),
    )
    depth = wanted.depth if isinstance(wanted, WaveEdge) else wanted.rise
    if depth / 2 < float(kit.foot_offset):
        laid.append(
            tr("; that is off the plastic in the hollows, so mark a base line and put the crests on it")
        )
    laid.append(
        tr(". Move it on where it is lowest or highest, not on a slope.")
        if wave
        else tr(". Move it on at a point.")
    )
    return laid


def _edge_for(on: Placement, arc: Arc) -> CurveFit | None:
    """The edge with which a placement, in the part's coordinates, sews one of its arcs."""
    for leg, fit in zip(on.legs, on.fits, strict=False):
        if leg.arc is not None and isinstance(fit, CurveFit) and math.dist(leg.start, arc.start) < SAME_PLACE:
            return fit
    return next((fit for fit in on.fits if isinstance(fit, CurveFit)), None)


def _curve_view(found: ZonePlan, on: Placement, arc: Arc, edge: CurveFit | None, unit: Unit) -> z.RulerView:
    """A side that is an arc: the radii of the edges that sew it (F25), its chord and rise, and the edges for it;
    ``edge`` is that of its placement."""
    foot, radius = float(found.kit.foot_offset), arc.radius
    by_ruler = found.kit.sew_with == "ruler foot" and on.by not in ("ditch", "tape")
    laid = [
        *lay_words(found.kit, on, unit),
        *(_radii(radius, foot, unit) if by_ruler else []),
    ]
    if on.by == "curve":
        laid.append(tr(" Keep the plastic as far as your foot's offset from both ends."))
    rows = [
        (tr("Chord"), arc.chord),
        (tr("Rise"), arc.rise),
        (tr("Along the curve"), arc.radius * abs(arc.angle)),
    ]
    found_fits = ranked(found.kit, arc.radius, arc.angle) if by_ruler else []
    best = edge if on.by == "curve" else None
    found_fits.sort(key=lambda fit: fit != best)
    return z.RulerView(
        line=on.line,
        ends=[v for k in range(33) for v in arc.at(k / 32)],
        body=flat(ruler_on_arc(found.kit, arc, best)) if best else [],
        etched=[],
        chosen=None,
        foot=list(arc.start),
        radius=foot,
        stops=[
            z.StopView(needle=list(end), edge=list(dot), words=[])
            for end, dot in zip((arc.start, arc.end), stop_dots(arc, best), strict=True)
        ]
        if best
        else [],
        laid=laid,
        sum=None,
        rows=[
            w.Row(label=[label], words=[w.shown(mm, unit, COARSE[unit] / 2, about=True)])
            for label, mm in rows
        ],
        rulers=[],
        ruler="",
        curves=[fit_words(found.kit, fit, unit) for fit in found_fits[:6]],
        tag=mark_tag(found.kit, on, unit) if best else [],
        caution=caution_of(found.kit),
    )


def _radii(radius: float, foot: float, unit: Unit) -> w.Words:
    """The radii in mm of an arc as sewn, and of the edges that sew it."""
    inside = w.shown(radius + foot, unit, COARSE[unit] / 4, about=True)
    said: w.Words = w.told(
        " Its radius at the needle is {radius}. ", radius=w.shown(radius, unit, COARSE[unit] / 4, about=True)
    )
    if radius <= foot:
        return [
            *said,
            *w.told(
                "Your foot cannot follow an outside edge as tight as that. Use an inside edge with a radius of {inside}.",
                inside=inside,
            ),
        ]
    outside = w.shown(radius - foot, unit, COARSE[unit] / 4, about=True)
    return [
        *said,
        *w.told(
            "With your foot, use a ruler’s outside edge with a radius of {outside}, or an inside edge of {inside}.",
            outside=outside,
            inside=inside,
        ),
    ]


def _stops(kit: Kit, pose: Pose, unit: Unit, sides: bool) -> list[z.StopView]:
    start, end = pose.stops
    alike = start.along is not None and end.along is not None and abs(start.along - end.along) < VISIBLE
    words: list[w.Words] = [_stop_words(start.along, "starts", unit), _stop_words(end.along, "stops", unit)]
    if kit.sew_with == "walking foot":
        words = [[tr("Pivot at each corner with the needle down.")], []] if sides else [[], []]
    elif sides:
        words = [
            [tr("Pivot at each corner with the needle down, then place the ruler along the next side.")],
            [],
        ]
    elif alike:
        crosses = w.shown(start.along or 0.0, unit, COARSE[unit] / 2, about=True)
        words = [
            w.told(
                "Start and stop with the needle on the seam; there the ruler's edge is {crosses} along it.",
                crosses=crosses,
            ),
            [],
        ]
    return [
        z.StopView(needle=list(stop.needle), edge=list(stop.edge), words=said)
        for stop, said in zip(pose.stops, words, strict=True)
    ]
