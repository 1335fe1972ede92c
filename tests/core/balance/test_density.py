"""How firm, against what is computed by hand."""

import math
from itertools import pairwise

import numpy as np
import pytest

from kenzet.core.balance.density import density_map, hand, spread, zone_densities
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.relief.cloth import sewn_lines
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.tops import after, wished


def plain(fill, **wish):
    """A top of plain blocks, all of it one fill."""
    laid = after(wished(**{"block": "12 in", **wish}), {"kind": "zone", "refs": ["1-1/patch"]})
    (key,) = laid.quilt.zones
    return after(laid, {"kind": "fill", "zone": key, "fill": fill}) if fill else laid


@pytest.mark.parametrize(
    ("fill", "wanted"),  # F13: parallel 1/s, square grid 2/s
    [({"kind": "lines", "spacing": "1/2 in", "angle": 0}, 2.0), ({"kind": "grid", "spacing": "1/2 in"}, 4.0), ({"kind": "lines", "spacing": "2 in"}, 0.5)],
)  # fmt: skip
def test_a_zone_is_as_dense_as_its_spacing_says(fill, wanted):
    laid = plain(fill, columns=1, rows=1, block="30 in")
    (found,) = zone_densities(laid, plan_quilt(laid))
    assert found.density * INCH == pytest.approx(wanted, rel=0.06)
    found = density_map(laid)
    rows, columns = found.values.shape
    assert found.values[rows // 2, columns // 2] * INCH == pytest.approx(wanted, rel=0.03)


def test_each_figure_of_the_map_is_the_mean_about_its_cell():
    """A cell of the demo's map against the stitches about it, weighed one by one."""
    laid = QuiltLayout(demo_quilts()[0])
    found = density_map(laid)
    row, column = found.values.shape[0] // 3, found.values.shape[1] // 3
    x, y = (column + 0.5) * found.raster.wide, (found.raster.rows - row - 0.5) * found.raster.wide
    weight = 0.0
    for line in sewn_lines(laid):
        for (x0, y0), (x1, y1) in pairwise(line):
            long = math.hypot(x1 - x0, y1 - y0)
            many = max(int(long / 1.5), 1)
            share = (np.arange(many) + 0.5) / many
            away = np.hypot(x0 + share * (x1 - x0) - x, y0 + share * (y1 - y0) - y)
            weight += float(np.exp(-2 * (away / (2 * INCH)) ** 2).sum()) * long / many
    whole = math.pi / 2 * (2 * INCH) ** 2  # of the bell over a plane
    assert found.values[row, column] == pytest.approx(weight / whole, rel=0.05)


def test_words_hang_on_the_use():
    words = [
        [hand(inches / INCH, use, Batting()) for use in ("bed", "lap", "wall")] for inches in (0.01, 1.7, 3.2)
    ]
    assert words == [["open", "open", "open"], ["firm", "soft", "soft"], ["stiff", "firm", "firm"]]


def test_an_unquilted_zone_is_open_and_a_quilt_without_zones_has_no_mean():
    laid = plain(None, columns=2, rows=2)
    (found,) = zone_densities(laid, plan_quilt(laid))
    assert (found.density, found.hand) == (0.0, "open")
    assert spread([]).mean == 0.0
