"""Blocks drawn by their seams: patches come out of them by themselves and tile the block."""

from __future__ import annotations

import math
from itertools import combinations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from shapely.geometry import box

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import QUARTER
from kenzet.core.numbers.measure import Length
from kenzet.core.tolerances import CURVE_ERROR
from kenzet.core.top.blocks import Block, Drawn, Patch, Seam
from kenzet.core.top.layout import block_part
from kenzet.core.top.seams import crossings, patches_of, pieced

NEAR = CURVE_ERROR
WHOLE = {"piece-1": Patch(outline=((0, 0), (4, 0), (4, 4), (0, 4)), fabric="ground")}


def seam(x0, y0, x1, y1, bulge=0.0):
    return Seam(start=(x0, y0), end=(x1, y1), bulge=bulge)


def tiles(patches, grid=(4, 4), size=(200.0, 200.0)):
    """The drawn areas, once they are shown to tile the block."""
    length = Length.of(200, "mm")
    block = Block(name="b", width=length, height=length, art=Drawn(grid=grid, patches=patches))
    part = block_part("b", "b", block, *size, {})
    areas = {name: patch.area for name, patch in part.patches.items()}
    assert sum(a.area for a in areas.values()) == pytest.approx(size[0] * size[1], rel=1e-6)
    for one, other in combinations(areas.values(), 2):
        assert one.intersection(other).buffer(-NEAR).is_empty
    rest = box(0, 0, *size)
    for area in areas.values():
        rest = rest.difference(area)
    assert rest.buffer(-NEAR).is_empty
    return areas


PIECED = {
    "one diagonal": ([seam(0, 0, 4, 4)], 2),
    "both diagonals": ([seam(0, 0, 4, 4), seam(0, 4, 4, 0)], 4),
    "a cross that is drawn twice": ([seam(0, 2, 4, 2), seam(2, 0, 2, 4), seam(1, 2, 3, 2)], 4),
    "a seam that ends on another": ([seam(2, 0, 2, 4), seam(0, 1.37, 2, 1.37)], 3),
    "a quarter circle": ([seam(3, 0, 0, 3, QUARTER)], 2),
    "a seam that ends on an arc": (
        [seam(3, 0, 0, 3, QUARTER), seam(0, 0, 3 / math.sqrt(2), 3 / math.sqrt(2))],
        3,
    ),
    "arcs that cross": ([seam(0, 0, 4, 4, QUARTER), seam(0, 4, 4, 0, QUARTER), seam(0, 2, 4, 2)], 7),
    "an island": ([seam(1, 1, 3, 1), seam(3, 1, 3, 3), seam(3, 3, 1, 3), seam(1, 3, 1, 1)], 2),
    "a round island": ([seam(1, 2, 3, 2, 1), seam(3, 2, 1, 2, 1)], 2),
    "a sliver between two arcs is no piece": (
        [seam(0, 2.5, 0, 0, -QUARTER), seam(1.5, 0.5, 0.5, 2, -QUARTER)],
        2,
    ),
    "open seams part nothing": ([seam(0, 2, 2, 2), seam(3, 3, 3.5, 3)], 1),
}


@pytest.mark.parametrize("name", PIECED)
def test_pieces_come_out_of_seams(name):
    seams, count = PIECED[name]
    found = patches_of((4, 4), (200.0, 200.0), seams, WHOLE)
    assert len(found) == count
    assert "piece-1" in found
    tiles(found)


def test_an_open_seam_is_told():
    assert pieced(4, 4, [seam(0, 2, 2, 2), seam(0, 1, 4, 1), seam(3, 3, 3.5, 3)]).open == (0, 2)


def test_arcs_stay_arcs_and_are_broken_at_the_same_nodes():
    seams = [seam(3, 0, 0, 3, QUARTER), seam(0, 0, 4, 4)]
    found = patches_of((4, 4), (200.0, 200.0), seams, WHOLE)
    bulges = sorted(abs(v[2]) for patch in found.values() for v in patch.outline if len(v) == 3)
    assert bulges == pytest.approx(
        [math.tan(math.pi / 16)] * 4, abs=1e-5
    )  # two eighths, each from both sides


def test_pieces_keep_their_keys_and_fabrics():
    once = patches_of((4, 4), (200.0, 200.0), [seam(0, 3, 4, 3)], WHOLE)
    top = min(once, key=lambda k: once[k].outline[0][1] < 3)
    coloured = {**once, top: once[top].model_copy(update={"fabric": "red"})}
    twice = patches_of((4, 4), (200.0, 200.0), [seam(0, 3, 4, 3), seam(1, 3, 1, 4)], coloured)
    assert set(once) <= set(twice)
    assert sorted(p.fabric for p in twice.values()) == ["ground", "red", "red"]
    back = patches_of((4, 4), (200.0, 200.0), [seam(0, 3, 4, 3)], twice)
    assert {name: patch.fabric for name, patch in back.items()} == {n: p.fabric for n, p in coloured.items()}


def test_an_applique_stays_on_top_and_cuts_what_is_beneath():
    leaf = Patch(outline=((1, 1, 0.4), (3, 3, 0.4)), fabric="green", applique=True)
    found = patches_of((4, 4), (200.0, 200.0), [seam(0, 0, 4, 4)], {**WHOLE, "leaf": leaf})
    assert len(found) == 3
    areas = tiles(found)
    assert areas["leaf"].area > 1000


def test_seams_can_begin_at_grid_points_halves_crossings_and_middles():
    spots = crossings((4, 4), (200.0, 200.0), [seam(0, 0, 4, 3), seam(0, 4, 4, 0), seam(3, 0, 0, 3, QUARTER)])
    names = [name for name, _ in spots]
    assert names.count("grid point") == 25
    assert names.count("halfway") == 81 - 25
    crossed = [point for name, point in spots if name == "crossing"]
    assert (pytest.approx(16 / 7, abs=1e-4), pytest.approx(12 / 7, abs=1e-4)) in crossed
    assert any(name == "middle of a seam" and math.hypot(*at) == pytest.approx(3) for name, at in spots)


places = st.tuples(st.integers(0, 8), st.integers(0, 8)).map(lambda p: (p[0] / 2, p[1] / 2))
drawn_seams = st.lists(
    st.builds(
        lambda ends, bulge: Seam(start=ends[0], end=ends[1], bulge=bulge),
        st.tuples(places, places).filter(lambda ends: ends[0] != ends[1]),
        st.sampled_from([0.0, 0.0, QUARTER, -QUARTER, 0.2, -0.7]),
    ),
    max_size=9,
)


@settings(max_examples=60)
@given(drawn_seams)
@example([seam(0, 2, 2.5, 1), *[seam(0.5, 1, 2.5, 2, QUARTER)] * 2, seam(2, 0.5, 3.5, 2, -0.7)])
def test_whatever_seams_are_drawn_the_pieces_tile_the_block(seams):
    try:
        found = patches_of((4, 4), (200.0, 200.0), seams, WHOLE)
    except BadValue:
        found = None
    if found is None:  # only curves that all but touch are refused
        assert sum(bool(one.bulge) for one in seams) > 1
    else:
        tiles(found)
