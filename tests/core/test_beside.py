"""Lines that flow across blocks, contrast with what lies beside, fills that stand alone."""

from __future__ import annotations

import pytest

from kenzet.core.changes import with_zone
from kenzet.core.contrast import density_at, neighbours, ratio, stands_alone
from kenzet.core.fills import FILLS
from kenzet.core.flow import flow
from kenzet.core.plan import plan_quilt, plan_zone

IN = 25.4


def with_fill(laid, key, kind=None, **values):
    fill = FILLS[kind](**values) if kind else None
    return laid.with_quilt(with_zone(laid.quilt, key, fill=fill, left_open=fill is None))


@pytest.mark.parametrize(
    ("values", "miss"),
    [
        ({"spacing": "1 in", "angle": 0}, 0.0),  # blocks come every 14 in
        ({"spacing": "3/4 in", "angle": 0}, 0.25),
        ({"spacing": "3/4 in", "angle": 90}, 0.25),
        ({"spacing": "4 in", "angle": 0}, 2.0),
        ({"spacing": "3/4 in", "angle": 0, "origin": "quilt centre"}, 0.0),
        ({"spacing": "0.707106781 in", "angle": 45}, 0.0),
    ],
)
def test_lines_meet_from_block_to_block_or_miss_by_so_much(laid, values, miss):
    found = flow(plan_zone(with_fill(laid, "star-background", "lines", **values), "star-background"))
    assert found.miss / IN == pytest.approx(miss, abs=1e-3)
    assert found.meets == (miss == 0)
    assert not found.turned


def test_only_even_straight_lines_in_several_blocks_flow(laid):
    for key, kind, values in (
        ("border", "lines", {"spacing": "2 in"}),
        ("star-background", "echo", {}),
        ("star-background", "lines", {"rhythm": "1 2"}),
    ):
        assert flow(plan_zone(with_fill(laid, key, kind, **values), key)) is None


def test_turned_blocks_are_told(laid):
    turned = laid.quilt.layout.model_dump()
    assert turned  # the demo lays its blocks upright; see the kelp garden for turned ones
    from kenzet.core.flow import _between

    assert _between([(0.0, 10.0, 1.0)], [(90.0, 10.0, 1.0)]).turned
    assert _between([(0.0, 10.0, 9.8)], [(0.0, 10.0, 0.1)]).miss == pytest.approx(0.3)


def test_a85_contrast():
    assert ratio(3.2, 2.4) == pytest.approx(1.333, abs=1e-3)


def test_neighbours_are_those_that_touch(laid):
    quilt = with_fill(
        with_fill(laid, "star-centre", "lines", spacing="1/2 in"), "star-points", "lines", spacing="1/4 in"
    )
    plans = plan_quilt(quilt)
    place = next(iter(quilt.places(quilt.zone("star-centre"))))
    found = {one.name: one for one in neighbours(quilt, plans, "star-centre", place)}
    points = quilt.zone("star-points").name
    assert found[points].ratio == pytest.approx(
        density_at(plans, "star-points", place) / density_at(plans, "star-centre", place)
    )
    assert quilt.zone("sashing").name not in found, "the centre touches no sash"
    around = {one.name for one in neighbours(quilt, plans, "star-background", place)}
    assert quilt.zone("sashing").name in around


def test_an_open_neighbour_always_reads(laid):
    quilt = with_fill(laid, "star-points")
    place = next(iter(quilt.places(quilt.zone("star-centre"))))
    found = {one.name: one for one in neighbours(quilt, plan_quilt(quilt), "star-centre", place)}
    assert found[quilt.zone("star-points").name].reads


def test_a84_an_accent_in_one_place_only_is_told(laid):
    quilt = with_fill(laid, "sashing", "waves", spacing="1 in", depth="1/4 in")
    plans = plan_quilt(quilt)
    assert stands_alone(plans, "sashing")
    assert not stands_alone(plans, "star-centre")
    assert not stands_alone({"sashing": plans["sashing"]}, "sashing"), "nothing else is quilted yet"
