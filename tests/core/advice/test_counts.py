"""What is counted: whole rows, cut ones, and the cells of a grid."""

from __future__ import annotations

import pytest

from kenzet.core.advice.counts import cells_of, rows_of
from tests.core.placing.test_placements import plan_of
from tests.shapes import REGIONS, box, inches


@pytest.mark.parametrize(
    ("side", "diagonal", "at", "cells"),
    [
        (6, "1.060660", "corner", {"whole": 24, "half": 16}),
        (6, "1.060660", "centre", {"whole": 25, "half": 12, "quarter": 4}),
        (7.5, "0.883883", "corner", {"whole": 60, "half": 24}),
        (7.5, "0.883883", "centre", {"whole": 61, "half": 20, "quarter": 4}),
    ],
)
def test_a67_whole_half_and_quarter_cells_of_a_grid_on_point(side, diagonal, at, cells):
    """Corner on corner, or centre on centre."""
    origin = (
        {"origin": "corner", "at": 0}
        if at == "corner"
        else {"origin": "point", "through": (0, 0.5 / (side / (float(diagonal) * 2**0.5)))}
    )
    plan, drawing = plan_of(
        "grid", inches(box(0, 0, side, side)), spacing=f"{diagonal} in", angle=45, second_angle=135, **origin
    )
    assert cells_of(plan, drawing) == cells
    assert sum(
        cells.get(name, 0) * part for name, part in (("whole", 1), ("half", 0.5), ("quarter", 0.25))
    ) == pytest.approx((side / float(diagonal)) ** 2, rel=1e-4)


def test_columns_of_s_curves_are_counted_once_up_and_down_and_not_with_their_grid():
    _, drawing = plan_of("s-curves", inches(box(0, 0, 7, 7)), spacing="7/8 in")
    across = 7 / (0.875 * 2**0.5 / 2)
    assert rows_of(drawing).rows // 2 == pytest.approx(across, abs=1.5)
    assert rows_of(drawing).rows < drawing.lines


def test_a_row_that_the_outline_cuts_in_pieces_is_one_row_and_a_cut_one():
    _, drawing = plan_of("waves", REGIONS["lattice"], spacing="1/2 in", angle=0)
    found = rows_of(drawing)
    assert found.pieces == drawing.lines > found.rows >= found.cut > 0
    _, whole = plan_of("waves", inches(box(0, 0, 10, 6)), spacing="2 in", angle=0, depth="1/4 in")
    assert rows_of(whole).cut <= 2 < rows_of(whole).rows == len({trace.line for trace in whole.traces})
    _, rings = plan_of("echo", inches(box(0, 0, 6, 6)), spacing="1/2 in")
    assert (rows_of(rings).rows, rows_of(rings).cut) == (rings.lines, 0)
