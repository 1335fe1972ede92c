"""Lines that flow across blocks, contrast with what lies beside, fills that stand alone."""

from __future__ import annotations

import numpy as np
import pytest

from kenzet.core.advice.continuity import continuity, continuity_fix
from kenzet.core.advice.contrast import density_at, neighbours, ratio, stands_alone
from kenzet.core.fills import FILLS
from kenzet.core.plan.planner import plan_quilt, plan_zone
from kenzet.core.top.document import with_zone

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
    found = continuity(plan_zone(with_fill(laid, "star-background", "lines", **values), "star-background"))
    assert found.miss / IN == pytest.approx(miss, abs=1e-3)
    assert found.meets == (miss == 0)
    assert not found.turned


@pytest.mark.parametrize(
    ("kind", "values", "miss"),
    [
        ("waves", {"spacing": "1 in", "typed": "step", "period": "2 in"}, 0.0),  # blocks come every 14 in
        ("waves", {"spacing": "1 in", "typed": "step", "period": "2 1/2 in"}, 1.0),  # 14 = 5 · 2 1/2 + 1 1/2
        ("waves", {"spacing": "1 in", "typed": "step", "period": "2 1/2 in", "start": "quilt centre"}, 0.0),
        ("waves", {"spacing": "3/4 in", "typed": "step", "period": "2 in", "slide": "1/2 in", "start": "quilt centre"}, 0.0),
        ("zigzag", {"spacing": "3/4 in", "advance": "3/4 in", "typed": "step", "start": "quilt centre"}, 0.0),
        ("zigzag", {"spacing": "1 in", "advance": "3/4 in", "typed": "step"}, 0.5),  # 14 = 9 · 1 1/2 + 1/2
        ("zigzag rows", {"spacing": "3/4 in", "typed": "step", "slide": "1/8 in", "start": "quilt centre"}, 0.0),
        ("scallops", {"unit": "3 in", "fit": "as it is", "start": "quilt centre"}, 0.0),
    ],
)  # fmt: skip
def test_rows_and_their_repeats_meet_from_block_to_block_or_miss_by_so_much(laid, kind, values, miss):
    plan = plan_zone(with_fill(laid, "star-background", kind, **values), "star-background")
    found = continuity(plan)
    assert found.miss / IN == pytest.approx(miss, abs=2e-3)
    assert found.meets == (miss == 0)


def test_waves_counted_from_the_quilts_centre_are_one_set_of_lines_over_all_blocks(laid):
    """Every sewn point of every block lies on the same waves in the quilt's coordinates."""
    values = {
        "spacing": "1 in",
        "typed": "step",
        "period": "3 in",
        "depth": "1/2 in",
        "start": "quilt centre",
    }
    plan = plan_zone(with_fill(laid, "star-background", "waves", **values), "star-background")
    assert len(plan.drawings) > 1
    middle = laid.middle
    for drawing in plan.drawings:
        for place in drawing.places:
            a, b, c, d, e, f = drawing.shape.part.places[place]
            for trace in drawing.traces:
                x, y = trace.polyline.T
                u, v = a * x + c * y + e - middle[0], b * x + d * y + f - middle[1]
                row = v - 0.25 * IN * np.cos(2 * np.pi * u / (3 * IN))  # a crest on the quilt's centre
                assert np.abs(row / IN - np.round(row / IN)).max() < 0.01


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("lines", {"spacing": "3/4 in", "angle": 0}), ("grid", {"spacing": "3/4 in"}), ("lines", {"spacing": "1 in", "angle": 0}),
        ("waves", {}), ("zigzag", {}), ("scallops", {"fit": "as it is", "unit": "3 in"}), ("echo", {}),
    ],
)  # fmt: skip
def test_what_mends_the_flow_does_mend_it(laid, kind, values):
    plan = plan_zone(with_fill(laid, "star-background", kind, **values), "star-background")
    mend = continuity_fix(plan)
    assert bool(mend) == (continuity(plan) is not None and not continuity(plan).meets)
    mended = plan_zone(with_fill(laid, "star-background", kind, **{**values, **mend}), "star-background")
    assert continuity(mended) is None or continuity(mended).meets
    assert not continuity_fix(mended)


def test_only_even_straight_lines_in_several_blocks_flow(laid):
    for key, kind, values in (
        ("border", "lines", {"spacing": "2 in"}),
        ("star-background", "echo", {}),
        ("star-background", "lines", {"rhythm": "1 2"}),
    ):
        assert continuity(plan_zone(with_fill(laid, key, kind, **values), key)) is None


def test_turned_blocks_are_told(laid):
    turned = laid.quilt.layout.model_dump()
    assert turned  # the demo lays its blocks upright; see the kelp garden for turned ones
    from kenzet.core.advice.continuity import _between

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
