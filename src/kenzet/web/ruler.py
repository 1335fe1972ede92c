"""Where the ruler lies for one line, in words and in the part's coordinates."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np

from kenzet.core.bench.place_ruler import set_by_angle
from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.curves import CurveFit, TemplateFit, ranked, templates
from kenzet.core.kit.edges import StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import COARSE, Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import Reference
from kenzet.core.ruler.offset_sums import (
    Sum,
    best_sum,
    check_number,
    edge_of,
    hand_stops,
    placements,
    whole_stitches,
)
from kenzet.core.ruler.pose import Pose
from kenzet.core.tolerances import VISIBLE
from kenzet.web import models as m
from kenzet.web import show, slip
from kenzet.web import zone_models as z

CAUTION = (
    "Only a ruler foot against a thick ruler, as your machine's manual says. Needle down and the machine "
    "stopped before you move the ruler; fingers behind its edge."
)
_ON = {"seam": "the seam", "line": "your last line", "mark": "the drawn line"}


def ruler_view(found: ZonePlan, kit: Kit, body: z.RulerRequest) -> z.RulerView:
    """The ruler, or the curved edges, for one line."""
    drawing, unit = found.drawing_at(body.place), body.unit
    line = found.telling_line(drawing) if body.line is None else body.line
    wanted = found.template(drawing, body.place)
    if wanted is not None:
        return _template_view(found, drawing, line, wanted, unit)
    arc = found.arc_at(drawing, line, body.side)
    if arc is not None:
        return _curve_view(found, line, arc, unit)
    pose, reference, reckoned = found.pose(drawing, line, body.side)
    start, end = found.line_ends(drawing, line, body.side)
    trace = drawing.trace(line)
    sides = trace is not None and len(trace.points) > 2
    on, marked = _ON[reference.kind], reference.kind == "mark"
    total = "from the seam" if reference.kind == "seam" else "apart"
    moves = "long enough" if pose.moves == 0 else f"slide it along {pose.moves} ×"
    length = show.shown(math.dist(start, end), unit, COARSE[unit], about=True)
    return z.RulerView(
        line=line,
        ends=[*start, *end],
        body=[v for point in pose.body for v in point],
        etched=[list(line) for line in pose.etched],
        chosen=None if marked else pose.chosen,
        foot=list(pose.foot),
        radius=pose.foot_radius,
        stops=_stops(pose, unit, sides),
        laid=_laid_words(found, drawing.region, pose, reference, reckoned, unit),
        sum=None if marked else slip.the_sum(reckoned, found.kit, unit, on, total),
        curves=[],
        rulers=[] if marked else _choices(kit, reckoned.spacing, math.dist(start, end), unit),
        ruler=reckoned.ruler,
        rows=[
            m.Row(label=["This side" if sides else "This line"], words=[length]),
            *([m.Row(label=["Your ruler"], words=[moves])] if pose.body else []),
            *_checks(found.kit, reckoned, int(found.references(drawing).runs[line]), unit),
            *(_stitches(found.kit, math.dist(start, end)) if sides else _hand(found, drawing, line, unit)),
        ],
        tag=_tag(reckoned, on, unit, marked),
        caution=CAUTION,
    )


def _choices(kit: Kit, distance: Fraction, length: float, unit: Unit) -> list[z.RulerChoice]:
    """Her straight rulers for a line, the best first, those that must not be used last with the reason."""
    found = []
    for key, ruler in kit.rulers.items():
        edges = [edge for edge in ruler.edges if isinstance(edge, StraightEdge)]
        if not edges:
            continue
        fault = ruler_fault(kit.foot, ruler) or foot_fault(kit.machine, kit.foot)
        total = best_sum(kit, distance, length, key)
        many = placements(length, max(float(edge.length) for edge in edges))
        words: m.Words = ["no mark for it"]
        if total.etched is not None:
            words = (
                ["its edge"] if total.etched == 0 else [show.shown(total.etched, unit, bare=True), " mark"]
            )
        elif total.behind:
            words = ["edge behind"]
        words.append(", laid once" if many == 1 else f", laid {many} ×")
        order = (bool(fault), not total.can_be_laid, many, max(edge.length for edge in edges))
        view = z.RulerChoice(
            key=key,
            name=ruler.name,
            words=[] if fault else words,
            fits=not fault and total.can_be_laid,
            fault=fault,
        )
        found.append((order, view))
    return [view for _, view in sorted(found, key=lambda pair: pair[0])]


def _checks(kit: Kit, total: Sum, run: int, unit: Unit) -> list[m.Row]:
    """What must lie under another etched line when all is right: a line some way back, of the ``run`` that it follows."""
    edge = edge_of(kit, total)
    found = check_number(total, edge, run) if edge and total.etched is not None else None
    if found is None:
        return []
    back, mark = found
    words: m.Words = ["the ", show.shown(mark, unit, bare=True), " mark"]
    return [m.Row(label=[f"Check: {back} lines back lies under"], words=words)]


def _stitches(kit: Kit, side: float) -> list[m.Row]:
    """F40: a stitch length with which a stitch ends at the turn."""
    many, long = whole_stitches(side, float(kit.stitch.mm))
    return [m.Row(label=["To end on a whole stitch"], words=[f"{many} of {long:.2f} mm"])]


def _hand(found: ZonePlan, drawing: Drawing, line: int, unit: Unit) -> list[m.Row]:
    """Where the hand on the ruler moves on; at a crossing, if there is one within its span."""
    start, end = found.line_ends(drawing, line)
    stops = hand_stops(math.dist(start, end), float(found.kit.hand.mm), found.crossings(drawing, line))
    if not stops or found.kit.sew_with == "walking foot":
        return []
    words: m.Words = []
    for stop in stops[:4]:
        words += [" · "] if words else []
        words.append(show.shown(stop, unit, COARSE[unit], about=True))
    return [
        m.Row(label=["Needle down, move your hand at"], words=[*words, *([" …"] if len(stops) > 4 else [])])
    ]


def _template_view(
    found: ZonePlan, drawing: Drawing, line: int, wanted: WaveEdge | ZigzagEdge, unit: Unit
) -> z.RulerView:
    """A wave or a zigzag: which of her templates sews it, and where its edge lies (F29)."""
    kit, trace = found.kit, drawing.trace(line)
    points = trace.polyline if trace is not None else np.array(found.line_ends(drawing, line))
    wave = isinstance(wanted, WaveEdge)
    foot = show.shown(kit.reach, unit)
    laid: m.Words = [
        "The needle runs ",
        foot,
        " beside the plastic: lay its middle that far off the line’s own middle",
    ]
    depth = wanted.depth if isinstance(wanted, WaveEdge) else wanted.rise
    if depth / 2 < float(kit.reach):
        laid.append("; that is off the plastic in the hollows, so draw a base line and lay the crests on it")
    fits = templates(kit, wanted)
    laid.append(
        ". Move it on where it is lowest or highest, not on a slope." if wave else ". Move it on at a point."
    )
    if not fits:
        laid = [
            f"You have no {'wave' if wave else 'zigzag'} at hand for it: draw it, or use a template of these measures."
        ]
    sizes = (
        [("Crest to crest", wanted.period), ("Crest to trough", wanted.depth)]
        if isinstance(wanted, WaveEdge)
        else [("Point to point", wanted.pitch), ("How high", wanted.rise)]
    )
    return z.RulerView(
        line=line,
        ends=points.ravel().tolist(),
        body=[],
        etched=[],
        chosen=None,
        foot=points[0].tolist(),
        radius=float(kit.reach),
        stops=[],
        laid=laid,
        sum=None,
        rows=[
            *(
                m.Row(label=[label], words=[show.shown(mm, unit, COARSE[unit] / 2, about=True)])
                for label, mm in sizes
            ),
            *(
                []
                if isinstance(wanted, WaveEdge)
                else _stitches(kit, math.hypot(wanted.pitch / 2, wanted.rise))
            ),
        ],
        curves=[fit_words(kit, fit, unit) for fit in fits[:6]],
        rulers=[],
        ruler="",
        tag=[],
        caution=CAUTION,
    )


def _curve_view(found: ZonePlan, line: int, arc: Arc, unit: Unit) -> z.RulerView:
    """A side that is an arc: the radii of the edges that sew it (F25), its chord and rise, and her edges for it."""
    foot, radius = float(found.kit.reach), arc.radius
    inside = show.shown(radius + foot, unit, COARSE[unit] / 4, about=True)
    laid: m.Words = [
        "Its radius at the needle is ",
        show.shown(radius, unit, COARSE[unit] / 4, about=True),
        ". ",
    ]
    if radius > foot:
        outside = show.shown(radius - foot, unit, COARSE[unit] / 4, about=True)
        laid += [
            "With your foot that is a ruler's outside edge of ",
            outside,
            " or an inside edge of ",
            inside,
        ]
    else:
        laid += [
            "Your foot goes round no outside edge as tight as that; an inside edge of ",
            inside,
            " does it",
        ]
    laid.append(". Keep the plastic as far as your foot's offset from both ends.")
    rows = [("Chord", arc.chord), ("Rise", arc.rise), ("Along the curve", arc.radius * abs(arc.angle))]
    return z.RulerView(
        line=line,
        ends=[v for k in range(33) for v in arc.at(k / 32)],
        body=[],
        etched=[],
        chosen=None,
        foot=list(arc.start),
        radius=foot,
        stops=[],
        laid=laid,
        sum=None,
        rows=[
            m.Row(label=[label], words=[show.shown(mm, unit, COARSE[unit] / 2, about=True)])
            for label, mm in rows
        ],
        rulers=[],
        ruler="",
        curves=[fit_words(found.kit, fit, unit) for fit in ranked(found.kit, arc.radius, arc.angle)[:6]],
        tag=[],
        caution=CAUTION,
    )


def fit_words(kit: Kit, fit: CurveFit | TemplateFit, unit: Unit) -> z.CurveView:
    """One of her edges for a curve: which, by how much it strays, how often it is moved."""
    side, words = (
        (fit.edge.side, _stray(fit, unit)) if isinstance(fit, CurveFit) else ("", _unlike(fit, unit))
    )
    moves = "" if fit.placements == 1 else f", moved {fit.placements - 1} ×"
    begins = [f"its {side}{moves}: "] if side else []
    return z.CurveView(
        name=kit.rulers[fit.ruler].name,
        side=side,
        words=[*begins, *words, *([] if side else [moves])],
        verdict=fit.verdict,
    )


def _stray(fit: CurveFit, unit: Unit) -> m.Words:
    """In sixty-fourths."""
    if abs(fit.stray) < VISIBLE:
        return ["right"]
    way = "further out" if fit.stray > 0 else "flatter"
    return [show.shown(abs(fit.stray), unit, COARSE[unit] / 4, about=True), f" {way} in the middle"]


def _unlike(fit: TemplateFit, unit: Unit) -> m.Words:
    def off(mm: float, more: str, less: str) -> m.Words:
        if abs(mm) < VISIBLE:
            return []
        return [show.shown(abs(mm), unit, COARSE[unit] / 2, about=True), f" {more if mm > 0 else less}"]

    longer, higher = off(fit.longer, "longer", "shorter"), off(fit.higher, "higher", "lower")
    return [*longer, *([", "] if longer and higher else []), *higher] or ["right"]


def _laid_words(
    found: ZonePlan, region: Region, pose: Pose, reference: Reference, reckoned: Sum, unit: Unit
) -> m.Words:
    if reference.kind == "mark":
        foot = show.shown(found.kit.reach, unit)
        said = "No seam gives this line its place: draw it, and lay the ruler's edge "
        return [said, foot, " beside it.", *_by_angle(found.kit, region, pose, unit)]
    return [f"Laid on {_ON[reference.kind]}, ", show.shown(reckoned.spacing, unit), " away."]


def _by_angle(kit: Kit, region: Region, pose: Pose, unit: Unit) -> m.Words:
    """The other way to set a first line (F7)."""
    way = set_by_angle(region, pose, kit)
    if way is None:
        return []
    edge = region.edges[way.edge]
    line = "a line across it" if way.degrees == 90 else f"its {way.degrees:g}° line"
    name = edge_names(region)[way.edge]
    return [
        f" Or set it without drawing: the ruler with {line} on the {name}, its working edge ",
        show.shown(way.along, unit, COARSE[unit] / 2, about=True),
        f" from that edge's {edge.datum} corner.",
    ]


def _stops(pose: Pose, unit: Unit, sides: bool) -> list[z.StopView]:
    start, end = pose.stops
    alike = start.along is not None and end.along is not None and abs(start.along - end.along) < VISIBLE
    words: list[m.Words] = [_stop_words(start.along, "starts", unit), _stop_words(end.along, "stops", unit)]
    if sides:
        words = [["Pivot at each corner with the needle down, then lay the ruler along the next side."], []]
    elif alike:
        crosses = show.shown(start.along or 0.0, unit, COARSE[unit] / 2, about=True)
        words = [
            ["Start and stop with the needle on the seam; there the ruler's edge is ", crosses, " along it."],
            [],
        ]
    return [
        z.StopView(needle=list(stop.needle), edge=list(stop.edge), words=said)
        for stop, said in zip(pose.stops, words, strict=True)
    ]


def _stop_words(along: float | None, does: str, unit: Unit) -> m.Words:
    if along is None:
        return [f"The needle {does} at the line's end."]
    crosses = show.shown(along, unit, COARSE[unit] / 2, about=True)
    return [f"The needle {does} on the seam; the ruler's edge crosses that seam ", crosses, " away."]


def _tag(reckoned: Sum, on: str, unit: Unit, marked: bool) -> m.Words:
    if marked:
        return ["edge ", show.shown(reckoned.foot, unit), " beside the drawn line"]
    if reckoned.etched is not None:
        mark: m.Words = (
            ["edge"] if reckoned.etched == 0 else [show.shown(reckoned.etched, unit, bare=True), " mark"]
        )
        return [*mark, f" on {on}"]
    if reckoned.behind > 0:
        return ["edge ", show.shown(reckoned.behind, unit), f" behind {on}"]
    return ["no etched line fits"]
