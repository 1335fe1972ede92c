"""Zones: what is pointed at, what is cut, who holds which patch, and the same everywhere with exceptions."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from pydantic import TypeAdapter

from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.plan.planner import check_quilt, plan_quilt, plan_zone
from kenzet.core.top.cutting import cloth_of, cut_up
from kenzet.core.top.document import read, write
from kenzet.core.top.pick import picked
from kenzet.core.top.zone import Cut
from tests.tops import after, patterned, single, wished

IN = 25.4
CUT = TypeAdapter(Cut)
CUTS = {
    "diagonals": {"kind": "diagonals"},
    "cross": {"kind": "cross"},
    "inset square": {"kind": "inset square", "inset": "1 in"},
    "inset outline": {"kind": "inset outline", "distance": "1/4 in"},
    "line": {"kind": "line", "start": (0, 0.25), "end": (0.75, 1)},
    "line around": {"kind": "line", "start": (0, 2 / 3), "end": (1 / 3, 1), "around": True},
}
BLOCKS = (
    "Nine-patch",
    "Pinwheel",
    "Sawtooth star",
    "Orange peel",
    "Ring of petals",
    "Quarter circle",
    "Sunburst",
)


def zone_on(block: str, how: str = "block", size: str = "12 in"):
    """A top of one block with a zone: everything, or the background of its first patch."""
    laid = single(block, size)
    refs = picked(laid, next(iter(laid.top.whole.patches)), how)
    return after(laid, {"kind": "zone", "refs": refs})


def only(laid) -> str:
    [key] = laid.quilt.zones
    return key


@pytest.mark.parametrize("cut", CUTS)
@pytest.mark.parametrize("how", ["block", "background"])
@pytest.mark.parametrize("block", BLOCKS)
def test_the_pieces_of_a_cut_make_up_the_zone(block, how, cut):
    laid = zone_on(block, how)
    zone = laid.zone(only(laid))
    [part] = laid.parts(zone.part)
    cloth = cloth_of(part, zone)
    pieces, _ = cut_up(part, cloth, CUT.validate_python(CUTS[cut]))
    assert sum(piece.area for piece in pieces) == pytest.approx(cloth.area.area, rel=1e-6)
    try:
        parted = after(laid, {"kind": "cut", "zone": only(laid), "cut": CUTS[cut]})
    except BadValue:
        parted = None
    if parted is None:  # refused, and rightly
        assert len(pieces) <= len(cloth.area.geoms)
        return
    areas = [cloth_of(part, parted.zone(key)).area.area for key in parted.quilt.zones]
    assert sum(areas) == pytest.approx(cloth.area.area, rel=1e-6)
    assert read(write(parted.quilt)) == parted.quilt
    together = after(parted, {"kind": "together", "zone": next(iter(parted.quilt.zones))})
    assert cloth_of(part, together.zone(only(together))).area.area == pytest.approx(cloth.area.area)


def areas(laid) -> dict[str, float]:
    """The area of every zone in square inches, by name."""
    return {
        zone.name: sum(s.region.area.area * len(s.places) for s in laid.shapes(zone)) / IN**2
        for zone in laid.quilt.zones.values()
    }


def no_edge(laid):
    none = {"batting_overhang": "0 in", "backing_overhang": "0 in"}
    return after(laid, {"kind": "quilt", "use": "practice piece", "edge": "0 in", **none})


def test_the_eight_sided_shape_over_a_nine_patch_holds_seven_of_its_nine_units():
    laid = no_edge(zone_on("Nine-patch"))
    found = areas(after(laid, {"kind": "cut", "zone": only(laid), "cut": CUTS["line around"]}))
    assert found == {
        "Nine-patch, whole: 4 triangles": pytest.approx(2 * 16),
        "Nine-patch, whole: middle eight-sided shape": pytest.approx(7 * 16),
    }


def test_quadrants_the_inner_square_and_the_small_triangle_in_the_large_one():
    laid = no_edge(zone_on("Pinwheel"))
    every = after(laid, {"kind": "cut", "zone": only(laid), "cut": CUTS["cross"], "alike": False})
    assert list(areas(every).values()) == [pytest.approx(36)] * 4
    square = after(
        laid, {"kind": "cut", "zone": only(laid), "cut": {"kind": "inset square", "inset": "3 in"}}
    )
    assert sorted(areas(square).values()) == [pytest.approx(36), pytest.approx(108)]
    triangle = no_edge(single("Half-square triangles"))
    triangle = after(
        triangle, {"kind": "zone", "refs": ["1-1/" + next(iter(triangle.top.at["1-1"].patches))]}
    )
    legs = {"kind": "line", "start": (0, 0.5), "end": (0.5, 0.5)}
    small = areas(after(triangle, {"kind": "cut", "zone": only(triangle), "cut": legs}))
    assert sorted(round(v, 3) for v in small.values()) == [18, 54]


@pytest.mark.parametrize(
    ("cut", "field", "says"),
    [
        ({"kind": "inset square", "inset": "3.6 in"}, "inset", "less than 3 1/2 in"),
        ({"kind": "inset outline", "distance": "3.6 in"}, "distance", "Nothing is left"),
        ({"kind": "line", "start": (0.2, 0.2), "end": (0.4, 0.4)}, "cut", "does not divide"),
    ],
)
def test_a99_a_cut_that_does_not_fit_is_refused_at_its_field(cut, field, says):
    laid = zone_on("Plain", size="7 in")
    with pytest.raises(BadValue) as error:
        after(laid, {"kind": "cut", "zone": only(laid), "cut": cut})
    assert error.value.field == field
    assert says in error.value.message


def test_two_cuts_one_within_the_other_and_the_middle_piece_filled():
    laid = zone_on("Nine-patch")
    laid = after(laid, {"kind": "cut", "zone": only(laid), "cut": CUTS["line around"]})
    middle = next(key for key, zone in laid.quilt.zones.items() if "eight" in zone.name)
    laid = after(laid, {"kind": "cut", "zone": middle, "cut": CUTS["inset outline"]})
    inner = next(key for key, zone in laid.quilt.zones.items() if zone.name.endswith("eight-sided shape"))
    laid = after(laid, {"kind": "fill", "zone": inner, "fill": {"kind": "echo", "spacing": "1/2 in"}})
    assert plan_zone(laid, inner).drawings[0].lines > 3
    check_quilt(laid)


SAMPLER = {"columns": 3, "rows": 3, "block": "9 in"}


def sampler():
    """Nine nine-patches with sashes."""
    laid = after(wished(**SAMPLER), {"kind": "new block", "block": patterned("Nine-patch", "9 in")})
    every = [place for place, _ in laid.quilt.layout.places()]
    return after(
        laid,
        {"kind": "paint", "places": every, "block": "nine-patch"},
        {"kind": "sashing", "sashing": {"width": "1 in", "fabric": "ground", "cornerstones": "dark"}},
    )


@pytest.mark.parametrize(
    ("how", "count"),
    [("patch", 1), ("alike", 4), ("block", 9), ("background", 4), ("background across", 9 * 4 + 24)],
)
def test_what_is_meant_by_pointing(how, count):
    """Four patches of each block, which meet at corners, and the sashes are of the ground's fabric."""
    laid = sampler()
    ground = [key for key, patch in laid.top.at["1-1"].patches.items() if patch.fabric == "ground"]
    found = picked(laid, f"1-1/{ground[0]}", how)
    assert len(found) == count
    assert f"1-1/{ground[0]}" in found


def test_a_zone_takes_its_patches_from_the_zones_that_held_them():
    laid = sampler()
    whole = after(laid, {"kind": "zone", "refs": picked(laid, "1-1/" + first(laid), "block")})
    assert areas(whole) == {"Nine-patch, whole": pytest.approx(9 * 81)}
    centre = after(whole, {"kind": "zone", "refs": ["1-1/" + first(laid)], "name": "corners"})
    assert areas(centre)["Nine-patch, whole"] == pytest.approx(9 * 72)
    here = after(
        centre, {"kind": "zone", "refs": ["2-2/" + first(laid)], "everywhere": False, "name": "here"}
    )
    found = areas(here)
    assert found["here"] == pytest.approx(9)
    assert found["corners"] == pytest.approx(8 * 9)
    assert sum(found.values()) == pytest.approx(9 * 81)
    given_back = after(here, {"kind": "zone gone", "zone": "here"})
    assert areas(given_back)["corners"] == pytest.approx(9 * 9)  # the exception goes with what had taken it
    assert len(given_back.quilt.zones) == 2


def first(laid) -> str:
    return next(iter(laid.top.at["1-1"].patches))


def test_a_fill_holds_everywhere_but_where_she_makes_an_exception():
    laid = sampler()
    laid = after(laid, {"kind": "zone", "refs": picked(laid, "1-1/" + first(laid), "block")})
    key = only(laid)
    laid = after(laid, {"kind": "fill", "zone": key, "fill": {"kind": "grid", "spacing": "1 in"}})
    other = after(
        laid,
        {"kind": "apart", "zone": key, "places": ["2-2"]},
        {"kind": "apart", "zone": key, "places": ["1-3"]},
        {"kind": "fill", "zone": key, "place": "2-2", "fill": {"kind": "echo", "spacing": "1/2 in"}},
        {"kind": "fill", "zone": key, "place": "1-3", "fill": None},
    )
    labels = {
        place: drawing.fill.label if drawing.fill else ""
        for drawing in plan_quilt(other)[key].drawings
        for place in drawing.places
    }
    assert labels["2-2"] == "Echo"
    assert labels.get("1-3", "") == ""
    assert sum(label == "Grid" for label in labels.values()) == 7
    back = after(other, {"kind": "join", "zone": key, "places": ["2-2", "1-3"]})
    assert back.quilt == laid.quilt


def test_a_background_stands_off_what_is_appliqued():
    laid = no_edge(single("Ring of petals"))
    laid = after(laid, {"kind": "zone", "refs": ["1-1/background"]})
    bare = areas(laid)["Ring of petals: background"]
    off = after(laid, {"kind": "stand-off", "zone": only(laid), "stand_off": "1/4 in"})
    part = off.parts(off.zone(only(off)).part)[0]
    applique = part.applique.buffer(0.25 * IN, quad_segs=32).area / IN**2
    assert bare == pytest.approx(144 - part.applique.area / IN**2)
    assert areas(off)["Ring of petals: background"] == pytest.approx(144 - applique)
    with pytest.raises(BadValue) as error:
        after(laid, {"kind": "stand-off", "zone": only(laid), "stand_off": "9 in"})
    assert error.value.field == "stand_off"


@pytest.mark.parametrize(("ends", "inset"), [("finished edge", 0), ("inside", 0.5), ("off the edge", -0.5)])
def test_lines_end_at_the_edge_of_the_quilt_as_she_says(ends, inset):
    laid = zone_on("Plain")
    assert laid.quilt.line_ends == "finished edge"
    wish = {"use": "lap", "batting_overhang": "2 in", "backing_overhang": "3 in"}
    laid = after(laid, {"kind": "quilt", "line_ends": ends, "edge": "1/2 in", **wish})
    [shape] = laid.shapes(laid.zone(only(laid)))
    low, high = inset * IN, (12 - inset) * IN
    assert shape.region.area.bounds == pytest.approx((low, low, high, high))
    assert shape.uncut.area.bounds == pytest.approx((0, 0, 12 * IN, 12 * IN))
    zone = only(laid)
    laid = after(laid, {"kind": "line ends", "zone": zone, "line_ends": "inside", "edge": "1 in"})
    assert laid.shapes(laid.zone(zone))[0].region.area.bounds == pytest.approx((IN, IN, 11 * IN, 11 * IN))
    laid = after(laid, {"kind": "line ends", "zone": zone})
    assert laid.shapes(laid.zone(zone))[0].region.area.bounds == pytest.approx((low, low, high, high))


def test_lines_run_off_the_edge_as_far_as_there_is_batting():
    laid = zone_on("Plain")
    wish = {
        "kind": "quilt",
        "use": "lap",
        "batting_overhang": "1/2 in",
        "backing_overhang": "1 in",
        "line_ends": "off the edge",
    }
    after(laid, {**wish, "edge": "3/4 in"})
    with pytest.raises(BadValue, match="batting ends 3/4 in beyond") as error:
        after(laid, {**wish, "edge": "1 in"})
    assert error.value.field == "edge"


def test_a_zone_runs_off_only_the_sides_that_lie_at_the_edge():
    laid = wished(columns=2, rows=1, block="6 in")
    laid = after(laid, {"kind": "zone", "refs": ["1-1/patch"]}, {"kind": "quilt", "use": "lap", "batting_overhang": "2 in",
        "backing_overhang": "3 in", "line_ends": "off the edge", "edge": "1 in"})  # fmt: skip
    shapes = laid.shapes(laid.zone(only(laid)))
    found = {shape.places: np.round(np.array(shape.region.area.bounds) / IN, 6).tolist() for shape in shapes}
    assert found == {("1-1",): [-1, -1, 6, 7], ("1-2",): [0, -1, 7, 7]}
    assert sum(shape.region.area.area for shape in shapes) == pytest.approx(14 * 8 * IN**2)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"kind": "zone", "refs": ["1-1/moon"]}, "no patch 1-1/moon"),
        ({"kind": "zone", "refs": ["1-1/a-1", "1-2/a-1"]}, "no patch"),
        ({"kind": "zone name", "zone": "moon", "name": "x"}, "no zone called moon"),
        ({"kind": "zone gone", "zone": "moon"}, "no zone called moon"),
        ({"kind": "together", "zone": "nine-patch-whole"}, "not divided"),
        ({"kind": "apart", "zone": "nine-patch-whole", "places": ["8-8"]}, "8-8"),
    ],
)
def test_what_cannot_be_done_to_a_zone_is_said(change, says):
    laid = zone_on("Nine-patch")
    with pytest.raises(KenzetError) as error:
        after(laid, change)
    assert says in str(error.value)


def test_echo_lines_in_a_curved_zone_keep_their_distance_from_its_outline():
    laid = no_edge(zone_on("Orange peel", "patch"))
    key = only(laid)
    laid = after(laid, {"kind": "fill", "zone": key, "fill": {"kind": "echo", "spacing": "1/2 in"}})
    plan = plan_zone(laid, key)
    for drawing in plan.drawings:
        outline = drawing.shape.region.area.boundary
        assert drawing.traces
        for ring in drawing.traces:
            away = shapely.distance(outline, shapely.points(ring.points))
            assert away.min() == pytest.approx(12.7 * (ring.line + 1), abs=0.05)
            assert len(ring.points) > 3
