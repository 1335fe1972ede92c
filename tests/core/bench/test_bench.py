"""The ruler bench: rulers in plastic, what is read off them, and lines that are kept."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
import shapely
from shapely.geometry import LineString

from kenzet.core.bench.place_ruler import lay_on_arc, placement_for, set_by_angle
from kenzet.core.bench.readout import BenchReference, Lay, read
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.geom.arcs import Arc
from kenzet.core.kit.edges import ArcEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.ruler_outline import body_of, plastic
from kenzet.core.kit.things.rulers import WaveRuler
from kenzet.core.plan.planner import plan_zone
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.ruler.pose import pose
from kenzet.core.top.quilt_layout import QuiltLayout
from tests.bench_cases import FEET, RULERS, TABLE, references_of, table
from tests.shapes import IN, REGIONS
from tests.tops import after

EDGES = [(name, k) for name, edges in RULERS.items() for k in range(len(edges))]
SQUARE = REGIONS["square"]


def test_the_table_that_the_screen_is_held_to_is_what_the_core_says():
    kept, now = json.loads(TABLE.read_text()), json.loads(json.dumps(table()))
    assert kept["regions"] == now["regions"]
    assert [(c["part"], c["lay"]) for c in kept["cases"]] == [(c["part"], c["lay"]) for c in now["cases"]]
    for one, other in zip(kept["cases"], now["cases"], strict=True):
        for what in ("held", "stops"):
            assert [list(map(bool, row)) for row in one[what]] == [
                list(map(bool, row)) for row in other[what]
            ]
        assert np.allclose(one["sewn"], other["sewn"], atol=1e-3)
    assert kept["figures"] == now["figures"]


@pytest.mark.parametrize(("name", "number"), EDGES)
@pytest.mark.parametrize("foot", FEET)
def test_the_needle_stays_the_foots_offset_off_the_plastic(name, number, foot):
    part = plastic(RULERS[name], number, foot)
    body = body_of(part)
    assert body.is_valid and body.area > 0
    edge = LineString(part.edge.points)
    assert edge.distance(body.boundary) < 0.06 and edge.length > 10
    if part.needle is None:
        assert part.dead
        return
    away = shapely.distance(edge, shapely.points(part.needle.points))
    assert np.all(np.abs(away - foot) < 0.12)
    assert shapely.distance(body, shapely.points(part.needle.points)).min() > foot - 0.12
    first, last = part.needle.points[[0, -1]]
    assert first[0] <= last[0] + 1e-6  # from left to right, the plastic at its left


def test_a_foot_that_is_too_wide_for_a_hollow_leaves_some_of_the_edge_untouched():
    tight, wide = plastic(RULERS["tight wave"], 0, IN / 4), plastic(RULERS["wave"], 0, IN / 4)
    assert len(tight.dead) >= 7 and not wide.dead  # A50: a hollow of 0.158 in
    assert plastic((ArcEdge("inside", 5.0, 20.0),), 0, IN / 4).needle is None


def test_the_three_quarter_mark_sews_an_inch():
    part = plastic(RULERS["quarters"], 0, IN / 4)
    left = BenchReference("seam", "the left edge", (0, 190.5), (0, 0))
    found = read(part, Lay(0.75 * IN, 95, 90), SQUARE, [left], IN / 4)
    assert float(found.held[0].etched) == pytest.approx(0.75 * IN)
    assert found.held[0].away == pytest.approx(IN)
    assert found.sewn.vertices[:, 0] == pytest.approx([IN, IN])
    assert [stop.along for stop in found.ends] == pytest.approx([IN / 4, IN / 4])


@pytest.mark.parametrize(("angle", "y", "along"), [(45, 95, 0.354), (60, 95, 0.289), (30, 20, 0.5)])
def test_where_the_edge_crosses_the_seam_at_a_slant(angle, y, along):
    """F7, A32."""
    part = plastic(RULERS["quarters"], 0, IN / 4)
    found = read(part, Lay(95, y, angle), SQUARE, references_of(SQUARE), IN / 4)
    level = [s.along for s in found.ends if min(abs(s.needle[1]), abs(s.needle[1] - 190.5)) < 1e-6]
    assert level and level[0] / IN == pytest.approx(along, abs=5e-4)


def test_a_reference_before_the_edge_shows():
    """F3: 1/8 in apart with a foot of 1/4."""
    part = plastic(RULERS["quarters"], 0, IN / 4)
    left = BenchReference("line", "line 1", (0, 190.5), (0, 0))
    found = read(part, Lay(-IN / 8, 95, 90), SQUARE, [left], IN / 4).held[0]
    assert (found.etched, found.away / IN, found.bare / IN) == (
        None,
        pytest.approx(1 / 8),
        pytest.approx(1 / 8),
    )


@pytest.mark.parametrize("side", ["outside", "inside"])
@pytest.mark.parametrize("bulge", [0.3, -0.3, 0.05])
def test_a_curved_ruler_is_laid_through_both_ends(side, bulge):
    """A40: an edge that sews the radius exactly sews the very arc."""
    arc = Arc((10, 20), (140, 90), bulge)
    foot = IN / 4
    edge = ArcEdge(side, arc.radius + (-foot if side == "outside" else foot), 900.0)
    lay = lay_on_arc(edge, foot, arc.start, arc.end, bulge)
    sewn = lay.put_path(plastic((edge,), 0, foot).needle)
    line = LineString(sewn.points)
    middle = [(a + b) / 2 + d * bulge / 2 for a, b, d in ((10, 140, 70), (20, 90, -130))]
    for point in (arc.start, arc.end, middle):
        assert line.distance(shapely.Point(point)) < 0.15


@pytest.fixture
def quilt(demo):
    return QuiltLayout(demo)


def kept(quilt, **lay):
    zone = next(key for key in quilt.quilt.zones if quilt.quilt.zones[key].fill)
    place = quilt.shapes(quilt.zone(zone))[0].places[0]
    left, low, right, high = quilt.shapes(quilt.zone(zone))[0].region.bounds
    at = {"x": (left + right) / 2, "y": (low + high) / 2, "angle": 90.0, "ruler": "straight-ruler", **lay}
    return zone, place, after(quilt, {"kind": "keep line", "zone": zone, "place": place, **at})


def test_a_kept_line_is_in_the_plan_beside_the_fill_until_it_is_taken_up(quilt):
    zone, place, now = kept(quilt)
    before, found = plan_zone(quilt, zone), plan_zone(now, zone)
    assert found.lines_in_quilt == before.lines_in_quilt + len(now.places(now.zone(zone)))
    drawn = found.layered(BY_HAND).drawing_at(place)
    assert drawn.traces[0].path.straight and drawn.shape.region.area.buffer(1e-6).contains(
        LineString(drawn.traces[0].points)
    )
    gone = after(now, {"kind": "take up line", "zone": zone, "number": 0})
    assert gone.quilt == quilt.quilt


def test_a_kept_line_that_lies_by_a_mark_is_laid_by_it_and_not_drawn(quilt):
    zone = next(key for key in quilt.quilt.zones if quilt.quilt.zones[key].fill)
    left, low, _, high = quilt.shapes(quilt.zone(zone))[0].region.bounds
    _, place, laid = kept(quilt, x=left + IN / 2, y=(low + high) / 2)
    _, _, loose = kept(quilt, x=left + 11.3, angle=77)
    held = laid.zone(zone).by_hand[0]
    assert (held.on, float(held.distance.mm)) == ("seam", pytest.approx(0.75 * IN))
    assert loose.zone(zone).by_hand[0].on == ""
    for one, kind in ((laid, "seam"), (loose, "mark")):
        plan = plan_zone(one, zone).layered(BY_HAND)
        assert plan.references(plan.drawing_at(place))[0].kind == kind


@pytest.mark.parametrize(
    ("lay", "error", "field"),
    [
        ({"ruler": "no-such-ruler"}, Unknown, "ruler"),
        ({"edge": 5}, Unknown, "ruler"),
        ({"x": 9000.0}, BadValue, "lay"),
    ],
)
def test_what_cannot_be_kept_is_refused(quilt, lay, error, field):
    with pytest.raises(error) as caught:
        kept(quilt, **lay)
    assert caught.value.field == field


def test_a_ruler_that_must_not_be_used_keeps_no_line(quilt):
    """A79."""
    ruler = quilt.quilt.kit.rulers["straight-ruler"]
    thin = ruler.model_validate({**ruler.model_dump(mode="json"), "thickness": "3 mm"})
    unsafe = QuiltLayout(
        quilt.quilt.model_copy(update={"kit": quilt.quilt.kit.changed(rulers={"straight-ruler": thin})})
    )
    with pytest.raises(BadValue, match="slide under the foot"):
        kept(unsafe)


def test_a_planned_line_is_laid_as_the_plan_says(quilt):
    for key in quilt.quilt.zones:
        plan = plan_zone(quilt, key)
        if plan is None:
            continue
        drawing = plan.drawings[0]
        for line in range(0, len(drawing.stretches), max(len(drawing.stretches) // 5, 1)):
            laid = placement_for(plan, drawing, line, -1, quilt.quilt.kit)
            part = plastic(
                quilt.quilt.kit.rulers[laid.ruler].edges, laid.edge, float(quilt.quilt.kit.foot_offset)
            )
            sewn = read(part, laid.lay, drawing.region, [], float(quilt.quilt.kit.foot_offset)).sewn
            wanted = LineString(drawing.stretches.ends[line].reshape(2, 2))
            assert math.isclose(LineString(sewn.points).hausdorff_distance(wanted), 0, abs_tol=0.02), (
                key,
                line,
            )


@pytest.mark.parametrize(("angle", "leans"), [(45, 45), (60, 60), (90, 90), (37, None)])
def test_a_first_line_is_set_by_a_slanted_etched_line_on_the_seam_that_it_meets(angle, leans):
    """A32: there the working edge crosses the seam r / sin(angle) from where the needle meets it."""
    strip = REGIONS["thin strip"]
    (left, low, _, high), kit = strip.bounds, Kit()
    run = (high - low) / math.tan(math.radians(angle))
    start, end = (left + 300, low), (left + 300 + run, high)
    laid = pose(strip, start, end, True, best_offset_sum(kit, kit.foot_offset), kit)
    way = set_by_angle(strip, laid, kit)
    assert (way and way.degrees) == leans
    if way:
        edge = strip.edges[way.edge]
        met = start if edge.start[1] == low else end
        off = abs(way.along - (met[0] - left))
        assert off / IN == pytest.approx(0.25 / math.sin(math.radians(angle)), abs=1e-6)


@pytest.mark.parametrize("fill", ["waves", "wave border"])
def test_a_wave_that_is_made_for_the_line_sews_the_line(quilt, fill):
    """F29: the needle's line keeps repeat and height, r beyond the plastic."""
    zone = "border"
    wave = {"kind": fill, "spacing": "1 in", "period": "2 1/2 in", "depth": "1/2 in"}
    now = after(quilt, {"kind": "fill", "zone": zone, "fill": wave})
    plan = plan_zone(now, zone)
    drawing = plan.drawings[0]
    wanted = plan.template(drawing)
    made = WaveRuler.model_validate(
        {"period": f"{wanted.period} mm", "depth": f"{wanted.depth} mm", "length": "10 in"}
    )
    kit = now.quilt.kit.changed(rulers={"made": made})
    laid = placement_for(plan, drawing, plan.telling_line(drawing), -1, kit)
    assert laid.fit.verdict == "fits"
    r = float(kit.foot_offset)
    needle = laid.lay.put(plastic(made.edges, 0, r).needle.points)
    line = LineString(drawing.polylines[plan.telling_line(drawing)])
    away = shapely.distance(line, shapely.points(needle))
    assert np.median(away) < 0.75  # a line beside a wave is no wave to a hair
    crests = needle[needle[:, 1] > needle[:, 1].max() - 0.05]
    assert shapely.distance(line, shapely.points(crests)).max() < 0.75
