"""A route in words: where it begins, how it goes, along what it travels, where it ends."""

from __future__ import annotations

import math
from collections import Counter

import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Point
from kenzet.core.numbers.measure import COARSE, Unit, long_figure
from kenzet.core.params import forms
from kenzet.core.plan.drawing import Drawing
from kenzet.core.route.euler_walk import Leg, Run
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.route.visits import Visit
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.web import models as m
from kenzet.web import show

_PIVOT = math.radians(20)
_LANES = {
    DITCH: "along the ditch",
    EDGE: "along the zone’s edge",
    RIM: "along the quilt’s edge",
    STEP: "straight across to what is next",
    LINE: "back over that line",
    TEXTURE: "across the texture",
}


def sentence(one: UnitRoute, visit: Visit) -> str:
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


def corner_words(one: UnitRoute, point: Point) -> str:
    """Whereabouts of what is sewn in one go ``point`` (of the part) lies."""
    x, y = point[0] / one.unit.part.width, point[1] / one.unit.part.height
    across = "left" if x < 1 / 3 else "right" if x > 2 / 3 else ""
    up = "lower" if y < 1 / 3 else "upper" if y > 2 / 3 else ""
    if not across and not up:
        return "in the middle"
    if not across:
        return f"at the {'bottom' if up == 'lower' else 'top'}, in the middle"
    return f"at the {up} {across}" if up else f"at the {across}, half-way up"


def _ways(one: UnitRoute) -> str:
    """Which way most of what is sewn runs."""
    if any(course.closed for course in one.unit.courses):
        closed = sum(course.closed for course in one.unit.courses)
        if closed > len(one.unit.courses) / 2:
            return "round ring after ring"
    lean = Counter[str]()
    for course in one.unit.courses:
        if course.freehand:
            lean["through what is filled freehand"] += int(shapely.linestrings(course.line).length * 100)
            continue
        dx, dy = (course.line[-1] - course.line[0]).tolist()
        angle = math.degrees(math.atan2(dy, dx)) % 180
        name = (
            "up and down"
            if 60 < angle < 120
            else "to and fro"
            if angle < 30 or angle > 150
            else "to and fro on the slant"
        )
        lean[name] += int(math.hypot(dx, dy) * 100)
    return lean.most_common(1)[0][0] if lean else "along the lines"


def leg_words(laid: LaidQuilt, one: UnitRoute, leg: Leg, length: float, unit: Unit) -> m.Words:
    """What is done on this piece of the way, ``length`` mm of it."""
    far = show.shown(length, unit, COARSE[unit], about=True)
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


def is_freehand(one: UnitRoute, leg: Leg) -> bool:
    """Whether it is the way through a texture."""
    return leg.sews and one.unit.courses[int(one.network.courses[leg.edge])].freehand


def pivots(one: UnitRoute, run: Run) -> int:
    """How often the quilt is turned at the needle: at sharp turns between pieces of the way, and within them."""
    many, before = 0, None
    for leg in run.legs:
        if is_freehand(one, leg):
            before = None
            continue
        path = one.network.paths[leg.edge]
        line = path[::-1] if leg.back else path
        ways = np.diff(line, axis=0)
        angles = np.arctan2(ways[:, 1], ways[:, 0])
        many += int((np.abs(_turn(np.diff(angles))) > _PIVOT).sum())
        if before is not None:
            many += int(abs(float(_turn(np.array([angles[0] - before]))[0])) > _PIVOT)
        before = float(angles[-1])
    return many


def same_way(one: UnitRoute, run: Run) -> int:
    """How many lines of one family in a row, at most, are sewn in the same direction; freehand and rings do not count."""
    most = row = 0
    before: tuple[int, int, float, float] | None = None
    for leg in run.legs:
        if not leg.sews:
            continue
        course = one.unit.courses[int(one.network.courses[leg.edge])]
        if course.closed or course.freehand:
            before = None
            continue
        path = one.network.paths[leg.edge]
        x, y = ((path[0] - path[-1]) if leg.back else (path[-1] - path[0])).tolist()
        same = (
            before is not None
            and before[:2] == (course.zone, course.family)
            and before[2] * x + before[3] * y > 0
        )
        row = row + 1 if same else 1
        most = max(most, row)
        before = (course.zone, course.family, x, y)
    return most


def _turn(angles: Floats) -> Floats:
    turned: Floats = (angles + math.pi) % (2 * math.pi) - math.pi
    return turned
