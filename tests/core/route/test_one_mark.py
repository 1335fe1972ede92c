"""One line more that is drawn makes the route shorter, by as much as is told."""

from __future__ import annotations

import pytest

from kenzet.core.marks.marking import marks_of, spot_on
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.local_search import LocalSearch
from kenzet.core.route.quilt import costs_of, route_quilt
from tests.jobs import JOBS
from tests.tops import after

IN = 25.4
QUADRANTS = JOBS["an inset square with quadrants"]


def looked(laid):
    """The kinds after a search that is stopped when the lines to draw were looked at."""
    search = LocalSearch(route_quilt(laid), costs_of(laid.quilt.stitching))
    search.run(lambda: any(kind.mark for kind in search.kinds))
    return search.kinds


def offered(laid):
    (kind,) = looked(laid)
    key, drawing = kind.one.unit.drawings[kind.mark.drawing]
    return kind, key, drawing, kind.mark.line


@pytest.fixture(scope="module")
def quadrants():
    return QUADRANTS()


def test_the_saving_that_is_told_is_had(quadrants):
    kind, key, drawing, line = offered(quadrants)
    assert kind.mark_saves > 4 * IN
    change = {"kind": "drawn too", "zone": key, "spots": [spot_on(drawing, line)]}
    drawn = after(quadrants, change)
    (plan,) = plan_quilt(drawn).values()
    (same,) = plan.drawings
    lines = marks_of(plan, same).lines
    assert len(lines) == len(marks_of(plan_quilt(quadrants)[key], drawing).lines) + 1 and line in lines
    assert planned(plan, same, line).on == "mark"
    before, now = (route_quilt(laid).travelled for laid in (quadrants, drawn))
    assert now <= before - kind.mark_saves + 1.0


def test_another_fill_forgets_the_line(quadrants):
    key = next(iter(quadrants.quilt.zones))
    drawn = after(quadrants, {"kind": "drawn too", "zone": key, "spots": [(0.5, 0.25)]})
    filled = after(drawn, {"kind": "fill", "zone": key, "fill": {"kind": "lines", "spacing": "1/2 in"}})
    assert drawn.quilt.zones[key].drawn_too and not filled.quilt.zones[key].drawn_too


def test_nothing_is_offered_where_any_order_will_do():
    laid = JOBS["a fan in petals"]()
    search = LocalSearch(route_quilt(laid), costs_of(laid.quilt.stitching))
    search.run(lambda: True)
    assert not any(kind.mark_saves for kind in search.kinds)


@pytest.mark.parametrize("spot", [(0.013, 0.5), (2, 0.5)])
def test_a_spot_on_no_line_draws_nothing_and_one_off_the_part_is_refused(quadrants, spot):
    key = next(iter(quadrants.quilt.zones))
    change = {"kind": "drawn too", "zone": key, "spots": [spot]}
    if spot[0] > 1:
        with pytest.raises(ValueError, match="less than or equal"):
            after(quadrants, change)
        return
    plan, before = plan_quilt(after(quadrants, change))[key], plan_quilt(quadrants)[key]
    assert marks_of(plan, plan.drawings[0]).lines == marks_of(before, before.drawings[0]).lines
