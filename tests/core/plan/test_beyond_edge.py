"""Where the quilt's edge cuts a zigzag or a wave, what its turns need beyond that edge is told."""

from __future__ import annotations

import pytest

from kenzet.core.plan.beyond_edge import turns_beyond_edge
from kenzet.core.plan.planner import plan_quilt
from kenzet.say import words as w
from kenzet.say.zone_advice import known
from kenzet.say.zone_words import beyond_edge
from tests.jobs import JOBS, block, whole
from tests.tops import after

IN = 25.4
HALF_OVER = {"kind": "waves", "spacing": "2 in", "typed": "step", "period": "2 1/2 in", "depth": "1 in"}


def told(laid):
    plan = next(iter(plan_quilt(laid).values()))
    drawing = plan.drawings[0]
    place = drawing.places[0]
    lacks = [
        w.plain(one.words)
        for one in known(laid, plan_quilt(laid), plan, drawing, place, None, "in")
        if "beyond the finished edge" in w.plain(one.words)
    ]
    rows = beyond_edge(laid, plan, drawing, place, "in")
    return turns_beyond_edge(laid, drawing, place) / IN, rows, lacks


def with_batting(overhang):
    laid = whole(block("Plain", "8 in"), HALF_OVER)
    quilt = laid.quilt.model_dump(mode="json")
    kept = {name: quilt[name] for name in ("use", "edge", "backing_overhang")}
    return after(laid, {"kind": "quilt", **kept, "batting_overhang": overhang})


def test_a_wave_half_over_the_edge_needs_half_its_depth_and_the_foot():
    far, rows, lacks = told(with_batting("2 in"))
    assert far == pytest.approx(1 / 2)
    assert [w.plain(row.words) for row in rows] == [
        "the finished edge, 1/4 in inside the raw one",
        "up to 1/2 in",
    ]
    assert not lacks


@pytest.mark.parametrize(("overhang", "enough"), [("1/4 in", False), ("1/2 in", True)])
def test_where_the_batting_ends_before_that_it_is_told_with_a_way_out(overhang, enough):
    _, _, lacks = told(with_batting(overhang))
    assert not lacks if enough else "need 3/4 in" in lacks[0] and "you have 1/2 in" in lacks[0]


@pytest.mark.parametrize("job", ["echo shells", "taped lines", "a pinwheel through the centre"])
def test_what_does_not_come_back_turns_nowhere(job):
    laid = JOBS[job]()
    for plan in plan_quilt(laid).values():
        for drawing in plan.drawings:
            assert all(turns_beyond_edge(laid, drawing, place) == 0 for place in drawing.places)
