"""What lines can be made to meet: tips, corners and seam ends where they truly are."""

from __future__ import annotations

import pytest

from kenzet.core.advice.features import features_of
from tests.jobs import block, whole
from tests.tops import after

IN = 25.4


def inside(laid, by):
    quilt = laid.quilt.model_dump(mode="json")
    kept = {name: quilt[name] for name in ("use", "batting_overhang", "backing_overhang")}
    return after(laid, {"kind": "quilt", **kept, "line_ends": "inside", "edge": by})


@pytest.mark.parametrize("by", ["1/4 in", "1 in"])
def test_tips_and_seam_ends_are_the_true_ones_wherever_lines_end(by):
    laid = inside(whole(block("Four-patch", "8 in"), {"kind": "zigzag", "spacing": "1 in"}), by)
    shape = laid.shapes(next(iter(laid.quilt.zones.values())))[0]
    assert shape.whole is not None
    places = {feature.name: tuple(round(v / IN, 3) for v in feature.point) for feature in features_of(shape)}
    assert {(0, 0), (8, 0), (0, 8), (8, 8)} <= set(places.values())
    crossings = {place for name, place in places.items() if name.endswith("seam crossing")}
    assert crossings == {(4, 0), (0, 4), (4, 4), (8, 4), (4, 8)}
