"""Directions told at a place are those of the quilt, whichever way the block is turned or mirrored there."""

from __future__ import annotations

import re

import numpy as np
import pytest
import shapely

from kenzet.core.geom.affine import place_all
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.rulers import StraightRuler, WaveRuler, ZigzagTemplate
from kenzet.core.placing.as_it_lies import as_it_lies
from kenzet.core.placing.legs import turned_back
from kenzet.core.placing.place_line import planned
from kenzet.say.placing_words import lay_words
from kenzet.say.words import plain
from tests.core.placing.test_placements import plan_of

TEMPLATES = Kit(rulers={"wave": WaveRuler(), "zigzag": ZigzagTemplate(), "straight": StraightRuler()})
QUARTERS = [(1, 0, 0, 1), (0, 1, -1, 0), (-1, 0, 0, -1), (0, -1, 1, 0)]
PLACES = [(*turn, 700.0, 900.0) for turn in QUARTERS] + [
    (-a, -b, c, d, 700.0, 900.0) for a, b, c, d in QUARTERS
]
ROWS = [
    ("waves", {"spacing": "5/8 in", "period": "2 1/2 in", "depth": "1/2 in", "angle": 0}),
    ("waves", {"spacing": "5/8 in", "period": "2 1/2 in", "depth": "1/2 in", "angle": 90, "slide": "1/2 in"}),
    ("waves", {"spacing": "5/8 in", "period": "2 1/2 in", "depth": "1/2 in", "angle": 0, "slide": "3/4 in"}),
    ("zigzag rows", {"spacing": "5/8 in", "angle": 0}),
    ("channel", {"angle": 0, "wide": "2 in", "period": "2 1/2 in", "depth": "1/2 in", "spacing": "1/2 in"}),
    ("channel", {"angle": 90, "wide": "2 in", "period": "2 1/2 in", "depth": "1/2 in", "dense": "freehand"}),
]
SIDES = {
    "up": (0, 1), "down": (0, -1), "to the left": (-1, 0), "to the right": (1, 0), "below": (0, -1), "above": (0, 1),
}  # fmt: skip


def beside(line, other):
    """The median step from ``other`` to ``line``, (n, 2) each."""
    points = shapely.line_interpolate_point(
        shapely.LineString(line), np.linspace(0.1, 0.9, 9), normalized=True
    )
    there = shapely.LineString(other)
    nearest = shapely.line_interpolate_point(there, shapely.line_locate_point(there, points))
    return np.median(shapely.get_coordinates(points) - shapely.get_coordinates(nearest), axis=0)


@pytest.mark.parametrize("placing", PLACES)
@pytest.mark.parametrize(("kind", "values"), ROWS)
def test_rows_are_told_to_lie_where_they_lie(kind, values, placing):
    plan, drawing = plan_of(kind, "square", "first lines", TEMPLATES, **values)
    told = 0
    for line in range(drawing.lines):
        on = as_it_lies(planned(plan, drawing, line), placing)
        if on.reference is None or not isinstance(on.onward, tuple):
            continue
        own, other = (place_all(placing, drawing.polylines[k]) for k in (line, on.reference))
        step = beside(own, other)
        said = plain(lay_words(plan.kit, on, "in"))
        for pattern, sign in (
            (r"in (up|down|to the left|to the right) from its place", 1),
            (r"for the row (below|above|to the left|to the right)", -1),
        ):
            if found := re.search(pattern, said):
                assert sign * np.dot(SIDES[found[1]], step) > 0, said
                told += 1
    assert told or "freehand" in values.values()


@pytest.mark.parametrize("placing", PLACES)
def test_a_row_is_moved_and_slid_onto_its_place(placing):
    plan, drawing = plan_of("waves", "square", "first lines", TEMPLATES, **ROWS[1][1])
    seen = 0
    for line in range(drawing.lines):
        on = as_it_lies(planned(plan, drawing, line), placing)
        if not on.stepped:
            continue
        own, other = (place_all(placing, drawing.polylines[k]) for k in (line, on.reference))
        moved = other + float(on.distance) * np.array(on.onward) + on.slide * np.array(on.along)
        middle = own[len(own) // 3 : 2 * len(own) // 3]
        assert shapely.distance(shapely.LineString(moved), shapely.points(middle)).max() < 0.3
        seen += 1
    assert seen > 3


@pytest.mark.parametrize("placing", PLACES)
@pytest.mark.parametrize("back", [False, True])
def test_pivots_turn_to_the_side_to_which_the_line_turns(placing, back):
    plan, drawing = plan_of("chevrons", "square", "first lines", spacing="3/4 in")
    seen = 0
    for line in range(drawing.lines):
        legs = as_it_lies(planned(plan, drawing, line), placing).legs
        points = place_all(placing, drawing.polylines[line])[:: -1 if back else 1]
        for k, leg in enumerate(turned_back(legs) if back else legs):
            if leg.turn and k + 2 < len(points) and len(points) == len(legs) + 1:
                (ax, ay), (bx, by) = points[k + 1] - points[k], points[k + 2] - points[k + 1]
                assert (ax * by - ay * bx > 0) == (leg.turn > 0)
                seen += 1
    assert seen


@pytest.mark.parametrize("placing", PLACES)
def test_the_end_of_a_crossed_line_is_told_where_it_is(placing):
    plan, drawing = plan_of("grid", "petal", "first lines", angle=45, second_angle=135)
    seen = 0
    for line in range(drawing.lines):
        on = planned(plan, drawing, line)
        if on.crosses is None:
            continue
        own, other = (place_all(placing, drawing.polylines[k]) for k in (line, on.reference))
        far, towards = as_it_lies(on, placing).crosses
        at = shapely.LineString(own).intersection(shapely.LineString(other))
        end = max(other.tolist(), key=lambda point: np.dot(point, towards))
        assert np.hypot(at.x - end[0], at.y - end[1]) == pytest.approx(far, abs=0.01)
        seen += 1
    assert seen
