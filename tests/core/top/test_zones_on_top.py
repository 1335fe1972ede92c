"""Zones over patches that others hold, each patch its own zone, dividing lines, and a shape surrounded in one go."""

from __future__ import annotations

import pytest

from kenzet.core.changes.alike import alike
from kenzet.core.errors import BadValue
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt, plan_zone
from kenzet.core.route.quilt import route_quilt, units_of
from kenzet.core.top.document import read, write
from tests.jobs import role, whole, zoned
from tests.tops import after, single

IN = 25.4
CORNERS = {"kind": "corner cuts", "spacing": "3/8 in"}


def nine_patch():
    return whole(single("Nine-patch", "7 1/2 in"), CORNERS)


def lines_at(laid, key):
    return [drawing.lines for drawing in plan_zone(laid, key).drawings]


def test_a_zone_that_would_lose_its_fill_is_not_lost_without_a_word():
    laid = nine_patch()
    every = [f"1-1/{patch}" for patch in laid.top.at["1-1"].patches]
    with pytest.raises(BadValue, match="has a fill and would disappear") as error:
        after(laid, {"kind": "zone", "refs": every})
    assert error.value.field == "taking"
    some = role(laid, "main")
    taken = after(laid, {"kind": "zone", "refs": some, "taking": "take out"})
    assert len(taken.quilt.zones) == 2
    left = [set(zone.patches) for zone in taken.quilt.zones.values()]
    assert left[0].isdisjoint(left[1]) and len(left[0] | left[1]) == 9
    replaced = after(laid, {"kind": "zone", "refs": some, "taking": "replace"})
    assert [zone.fill for zone in replaced.quilt.zones.values()] == [None]


def test_other_fills_lie_in_chosen_patches_of_a_shape_over_nine_patches():
    laid = nine_patch()
    first = next(iter(laid.quilt.zones))
    before = lines_at(laid, first)
    laid = zoned(laid, role(laid, "main"), {"kind": "texture", "texture": "loops on a wave"}, taking="on top")
    assert lines_at(laid, first) == before
    assert [zone.on_top for zone in laid.quilt.zones.values()] == [False, True]
    assert write(read(write(laid.quilt))) == write(laid.quilt)
    (route, *_) = route_quilt(laid).routes
    assert len({key for key, _ in route.unit.drawings}) >= 1
    assert sum(len(unit.drawings) for unit in units_of(laid)) == 2
    document = write(laid.quilt)
    for zone in document["zones"].values():
        zone["on_top"] = False
    with pytest.raises(BadValue, match="holds already"):
        read(document)


def test_each_blade_of_a_pinwheel_is_its_own_zone_and_gets_the_same_fill_from_its_own_corner():
    laid = single("Pinwheel", "10 in")
    laid = after(laid, {"kind": "zone", "refs": role(laid, "main"), "each": True})
    keys = list(laid.quilt.zones)
    assert len(keys) == 4
    corner = next(
        k
        for k, point in enumerate(laid.shapes(laid.zone(keys[0]))[0].uncut.corners)
        if point == (5 * IN, 5 * IN)
    )
    shells = {"kind": "shells", "spacing": "1/2 in", "at": corner}
    laid = after(laid, {"kind": "fill", "zone": keys[0], "fill": shells})
    assert set(alike(laid, keys[0])) == set(keys[1:])
    laid = after(laid, {"kind": "fill alike", "zone": keys[0], "others": keys[1:]})
    for key in keys:
        zone = laid.zone(key)
        at = laid.shapes(zone)[0].uncut.corners[zone.fill.at]
        assert at == pytest.approx((5 * IN, 5 * IN))
    assert len({sum(lines_at(laid, key)) for key in keys}) == 1


def test_in_one_zone_of_blades_each_has_its_own_shells():
    laid = single("Pinwheel", "10 in")
    laid = zoned(laid, role(laid, "main"), {"kind": "shells", "spacing": "1/2 in"})
    (drawing,) = plan_zone(laid, next(iter(laid.quilt.zones))).drawings
    first = [trace.length for trace in drawing.traces if trace.family == 0]
    for family in range(1, 4):
        assert [trace.length for trace in drawing.traces if trace.family == family] == pytest.approx(
            first, abs=0.01
        )
    assert len(first) >= 8


def test_lines_run_on_in_leaning_fills_as_the_zone_is_turned():
    laid = single("Pinwheel", "10 in")
    laid = after(laid, {"kind": "zone", "refs": role(laid, "main"), "each": True})
    keys = list(laid.quilt.zones)
    lean = {"kind": "lines", "spacing": "1/2 in", "angle": 20}
    laid = after(laid, {"kind": "fill", "zone": keys[0], "fill": lean})
    laid = after(laid, {"kind": "fill alike", "zone": keys[0], "others": keys[1:]})
    assert sorted(laid.zone(key).fill.angle for key in keys) == pytest.approx([20, 20, 110, 110])
    stitched = [plan_zone(laid, key).drawings[0].stitched for key in keys]
    assert stitched == pytest.approx([stitched[0]] * 4, rel=1e-6)


def test_dividing_lines_are_planned_and_sewn_before_the_pieces():
    laid = whole(single("Plain", "8 in"))
    key = next(iter(laid.quilt.zones))
    laid = after(laid, {"kind": "cut", "zone": key, "cut": {"kind": "diagonals"}, "sewn": True})
    (lines,) = [k for k, zone in laid.quilt.zones.items() if zone.on_top]
    (drawing,) = plan_zone(laid, lines).drawings
    assert [round(length / IN, 3) for length in drawing.lengths] == [11.314, 11.314]
    pieces = [k for k in laid.quilt.zones if k != lines]
    for one in pieces:
        laid = after(
            laid, {"kind": "fill", "zone": one, "fill": {"kind": "lines", "spacing": "3/4 in", "angle": 90}}
        )
    (route,) = route_quilt(laid).routes
    order = [
        route.unit.drawings[route.unit.courses[int(route.network.courses[leg.edge])].zone][0]
        for run in route.runs
        for leg in run.legs
        if leg.sews
    ]
    assert order[: order.index(next(k for k in order if k != lines))] == [lines] * order.count(lines)
    together = after(laid, {"kind": "together", "zone": pieces[0]})
    assert [zone.on_top for zone in together.quilt.zones.values()] == [False]


def how(plan):
    """What each line of its drawing is laid on, and by what."""
    drawing = plan.drawings[0]
    return [(one.on, one.by) for one in (planned(plan, drawing, k) for k in range(drawing.lines))]


def test_a_melon_is_sewn_in_the_ditch_with_two_echoes_and_freehand_inside_by_one_choice():
    laid = single("Melon", "8 in")
    laid = zoned(laid, role(laid, "main"))
    laid = after(laid, {"kind": "surround", "zone": next(iter(laid.quilt.zones))})
    plans = plan_quilt(laid)
    ditch, echoes, inside = (
        next(k for k in laid.quilt.zones if laid.zone(k).name.endswith(end))
        for end in ("ditch", "echoes", "inside")
    )
    assert how(plans[ditch]) == [("ditch", "ditch")]
    assert how(plans[echoes]) == [("seam", "rim"), ("line", "rim")]
    assert plans[inside].drawings[0].hints
    area = sum(plans[key].drawings[0].region.area.area for key in (echoes, inside))
    assert area == pytest.approx(plans[ditch].drawings[0].region.area.area, rel=1e-3)
    assert route_quilt(laid).visits
    small = zoned(single("Melon", "2 in"), role(single("Melon", "2 in"), "main"))
    wish = {"kind": "surround", "zone": next(iter(small.quilt.zones)), "spacing": "1 in", "rounds": 3}
    with pytest.raises(BadValue, match="Nothing is left"):
        after(small, wish)


def test_what_lies_on_top_can_be_surrounded_too():
    laid = nine_patch()
    laid = zoned(laid, role(laid, "ground"), taking="on top")
    key = next(k for k, zone in laid.quilt.zones.items() if zone.on_top)
    laid = after(laid, {"kind": "surround", "zone": key})
    assert [zone.name.split(": ")[-1] for zone in laid.quilt.zones.values()][1:] == [
        "in the ditch",
        "echoes",
        "inside",
    ]
    assert route_quilt(laid).visits
