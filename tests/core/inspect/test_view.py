import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.errors import BadValue
from kenzet.core.inspect.card import found_corners, mark_cells
from kenzet.core.inspect.view import View, finest, flat_of
from tests.photographed import block_at, photographed

CORNERS = np.array([[310, 190], [2100, 260], [2000, 2050], [240, 1900]], float)


@given(bend=st.floats(-0.06, 0.06), x=st.floats(0, 300), y=st.floats(0, 200))
def test_into_the_photograph_and_back(bend, x, y):
    view = View.of(CORNERS, (300, 200), (2448, 2400), bend)
    there = view.to_photo(np.array([[x, y]]))
    assert view.to_frame(there)[0] == pytest.approx([x, y], abs=0.02)


def test_corners_lie_where_they_were_clicked_however_the_lens_bends():
    for bend in (-0.05, 0.0, 0.05):
        view = View.of(CORNERS, (300, 200), (2448, 2400), bend)
        seen = view.to_photo(np.array([[0, 200], [300, 200], [300, 0], [0, 0]], float))
        assert seen == pytest.approx(CORNERS, abs=0.05)


def test_a_flat_picture_shows_every_mm_as_large():
    """A dot of the photograph at (100, 50) mm comes to (100, 50) mm of the flat picture."""
    photo = np.full((2400, 2448), 200, np.uint8)
    view = View.of(CORNERS, (300, 200), (2448, 2400))
    x, y = view.to_photo(np.array([[100.0, 50.0]]))[0]
    photo[round(y) - 6 : round(y) + 7, round(x) - 6 : round(x) + 7] = 0
    flat = flat_of(photo, view, (300, 200))
    rows, columns = np.nonzero(flat.light < 100)
    at = flat.cells(np.array([[100.0, 50.0]]))
    assert columns.mean() == pytest.approx(at[0][0], abs=1) and rows.mean() == pytest.approx(at[1][0], abs=1)


def test_a_large_block_is_looked_at_more_coarsely():
    assert finest((100, 100)) == 8
    assert finest((2000, 1000)) < 1.4


def test_the_four_cards_have_different_marks_with_a_black_rim():
    marks = [mark_cells(k) for k in range(4)]
    assert len({mark.tobytes() for mark in marks}) == 4
    for mark in marks:
        assert mark.shape == (6, 6) and mark[0].all() and mark[:, -1].all() and not mark.all()


def test_cards_give_the_corners_and_a_missing_one_is_named():
    block = block_at(1, "2-1", None, True)
    photo, truth = photographed(block, fills=0.7, seed=3)
    found = found_corners(photo, block.width, block.height)
    assert np.abs(found - np.array(truth["corners"])).max() < 2.5
    wide = photo.shape[1]
    covered = photo.copy()
    covered[:, wide // 2 :][: photo.shape[0] // 2] = 120
    with pytest.raises(BadValue, match="at the upper right is not seen"):
        found_corners(covered, block.width, block.height)
    with pytest.raises(BadValue, match="None of the corner cards"):
        found_corners(np.full_like(photo, 120), block.width, block.height)
