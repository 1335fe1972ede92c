"""A pinned end: what it costs, and one line more or less that ends there by itself (A17)."""

from __future__ import annotations

from fractions import Fraction

import pytest

from kenzet.core.advice.pinned_ends import _tried, pin_cost
from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.numbers.measure import Length
from kenzet.core.plan.planner import plan_zone
from kenzet.core.route.quilt import route_quilt
from kenzet.core.top.document import with_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import PinnedEnds, Stitching

IN = 25.4


def square(end, **values):
    """A square of 7.5 in with upright lines, begun at the lower left and ended at ``end``."""
    laid = QuiltLayout(
        new_quilt(NewQuilt.model_validate({"name": "Square", "columns": 1, "rows": 1, "block": "7.5 in"}))
    )
    laid = laid.with_quilt(laid.quilt.model_copy(update={"edge": Length.parse("0 in")}))
    patch = next(iter(laid.top.at["1-1"].patches))
    fill = {"kind": "lines", "spacing": "5/8 in", "angle": 90, **values}
    for change in (
        {"kind": "zone", "refs": [f"1-1/{patch}"]},
        {"kind": "fill", "zone": "plain", "fill": fill},
    ):
        if change["kind"] == "fill":
            change["zone"] = next(iter(laid.quilt.zones))
        laid = QuiltLayout(CHANGES[change["kind"]].model_validate(change).apply(laid)[0])
    pins = {laid.top.at["1-1"].key: PinnedEnds(start="lower left", end=end)}
    return laid.with_quilt(laid.quilt.model_copy(update={"stitching": Stitching(pins=pins)}))


def exit_at(laid):
    (one,) = route_quilt(laid).routes
    return one, pin_cost(laid, one)


@pytest.mark.parametrize("origin", ["centre line", "edge"])
def test_a17_eleven_rows_to_the_start_side(origin):
    one, told = exit_at(laid := square("lower right", origin=origin))
    assert len(one.unit.courses) == 11
    assert told.extra / IN == pytest.approx(
        7.5 + 2 * 0.625, abs=1e-3
    )  # back along the edge beyond the last line
    offers = {offer.many: offer for offer in told.offers}
    assert {many: offer.fill.spacing.mm / Fraction(127, 5) for many, offer in offers.items()} == {
        12: Fraction(15, 26), 10: Fraction(15, 22),
    }  # fmt: skip
    for offer in told.offers:
        other = laid.with_quilt(with_zone(laid.quilt, offer.zone, fill=offer.fill))
        again, then = exit_at(other)
        assert len(again.unit.courses) == offer.many
        assert again.travelled == pytest.approx(one.travelled - offer.saved, abs=0.01)
        assert then.extra < 1 and not then.offers


def test_an_end_that_costs_nothing_has_no_offers():
    _, told = exit_at(square("upper right"))
    assert told.extra == pytest.approx(0, abs=0.01) and told.offers == ()


def test_what_is_tried_does_not_crowd_out_the_plan():
    laid = square("lower right")
    key = next(iter(laid.quilt.zones))
    plan = plan_zone(laid, key)
    exit_at(laid)
    assert plan_zone(laid, key) is plan


def test_without_a_pin_nothing_is_told():
    laid = square("lower right")
    laid = laid.with_quilt(laid.quilt.model_copy(update={"stitching": Stitching()}))
    assert exit_at(laid)[1] is None


def test_a_spacing_that_cannot_be_is_not_tried():
    """Three echoes 1 in apart just fit outside an outline 3 1/16 in in; a wider one would be refused."""
    frame = {"kind": "frame", "spacing": "1 in", "inset": "3 1/16 in", "echoes": 3}
    laid = square("upper right")
    key = next(iter(laid.quilt.zones))
    change = CHANGES["fill"].model_validate({"kind": "fill", "zone": key, "fill": frame})
    laid = laid.with_quilt(change.apply(laid)[0])
    drawing = plan_zone(laid, key).drawings[0]
    tried = list(_tried(laid, key, drawing))
    assert tried and all(float(fill.spacing.mm) < IN for fill in tried)
