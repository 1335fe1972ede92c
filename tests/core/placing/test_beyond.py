"""A line is laid on a line of the zone beside its own, which is sewn before it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from kenzet.core.marks.marking import marks_of
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.cloth import reference_points
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.along import placements_along
from kenzet.core.sewing.now import place_routes
from tests.jobs import role, zoned
from tests.tops import single

IN = 25.4
BLOCKS = ["Nine-patch", "Four-patch", "Eight-point diamond star"]


def laid_with(block="Nine-patch", angle=45, other=None, spacing="1 in"):
    laid = single(block, "9 in")
    for which, lean in (("main", angle), ("ground", angle if other is None else other)):
        laid = zoned(laid, role(laid, which), {"kind": "lines", "spacing": spacing, "angle": lean})
    return laid


def beyond(laid):
    return [
        (plan, drawing, line, on)
        for plan in plan_quilt(laid).values()
        for drawing in plan.drawings
        for line in range(drawing.lines)
        for on in [planned(plan, drawing, line)]
        if on.on == "beyond"
    ]


def test_lines_that_go_on_across_a_seam_need_no_mark():
    first, second = plan_quilt(laid_with()).values()
    assert [len(marks_of(plan, plan.drawings[0]).lines) for plan in (first, second)] == [2, 0]
    assert not beyond(laid_with(other=40))


@pytest.mark.parametrize("angle", [30, 45, 60, 75])
@pytest.mark.parametrize("block", BLOCKS)
@pytest.mark.parametrize("spacing", ["3/4 in", "1 in", "1 3/8 in"])
def test_the_reference_lies_where_it_is_told(block, angle, spacing):
    for plan, drawing, line, on in beyond(laid_with(block, angle, spacing=spacing)):
        own = drawing.polylines[line]
        other = reference_points(plan, drawing, on)
        way = (own[1] - own[0]) / np.hypot(*(own[1] - own[0]))
        away = (other - own[0]) @ np.array([-way[1], way[0]])
        wanted = float(on.distance) if on.total else 0.0
        assert np.abs(away) == pytest.approx(wanted, abs=0.02)
        along = np.concatenate([own @ way, other @ way])
        longest = max(float(edge.length) for _, edge in plan.kit.straight)
        held = np.ptp(other @ way)
        assert np.ptp(along) < longest + held  # one ruler lies on both
        assert on.total is None or on.total.can_be_laid


@pytest.mark.parametrize("angle", [30, 45])
@pytest.mark.parametrize("block", BLOCKS)
def test_what_a_line_is_laid_on_is_sewn_when_it_comes(block, angle):
    laid = laid_with(block, angle)
    ways = place_routes(laid, route_quilt(laid))
    many = 0
    for visit in ways.route.visits:
        way = ways.of(visit)
        there: set[tuple[str, int]] = set()
        for move, _, _, on in placements_along(laid, way):
            if on.beyond is not None:
                assert (on.beyond.word, on.beyond.line) in there
                many += 1
            assert move.stretch is not None
            there.add((move.stretch.of, move.stretch.line))
    assert many == len(beyond(laid)) > 0


def test_where_that_line_was_skipped_another_way_is_told():
    plan, drawing, line, on = beyond(laid_with())[0]
    word, last = "own", None
    there = {on.beyond.word: {on.beyond.line}}
    assert placed(plan, drawing, line, there, word, last).beyond == on.beyond
    assert placed(plan, drawing, line, {}, word, last).on == "nothing"


def test_without_a_ruler_nothing_is_laid_across():
    plan, drawing, line, _ = beyond(laid_with())[0]
    without = replace(plan, kit=plan.kit.model_copy(update={"sew_with": "walking foot"}))
    assert without.references(drawing)[line].kind == "mark"


def test_a_ring_of_zones_never_waits_for_itself():
    plans = plan_quilt(laid_with("Eight-point diamond star", 30))
    keys = list(plans)
    for key, plan in plans.items():
        assert all(keys.index(one.key) < keys.index(key) for one in plan.before)
