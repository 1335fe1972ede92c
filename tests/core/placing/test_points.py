"""Lines that are laid through points seen on the cloth, beside a curve, or askew on the line before."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from kenzet.core.kit.kit import Kit
from kenzet.core.placing.line_order import line_order
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_zone
from tests.core.placing.test_placements import plan_of
from tests.jobs import JOBS
from tests.shapes import box, inches, petal

IN = 25.4


def with_arcs(*radii):
    """A straight ruler, and arcs with these outside radii, inches."""
    arcs = {
        f"arc-{n}": {"kind": "arc", "measured": "radius", "outside": f"{r} in", "inside": f"{r + 0.5} in"}
        for n, r in enumerate(radii)
    }
    return Kit.model_validate(
        {"rulers": {"straight": {"kind": "straight ruler", "etched": "eighths"}, **arcs}}
    )


def ways(plan, drawing):
    return [(on.on, on.by) for on in (planned(plan, drawing, k) for k in range(drawing.lines))]


def test_a62_hourglass_curves_run_from_corner_to_centre_to_corner():
    """The centre is no seam in a plain block, so there a dot marks it; where the block is cut into triangles it is seen."""
    plan, drawing = plan_of("hourglass", inches(box(0, 0, 5, 5)), kit=with_arcs(2.5625), spacing="5/8 in")
    assert ways(plan, drawing) == [("corners", "curve")]
    assert planned(plan, drawing, 0).dots == (pytest.approx((2.5 * IN, 2.5 * IN)),)
    laid = JOBS["hourglass columns"]()
    plan = plan_zone(laid, next(iter(laid.quilt.zones)))
    (drawing,) = plan.drawings
    on = planned(plan, drawing, 0)
    assert (on.on, on.by, on.needs, len(on.legs)) == ("corners", "curve", (), 8)
    assert {round(leg.length / IN, 2) for leg in on.legs} == {3.82}


def test_a_line_from_corner_to_corner_needs_no_mark_if_a_ruler_is_long_enough():
    for side, way in (
        (7.5, ("corners", "two points")),
        (9, ("mark", "etched line")),
    ):  # the ruler is 12 in long
        plan, drawing = plan_of("chevrons", inches(box(0, 0, side, side)), "first lines")
        diagonals = [k for k in range(drawing.lines) if len(drawing.polylines[k]) == 2]
        assert {ways(plan, drawing)[k] for k in diagonals} == {way}
        assert all(drawing.length_of(k) / IN == pytest.approx(side * 2**0.5) for k in diagonals)


def test_rows_of_clamshells_stand_on_the_crowns_of_the_row_below():
    plan, drawing = plan_of(
        "clamshell", inches(box(0, 0, 7, 5.25)), kit=with_arcs(0.625), spacing="1 3/4 in", second=None
    )
    found = [planned(plan, drawing, k) for k in range(drawing.lines)]
    assert [on.on for on in found] == ["corners"] * drawing.lines
    assert [len(on.dots) for on in found] == [len(found[0].dots)] + [0] * (drawing.lines - 1)
    assert [on.through for on in found[1:4]] == [(0,), (1,), (2,)]
    order = line_order(plan, drawing)
    assert order.rests_on[1] == ((0,),)
    crowns = drawing.polylines[0]
    ends = [leg.end for leg in found[1].legs[:-1]]
    away = np.hypot(*(crowns[:, None] - np.array(ends)[None]).transpose(2, 0, 1)).min(axis=0)
    assert away.max() < 0.5
    assert crowns[:, 1].max() == pytest.approx(ends[0][1], abs=0.05)


def test_s_curves_run_through_the_corners_of_their_grid_when_that_is_sewn():
    plan, drawing = plan_of("s-curves", inches(box(0, 0, 7, 7)), kit=with_arcs(1.5, 2), spacing="7/8 in")
    order = line_order(plan, drawing)
    curves = [k for k in range(drawing.lines) if planned(plan, drawing, k).by == "curve"]
    assert curves and all(planned(plan, drawing, k).on == "corners" for k in curves)
    for k in curves:
        through = planned(plan, drawing, k).through
        assert through and max(order.turns[line] for line in through) <= order.turns[k]
        there = shapely.union_all([shapely.LineString(drawing.polylines[line]) for line in through])
        for leg in planned(plan, drawing, k).legs[1:-2:2]:  # every second end is a corner of the grid
            assert min(there.distance(shapely.Point(p)) for p in (leg.start, leg.end)) < 0.1


def _from(line, point):
    way = (line[1] - line[0]) / math.dist(*line)
    return way, np.array(point) - line[0]


def test_arcs_inside_a_scallop_are_laid_beside_the_one_around_them():
    plan, drawing = plan_of(
        "scallops",
        inches(box(0, 0, 12, 4)),
        kit=with_arcs(1.8125, 1.0625),
        spacing="3/4 in",
        unit="4 in",
        rise="1 1/2 in",
    )
    inner = [on for on in (planned(plan, drawing, k) for k in range(drawing.lines)) if on.on == "line"]
    assert inner
    for on in inner:
        (own,) = [leg.arc for leg in on.legs]
        around = [leg.arc for leg in planned(plan, drawing, on.reference).legs if leg.arc]
        assert min(math.dist(own.centre, arc.centre) for arc in around) < 0.05
        assert float(on.distance) / IN == pytest.approx(0.75, abs=1e-4)


@pytest.mark.parametrize("region", [inches(box(0, 0, 8, 5)), petal(8, 1.25)], ids=["rectangle", "petal"])
def test_a82_a_fan_is_laid_askew_so_much_nearer_at_its_narrow_end(region):
    """Replayed: from the line before, the two etched lines and the foot, both ends come out where they are planned."""
    plan, drawing = plan_of("fan", region, "first lines", spacing="1/8 in", wide="3/8 in")
    askew = [on for on in (planned(plan, drawing, k) for k in range(drawing.lines)) if on.by == "tilt"]
    assert len(askew) >= drawing.lines - 2 > 3
    for on in askew:
        own, before = drawing.polylines[on.line], drawing.polylines[on.reference]
        way, _ = _from(before, own[0])
        away = np.abs((own - before[0]) @ np.array([-way[1], way[0]]))
        laid = [float(under + plan.kit.foot_offset) for under in on.tilt]
        assert np.abs(away - laid).max() <= on.error
        assert max(away) > min(away)
    assert math.degrees(askew[0].legs[0].length and drawing.fill.turn(8 * IN)) == pytest.approx(
        1.79, abs=0.01
    )


def test_the_first_line_of_a_fan_in_a_petal_runs_from_a_base_line_as_it_leans():
    for lean in (None, 0, 30):
        plan, drawing = plan_of(
            "fan", petal(8, 1.25), "first lines", lean=lean, spacing="1/8 in", wide="1/4 in"
        )
        assert drawing.lines > 3
        assert len(plan.references(drawing).marked) == 1


def channel(**values):
    """How the lines of a channel are placed, its two guides drawn."""
    plan, drawing = plan_of("channel", inches(box(0, 0, 8, 6)), "first lines", **values)
    return drawing, [planned(plan, drawing, k) for k in range(drawing.lines)]


@pytest.mark.parametrize(
    ("values", "by"),
    [
        ({"spacing": "1/4 in"}, "rim"),
        ({"spacing": "3/8 in"}, "eye"),
        ({"spacing": "1/4 in", "dense": "freehand"}, "freehand"),
    ],
)
def test_a_channel_is_two_guides_and_what_follows_them(values, by):
    _, found = channel(**values)
    assert {(on.on, on.by) for on in found} == {("mark", "follow"), ("line", by)}
    assert [on.by for on in found].count("follow") == 2
    apart = {round(float(on.distance) / IN, 6) for on in found if on.by == by}
    assert apart == {0.375 if values["spacing"] == "3/8 in" else 0.25}


def test_a_channel_lies_where_she_puts_it_and_its_sides_differ_where_she_says_so():
    drawing, _ = channel(
        spacing="1/4 in", beyond="1/2 in", wide="1 in", middle="2 in", other_depth="1/4 in", guides="alike"
    )
    upper, lower = (
        [k for k, trace in enumerate(drawing.traces) if trace.family == family and trace.line == 0]
        for family in (0, 1)
    )
    middles = [drawing.polylines[some[0]][:, 1].mean() / IN for some in (upper, lower)]
    assert sum(middles) / 2 == pytest.approx(2, abs=0.05)
    waves = [np.ptp(drawing.polylines[some[0]][:, 1]) / IN for some in (upper, lower)]
    assert sorted(waves) == pytest.approx([0.25, 0.5], abs=0.01)
    rows = [
        sorted(
            {
                round(float(trace.laid_on[1]) / IN, 4)
                for trace in drawing.traces
                if trace.family == family and trace.laid_on
            }
        )
        for family in (0, 1)
    ]
    assert sorted(rows) == [[0.25], [0.5]]


def test_a_motif_on_a_powdered_grid_uses_its_corners():
    from kenzet.core.fills import FILLS
    from kenzet.core.plan.zone_plan import ZonePlan
    from kenzet.core.top.zone import Over, Zone
    from tests.shapes import drawn

    region = inches(box(0, 0, 6, 6))
    grid = FILLS["grid"].model_validate(
        {"spacing": "1 in", "angle": 0, "second_angle": 90, "use": "drawn", "origin": "corner", "at": 0}
    )
    motif = FILLS["continuous"].model_validate({"spacing": "1 in", "rise": "3/16 in"})
    base, above = drawn(grid, region), drawn(motif, region)
    above = type(above)(**{**above.__dict__, "layer": 1}) if not hasattr(above, "_replace") else above
    zone = Zone(name="Zone", part="block", patches=("a",), fill=grid, over=Over(fill=motif))
    plan = ZonePlan("zone", zone, with_arcs(0.5), (base, above), (0.0, 0.0))
    assert {(on.on, on.by) for on in (planned(plan, above, k) for k in range(above.lines))} == {
        ("corners", "curve")
    }
    alone = ZonePlan("zone", zone, with_arcs(0.5), (above,), (0.0, 0.0))
    assert any(planned(alone, above, k).dots for k in range(above.lines))
