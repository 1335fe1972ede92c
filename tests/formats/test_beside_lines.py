"""Numbers stand beside their lines: on no line and no other number where there is room."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from kenzet.formats.beside_lines import beside_lines

SIZE = (6.0, 4.0)


def boxes(spots, sizes):
    return [
        shapely.box(x - w / 2, y - h / 2, x + w / 2, y + h / 2)
        for (x, y), (w, h) in zip(spots, sizes, strict=True)
    ]


@given(st.floats(0, 179.9), st.integers(2, 20))
def test_rows_with_room_between_them_have_clear_numbers(degrees, many):
    turn = np.radians(degrees)
    way, across = np.array([np.cos(turn), np.sin(turn)]), np.array([-np.sin(turn), np.cos(turn)])
    lines = [np.array([k * 20 * across, k * 20 * across + 80 * way]) for k in range(many)]
    found = boxes(beside_lines(lines, [SIZE] * many, 1.0), [SIZE] * many)
    for k, box in enumerate(found):
        away = [box.distance(shapely.LineString(line)) for line in lines]
        assert min(away) >= 1.0 - 1e-6  # beside, not under
        assert away[k] == pytest.approx(1.0) and min(away) == away[k]
    assert not any(one.intersects(other) for one, other in combinations(found, 2))


def test_where_a_number_has_no_room_at_its_beginning_it_stands_farther_on():
    lines = [
        np.array([(0.0, 0.0), (100.0, 0.0)]),
        *(np.array([(k, -9.0), (k, 9.0)]) for k in (2.0, 6.0, 10.0)),
    ]
    found = boxes(beside_lines(lines, [SIZE] * 4, 1.0), [SIZE] * 4)
    assert not any(found[0].intersects(shapely.LineString(line)) for line in lines)


def test_where_there_is_no_room_at_all_each_still_has_a_number():
    lines = [np.array([(0.0, k / 10), (3.0, k / 10)]) for k in range(40)]
    assert len(beside_lines(lines, [SIZE] * 40, 1.0)) == 40
