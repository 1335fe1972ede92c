"""A route through a unit in one sentence, and each piece of it."""

from __future__ import annotations

import math
from collections import Counter

import shapely

from kenzet.core.geom.affine import IDENTITY, Placing, turned
from kenzet.core.numbers.measure import COARSE, Unit, long_figure
from kenzet.core.params import forms
from kenzet.core.plan.drawing import Drawing
from kenzet.core.route.euler_walk import Leg
from kenzet.core.route.local_search import Kind
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.route.visits import UnitVisit
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.whereabouts import corner_words
from kenzet.texts import tr

_LANES = {
    DITCH: tr("along the ditch"),
    EDGE: tr("along the zone’s edge"),
    RIM: tr("along the quilt’s edge"),
    STEP: tr("straight across to the next line"),
    LINE: tr("back along the line just sewn"),
    TEXTURE: tr("across the texture"),
}


def sentence(one: UnitRoute, visit: UnitVisit, placing: Placing = IDENTITY) -> str:
    """The route in one sentence, where ``placing`` puts its unit; else as the unit is drawn alone.

    It names the corner where it begins, the direction of most lines, where most travel runs, and the corner where
    it ends.
    """
    start, end = one.ends[::-1] if visit.back else one.ends
    begins, ends = (
        corner_words(one, tuple(one.network.points[node].tolist()), placing) for node in (start, end)
    )
    ways = _ways(one, placing)
    lanes = Counter[str]()
    for k in one.travel.edges:
        lanes[_LANES[int(one.network.kinds[k])]] += float(one.network.lengths[k])  # type: ignore[assignment]
    travel = tr(", from line to line {most_common}", most_common=lanes.most_common(1)[0][0]) if lanes else ""
    many = len(one.runs)
    threads = "" if many == 1 else tr(" It takes {many} threads.", many=many)
    return tr(
        "Begin {begins}, go {ways}{travel}, and end {ends}.{threads}",
        begins=begins,
        ways=ways,
        travel=travel,
        ends=ends,
        threads=threads,
    )


def _ways(one: UnitRoute, placing: Placing) -> str:
    """The direction of most of what is sewn."""
    if any(course.closed for course in one.unit.courses):
        closed = sum(course.closed for course in one.unit.courses)
        if closed > len(one.unit.courses) / 2:
            return tr("round ring after ring")
    lean = Counter[str]()
    for course in one.unit.courses:
        if course.freehand:
            lean[tr("through the freehand texture")] += int(shapely.linestrings(course.line).length * 100)
            continue
        dx, dy = turned(placing, tuple((course.line[-1] - course.line[0]).tolist()))
        angle = math.degrees(math.atan2(dy, dx)) % 180
        name = (
            tr("up and down")
            if 60 < angle < 120
            else tr("back and forth")
            if angle < 30 or angle > 150
            else tr("back and forth on the diagonal")
        )
        lean[name] += int(math.hypot(dx, dy) * 100)
    return lean.most_common(1)[0][0] if lean else tr("along the lines")


def leg_words(laid: QuiltLayout, one: UnitRoute, leg: Leg, length: float, unit: Unit) -> w.Words:
    """What to do on this piece of the route, ``length`` mm of it."""
    far = w.shown(length, unit, COARSE[unit], about=True)
    if not leg.sews:
        return w.told("Travel {far} {lanes}.", far=far, lanes=_LANES[int(one.network.kinds[leg.edge])])
    course = one.unit.courses[int(one.network.courses[leg.edge])]
    key, drawing = one.unit.drawings[course.zone]
    if course.freehand:
        return [
            tr(
                "{name}: {texture_name}, freehand, about {length}.",
                name=laid.zone(key).name,
                texture_name=texture_name(drawing),
                length=long_figure(length, unit),
            )
        ]
    return w.told(
        "{name}, line {number}: sew {far}.", name=laid.zone(key).name, number=course.number + 1, far=far
    )


def texture_name(drawing: Drawing) -> str:
    """The name of a texture."""
    texture = getattr(drawing.fill, "texture", "")
    choices = forms(type(drawing.fill))["texture"].choices
    return next(choice.label for choice in choices if choice.key == texture)


def _percent(share: float) -> str:
    return f"{100 * share:.1f}\N{NO-BREAK SPACE}%"


def _kind_words(kind: Kind, unit: Unit) -> w.Words:
    """The travel of the route found, and of the one before."""
    return w.told(
        "{name}: {travelled} to travel, before {travelled2}.",
        name=kind.one.unit.part.name,
        travelled=long_figure(kind.travelled, unit),
        travelled2=long_figure(kind.one.travelled, unit),
    )
