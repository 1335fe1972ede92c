"""The scan against the library's own intersection, and where the library is no help."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from kenzet.core.geom.clip import Straight, clip, count_at_most
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from tests.shapes import IN, REGIONS, box, inches

QUARTER = Fraction("6.35")


def by_library(region: Region, family: Straight) -> list[float]:
    """Stretch lengths line by line through the library; only honest away from corners."""
    (ux, uy), (nx, ny) = family.direction, family.normal
    out = []
    for i in range(-700, 700):
        c = family.place(i)
        far = LineString([(nx * c - ux * 9e3, ny * c - uy * 9e3), (nx * c + ux * 9e3, ny * c + uy * 9e3)])
        cut = shapely.intersection(far, region.area)
        out += [part.length for part in getattr(cut, "geoms", [cut]) if part.length > 0.02]
    return sorted(out)


@pytest.mark.parametrize("name", REGIONS)
@pytest.mark.parametrize("angle", [0.0, 37.3, 45.0, 90.0, 151.0])
def test_agrees_with_the_library_away_from_corners(name, angle):
    region = REGIONS[name]
    family = Straight(angle, QUARTER, datum=0.731)
    found = clip([(piece, family) for piece in region.pieces])
    assert np.allclose(sorted(found.lengths), by_library(region, family), atol=1e-6)
    assert (
        len(found)
        <= count_at_most([(p, family) for p in region.pieces])
        <= len(found) + 2 * len(region.pieces) + 8
    )


def lines_in(region: Region, angle: float, pitch: str, datum: float = 0.0) -> list[float]:
    found = clip([(region, Straight(angle, Fraction(pitch) * Fraction("25.4"), datum * IN))])
    return [round(float(x) / IN, 4) for x in found.lengths]


def test_a88_a_line_on_the_ditch_is_left_out():
    assert lines_in(inches(box(0, 0, 8, 8)), 0, "1/4") == [8.0] * 31


@pytest.mark.parametrize("gaps", [7, 11, 12, 97])
def test_an_even_spacing_that_is_rounded_puts_no_line_on_the_ditch(gaps):
    for extent in (7.0, 12 * 2**0.5, 65.999):
        spacing = Length.near(extent / gaps * IN, "in")
        found = clip([(inches(box(0, 0, 3, extent)), Straight(0, spacing.mm, 0.0))])
        assert len(found) == gaps - 1


def test_the_long_side_of_a_triangle_is_no_line_and_leaves_no_crumbs():
    triangle = inches([(0, 0), (2, 0), (0, 2)])
    found = clip([(triangle, Straight(135, Fraction(127, 20), datum=-(2**0.5) * IN))])
    assert all(length > 0.1 for length in found.lengths)
    assert len(found) == 5  # 1.4142 / 0.25 = 5.66: the long side itself is not among them


def test_a18_triangle_parallel_to_a_leg_and_to_the_long_side():
    triangle = inches([(0, 0), (5, 0), (0, 5)])
    assert lines_in(triangle, 0, "5/8") == [4.375, 3.75, 3.125, 2.5, 1.875, 1.25, 0.625]
    long_side = lines_in(triangle, -45, "5/8", datum=5 / 2**0.5)
    assert sum(long_side) == pytest.approx(5.821 + 4.571 + 3.321 + 2.071 + 0.821, abs=0.003)


def test_a89_concave_and_holed_regions_split_the_line():
    assert lines_in(REGIONS["frame"], 0, "1", 0.5) == [10, 10, 2, 2, 2, 2, 2, 2, 2, 2, 10, 10]
    assert lines_in(REGIONS["L"], 0, "3") == [2.0]


def test_a_line_along_an_inner_edge_keeps_only_what_lies_inside():
    # at y = 2 the L's inner edge runs from x 2 to 6 and the region goes on from 0 to 2
    assert lines_in(REGIONS["L"], 0, "2") == [2.0, 2.0]


def test_a_line_that_grazes_a_corner_is_not_cut():
    notched = inches([(0, 0), (6, 0), (6, 4), (3, 2), (0, 4)])
    assert lines_in(notched, 0, "2") == [6.0]


def test_lines_behind_the_first_are_left_out():
    found = clip([(REGIONS["square"], Straight(0, QUARTER, 3 * IN, first=0))])
    assert len(found) == 18 and found.line.min() == 0


corner = st.tuples(st.integers(-40, 40), st.integers(-40, 40))


@given(st.lists(corner, min_size=3, max_size=7), st.integers(0, 179), st.integers(1, 30))
def test_total_length_times_pitch_is_the_area_of_what_is_covered(points, angle, pitch):
    """On any polygon, through corners or not, both halves of a line's neighbourhood agree."""
    area = Polygon(points).buffer(0)
    if area.is_empty or area.area < 1:
        return
    region = Region(area)
    family = Straight(float(angle), Fraction(pitch, 7), 0.0)
    found = clip([(region, family)])
    middles = (found.ends[:, :2] + found.ends[:, 2:]) / 2
    assert all(shapely.intersects_xy(region.area.buffer(1e-6), middles[:, 0], middles[:, 1]))
    near = [
        clip([(region, Straight(float(angle), Fraction(pitch, 7), d))]).lengths.sum() for d in (-1e-5, 1e-5)
    ]
    assert found.lengths.sum() <= max(near) + 0.05 * (len(points) + 1)
