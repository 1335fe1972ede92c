"""A photograph under the plan: its corners, and what a fabric's picture tells."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from kenzet.core.top.fabric_color import fabric_color
from kenzet.core.top.ground import Ground, homography, straightening
from tests.tops import after, wished

PHOTO = "abcdefghjkmn"
SQUARE = ((0, 0), (1, 0), (1, 1), (0, 1))
corner = st.tuples(st.floats(0, 0.4), st.floats(0, 0.4))


@given(corner, corner, corner, corner)
def test_every_corner_goes_to_its_corner_and_back(a, b, c, d):
    corners = (a, (1 - b[0], b[1]), (1 - c[0], 1 - c[1]), (d[0], 1 - d[1]))
    eight = straightening(corners, (1200, 800), (600, 900))
    for (x, y), (u, v) in zip(((0, 0), (600, 0), (600, 900), (0, 900)), corners, strict=True):
        below = eight[6] * x + eight[7] * y + 1
        found = (
            (eight[0] * x + eight[1] * y + eight[2]) / below,
            (eight[3] * x + eight[4] * y + eight[5]) / below,
        )
        assert found == pytest.approx((u * 1200, v * 800), abs=1e-6)


def test_straight_lines_stay_straight():
    eight = homography(np.array(SQUARE, float), np.array([(0.1, 0.2), (0.9, 0.1), (0.8, 0.9), (0.2, 0.7)]))

    def to(x, y):
        below = eight[6] * x + eight[7] * y + 1
        return (
            np.array([eight[0] * x + eight[1] * y + eight[2], eight[3] * x + eight[4] * y + eight[5]]) / below
        )

    start, middle, end = (to(t, 0.3 + 0.4 * t) for t in (0, 0.5, 1))
    (ax, ay), (bx, by) = middle - start, end - start
    assert ax * by - ay * bx == pytest.approx(0, abs=1e-9)


@pytest.mark.parametrize(
    "corners",
    [
        ((0, 0), (0, 1), (1, 1), (1, 0)),  # the other way round
        ((0, 0), (1, 1), (1, 0), (0, 1)),  # crossed
        ((0, 0), (1, 0), (0.3, 0.3), (0, 1)),  # one inside
        ((0, 0), (0.01, 0), (0.01, 0.01), (0, 0.01)),  # next to nothing
    ],
)
def test_corners_that_are_none_are_refused(corners):
    with pytest.raises(ValidationError, match="upper left"):
        Ground(photo=PHOTO, corners=corners)


def test_the_photo_lies_under_the_quilt_or_a_block_as_it_is_seen():
    laid = wished(columns=2, rows=2, block="10 in")
    laid = after(
        laid,
        {"kind": "turn", "places": ["1-2"], "by": 1},
        {"kind": "ground", "ground": {"photo": PHOTO, "place": "1-2", "corners": SQUARE}},
    )
    at, width, height = laid.frame_of("1-2")
    assert (at, width, height) == ((1, 0, 0, 1, pytest.approx(254), pytest.approx(254)), 254, 254)
    assert laid.frame_of("top")[1:] == (508, 508)
    fewer = after(laid, {"kind": "count", "columns": 1, "rows": 1})
    assert fewer.quilt.ground is None  # its place is gone
    assert after(laid, {"kind": "ground", "ground": None}).quilt.ground is None


def test_a_print_is_busy_by_its_lightness_not_by_its_hue():
    rng = np.random.default_rng(7)
    speckled = np.where(rng.random((40, 40, 1)) < 0.5, (40, 60, 90), (210, 200, 180)).astype(float)
    hues = np.where(rng.random((40, 40, 1)) < 0.5, (150, 110, 110), (104, 128, 110)).astype(float)
    assert fabric_color(speckled)[1] == "busy"
    assert fabric_color(hues)[1] == "calm"
    assert fabric_color(np.full((9, 9, 3), (200.0, 40.0, 30.0)))[0] == "#c8281e"
