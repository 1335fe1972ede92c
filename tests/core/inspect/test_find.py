"""Finding stitches in pictures that the test draws itself, dot by dot: no stand-in, no camera."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from kenzet.core.geom.affine import IDENTITY
from kenzet.core.inspect.find import _fitted, band_of, find_seam, findings
from kenzet.core.inspect.sides import Side, frame_at
from kenzet.core.inspect.view import MARGIN, Flat
from tests.photographed import LAID

PX = 6.0
SIZE = 80.0
DRAWING = frame_at(LAID[0], "1-1").sides[0].drawing
assert IDENTITY[0] == 1


def side(path, clear=20.0):
    return Side("zone", "word", DRAWING, 0, 0, np.array(path, float), clear)


def picture(lines=(), step=None, noise=2.0, seed=1, thread=0.75):
    """Grey cloth with dark lines (offset aside of the middle line, mm, at its left end and at its right end), and fabric that changes above ``step`` mm."""
    many = round((SIZE + 2 * MARGIN) * PX)
    at = (np.arange(many) + 0.5) / PX - MARGIN
    x, y = np.meshgrid(at, at[::-1])
    light = np.full((many, many), 180.0)
    if step is not None:
        light[y > step] = 110.0
    for left, right in lines:
        middle = SIZE / 2 + left + (right - left) * x / SIZE
        light *= 1 - (1 - thread) * np.clip(1.5 - np.abs(y - middle) / 0.25, 0, 1)
    light += np.random.default_rng(seed).normal(0, noise, light.shape)
    return Flat(light.astype(np.float32), PX, SIZE, SIZE)


MIDDLE = side([[5, SIZE / 2], [SIZE - 5, SIZE / 2]])


@pytest.mark.parametrize("left", [-2.3, 0.0, 0.7, 3.1])
@pytest.mark.parametrize("lean", [-0.8, 0.0, 1.1])
def test_a_line_is_found_where_it_was_drawn(left, lean):
    (found,) = findings(picture([(left, left + lean)]), [MIDDLE])
    assert found.unseen == ""
    assert found.offset == pytest.approx(left + lean / 2, abs=0.06)
    assert found.tilt == pytest.approx(lean * (SIZE - 10) / SIZE, abs=0.12)
    assert found.straight < 0.06 and found.shade == "darker"


def test_a_lighter_thread_is_found_too():
    (found,) = findings(picture([(1.2, 1.2)], thread=1.3), [MIDDLE])
    assert (found.unseen, found.shade) == ("", "lighter") and found.offset == pytest.approx(1.2, abs=0.06)


def test_what_is_not_there_is_not_seen():
    for seed in range(20):
        (found,) = findings(picture(seed=seed, noise=6), [MIDDLE])
        assert found.unseen == "no contrast"


def test_a_seam_is_no_thread_and_is_found_as_a_seam():
    flat = picture(step=SIZE / 2 + 0.4)
    (found,) = findings(flat, [MIDDLE])
    assert found.unseen
    seam = find_seam(flat, MIDDLE.path)
    assert seam.unseen == "" and seam.offset == pytest.approx(0.4, abs=0.1)


def test_of_two_lines_neither_is_sure():
    (found,) = findings(picture([(-1.5, -1.5), (1.8, 1.8)]), [MIDDLE])
    assert found.unseen == "two places"


def test_a_line_of_which_one_half_lies_elsewhere_is_doubted():
    flat = picture([(2.0, 2.0)])
    flat.light[:, : flat.light.shape[1] // 2] = picture([(-0.5, -0.5)]).light[:, : flat.light.shape[1] // 2]
    (found,) = findings(flat, [MIDDLE])
    assert found.unseen in ("two places", "halves differ", "no contrast")


def test_lines_too_close_to_be_told_apart_are_not_looked_for():
    assert band_of(side(MIDDLE.path, 20)) == 5.0
    assert band_of(side(MIDDLE.path, 1.5)) == 0
    (found,) = findings(picture([(0, 0)]), [side(MIDDLE.path, 1.5)])
    assert found.unseen == "too close"


@settings(max_examples=40)
@given(
    offset=st.floats(-3, 3),
    tilt=st.floats(-2, 2),
    wrong=st.lists(st.integers(0, 14), max_size=4, unique=True),
)
def test_some_wrong_spots_do_not_move_the_fit(offset, tilt, wrong):
    far = np.linspace(5, 95, 15)
    aside = offset + tilt * (far / 100 - 0.5)
    aside[wrong] += 2.5
    found, its, _ = _fitted(np.column_stack([far, aside]), 100.0)
    assert found == pytest.approx(offset, abs=0.45) and its == pytest.approx(tilt, abs=1.0)
    if not wrong:
        assert found == pytest.approx(offset, abs=1e-6) and its == pytest.approx(tilt, abs=1e-6)
