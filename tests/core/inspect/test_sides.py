import numpy as np
import pytest

from kenzet.core.errors import Unknown
from kenzet.core.inspect.sides import along, corners_in, frame_at, sides_of
from tests.photographed import LAID

SQUARE = np.array([[0, 0], [10, 0], [10, 8], [0, 8], [0, 0]], float)


def test_a_ring_with_corners_has_a_side_between_each_two():
    sides = sides_of(SQUARE)
    assert [side.tolist() for side in sides] == [SQUARE[k : k + 2].tolist() for k in range(4)]


def test_a_ring_that_begins_in_the_middle_of_a_side_is_put_together_there():
    begun = np.array([[5, 0], [10, 0], [10, 8], [0, 8], [0, 0], [5, 0]], float)
    sides = sides_of(begun)
    assert len(sides) == 4
    assert sides[-1][0].tolist() == [0, 0] and sides[-1][-1].tolist() == [10, 0]


def test_a_smooth_curve_is_one_side():
    turn = np.radians(np.arange(0, 91, 5))
    assert len(sides_of(np.stack([50 * np.cos(turn), 50 * np.sin(turn)], axis=1))) == 1


def test_along_a_path_points_and_normals_to_the_left():
    points, normals = along(np.array([[0, 0], [10, 0], [10, 10]], float), np.array([5.0, 15.0]))
    assert points.tolist() == [[5, 0], [10, 5]]
    assert normals.tolist() == [[0, 1], [-1, 0]]


def test_every_planned_line_of_a_block_is_in_its_frame_and_knows_what_runs_beside_it():
    frame = frame_at(LAID[0], "1-1")
    assert (round(frame.width, 1), round(frame.height, 1)) == (304.8, 304.8)
    every = np.vstack([side.path for side in (*frame.sides, *frame.short)])
    assert every.min() > -0.01 and every.max() < 304.81
    rings = [side for side in frame.sides if side.zone == "star-points"]
    assert {round(side.clear, 2) for side in rings} <= {6.35, 6.36} or min(s.clear for s in rings) > 6.3
    assert {side.row for side in rings} == {0, 1, 2}


def test_only_lines_that_are_sewn_where_they_are_told():
    side = frame_at(LAID[0], "1-1").sides[0]
    assert {(one.word, one.line) for one in frame_at(LAID[0], "1-1", [(side.word, side.line)]).sides} == {
        (side.word, side.line)
    }


def test_points_of_the_piecing_are_where_its_patches_meet():
    points = corners_in(LAID[0], frame_at(LAID[0], "1-1"))
    assert (76.2, 228.6) in points and (152.4, 228.6) in points


def test_a_place_that_is_not_there():
    with pytest.raises(Unknown):
        frame_at(LAID[0], "9-9")
