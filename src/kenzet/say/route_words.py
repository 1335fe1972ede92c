"""A way through a unit in a sentence, and each piece of it."""

from __future__ import annotations

import math
from collections import Counter

import shapely

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

_LANES = {
    DITCH: "along the ditch",
    EDGE: "along the zone’s edge",
    RIM: "along the quilt’s edge",
    STEP: "straight across to the next line",
    LINE: "back along the line just sewn",
    TEXTURE: "across the texture",
}


def sentence(one: UnitRoute, visit: UnitVisit) -> str:
    """How it goes, in one sentence.

    It begins in a corner, says the lean of most lines and the lane of most travelling, and ends in a corner.
    """
    start, end = one.ends[::-1] if visit.back else one.ends
    begins, ends = (corner_words(one, tuple(one.network.points[node].tolist())) for node in (start, end))
    ways = _ways(one)
    lanes = Counter[str]()
    for k in one.travel.edges:
        lanes[_LANES[int(one.network.kinds[k])]] += float(one.network.lengths[k])  # type: ignore[assignment]
    travel = f", from line to line {lanes.most_common(1)[0][0]}" if lanes else ""
    many = len(one.runs)
    threads = "" if many == 1 else f" It takes {many} threads."
    return f"Begin {begins}, go {ways}{travel}, and end {ends}.{threads}"


def _ways(one: UnitRoute) -> str:
    """Which way most of what is sewn runs."""
    if any(course.closed for course in one.unit.courses):
        closed = sum(course.closed for course in one.unit.courses)
        if closed > len(one.unit.courses) / 2:
            return "round ring after ring"
    lean = Counter[str]()
    for course in one.unit.courses:
        if course.freehand:
            lean["through the freehand texture"] += int(shapely.linestrings(course.line).length * 100)
            continue
        dx, dy = (course.line[-1] - course.line[0]).tolist()
        angle = math.degrees(math.atan2(dy, dx)) % 180
        name = (
            "up and down"
            if 60 < angle < 120
            else "back and forth"
            if angle < 30 or angle > 150
            else "back and forth on the diagonal"
        )
        lean[name] += int(math.hypot(dx, dy) * 100)
    return lean.most_common(1)[0][0] if lean else "along the lines"


def leg_words(laid: QuiltLayout, one: UnitRoute, leg: Leg, length: float, unit: Unit) -> w.Words:
    """What is done on this piece of the way, ``length`` mm of it."""
    far = w.shown(length, unit, COARSE[unit], about=True)
    if not leg.sews:
        return ["Travel ", far, f" {_LANES[int(one.network.kinds[leg.edge])]}."]
    course = one.unit.courses[int(one.network.courses[leg.edge])]
    key, drawing = one.unit.drawings[course.zone]
    if course.freehand:
        return [
            f"{laid.zone(key).name}: {texture_name(drawing)}, freehand, about {long_figure(length, unit)}."
        ]
    return [f"{laid.zone(key).name}, line {course.number + 1}: sew ", far, "."]


def texture_name(drawing: Drawing) -> str:
    """How a texture is called."""
    texture = getattr(drawing.fill, "texture", "")
    choices = forms(type(drawing.fill))["texture"].choices
    return next(choice.label for choice in choices if choice.key == texture)


def _percent(share: float) -> str:
    return f"{100 * share:.1f}\N{NO-BREAK SPACE}%"


def _kind_words(kind: Kind, unit: Unit) -> w.Words:
    """How much is travelled by the way found, and was before."""
    return [
        f"{kind.one.unit.part.name}: ",
        long_figure(kind.travelled, unit),
        " to travel, before ",
        long_figure(kind.one.travelled, unit),
        ".",
    ]
