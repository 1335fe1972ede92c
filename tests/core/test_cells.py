"""Every other cell of a fill, and a second fill on top of the first."""

from __future__ import annotations

import numpy as np
import pytest

from kenzet.core.cells import alternate, cells_of, every_other
from kenzet.core.changes import CHANGES
from kenzet.core.contrast import density_at
from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS
from kenzet.core.plan import plan_quilt, plan_zone
from tests.shapes import IN, REGIONS, box, drawn, inches

SQUARE = inches(box(0, 0, 6, 6))


def laid_over(laid, key, fill, over):
    for change in ({"kind": "fill", "zone": key, "fill": fill}, {"kind": "over", "zone": key, "over": over}):
        laid = laid.with_quilt(CHANGES[change["kind"]].model_validate(change).made(laid)[0])
    return laid


@pytest.mark.parametrize(("kind", "values"), [
    ("grid", {"spacing": "1 in", "angle": 0, "second_angle": 90, "origin": "corner", "first_gap": "0 in"}),
    ("waves", {"spacing": "1 in", "crossed": "across", "skip": None}),
    ("lines", {"spacing": "3/4 in", "angle": 30}),
    ("shells", {"about": "middle", "skip": None}),
])  # fmt: skip
@pytest.mark.parametrize("name", ["square", "right triangle", "hexagon", "petal"])
def test_neighbouring_cells_are_of_different_sorts(kind, values, name):
    drawing = drawn(FILLS[kind](**values), REGIONS[name])
    cells = cells_of(drawing.region, drawing.polylines)
    sorts = every_other(cells)
    assert set(sorts) <= {0, 1}
    assert sum(cell.area for cell in cells) == pytest.approx(drawing.region.area.area, rel=1e-4)
    for k, one in enumerate(cells):
        for other, sort in zip(cells[:k], sorts[:k], strict=True):
            if one.distance(other) < 1e-3 and one.buffer(1e-3).intersection(other).area > 0.5 * 1e-3 * 4:
                assert sort != sorts[k]


def test_a_checkerboard_has_eighteen_of_each():
    drawing = drawn(FILLS["grid"](spacing="1 in", angle=0, second_angle=90, origin="corner"), SQUARE)
    for which in (0, 1):
        area = alternate(SQUARE, drawing.polylines, which)
        assert len(area.geoms) == 18
        assert area.area == pytest.approx(18 * IN * IN, rel=1e-6)


def test_without_a_line_the_zone_is_one_cell():
    assert len(cells_of(SQUARE, [])) == 1
    assert alternate(SQUARE, [], 1).is_empty


def test_a_second_fill_lies_on_top_or_in_every_other_cell(laid):
    grid = {"kind": "grid", "spacing": "1 1/2 in", "angle": 0, "second_angle": 90}
    lines = {"kind": "lines", "spacing": "1/4 in", "angle": 0}
    whole = plan_zone(laid_over(laid, "star-centre", grid, {"fill": lines}), "star-centre")
    half = plan_zone(
        laid_over(laid, "star-centre", grid, {"fill": lines, "cells": "every other"}), "star-centre"
    )
    rest = plan_zone(
        laid_over(laid, "star-centre", grid, {"fill": lines, "cells": "the others"}), "star-centre"
    )
    for plan in (whole, half, rest):
        assert [drawing.layer for drawing in plan.drawings] == [0, 1]
        base, above = plan.drawings
        assert base.places == above.places
    over = [plan.layered(1).drawings[0].stitched for plan in (whole, half, rest)]
    assert over[1] == pytest.approx(over[2], rel=0.2)
    assert over[1] + over[2] <= over[0] + 1e-6
    assert whole.stitched_in_quilt == pytest.approx(
        whole.layered(0).stitched_in_quilt + whole.layered(1).stitched_in_quilt
    )
    ends = half.layered(1).drawings[0].stretches.ends
    assert np.isfinite(ends).all()


def test_density_counts_both_and_a_lone_layer_is_the_plan_itself(laid):
    lines = {"kind": "lines", "spacing": "1/2 in"}
    quilt = laid_over(
        laid, "star-centre", lines, {"fill": {"kind": "lines", "spacing": "1/2 in", "angle": 135}}
    )
    place = quilt.places(quilt.zone("star-centre"))[0]
    plans = plan_quilt(quilt)
    one = plan_zone(quilt, "star-centre").layered(0).drawing_at(place).density
    assert density_at(plans, "star-centre", place) == pytest.approx(2 * one, rel=0.05)
    bare = plan_zone(laid, "star-background")
    assert bare.layered(0) is bare
    assert not bare.layered(1).drawings


def test_nothing_is_sewn_on_top_of_an_open_zone(laid):
    opened = laid.with_quilt(
        CHANGES["fill"].model_validate({"kind": "fill", "zone": "star-centre", "fill": None}).made(laid)[0]
    )
    with pytest.raises(BadValue, match="left open"):
        CHANGES["over"].model_validate(
            {"kind": "over", "zone": "star-centre", "over": {"fill": {"kind": "echo"}}}
        ).made(opened)


@pytest.mark.parametrize(
    ("base", "over", "cells", "gap"),
    [
        ({"origin": "centre line"}, {"kind": "lines", "origin": "centre gap"}, "all", 1.0),  # lines halve the gaps
        ({"origin": "centre line"}, {"kind": "lines", "angle": 90}, "all", 2.0),  # squares of 2 in
        ({"origin": "centre line"}, {"kind": "texture", "spacing": "1/2 in"}, "all", 0.5),
        ({"origin": "centre line"}, {"kind": "texture", "spacing": "1/2 in"}, "every other", 2.0),
    ],
)  # fmt: skip
def test_the_widest_gap_is_that_of_both_fills_together(laid, base, over, cells, gap):
    fill = {"kind": "lines", "spacing": "2 in", "angle": 0, **base}
    above = {
        "fill": {"spacing": "2 in", "angle": 0, **over} if over["kind"] == "lines" else over,
        "cells": cells,
    }
    plan = plan_zone(laid_over(laid, "star-centre", fill, above), "star-centre")
    for drawing in plan.drawings:
        assert plan.widest_gap(drawing).width / IN == pytest.approx(gap, rel=0.03)
    assert plan.layered(0).widest_gap(plan.drawings[0]).width / IN == pytest.approx(2.0)
