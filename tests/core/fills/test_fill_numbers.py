"""The acceptance scenarios of the fills: their numbers, each against the drawn lines or the figures that are told."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
import shapely
from shapely.geometry import LineString

from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS
from kenzet.core.plan.widest_gap import widest_gap
from tests.shapes import IN, REGIONS, box, drawn, inches, petal, site

SQUARE = {side: inches(box(0, 0, side, side)) for side in (4.5, 5, 6, 6.0, 7, 9, 9.5, 10, 11.25)}
RIGHT = inches([(0, 0), (5, 0), (0, 5)])


def figures(kind, region, **values):
    """What is told, in inches, degrees or as a count."""
    fill = FILLS[kind].model_validate(values)
    told = fill.figures(site(region))
    return {f.label: f.value / IN if f.what in ("length", "sewn") else f.value for f in told}


def lengths(kind, region, **values):
    """Of every line, in inches, as it is drawn."""
    drawing = drawn(FILLS[kind].model_validate(values), region)
    return [drawing.length_of(k) / IN for k in range(drawing.lines)]


def places(kind, region, **values):
    """Of upright lines, in inches."""
    drawing = drawn(FILLS[kind].model_validate(values), region)
    return sorted(set((drawing.stretches.ends[:, 0] / IN).round(6).tolist()))


def near(value, off=1e-3):
    return pytest.approx(value, abs=off)


def test_a18_a_triangle_parallel_to_a_leg():
    found = lengths("lines", RIGHT, spacing="5/8 in", angle=0, origin="edge")
    assert sorted(found, reverse=True) == near([4.375, 3.75, 3.125, 2.5, 1.875, 1.25, 0.625])
    assert sum(found) == near(17.5)


def test_a20_a21_diagonal_echoes_of_a_square():
    told = figures("chevrons", SQUARE[10], spacing="0.8 in")
    assert told["Step along the middle seam"] == near(1.131)
    assert told["Chevrons in a quarter"] == 4
    found = lengths("chevrons", SQUARE[10], spacing="0.8 in")
    assert found[:2] == near([14.142, 14.142])
    assert found[2:6] == near([2 * leg for leg in (5.471, 3.871, 2.271, 0.671)], 2e-3)
    assert sum(found[2:6]) == near(24.569, 2e-3)
    assert sum(found) == near(98.274 + 28.284, 5e-3)


def test_chevrons_of_an_oblong_keep_the_true_slope_and_step_differently_on_both_seams():
    oblong = inches(box(0, 0, 10, 8))
    told = figures("chevrons", oblong, spacing="0.8 in")
    assert (told["Step along the level seam"], told["Step along the upright seam"]) == near((1.281, 1.024))
    assert told["Chevrons left and right, each"] == told["Chevrons above and below, each"] == 3
    drawing = drawn(FILLS["chevrons"](spacing="0.8 in"), oblong)
    diagonal, first = LineString(drawing.traces[0].points), LineString(drawing.traces[2].points)
    apart = [shapely.Point(p).distance(diagonal) for p in drawing.traces[2].points.tolist()]
    assert min(apart) / IN == near(0.8)
    assert first.distance(diagonal) / IN == near(0.8)


@pytest.mark.parametrize(
    ("kind", "values", "told"),
    [
        ("zigzag rows", {"spacing": "3/8 in", "typed": "step"}, {"True spacing, where closest": 0.265}),
        ("zigzag rows", {"spacing": "3/8 in", "typed": "true"}, {"Step of the ruler": 0.530}),
        (
            "zigzag",
            {"spacing": "3/4 in", "typed": "step"},
            {"Each leg": 1.458, "Angle from the row": 30.96, "Turn at each point": 61.93, "True spacing, where closest": 0.643},
        ),
        ("zigzag", {"spacing": "3/4 in", "typed": "step", "depth": 2}, {"Each leg": 1.953, "True spacing, where closest": 0.480}),
    ],
)  # fmt: skip
def test_a22_to_a26_zigzags(kind, values, told):
    found = figures(kind, SQUARE[11.25], **values)
    assert {label: found[label] for label in told} == near(told, 5e-3)


def test_a25_the_sample_has_fifteen_zigzags_of_nine_legs():
    drawing = drawn(FILLS["zigzag"](spacing="3/4 in", typed="step", start="edge", angle=90), SQUARE[11.25])
    assert [len(trace.path.vertices) - 1 for trace in drawing.traces] == [9] * 15
    told = drawn(
        FILLS["zigzag"](spacing="0.643119694 in", typed="true", start="edge", angle=90), SQUARE[11.25]
    )
    assert len(told.traces) == 15
    gaps = [
        LineString(a.points).distance(LineString(b.points))
        for a, b in zip(drawing.traces, drawing.traces[1:], strict=False)
    ]
    assert np.array(gaps) / IN == near(0.643)


def test_the_typed_one_of_step_and_true_spacing_is_told():
    for typed in ("true", "step"):
        told = FILLS["zigzag"](typed=typed).figures(site(SQUARE[9]))
        assert {f.label: f.typed for f in told[:2]} == {
            "Step of the ruler": typed == "step", "True spacing, where closest": typed == "true",
        }  # fmt: skip


@pytest.mark.parametrize(
    ("values", "told"),
    [
        ({"second_angle": 60, "spacing": "3/4 in"}, {"Side of a cell": 0.866, "Cell, long way": 1.5, "Cell, short way": 0.866}),
        ({"second_angle": 60, "spacing": "1/2 in", "second_spacing": "3/4 in"}, {"Cell, along the second set": 0.577, "Cell, along the first set": 0.866}),
        ({"second_angle": 37, "spacing": "1/2 in"}, {"Side of a cell": 0.831, "Cell, long way": 1.576, "Cell, short way": 0.527}),
        ({"second_angle": 90, "spacing": "1 in"}, {"Cell, corner to corner": 1.414}),
    ],
)  # fmt: skip
def test_a28_to_a30_cells_of_skewed_grids(values, told):
    assert figures("grid", SQUARE[9], angle=0, **values) == near(told)


def test_a_grid_of_unequal_families_has_the_closer_one_as_widest_gap():
    drawing = drawn(
        FILLS["grid"](angle=0, second_angle=90, spacing="1/2 in", second_spacing="3/4 in"), SQUARE[6]
    )
    assert widest_gap(drawing).width / IN == near(0.5, 2e-3)


def test_a33_pairs_come_in_their_rhythm():
    values = {"spacing": "0.25 in", "wide": "0.625 in", "angle": 90, "origin": "edge", "first_gap": "0 in"}
    wanted = [0.25, 0.875, 1.125, 1.75, 2, 2.625, 2.875, 3.5, 3.75, 4.375, 4.625, 5.25, 5.5]
    assert places("pairs", SQUARE[6], **values) == near(wanted)  # the line at 0 lies in the ditch
    values = {"spacing": "0.25 in", "rhythm": "1 2.5", "angle": 90, "origin": "edge", "first_gap": "0 in"}
    assert places("lines", SQUARE[6], **values) == near(wanted)


def test_a_rhythm_goes_on_both_ways_from_its_datum():
    found = places("lines", SQUARE[9], spacing="1/2 in", rhythm="1 2", angle=90, origin="centre line")
    assert 4.5 in found
    assert np.diff(found) == near([0.5, 1.0] * 5)


def test_a34_inset_square_with_alternate_directions():
    found = lengths("inset", SQUARE[7], spacing="0.4 in", half="1 1/4 in")
    assert found[:8] == near([3.5] * 5 + [2.25] * 3)
    assert sum(found[:8]) == near(24.25)
    assert found[32] == near(10.0)
    drawing = drawn(FILLS["inset"](spacing="0.4 in"), SQUARE[7])
    upright = [abs(t.points[0, 0] - t.points[1, 0]) < 1e-9 for t in drawing.traces[:32]]
    assert upright == ([True] * 8 + [False] * 8) * 2
    assert figures("inset", SQUARE[7], spacing="0.4 in")["Left beside the cross"] == near(0.3)


def test_an_inset_line_on_the_side_of_the_square_is_drawn_once():
    found = lengths("inset", SQUARE[7], spacing="0.45 in", half="1.25 in")  # 5 x 0.45 = 2.25 from the edge
    assert found[4] == near(2.25)


def test_a99_a_square_as_large_as_the_block_is_refused():
    with pytest.raises(BadValue, match="less than 3 1/2 in") as error:
        drawn(FILLS["inset"](half="3.6 in"), SQUARE[7])
    assert error.value.field == "half"


@pytest.mark.parametrize(
    ("values", "length", "turn", "total", "narrow", "wide"),
    [
        ({"spacing": "0.15 in", "wide": "0.30 in", "lines": 12}, 6, 1.432, 17.19, 1.8, 3.6),
        ({"spacing": "0.125 in", "wide": "0.375 in", "lines": 9}, 8, 1.79, 16.1, 1.125, 3.375),
    ],
)
def test_a36_a82_fans(values, length, turn, total, narrow, wide):
    region = inches(box(0, 0, length, 20))
    base = next(k for k, e in enumerate(region.edges) if abs(e.length / IN - length) < 1e-6)
    told = figures("fan", region, at=base, **values)
    assert told["Turn a line"] == near(turn, 5e-3)
    assert told["Turn in all"] == near(total, 2e-2)
    assert (told["All need at the narrow end"], told["All need at the wide end"]) == near((narrow, wide))


def test_a_fan_opens_by_its_spacings_at_both_ends():
    fill = FILLS["fan"](spacing="1/8 in", wide="1/4 in", at=0, lines=3)
    region = inches(box(0, 0, 7, 4))
    (family,) = fill.lay_out(site(region))
    first, second = (LineString(p.points) for p in family.paths[:2])
    top = region.edges[0]
    away = shapely.Point(top.start).distance(first), shapely.Point(top.end).distance(first)
    turn = math.atan(0.125 / 7)
    assert np.array(away) / IN == near([0.125 * math.cos(turn), 0.25 * math.cos(turn)], 2e-3)
    assert first.distance(second) > 0


def test_random_lines_never_come_nearer_than_the_least_gap():
    for shape in ("straight", "wavy"):
        for seed in range(1, 6):
            fill = FILLS["random"](spacing="3/8 in", shape=shape, seed=seed, skip=None)
            drawing = drawn(fill, SQUARE[9])
            lines = [LineString(t.points) for t in drawing.traces]
            gaps = [a.distance(b) for a, b in itertools.pairwise(lines)]
            assert min(gaps) / IN >= 0.375 - 1e-3
            assert len(lines) > 5
    other = drawn(FILLS["random"](seed=2), SQUARE[9])
    assert not np.array_equal(
        other.traces[0].points, drawn(FILLS["random"](seed=1), SQUARE[9]).traces[0].points
    )


def test_a42_echoes_of_a_melon_keep_their_arcs():
    melon = petal(8, 1.25)
    drawing = drawn(FILLS["echo"](spacing="0.3 in"), melon)
    for ring, radius, tips in ((0, 6.725, 0.554), (1, 6.425, 1.184)):
        arcs = drawing.traces[ring].arcs
        assert len(arcs) == 2
        chord = math.dist(arcs[0, :2], arcs[1, :2]) / IN
        bulge = abs(arcs[0, 2])
        assert chord * (1 + bulge**2) / (4 * bulge) == near(radius, 3e-3)
        assert (8 - chord) / 2 == near(tips, 3e-3)
    assert not drawn(FILLS["echo"](spacing="1.25 in"), melon).traces


def test_a43_a76_clamshells():
    region = inches(box(0, 0, 12.25, 7))
    drawing = drawn(FILLS["clamshell"](spacing="1 3/4 in"), region)
    assert len(drawing.traces) == 8
    arcs = [len(t.path.vertices) - 1 for t in drawing.traces]
    assert arcs == [7, 8] * 4  # seven whole; six whole and two halves
    assert drawing.length_of(0) / IN == near(7 * math.pi * 0.875)
    assert drawing.length_of(1) / IN == near(7 * math.pi * 0.875, 5e-3)
    assert drawing.density * IN == near(1.795, 2e-3)
    second = drawn(FILLS["clamshell"](spacing="1 3/4 in", second="0.357 in"), region)
    assert second.density * IN == near(3.061, 6e-3)
    told = figures("clamshell", region, spacing="1 3/4 in", second="0.357 in")
    assert (told["Radius of an arc"], told["Up from row to row"], told["Radius of the second arc"]) == near(
        (0.875, 0.875, 1.25)
    )


def test_a46_shallow_scales():
    told = figures("clamshell", SQUARE[10], spacing="2 in", rise="1/2 in")
    assert (told["Radius of an arc"], told["Up from row to row"]) == near((1.25, 0.5))
    with pytest.raises(BadValue, match="half its width"):
        drawn(FILLS["clamshell"](spacing="2 in", rise="1 1/4 in"), SQUARE[10])
    with pytest.raises(BadValue, match="flatter"):
        drawn(FILLS["clamshell"](spacing="1 3/4 in", second="0.9 in"), SQUARE[10])


def test_a47_a_single_wave_stands_in_the_middle_of_its_strip():
    strip = inches(box(0, 0, 27, 3.5))
    values = {"period": "2.5 in", "depth": "0.6 in", "rows": 1}
    (trace,) = drawn(FILLS["waves"](**values), strip).traces
    v = trace.points[:, 1] / IN
    assert (v.min(), v.max()) == near((1.45, 2.05), 2e-3)
    assert figures("waves", strip, **values)["Clear on either side"] == near(1.45)


def test_a51_a_strip_holds_whole_repeats():
    strip = inches(box(0, 0, 27, 3.5))
    told = figures("waves", strip, period="2.5 in", depth="0.6 in", rows=1)
    assert (told["Whole repeats in a row"], told["Left at each end"]) == near((10, 1.0))
    told = figures("waves", strip, period="2.5 in", depth="0.6 in", rows=1, fit="whole repeats")
    assert (told["Repeats in a row"], told["Each changed by"]) == near((11, -0.0455))


def test_a48_two_waves_from_opposite_edges():
    strip = inches(box(0, 0, 27, 4.5))
    values = {"period": "2.5 in", "depth": "0.6 in", "rows": 2, "spacing": "1 in", "typed": "step"}
    low, high = (t.points[:, 1] / IN for t in drawn(FILLS["waves"](**values), strip).traces)
    assert ((low.min() + low.max()) / 2, (high.min() + high.max()) / 2) == near((4.5 - 2.75, 2.75), 2e-3)


def test_a52_a_slide_repeats_and_f30_the_true_spacing():
    told = figures("waves", SQUARE[10], period="2 in", depth="1/4 in", slide="1/4 in")
    assert told["Rows until it repeats"] == 8
    for period, depth, share in ((3, 0.5, 0.886), (2.5, 0.6, 0.798), (1.5, 0.5, 0.691)):
        told = figures(
            "waves", SQUARE[10], period=f"{period} in", depth=f"{depth} in", spacing="1 in", typed="step"
        )
        assert told["True spacing, where closest"] == near(share)


def test_a50_the_hollow_of_a_tight_wave():
    assert figures("waves", SQUARE[10], period="1.25 in", depth="0.5 in")["Radius in the hollow"] == near(
        0.158
    )


def test_a_wave_strays_no_more_than_a_hair_from_a_sine():
    (trace,) = drawn(FILLS["waves"](period="2.5 in", depth="0.6 in", rows=1), inches(box(0, 0, 20, 3))).traces
    x, y = trace.points.T / IN
    sine = 1.5 + 0.3 * np.cos(2 * math.pi * (x - 10) / 2.5)
    assert np.abs(y - sine).max() < 0.005


def test_a54_shells_about_the_square_corner():
    found = lengths("shells", RIGHT, spacing="0.6 in", skip=None)
    assert found[:5] == near([math.pi / 2 * 0.6 * k for k in range(1, 6)], 2e-3)
    assert found[5:] == near([2.145, 2.145, 0.904, 0.904, 0.204, 0.204], 2e-3)
    assert len(lengths("shells", RIGHT, spacing="0.6 in")) == 9  # slivers are left out


def test_shells_about_a_point():
    corner = RIGHT.corners.index(max(RIGHT.corners))
    found = lengths("shells", RIGHT, spacing="0.3 in", skip=None, at=corner)
    assert found[:16] == near([math.pi / 4 * 0.3 * k for k in range(1, 17)], 3e-3)
    assert len(found) == 16 + 7
    assert (found[16], found[22]) == near((2.994, 0.173), 3e-3)


def test_a56_a_pinched_diamond_keeps_its_tips():
    diamond = REGIONS["diamond"]
    told = figures("pinned", diamond, spacing="5/8 in")
    assert told["The same of the first round"] == near(1.341)
    assert told["An even echo would move the tip by"] == near(1.398)
    (trace,) = drawn(FILLS["pinned"](spacing="5/8 in"), diamond).traces
    assert trace.closed
    xs = trace.points[:, 0] / IN
    assert (xs.min(), xs.max()) == near((-4, 4))
    tip, bend = trace.path.vertices[0, :2], trace.path.vertices[1, :2]
    ux, uy = (bend - tip) / math.dist(bend, tip)
    side = np.array([0, math.copysign(2 * IN, bend[1])]) - tip
    assert abs(side[0] * uy - side[1] * ux) / IN == near(0.625)


def test_pinned_petals_keep_their_tips_and_stay_arcs():
    (trace, *_) = drawn(FILLS["pinned"](spacing="1/2 in"), petal(8, 1.25)).traces
    rows = trace.path.vertices
    assert len(rows) == 2
    assert np.abs(rows[:, 2]) * 4 == near([0.75, 0.75])  # rise = bulge · chord / 2


def test_a58_corner_cuts_of_a_nine_patch():
    found = lengths("corner cuts", inches(box(0, 0, 7.5, 7.5)), spacing="0.4 in")
    assert found[:5] == near([3.536, 2.736, 1.936, 1.136, 0.336])
    told = figures("corner cuts", inches(box(0, 0, 7.5, 7.5)), spacing="0.4 in")
    assert told["Echoes in a corner"] == 4
    assert (told["Step along the level seam"], told["Tip left in the corner"]) == near((0.566, 0.168))
    drawing = drawn(FILLS["corner cuts"](spacing="0.4 in"), inches(box(0, 0, 7.5, 7.5)))
    u = 2.5 * IN
    shape = shapely.Polygon(
        [(u, 0), (2 * u, 0), (3 * u, u), (3 * u, 2 * u), (2 * u, 3 * u), (u, 3 * u), (0, 2 * u), (0, u)]
    )
    assert shape.area == pytest.approx(7 * u * u)
    inner = shapely.Polygon(drawing.traces[-1].points)
    assert inner.symmetric_difference(shape.buffer(-0.4 * IN, join_style="mitre")).area < 1e-6 * shape.area


def test_a_frame_stands_round_its_inner_outline():
    told = figures("frame", SQUARE[9], inset="1 1/4 in", spacing="1/4 in")
    assert told["Inner outline, across"] == near(6.5)
    assert lengths("frame", SQUARE[9], inset="1 1/4 in", spacing="1/4 in") == near([28, 26])
    with pytest.raises(ValueError, match="reach beyond the edge"):
        FILLS["frame"](inset="1 in", spacing="1/2 in", echoes=2)


def test_a62_a63_hourglass_curves():
    told = figures("hourglass", SQUARE[5], radius="2.75 in")
    assert [told[k] for k in ("Corner to center", "Rise", "Along an arc")] == near([3.536, 0.643, 3.840])
    (trace,) = drawn(FILLS["hourglass"](radius="2.75 in"), SQUARE[5]).traces
    assert trace.closed
    assert trace.length / IN == near(30.72, 1e-2)
    column = inches(box(0, 0, 35, 45))
    drawing = drawn(FILLS["hourglass"](radius="2.75 in", across=7, down=9), column)
    assert sum(len(t.path.vertices) for t in drawing.traces) == 504
    with pytest.raises(BadValue, match="at least half the leg"):
        drawn(FILLS["hourglass"](radius="1 in"), SQUARE[5])


def test_every_arc_of_an_hourglass_bulges_into_its_own_triangle():
    (trace,) = drawn(FILLS["hourglass"](), SQUARE[6]).traces
    corner, centre = trace.path.vertices[0], trace.path.vertices[1]
    assert centre[:2] / IN == near([3, 3])
    middle = trace.points[len(trace.points) // 16]
    assert middle[1] < middle[0]  # below the diagonal: in the lower triangle
    assert corner[2] > 0


def test_a67_cells_of_a_grid_on_point():
    for origin, whole, halves, quarters in (("centre line", 24, 16, 0), ("centre gap", 25, 12, 4)):
        q = 1.5 * IN
        fill = FILLS["grid"](
            spacing=f"{1.5 / math.sqrt(2):.9f} in", angle=45, second_angle=135, origin=origin
        )
        drawing = drawn(fill, SQUARE[6])
        lines = shapely.linestrings(drawing.stretches.ends.reshape(-1, 2, 2))
        noded = shapely.union_all([SQUARE[6].area.boundary, *lines], grid_size=1e-4)
        sizes = [round(cell.area / (q * q / 2), 2) for cell in shapely.polygonize([noded]).geoms]
        assert [sizes.count(share) for share in (1.0, 0.5, 0.25)] == [whole, halves, quarters]
        assert len(sizes) == whole + halves + quarters


def test_a69_lines_across_a_petal():
    values = {"spacing": "0.3 in", "angle": 90}
    found = lengths("lines", petal(7, 1.3), **values)
    assert len(found) == 23
    assert (max(found), found[0], found[1]) == near((2.600, 0.328, 0.764), 2e-3)
    assert len(lengths("lines", petal(7, 1.3), skip="1/2 in", **values)) == 21


def test_a74_a_channel_stays_open():
    region = inches(box(0, 0, 8, 6))
    values = {"wide": "1.2 in", "depth": "0.5 in", "period": "4 in", "spacing": "1/4 in"}
    told = figures("channel", region, **values)
    assert (told["Narrowest place"], told["Widest place"]) == near((0.7, 1.7))
    assert told["Open, percent of the height"] == near(20)
    gap = widest_gap(drawn(FILLS["channel"](**values), region))
    assert 1.2 < gap.width / IN <= 1.7 + 1e-3
    assert gap.place[1] / IN == near(3, 0.1)
    with pytest.raises(BadValue, match="pinched shut"):
        drawn(FILLS["channel"](wide="1/2 in", depth="1/2 in"), region)


def test_a75_density():
    for kind, values in (
        ("lines", {"spacing": "1/4 in", "angle": 0}),
        ("grid", {"spacing": "1/2 in", "angle": 0, "second_angle": 90}),
    ):
        drawing = drawn(FILLS[kind](origin="centre gap", **values), SQUARE[6])
        assert drawing.density * IN == near(4.0)
        assert widest_gap(drawing).width / IN == near(
            float(values["spacing"].split("/")[0]) / float(values["spacing"][2]), 2e-3
        )


def test_a77_rungs():
    border = inches(box(0, 0, 40, 4))
    assert figures("keys", border, spacing="1 1/4 in") == near({"Rungs along the edge": 31, "Last gap": 1.25})
    assert figures("keys", border, spacing="1 1/2 in") == near({"Rungs along the edge": 26, "Last gap": 1.0})
    assert lengths("keys", border, spacing="1 1/4 in") == near([4.0] * 31)


def test_rungs_of_a_frame_end_on_the_mitre():
    frame = inches(box(0, 0, 12, 12), box(3, 3, 6, 6))
    found = lengths("keys", frame, spacing="1 in", base="all round")
    assert sorted(found[:11]) == near([1, 1, 2, 2, 3, 3, 3, 3, 3, 3, 3])
    assert len(found) == 44


def test_a83_sunburst():
    told = figures("sunburst", SQUARE[6], spikes=12, inner="1.5 in", outer="2.25 in")
    assert [
        told[k] for k in ("Each takes", "Point to point on the inner arc", "and on the outer arc")
    ] == near([15, 0.393, 0.589])
    drawing = drawn(FILLS["sunburst"](spikes=12, inner="1.5 in", outer="2.25 in"), SQUARE[6])
    assert len(drawing.traces[-1].path.vertices) == 25


def test_curved_rows_and_the_straight_lines_above():
    values = {
        "spacing": "0.6 in",
        "typed": "step",
        "rise": "1 in",
        "rows": 3,
        "start": "edge",
        "straights": "above",
        "apart": "0.3 in",
    }
    told = figures("curved rows", SQUARE[9], **values)
    assert [told[f"Arc, {what}"] for what in ("end to end", "rise", "radius")] == near([9, 1, 10.625])
    assert told["True spacing, where closest"] == near(0.544)
    found = lengths("curved rows", SQUARE[9], **values)
    assert len(found) == 3 + 29
    assert (min(found[3:]), max(found[3:])) == (near(9 - 2.8, 1e-2), near(7.065, 1e-3))
    fill = FILLS["curved rows"](**values)
    assert "4" in fill.notes()[0], "three rows end on the far side (A103)"
    assert not FILLS["curved rows"](**{**values, "rows": 4}).notes()


def test_echoes_of_an_applique_stop_at_the_edge_and_grow_together():
    hole = box(2, 2, 1, 1), box(5, 2, 1, 1)
    region = inches(box(0, 0, 8, 5), *hole)
    fill = FILLS["echo"](of="inner", spacing="1/2 in", first="3/16 in", corners="round", rounds=3)
    drawing = drawn(fill, region)
    holes = shapely.union_all([shapely.Polygon([(x * IN, y * IN) for x, y in h]) for h in hole])
    for trace, k in ((drawing.traces[0], 0), (drawing.traces[-1], 2)):
        away = shapely.distance(holes, shapely.points(trace.points))
        assert np.abs(away / IN - (3 / 16 + k / 2)).max() < 0.002
    assert [t.closed for t in drawing.traces] == [
        True,
        True,
        True,
        True,
        True,
    ]  # the third is one ring round both


def test_a_spiral_echo_is_one_line_and_follows_a_split():
    (trace,) = drawn(FILLS["spiral"](spacing="1/2 in"), SQUARE[6]).traces
    assert trace.length / IN == pytest.approx(sum(4 * (6 - k) for k in range(1, 6)) - 4 * 0.5, abs=2.0)
    waist = inches(
        [
            (0, 0),
            (4, 0),
            (4, 1.6),
            (6, 1.6),
            (6, 0),
            (10, 0),
            (10, 4),
            (6, 4),
            (6, 2.4),
            (4, 2.4),
            (4, 4),
            (0, 4),
        ]
    )
    assert len(drawn(FILLS["spiral"](spacing="1/2 in"), waist).traces) == 2


def test_flanking_lines_run_beside_every_seam():

    from kenzet.core.plan.drawing import draw
    from tests.shapes import Part, ZoneShape

    region = SQUARE[6]
    seams = (((3 * IN, 0.0), (3 * IN, 6 * IN)), ((0.0, 3 * IN), (6 * IN, 3 * IN)))
    fill = FILLS["beside"](spacing="3/8 in")
    place = site(region)._replace(find_seams=lambda: seams)
    part = Part("b", "b", "b", 6 * IN, 6 * IN, {}, {})
    drawing = draw(ZoneShape(part, region, ("1-1",)), fill, tuple(fill.lay_out(place)), ("1-1",))
    assert [t.length / IN for t in drawing.traces] == near([6.0] * 8)
    assert widest_gap(drawing).width / IN == near(2.25, 0.01)


def test_only_drawn_grids_sew_nothing_and_every_line_is_a_mark():
    drawing = drawn(FILLS["grid"](use="drawn", spacing="1 in"), SQUARE[6])
    assert drawing.stitched == 0
    assert widest_gap(drawing).width / IN == near(6.0, 0.01)


def test_a96_a_zone_narrower_than_the_spacing_holds_no_line():
    strip = inches(box(0, 0, 9, 2))
    assert lengths("lines", strip, spacing="2.5 in", angle=0, origin="edge") == []
    assert (
        lengths("waves", inches(box(0, 0, 9, 0.2)), rows=1, depth="1/2 in", skip=None) != []
    )  # it is cut, not lost


def test_thread_outlines_are_sewn_as_often_as_she_says():
    drawing = drawn(FILLS["retraced"](times=3), SQUARE[5])
    assert drawing.stitched / IN == near(60.0)


def test_freehand_textures_claim_density_and_no_line():
    drawing = drawn(FILLS["texture"](texture="pebbles", spacing="1/2 in"), SQUARE[6])
    assert drawing.lines == 0
    assert drawing.density * IN == near(7.2)  # 3.6 / D
    assert drawing.hints


def test_no_row_is_begun_that_the_far_edge_cuts_and_the_spare_is_told():
    fill = FILLS["zigzag rows"](
        spacing="1/4 in", typed="step", start="edge", first="1/4 in", rhythm="1 2 1 3", rise="0.6 in"
    )
    region = inches(box(0, 0, 8, 4))
    drawing = drawn(fill, region)
    assert len(drawing.traces) == 8
    assert max(trace.points[:, 1].max() for trace in drawing.traces) / IN == pytest.approx(3.6)
    told = {one.label: one.value / IN for one in fill.figures(site(region))}
    assert told["Left beyond the last row"] == pytest.approx(0.4)


@pytest.mark.parametrize(("chord", "rise"), [(8, 1.25), (10, 2), (6, 2.5), (20, 5)])
def test_ends_on_curved_edges_and_echoes_of_arcs_lie_where_the_true_arc_does(chord, rise):
    region = petal(chord, rise)
    radius = (chord**2 / 4 + rise**2) / (2 * rise) * IN
    left, low, right, high = region.bounds
    x, y = (left + right) / 2, (low + high) / 2
    centres = np.array([(x, y + rise * IN - radius), (x, y - rise * IN + radius)])

    def off(points, far):
        return np.abs(np.hypot(*(points[:, None] - centres).transpose(2, 0, 1)) - far).min(axis=1).max()

    ends = drawn(FILLS["lines"](spacing="1/4 in", angle=90), region).stretches.ends.reshape(-1, 2)
    assert off(ends, radius) <= 0.02
    for ring in drawn(FILLS["echo"](spacing="1/4 in", corners="round"), region).traces[:3]:
        middles = (ring.polyline[:-1] + ring.polyline[1:]) / 2
        assert off(np.concatenate([ring.points, middles]), radius - (ring.line + 1) * IN / 4) <= 0.02
