"""Paths with arcs: drawn, clipped against the library as the oracle, and arcs read back from points."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString

from kenzet.core.geom.arcs import Arc, bulge_for
from kenzet.core.geom.path_clip import clip_paths
from kenzet.core.geom.paths import Path, straight_path, with_arcs
from kenzet.core.geom.region import Region
from kenzet.core.tolerances import CURVE_ERROR, LEAST_STRETCH
from tests.shapes import IN, REGIONS, box, inches

SQUARE = Region.of(box(0, 0, 100, 100))
place = st.integers(-40, 240)
points = st.lists(st.tuples(place, place), min_size=2, max_size=9, unique=True)


def length_inside(region, path):
    """What the library says lies inside, side by side, the outline's own stretches left out."""
    ditch = region.area.boundary.buffer(1e-4)
    rows = np.vstack([path.vertices, path.vertices[:1]]) if path.closed else path.vertices
    sides = [LineString(Path(np.array([a, b])).points) for a, b in pairwise(rows)]
    return sum(side.intersection(region.area).difference(ditch).length for side in sides)


@settings(max_examples=100)
@given(points, st.sampled_from(["square", "L", "frame", "hexagon", "star background", "right triangle"]))
def test_polylines_are_clipped_as_by_the_library(corners, name):
    region = REGIONS[name]
    path = Path.of([(float(x), float(y)) for x, y in corners])
    pieces = clip_paths(region, [path])
    assert all(piece.line == 0 and not piece.path.closed for piece in pieces)
    total = sum(piece.path.length for piece in pieces)
    touched = len(corners) * 0.1  # a slanted line leaves the ditch a hair later
    assert total == pytest.approx(length_inside(region, path), abs=touched + LEAST_STRETCH * len(corners))
    inside = region.area.buffer(1e-3)
    assert all(shapely.covers(inside, LineString(piece.path.points)) for piece in pieces)


@settings(max_examples=100)
@given(points, st.lists(st.floats(-0.9, 0.9), min_size=9, max_size=9), st.booleans())
def test_arcs_are_clipped_and_stay_arcs_of_the_same_circle(corners, bulges, closed):
    vertices = [(float(x), float(y), b) for (x, y), b in zip(corners, bulges, strict=False)]
    path = Path.of(vertices, closed)
    circles = [
        Arc((a[0], a[1]), (b[0], b[1]), a[2])
        for a, b in zip(vertices, [*vertices[1:], vertices[0]], strict=True)
        if a[2]
    ]
    pieces = clip_paths(SQUARE, [path])
    for piece in pieces:
        rows = piece.path.vertices
        for a, b in pairwise(rows):
            chord = math.dist(a[:2], b[:2])
            if abs(a[2]) * chord < 0.5:
                continue
            cut = Arc((a[0], a[1]), (b[0], b[1]), a[2])
            assert min(math.dist(cut.centre, whole.centre) for whole in circles) < 0.05 * cut.radius + 0.05
    total = sum(piece.path.length for piece in pieces)
    grazes = len(corners) * 12 * CURVE_ERROR + 0.02 * max(total, 1.0)
    assert total == pytest.approx(length_inside(SQUARE, path), abs=grazes)


def test_a_line_ends_on_the_true_arc_and_on_the_very_edge():
    circle = Path.of([(-60.0, 0.0, 1.0), (60.0, 0.0, 1.0)], closed=True)
    (piece,) = clip_paths(SQUARE, [circle])
    first, last = piece.path.points[0], piece.path.points[-1]
    assert sorted([tuple(first.round(9)), tuple(last.round(9))]) == [(0.0, 60.0), (60.0, 0.0)]
    assert piece.path.length == pytest.approx(math.pi / 2 * 60, abs=1e-9)


def test_a_grazing_arc_ends_where_the_true_circle_does():
    low = Region.of([(-200.0, -50.0), (200.0, -50.0), (200.0, 90.0), (-200.0, 90.0)])
    circle = Path.of([(-91.44, 0.0, 1.0), (91.44, 0.0, 1.0)], closed=True)
    pieces = clip_paths(low, [circle])
    ends = sorted(x for piece in pieces for x, y in (piece.path.points[0], piece.path.points[-1]) if y > 80)
    assert ends == pytest.approx([-math.sqrt(91.44**2 - 90**2), math.sqrt(91.44**2 - 90**2)], abs=1e-6)


@pytest.mark.parametrize(
    ("vertices", "pieces", "long"),
    [
        ([(-10, 50), (110, 50)], 1, 100.0),  # right across
        ([(0, 0), (100, 0)], 0, 0.0),  # in the ditch
        ([(-10, 0), (50, 0), (50, 50)], 1, 50.0),  # leaves the ditch
        ([(50, 20), (0, 40), (50, 60)], 1, 2 * math.hypot(50, 20)),  # touches an edge and goes on
        ([(-10, -10), (110, 110)], 1, 100 * math.sqrt(2)),  # through two corners
        ([(-50, 50), (50, 150)], 0, 0.0),  # touches a corner from outside
        ([(50, 50), (50, 50.005)], 0, 0.0),  # shorter than a stitch
        ([(20, 20), (80, 20), (80, 80)], 1, 120.0),  # wholly inside
    ],
)
def test_edges_and_corners(vertices, pieces, long):
    found = clip_paths(SQUARE, [Path.of(vertices)])
    assert len(found) == pieces
    assert sum(piece.path.length for piece in found) == pytest.approx(long, abs=1e-6)


def test_closed_paths_stay_closed_or_fall_into_pieces_joined_at_their_first_point():
    whole = Path.of([(20, 20), (80, 20), (80, 80), (20, 80)], closed=True)
    (found,) = clip_paths(SQUARE, [whole])
    assert found.path.closed
    assert found.path.length == 240
    begun_inside = Path.of([(50, 50), (150, 50), (150, 150), (50, 150)], closed=True)
    (joined,) = clip_paths(SQUARE, [begun_inside])
    assert joined.path.points.tolist() == [[50, 100], [50, 50], [100, 50]]
    four = clip_paths(SQUARE, [Path.of([(50, -20), (120, 50), (50, 120), (-20, 50)], closed=True)])
    assert len(four) == 4


def test_pieces_keep_the_number_and_the_order_of_their_paths():
    rows = [straight_path((-10.0, y), (300.0, y)) for y in (10.0, 60.0, 90.0)]
    found = clip_paths(inches(box(0, 0, 10, 4), box(1, 1, 3, 2)), rows)
    assert [piece.line for piece in found] == [0, 1, 1, 2]
    starts = [piece.path.points[0, 0] for piece in found]
    assert starts[1] < starts[2]
    assert clip_paths(SQUARE, []) == []
    assert clip_paths(SQUARE, [Path(np.zeros((1, 3)))]) == []


def test_many_sides_are_found_by_the_tree_as_by_the_plain_way(monkeypatch):
    from kenzet.core.geom import path_clip

    region = REGIONS["disc"]
    waves = [
        Path.of([(float(x), 30.0 + y, 0.4 if x % 20 else -0.4) for x in range(0, 170, 10)])
        for y in (0, 20, 45)
    ]
    plain = clip_paths(region, waves)
    monkeypatch.setattr(path_clip, "_MANY_PAIRS", 0)
    by_tree = clip_paths(region, waves)
    assert len(plain) == len(by_tree) > 0
    for one, other in zip(plain, by_tree, strict=True):
        assert np.allclose(one.path.vertices, other.path.vertices)


@pytest.mark.parametrize("bulge", [0.05, -0.2, 0.41421356, -1.0, 1.4])
def test_a_drawn_arc_strays_no_more_than_it_may_and_is_read_back(bulge):
    path = Path.of([(0.0, 0.0, bulge), (80.0, 10.0)])
    arc = Arc((0.0, 0.0), (80.0, 10.0), bulge)
    assert path.length == pytest.approx(arc.radius * abs(arc.angle))
    drawn = LineString(path.points)
    samples = shapely.points([arc.at(k / 500) for k in range(501)])
    assert shapely.distance(drawn, samples).max() <= CURVE_ERROR + 1e-9
    back = with_arcs(path.points, closed=False)
    assert len(back) <= 3
    assert sum(4 * math.atan(row[2]) for row in back) == pytest.approx(arc.angle, rel=1e-3)


def test_corners_between_arcs_and_straights_are_no_arcs():
    path = Path.of([(0, 0), (40, 0, 0.4), (40, 40, 0.0), (0, 40, -0.3), (0, 80)])
    back = with_arcs(path.points, closed=False)
    assert np.allclose(back[:, :2], path.vertices[:, :2], atol=1e-6)
    assert back[:, 2] == pytest.approx([0, 0.4, 0, -0.3, 0], abs=1e-3)
    straight = with_arcs(np.array([(0.0, 0), (10, 0), (20, 5), (30, 0), (10, -20)]), closed=True)
    assert not straight[:, 2].any()


def test_a_closed_ring_is_read_from_a_corner_so_that_no_arc_is_cut():
    petal = REGIONS["petal"]
    ring = np.asarray(petal.area.geoms[0].exterior.coords)[:-1]
    for begin in (0, 7, len(ring) // 2):
        back = with_arcs(np.roll(ring, begin, axis=0), closed=True)
        assert len(back) == 2
        assert np.abs(back[:, 2]) == pytest.approx([bulge_for(8, 1.25)] * 2, abs=1e-3)
    assert petal.bounds[2] / IN == pytest.approx(8)
