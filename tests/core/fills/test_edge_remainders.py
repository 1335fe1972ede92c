"""What is left along edges, by the acceptance figures."""

from __future__ import annotations

from fractions import Fraction as F

import pytest

from kenzet.core.fills import FILLS
from kenzet.core.fills.base import Site
from kenzet.core.fills.edge_remainders import edge_remainders
from kenzet.core.numbers.measure import MM_PER
from tests.shapes import REGIONS, box, inches

IN = MM_PER["in"]


def gaps(region, **values):
    site = Site(region, region.middle, (0.0, 0.0))
    fill = FILLS["lines"].model_validate({"angle": 0, **values})
    found = edge_remainders(region, list(fill.lay_out(site)))
    return [float(each.gap / IN) for each in found], found, fill.fix_sliver(site)


@pytest.mark.parametrize(
    ("height", "spacing", "origin", "left", "sliver", "better"),
    [
        (10, "0.75 in", "centre line", [0.5, 0.5], False, None),  # A13: the other centre would be a sliver
        (10, "0.75 in", "centre gap", [0.125, 0.125], True, ("line on the center", F("0.5"))),
        (7.5, "0.625 in", "edge", [0.625, 0.625], False, None),  # A11
        (7, "0.6 in", "edge", [0.4, 0.6], False, None),  # A12
        (7.1, "0.6 in", "edge", [0.5, 0.6], False, None),
        (6.65, "0.6 in", "edge", [0.05, 0.6], True, ("even spacing", F("0.604545"))),
        (6.1, "3/4 in", "edge", [0.1, 0.75], True, ("even spacing", F("0.7625"))),
        (8, "2 in", "centre line", [2, 2], False, None),  # a line on the edge is no line
    ],
)
def test_what_is_left_along_the_edges(height, spacing, origin, left, sliver, better):
    places, found, other = gaps(inches(box(0, 0, 5, height)), spacing=spacing, origin=origin)
    assert places == pytest.approx(left, abs=1e-6)
    assert found[0].sliver is sliver
    if sliver:
        assert (other.how, round(other.gap / IN, 6)) == better


def test_edges_at_a_slant_have_no_gap_and_holes_have_theirs():
    assert gaps(REGIONS["square"], angle=30)[0] == []
    assert gaps(REGIONS["frame"], spacing="1 in", origin="edge", first_gap="3/4 in")[0] == pytest.approx(
        [0.25, 0.25, 0.75, 0.75]
    )
