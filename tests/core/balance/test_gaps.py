"""Where the widest gaps are."""

import pytest
import shapely

from kenzet.core.balance.gaps import gaps
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.balance.test_density import plain
from tests.tops import after, single, wished


def widths(laid):
    return [(gap.zone, round(gap.width / INCH, 2), gap.filled) for gap in gaps(laid, plan_quilt(laid))]


def test_between_lines_a_gap_is_as_wide_as_their_spacing():
    laid = plain({"kind": "lines", "spacing": "3/4 in", "angle": 0}, columns=2, rows=2)
    (found,) = gaps(laid, plan_quilt(laid))
    assert found.width / INCH == pytest.approx(0.75, abs=0.01)
    assert found.filled


def test_a_ring_that_is_too_short_to_sew_leaves_its_gap_open():
    """The innermost of the rings an inch apart would be a sixteenth wide."""
    laid = plain({"kind": "echo", "spacing": "1 in"}, columns=1, rows=1, block="12 1/16 in")
    (plan,) = plan_quilt(laid).values()
    assert plan.drawings[0].left_out == 1
    assert widths(laid) == [(plan.key, pytest.approx(2.06, abs=0.01), True)]


def test_cloth_in_no_zone_is_a_gap_as_wide_as_it_is():
    laid = wished(columns=2, rows=2, block="9 in")
    (found,) = gaps(laid, plan_quilt(laid))
    assert (found.zone, found.filled, found.places) == ("", False, 4)
    assert found.width / INCH == pytest.approx(9, abs=0.02)
    assert found.place == "1-1"
    assert found.at == pytest.approx((4.5 * INCH, 13.5 * INCH), abs=1)  # the first row is the upper one


def test_what_a_zone_leaves_of_its_block_is_found_and_shrinks_with_the_next_zone():
    laid = single("Nine-patch")
    assert widths(laid) == [("", pytest.approx(12, abs=0.02), False)]
    laid = after(laid, {"kind": "zone", "refs": [f"1-1/{next(iter(laid.top.at['1-1'].patches))}"]})
    (key,) = laid.quilt.zones
    laid = after(laid, {"kind": "fill", "zone": key, "fill": {"kind": "lines", "spacing": "1/2 in"}})
    found = {zone: width for zone, width, _ in widths(laid)}
    assert set(found) == {"", key}
    assert 4 < found[""] < 12
    assert found[key] < 1


def test_open_zones_are_gaps_and_every_place_lies_on_its_cloth():
    for quilt in demo_quilts():
        laid = QuiltLayout(quilt)
        found = gaps(laid, plan_quilt(laid))
        assert [gap.width for gap in found] == sorted((gap.width for gap in found), reverse=True)
        top = shapely.box(0, 0, laid.top.width, laid.top.height)
        assert all(top.contains(shapely.Point(gap.at)) for gap in found)
        opened = {gap.zone for gap in found if not gap.filled and gap.zone}
        assert opened == {key for key, zone in quilt.zones.items() if zone.fill is None and not zone.on_top}
