"""What it asks of her, and whether kinds of fill stand in balance."""

import pytest

from kenzet.core.balance.effort import accents, asked, by_block, scale_trouble, threads_by_zone
from kenzet.core.fills import FILLS
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.quilt import route_quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.balance.test_density import plain


def test_a_zones_time_is_its_lines_at_her_pace():
    laid = plain({"kind": "lines", "spacing": "1/2 in", "angle": 0}, columns=1, rows=1)
    ((_, plan),) = plan_quilt(laid).items()
    (drawing,) = plan.drawings
    pace = laid.quilt.stitching.pace
    wanted = drawing.stitched / float(pace.straight.mm) + drawing.lines * pace.lay / 60
    assert asked(laid, plan).minutes == pytest.approx(wanted * len(drawing.places))


def test_rings_about_a_curve_are_not_turned_at_every_chord():
    """Kelp Garden's echoes about petals took a day: each chord of a curve was a turn."""
    laid = QuiltLayout(demo_quilts()[1])
    plan = plan_quilt(laid)["anemone-background"]
    pace = laid.quilt.stitching.pace
    slowest = plan.stitched_in_quilt / float(pace.curved.mm)
    lines = sum(drawing.lines * len(drawing.places) for drawing in plan.drawings)
    assert asked(laid, plan).minutes < slowest + lines * (pace.lay * 8 + pace.turn * 8) / 60


def test_blocks_take_together_what_the_route_takes():
    laid = QuiltLayout(demo_quilts()[2])
    route = route_quilt(laid, quick=True)
    found = by_block(laid, route)
    assert sum(one.places for one in found.values()) == len(route.visits)
    assert sum(one.stops * one.places for one in found.values()) == route.stops
    assert all(one.minutes > 0 for one in found.values())


@pytest.mark.parametrize("number", range(3))
def test_every_thread_of_the_way_begins_in_one_zone(number):
    laid = QuiltLayout(demo_quilts()[number])
    route = route_quilt(laid, quick=True)
    found = threads_by_zone(route)
    assert set(found) <= set(plan_quilt(laid))
    assert found.total() == route.stops + 1  # the first one is no cut


def test_a_fill_all_over_is_balanced_and_one_at_the_left_lies_left():
    (even,) = accents(*_of(plain({"kind": "lines", "spacing": "1 in"}, columns=3, rows=2)))
    assert even.away == pytest.approx(0, abs=1e-9)
    laid = QuiltLayout(demo_quilts()[2])  # four blocks, three of them filled
    found = {one.label: one for one in accents(laid, plan_quilt(laid))}
    assert found["Lines"].off == pytest.approx((-0.25, 0.25), abs=1e-6)
    assert all(one.places == 1 for one in found.values())


def _of(laid):
    return laid, plan_quilt(laid)


@pytest.mark.parametrize(("spacing", "trouble"), [("3/4 in", ""), ("9 in", "coarse"), ("1/8 in", "fine")])
def test_a_fill_too_large_or_too_fine_for_its_patch_is_told(spacing, trouble):
    laid = plain({"kind": "lines", "spacing": spacing, "angle": 0}, columns=1, rows=1)
    ((_, plan),) = plan_quilt(laid).items()
    assert scale_trouble(plan.drawings[0]) == trouble
    assert FILLS["lines"].is_spaced
    assert plan.drawings[0].region.inradius > 5 * INCH
