"""What each curved or cornered fill promises of its shape, wherever it is laid."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from shapely.geometry import LineString

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.fills import FILLS, default_fill
from kenzet.core.fills.base import Paths
from kenzet.core.fills.rhythm import at_beat, beats_of, check_rhythm
from kenzet.core.fills.turned import frame_of
from kenzet.core.geom.clip import Straight, clip
from kenzet.web.dry_run import Mishaps, dry_run
from tests.jobs import block, whole
from tests.shapes import IN, REGIONS, box, drawn, inches, site

SQUARE = inches(box(0, 0, 8, 8))
STRIP = inches(box(0, 0, 24, 4))
BORDER = inches(box(0, 0, 30, 22), box(4, 4, 22, 14))


def families(kind, region, **values):
    return list(FILLS[kind].model_validate(values).lay_out(site(region)))


def lines(kind, region, **values):
    return [LineString(trace.polyline) for trace in drawn(FILLS[kind].model_validate(values), region).traces]


@pytest.mark.parametrize("angle", [0, 30, 45, 90, 137.5])
@pytest.mark.parametrize("name", ["square", "L", "hexagon", "right triangle"])
def test_a_rhythm_is_scanned_like_its_lines_one_by_one(angle, name):
    region = REGIONS[name]
    fill = FILLS["lines"](spacing="1/4 in", rhythm="1 2 2 4", angle=angle, origin="centre gap")
    (family,) = fill.lay_out(site(region))
    found = clip([(region, family)])
    assert set(np.diff(sorted(set(found.line.tolist())))) <= {1}
    for number in sorted(set(found.line.tolist())):
        alone = Straight(family.angle, family.pitch, family.place(number), first=0, last=0)
        mine = found.ends[found.line == number]
        assert np.allclose(mine, clip([(region, alone)]).ends, atol=1e-6)
    gaps = [float(gap) / IN for gap in family.gaps]
    assert gaps == pytest.approx([0.25, 0.5, 0.5, 1.0])


def test_to_next_agrees_with_the_lines_themselves():
    (family,) = families("lines", SQUARE, spacing="1/4 in", rhythm="1 2 2 4", angle=0)
    for number in range(-5, 9):
        here = family.at(number)
        assert family.to_next(here, True) == family.at(number + 1) - here
        assert family.to_next(here, False) == here - family.at(number - 1)
        between = (here + family.at(number + 1)) / 2
        assert family.to_next(between, True) == family.at(number + 1) - between


def test_beats_run_on_in_both_directions():
    beats = beats_of("1 2 2 4 1 2")
    places = [at_beat(k, beats) for k in range(-12, 13)]
    assert places == sorted(places)
    assert at_beat(6, beats) == 12
    assert at_beat(-6, beats) == -12
    assert check_rhythm("") is None
    for wrong in ("1 x", "0", "-1 2", "1/0", "1 " * 30, "200"):
        with pytest.raises(BadValue):
            check_rhythm(wrong)


@pytest.mark.parametrize("corner", ["crest", "trough"])
def test_a_wave_border_is_closed_smooth_and_alike_at_every_corner(corner):
    (family,) = families("wave border", BORDER, corner=corner, period="2 in", depth="1/2 in")
    (path,) = family.paths
    assert path.closed
    sides = np.array(list(path.points))
    across, up = 30 - 4, 22 - 4  # the centre line of a band of 4 in
    out = 0.25 if corner == "crest" else -0.25
    reach = np.abs(sides / IN - np.array([15, 11])).max(axis=0)
    assert reach == pytest.approx([across / 2 + 0.25, up / 2 + 0.25], abs=2e-3)
    for x, y in ((1, 1), (1, -1), (-1, 1), (-1, -1)):
        mitre = np.array([15 + x * (across / 2 + out), 11 + y * (up / 2 + out)]) * IN
        assert np.hypot(*(sides - mitre).T).min() < 0.05, "the same point of the wave stands on every mitre"
    told = {
        f.label: f.value for f in FILLS["wave border"](period="2 in", corner=corner).figures(site(BORDER))
    }
    assert (told["Repeats across"], told["Repeats up"]) == (13, 9)


def test_too_many_rounds_of_a_wave_border_are_refused():
    with pytest.raises(BadValue, match="rounds"):
        families("wave border", BORDER, rounds=20)


def test_inner_scallops_end_on_the_arcs_below_or_on_the_line_of_their_row():
    drawing = drawn(FILLS["scallops"](start="edge"), STRIP)
    outer = shapely.union_all([LineString(t.points) for t in drawing.traces if t.family == 0])
    bottom = LineString([(0, 0), (24 * IN, 0)])
    sides = STRIP.area.boundary
    for trace in drawing.traces:
        if trace.family == 1:
            for end in (trace.points[0], trace.points[-1]):
                point = shapely.Point(end)
                assert min(point.distance(outer), point.distance(bottom), point.distance(sides)) < 0.05


def test_scallops_fit_whole_units_and_clamshells_sit_on_crowns():
    told = {f.label: f.value for f in FILLS["scallops"](unit="4 in").figures(site(STRIP))}
    assert told["Along the row"] == 6
    (family,) = families("clamshell", SQUARE, spacing="2 in")
    below, above = family.paths[0], family.paths[1]
    crowns = below.points[:, 1].max()
    cusps = above.vertices[:, :2]
    assert np.allclose(cusps[:, 1], crowns)
    tops = {round(x / IN, 6) for x, y in below.points.tolist() if abs(y - crowns) < 1e-6}
    assert {round(x / IN, 6) for x in cusps[:, 0].tolist()} & tops


@pytest.mark.parametrize(
    "values", [{}, {"fit": "whole repeats"}, {"slide": "1/4 in"}, {"slide": "1/4 in", "turns": 3}]
)
def test_rows_of_waves_never_cross_and_slide_as_told(values):
    rows = lines("waves", SQUARE, spacing="1/2 in", period="2 in", depth="1/2 in", skip=None, **values)
    for below, above in pairwise(rows):
        assert not below.crosses(above)
    if values.get("fit"):
        whole = [row for row in rows if row.length > 8 * IN]
        starts = {round(row.coords[0][1] - row.coords[-1][1], 3) for row in whole}
        assert starts == {0.0}, "whole repeats begin and end alike"


def test_waves_that_slide_back_repeat_after_twice_the_turns():
    fill = FILLS["waves"](slide="1/4 in", turns=3, typed="step", spacing="1/2 in", skip=None)
    frame = fill.frame(site(SQUARE))
    rows = [fill.row(frame, k)[:, 0] % (2.5 * IN) for k in range(7)]
    assert np.allclose(sorted(rows[0]), sorted(rows[6]), atol=1e-6)
    assert not np.allclose(sorted(rows[0]), sorted(rows[3]), atol=1e-6)


@pytest.mark.parametrize(
    "kind", ["hourglass", "continuous", "clamshell", "s-curves", "through", "scallops", "curved rows"]
)
def test_curves_are_kept_as_arcs(kind):
    arcs = [p for f in families(kind, SQUARE) if isinstance(f, Paths) for p in f.paths if not p.straight]
    assert arcs
    for path in arcs:
        assert len(path.vertices) < len(path.points) / 3


def test_continuous_curves_meet_only_in_grid_corners():
    runs = lines("continuous", SQUARE, spacing="2 in", rise="1/4 in")
    corners = shapely.MultiPoint([(x * 2 * IN, y * 2 * IN) for x in range(5) for y in range(5)]).buffer(0.5)
    for k, one in enumerate(runs):
        for other in runs[:k]:
            met = one.intersection(other)
            assert met.is_empty or corners.covers(met)
    with pytest.raises(BadValue, match="cross the curve"):
        families("continuous", SQUARE, spacing="1 in", rise="1/2 in")


def test_every_other_cell_of_continuous_curves_is_a_closed_round():
    (family,) = families("continuous", SQUARE, spacing="2 in", cells="every other")
    assert len(family.paths) == 8
    assert all(path.closed and len(path.vertices) == 4 for path in family.paths)


def test_s_curves_go_from_corner_to_corner_of_a_grid_on_point():
    fill = FILLS["s-curves"](spacing="0.9 in", rise="1/8 in")
    told = {f.label: f.value / IN for f in fill.figures(site(SQUARE))}
    assert told["S, corner to corner"] == pytest.approx(1.273, abs=1e-3)
    grid_up, grid_down, curves = fill.lay_out(site(SQUARE))
    drawn_grid = shapely.union_all([LineString(p.points) for p in (*grid_up.paths, *grid_down.paths)])
    nodes = [v[:2] for path in curves.paths for v in path.vertices[::2]]
    near = [drawn_grid.distance(shapely.Point(n)) for n in nodes if SQUARE.area.covers(shapely.Point(n))]
    assert max(near) < 1e-6


def test_the_diagonal_zigzag_meets_the_corners_of_its_grid_and_leaves_room_for_motifs():
    fill = FILLS["ruled zigzag"](spacing="1 in", motif="ring")
    rows, motifs = fill.lay_out(site(SQUARE))
    middle = np.array(SQUARE.middle)
    for path in rows.paths:
        steps = (path.vertices[:, :2] - middle) / IN
        assert np.allclose(steps, np.rint(steps), atol=1e-6)
    zigzags = shapely.union_all([LineString(p.points) for p in rows.paths])
    assert motifs.paths
    for drop in motifs.paths:  # out of a corner at which a row turns, and back to it
        start, end = drop.points[[0, -1]]
        assert np.allclose(start, end)
        assert zigzags.distance(shapely.Point(start)) < 1e-6
        far = LineString(drop.points).difference(shapely.Point(start).buffer(0.3 * IN))
        assert far.distance(zigzags) > 0.1 * IN
        assert SQUARE.area.covers(LineString(drop.points))


@pytest.mark.parametrize("motif", ["none", "ring", "spray"])
def test_motifs_in_diamonds_are_sewn_on_the_way_without_a_thread_stop(motif):
    fill = {"kind": "ruled zigzag", "spacing": "1 1/2 in", "motif": motif}
    steps = dry_run(whole(block("Plain", "6 in"), fill), Mishaps(), "in")
    assert sum(step["event"] == "begun" for step in steps) == 1


def test_rungs_stand_square_to_a_curve_at_even_steps():
    from tests.shapes import petal

    region = petal(10, 2)
    drawing = drawn(FILLS["keys"](spacing="3/4 in"), region)
    feet = [trace.points[0] for trace in drawing.traces]
    outline = region.area.boundary
    for trace, (before, after) in zip(drawing.traces, pairwise([*feet, feet[-1]]), strict=True):
        assert outline.distance(shapely.Point(trace.points[0])) < 0.05
        if not np.array_equal(before, after):
            assert math.dist(before, after) / IN == pytest.approx(0.75, abs=0.01)


def test_the_frame_of_a_turned_fill_holds_the_zone():
    for angle in (0.0, 17.0, 90.0, 135.0):
        for region in REGIONS.values():
            frame = frame_of(region, angle, region.middle)
            for point in region.extremes[::7]:
                u, v = frame.into(point)
                assert frame.left - 1e-9 <= u <= frame.right + 1e-9
                assert frame.low - 1e-9 <= v <= frame.high + 1e-9
                assert frame.out(u, v) == pytest.approx(point, abs=1e-9)


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("waves", {"spacing": "1/16 in", "period": "1/2 in", "depth": "1/16 in"}),
        ("clamshell", {"spacing": "1/16 in"}),
        ("continuous", {"spacing": "0.16 in", "rise": "1/32 in"}),
        ("s-curves", {"spacing": "0.12 in", "rise": "1/32 in"}),
        ("ruled zigzag", {"spacing": "1/16 in"}),
        ("fan", {"spacing": "1/16 in", "wide": "0.0626 in"}),
    ],
)
def test_what_nobody_could_sew_is_refused_before_it_is_drawn(kind, values):
    with pytest.raises(TooMany) as error:
        families(kind, inches(box(0, 0, 100, 100)), **values)
    assert error.value.field == "fill.spacing"


def test_switching_between_any_two_fills_always_gives_a_fill():
    for before in FILLS.values():
        given = before.model_validate({}).model_dump(mode="json")
        for kind in FILLS:
            assert default_fill(kind, given).model_dump()["kind"] == kind


def test_a_spacing_is_lent_only_where_it_means_the_same():
    lent = {"kind": "lines", "spacing": "1/8 in"}
    assert default_fill("waves", lent).spacing.text == "1/8 in"
    assert default_fill("clamshell", lent).spacing.text == "1 3/4 in", "the width of a scale is no distance"
    assert default_fill("lines", {"kind": "clamshell", "spacing": "2 in"}).spacing.text == "3/4 in"
    assert default_fill("clamshell", {"kind": "clamshell", "spacing": "2 in"}).spacing.text == "2 in"
