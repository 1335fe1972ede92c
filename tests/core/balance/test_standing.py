"""Flat against puffy, and what is seen first."""

import numpy as np
import pytest

from kenzet.core.balance.density import zone_densities
from kenzet.core.balance.ground import NONE, weighed
from kenzet.core.balance.standing import Standing, busy_shares, fabric_areas, pairs, seen_first, standings
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.balance.test_density import plain


@pytest.fixture(scope="module")
def demo():
    laid = QuiltLayout(demo_quilts()[0])
    return laid, weighed(laid), plan_quilt(laid)


def test_labels_cover_each_zone_by_its_area(demo):
    laid, ground, plans = demo
    area = {one.key: one.area for one in zone_densities(laid, plans)}
    for k, key in enumerate(ground.keys):
        assert (ground.labels == k).sum() * ground.pixel == pytest.approx(area[key], rel=0.03), key
    assert (ground.labels == NONE).mean() < 0.04  # the allowance at the quilt's edge


def test_neighbors_are_those_that_share_a_seam(demo):
    laid, ground, plans = demo
    found = pairs(ground, zone_densities(laid, plans), standings(ground))
    told = {frozenset((pair.dense, pair.loose)) for pair in found}
    assert told == {
        frozenset(two)
        for two in (("star-points", "star-background"), ("star-background", "sashing"), ("star-points", "star-centre"), ("sashing", "border"))
    }  # fmt: skip
    for pair in found:
        mine, its = (
            next(one.density for one in zone_densities(laid, plans) if one.key == key)
            for key in (pair.dense, pair.loose)
        )
        assert pair.ratio is None if its == 0 else pair.ratio == pytest.approx(mine / its)
    assert found[0].alike(2.0)
    assert not found[0].alike(1.01)
    assert not found[-1].alike(10.0)  # one is open: they never look alike


def test_the_wider_the_lines_the_higher_it_stands_and_open_cloth_stands_highest():
    rises = []
    for spacing in ("1/4 in", "1/2 in", "1 in", "2 in"):
        ground = weighed(plain({"kind": "lines", "spacing": spacing, "angle": 0}, columns=2, rows=2))
        (one,) = standings(ground)
        rises.append(one.rise)
    assert rises == sorted(rises)
    (flat,) = standings(weighed(plain({"kind": "lines", "spacing": "1/4 in"}, columns=2, rows=2)))
    (puffy,) = standings(weighed(plain(None, columns=2, rows=2)))
    assert (flat.flat, flat.puffy) == (True, 0.0)
    assert puffy.rise > 0.9
    assert not puffy.flat


def test_between_two_lines_the_mean_height_is_two_thirds_of_the_middle():
    """A parabola, as long as the loft does not stop it (F: h = p w² / 8 in the middle)."""
    laid = plain({"kind": "lines", "spacing": "1 in", "angle": 0}, columns=1, rows=1, block="30 in")
    ground = weighed(laid, longer=960)
    rows, columns = ground.labels.shape
    inner = ground.heights[rows // 4 : 3 * rows // 4, columns // 3 : 2 * columns // 3] / ground.loft
    assert float(inner.max()) == pytest.approx(0.8, abs=0.09)  # a gap is 19 to 21 pixels wide
    assert float(inner.mean()) == pytest.approx(0.8 * 2 / 3, abs=0.04)


def test_what_stands_out_is_seen_and_a_busy_print_hides_it(demo):
    _, ground, _ = demo
    found = standings(ground)
    calm = seen_first(ground, found, {}, {})
    assert calm[0].weight == 1.0
    assert [one.weight for one in calm] == sorted((one.weight for one in calm), reverse=True)
    first = calm[0].key
    hidden = {one.key: one for one in seen_first(ground, found, {}, {first: 1.0})}
    shown = {one.key: one for one in seen_first(ground, found, {first: 40.0}, {})}
    last = calm[-1].key
    assert hidden[last].weight > calm[-1].weight  # against one that is less seen, all others are more
    assert shown[last].weight < calm[-1].weight


def test_fabrics_of_a_zone_are_measured_where_it_lies(demo):
    laid, ground, plans = demo
    area = {one.key: one.area for one in zone_densities(laid, plans)}
    for key, cloth in fabric_areas(ground).items():
        assert sum(cloth.values()) == pytest.approx(area[key], rel=0.001)
    kelp = weighed(QuiltLayout(demo_quilts()[1]))
    busy = busy_shares(kelp)
    assert busy["outer-border"] == pytest.approx(1.0)
    assert 0 < busy["kelp-blades-whole"] < 1
    assert busy["setting-triangles"] == 0


def test_a_mirrored_quilt_has_mirrored_labels():
    ground = weighed(plain({"kind": "grid", "spacing": "1 in"}, columns=2, rows=2))
    assert np.array_equal(ground.labels, ground.labels[:, ::-1])
    assert isinstance(standings(ground)[0], Standing)
    assert ground.raster.wide <= INCH / 8
