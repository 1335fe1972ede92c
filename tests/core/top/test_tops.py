"""Layouts: whatever is laid, sashed, bordered and measured, the parts make up the whole top."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
import shapely

from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.plan.planner import check_quilt
from tests.tops import after, patterned, wished

IN = 25.4
STAR = {"kind": "new block", "block": patterned("Sawtooth star")}
SASHES = {"kind": "sashing", "sashing": {"width": "2 in", "fabric": "main"}}
STONES = {"kind": "sashing", "sashing": {"width": "2 in", "fabric": "main", "cornerstones": "accent"}}
INNER = {
    "kind": "sashing",
    "sashing": {"width": "2 in", "fabric": "main", "cornerstones": "accent", "outer": False},
}


def borders(*corners):
    wide = ("3 in", "1 1/2 in", "5 in")
    return {
        "kind": "borders",
        "borders": [
            {"width": wide[k % 3], "fabric": "second", "corners": kind, "corner_fabric": "accent"}
            for k, kind in enumerate(corners)
        ],
    }


ALL_BORDERS = borders("top and bottom through", "sides through", "mitred", "squares")
WISHES = {
    "rows": {"columns": 3, "rows": 4, "block": "12 in"},
    "on point": {"arrangement": "on point", "columns": 3, "rows": 4, "block": "150 mm"},
    "one on point": {"arrangement": "on point", "columns": 1, "rows": 1, "block": "9 in"},
    "medallion": {"arrangement": "medallion", "width": "60 in", "height": "60 in"},
    "single block": {"arrangement": "single block", "block": "12 in", "use": "practice piece"},
    "strips": {"arrangement": "strips", "columns": 7, "width": "42 in", "height": "60 in"},
    "rows to a size": {"columns": 5, "rows": 6, "width": "60 in", "height": "72 in"},
}
CHANGES = {
    "as begun": [],
    "sashes": [SASHES],
    "cornerstones": [STONES],
    "no sash outside": [INNER],
    "borders": [ALL_BORDERS],
    "both": [STONES, ALL_BORDERS],
}


def whole(laid) -> float:
    """The area of all patches once it is shown that they tile the top."""
    areas = [patch.area for patch in laid.top.whole.patches.values()]
    total, size = sum(area.area for area in areas), laid.top.width * laid.top.height
    assert total == pytest.approx(size, rel=1e-9)
    assert shapely.union_all(areas).area == pytest.approx(size, rel=1e-7)
    left, low, right, top = shapely.total_bounds([areas])
    assert (left, low) == pytest.approx((0, 0), abs=1e-6)
    assert (right, top) == pytest.approx((laid.top.width, laid.top.height), abs=1e-6)
    return size


@pytest.mark.parametrize("changes", CHANGES)
@pytest.mark.parametrize("wish", WISHES)
def test_parts_make_up_the_top(wish, changes):
    laid = after(wished(**WISHES[wish]), *CHANGES[changes])
    assert whole(laid) > 0
    check_quilt(laid)


@pytest.mark.parametrize(
    ("wish", "changes", "width", "height"),
    [
        ("rows", "as begun", 36, 48),
        ("rows", "cornerstones", 44, 58),
        ("rows", "no sash outside", 40, 54),
        ("rows", "borders", 36 + 2 * (3 + 1.5 + 5 + 3), 48 + 2 * 12.5),
        ("on point", "as begun", 3 * 150 / IN * math.sqrt(2), 4 * 150 / IN * math.sqrt(2)),
        ("medallion", "as begun", 60, 60),
        ("strips", "as begun", 42, 60),
        ("rows to a size", "as begun", 60, 72),
    ],
)
def test_the_finished_size_is_the_one_she_would_compute(wish, changes, width, height):
    top = after(wished(**WISHES[wish]), *CHANGES[changes]).top
    assert (top.width / IN, top.height / IN) == pytest.approx((width, height), abs=0.01)


def test_rows_and_columns_of_their_own_sizes_stretch_the_blocks_to_fit():
    laid = after(
        wished(columns=3, rows=2, block="12 in"),
        STAR,
        {"kind": "paint", "places": ["1-1", "2-3"], "block": "sawtooth-star"},
        {"kind": "sizes", "widths": ["6 in", None, "200 mm"], "heights": [None, "8 1/2 in"]},
    )
    assert laid.top.width == pytest.approx(6 * IN + 12 * IN + 200)
    assert laid.top.height == pytest.approx(20.5 * IN)
    assert {part.of for part in laid.top.parts.values()} == {"plain", "sawtooth-star"}
    assert len(laid.top.kin["sawtooth-star"]) == 2  # one block, at two sizes
    whole(laid)


def test_a_block_that_came_out_otherwise_takes_patches_and_fills_along():
    laid = after(wished(columns=2, rows=1, block="12 in"), STAR)
    laid = after(
        laid,
        {"kind": "paint", "places": ["1-1", "1-2"], "block": "sawtooth-star"},
        {"kind": "zone", "refs": ["1-1/centre"]},
        {"kind": "fill", "zone": next(iter(after(laid).quilt.zones), "sawtooth-star-centre"),
         "fill": {"kind": "grid", "spacing": "1 in"}},
    )  # fmt: skip
    odd = {"width": "11 7/8 in", "height": "12 1/16 in"}
    one = after(laid, {"kind": "measured", "key": "sawtooth-star", "place": "1-2", "measured": odd})
    zone = one.quilt.zones["sawtooth-star-centre"]
    sizes = {shape.places: shape.region.area.area for shape in one.shapes(zone)}
    assert len(sizes) == 2
    assert sum(sizes.values()) == pytest.approx((6 * 6 + 11.875 / 2 * 12.0625 / 2) * IN**2)
    assert one.top.width == pytest.approx(24 * IN)  # the place stays what the row gives it
    every = after(laid, {"kind": "measured", "key": "sawtooth-star", "measured": odd})
    assert every.top.width == pytest.approx(2 * 11.875 * IN)
    assert every.top.height == pytest.approx(12.0625 * IN)
    whole(every)


def test_a_measured_kind_lies_at_its_own_size_among_others():
    laid = after(
        wished(columns=2, rows=2, block="12 in"),
        STAR,
        {"kind": "paint", "places": ["1-2"], "block": "sawtooth-star"},
        {
            "kind": "measured",
            "key": "sawtooth-star",
            "measured": {"width": "11 7/8 in", "height": "11 3/4 in"},
        },
    )
    star = laid.top.at["1-2"]
    assert (star.width / IN, star.height / IN) == pytest.approx((11.875, 11.75))
    assert laid.top.width == pytest.approx(24 * IN)


def test_diagonals_tell_by_how_much_a_block_leans():
    wide, high, lean = 300.0, 304.0, 6.0  # a parallelogram, mm
    across = [f"{math.hypot(wide + by, high):.2f} mm" for by in (lean, -lean)]
    measured = {"width": "300 mm", "height": "304 mm", "diagonals": across}
    laid = after(
        wished(columns=1, rows=1, block="12 in"), {"kind": "measured", "key": "plain", "measured": measured}
    )
    found = laid.quilt.blocks["plain"].measured
    assert found.out_of_square == pytest.approx(lean, abs=0.02)
    assert float(found.diagonals_differ) == pytest.approx(
        math.hypot(306, 304) - math.hypot(294, 304), abs=0.02
    )


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"kind": "paint", "places": ["9-9"], "block": "plain"}, "no block at 9-9"),
        ({"kind": "paint", "places": ["1-1"], "block": "moon"}, "no block called moon"),
        ({"kind": "block gone", "key": "plain"}, "Put another block in its place"),
        ({"kind": "fabric gone", "key": "main", "instead": "main"}, "another fabric"),
        ({"kind": "recolour", "key": "plain", "patches": {"edge": "main"}}, "no patch called edge"),
        ({"kind": "cloth", "ref": "1-1/edge", "fabric": "main"}, "no patch 1-1/edge"),
        ({"kind": "measured", "key": "plain", "place": "7-7", "measured": None}, "is not at 7-7"),
        ({"kind": "sizes", "widths": ["1 mm", None, None], "heights": []}, "between 12.7 mm"),
    ],
)
def test_a_change_that_cannot_be_made_says_why(change, says):
    with pytest.raises(KenzetError) as error:
        after(wished(columns=3, rows=4, block="12 in"), change)
    assert says in str(error.value)


def test_turning_is_as_she_sees_it_and_four_quarters_are_none():
    laid = after(
        wished(columns=1, rows=1, block="12 in"),
        {"kind": "new block", "block": patterned("Half-square triangles")},
    )
    laid = after(
        laid, {"kind": "paint", "places": ["1-1"], "block": "half-square-triangles", "mirrored": True}
    )

    def centres(laid):
        return [
            (round(p.area.centroid.x, 3), round(p.area.centroid.y, 3))
            for p in laid.top.whole.patches.values()
        ]

    turns = [laid]
    for _ in range(4):
        turns.append(after(turns[-1], {"kind": "turn", "places": ["1-1"], "by": 1}))
    for before, now in pairwise(turns):
        assert centres(now) == [
            (round(12 * IN - y, 3), x) for x, y in centres(before)
        ]  # a quarter to the left
    assert turns[4].quilt.layout == laid.quilt.layout


def test_from_rows_to_on_point_and_back_keeps_the_blocks():
    laid = after(
        wished(columns=3, rows=3, block="12 in"),
        STAR,
        {"kind": "paint", "places": ["1-1"], "block": "sawtooth-star"},
    )
    point = after(laid, {"kind": "arrangement", "on_point": True})
    assert point.quilt.layout.triangles in point.quilt.fabrics
    assert len(point.top.parts["side"].places) == 8
    assert len(point.top.parts["corner"].places) == 4
    back = after(point, {"kind": "arrangement", "on_point": False})
    assert back.quilt.layout.rows[0][0].block == "sawtooth-star"
    with pytest.raises(BadValue):
        after(point, {"kind": "sizes", "widths": [None], "heights": [None]})


def test_what_is_given_up_takes_its_zones_and_fabrics_along():
    laid = after(
        wished(columns=2, rows=2, block="12 in"), STONES, {"kind": "zone", "refs": ["sashing/stone-0-0"]}
    )
    assert len(laid.quilt.zones) == 1
    assert after(laid, {"kind": "sashing", "sashing": None}).quilt.zones == {}
    other = after(laid, {"kind": "fabric gone", "key": "accent", "instead": "dark"})
    assert other.quilt.layout.sashing.cornerstones == "dark"
    assert "accent" not in other.quilt.fabrics
