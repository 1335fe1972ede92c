"""The order in which strokes are drawn, and how the ruler is laid for each."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import marks_of, sides_of
from kenzet.core.marks.strokes import ordered
from tests.core.marks.test_marking import lines, plan_of
from tests.shapes import REGIONS

IN = 25.4


def strokes_of(fill, name="square", kit=None, method="all lines"):
    plan, drawing = plan_of(fill, REGIONS[name], kit)
    marks = marks_of(plan, drawing, method)
    return ordered(drawing.region, marks, plan.kit), marks


@pytest.mark.parametrize("name", ["square", "right triangle", "frame", "L", "lattice"])
@pytest.mark.parametrize("kind", ["lines", "grid", "zigzag", "echo", "clamshell"])
def test_every_stroke_is_drawn_once_and_the_quilt_turned_once_a_lean(kind, name):
    strokes, marks = strokes_of(FILLS[kind](), name)
    assert len(strokes) == len(marks.strokes)
    long = [shapely.linestrings(line).length for line in (*(s.points for s in strokes), *marks.strokes)]
    assert sum(long[: len(strokes)]) == pytest.approx(sum(long[len(strokes) :]))
    leans = {round(stroke.lean, 1) % 180 for stroke in strokes if stroke.lean is not None}
    curves = any(stroke.lean is None for stroke in strokes)
    assert sum(stroke.turn for stroke in strokes) == max(len(leans) - 1, 0) + (1 if curves and leans else 0)


def test_a_pen_counts_no_foot_in():
    """Drawing mode, s = d: lines 3/4 apart want the 3/4 mark."""
    strokes, _ = strokes_of(lines("3/4 in"))
    first, *others = strokes
    assert (first.how, float(first.etched)) == ("etched on a seam", pytest.approx(0.75 * IN))
    assert {stroke.how for stroke in others} == {"etched on the stroke before"}
    assert [float(stroke.etched) for stroke in others] == pytest.approx([0.75 * IN] * len(others))


def test_where_no_mark_of_a_ruler_does_it_strokes_run_from_end_to_end():
    strokes, _ = strokes_of(lines("5/8 in"))
    assert "from end to end" in {stroke.how for stroke in strokes}
    ends = [end for stroke in strokes for end in stroke.ends]
    assert all(end.edge is not None and end.along > 0 for end in ends)


def test_strokes_on_one_line_share_a_laying_and_a_short_ruler_is_slid():
    short = Kit.model_validate({"rulers": {"mine": {"kind": "straight ruler", "length": "5 in"}}})
    for kit, how in ((None, "along the same ruler"), (short, "slid along")):
        strokes, _ = strokes_of(lines("3/4 in"), "frame", kit)
        level = [(stroke.points[0, 1], stroke.how) for stroke in strokes]
        shared = [level[k][1] for k in range(1, len(level)) if abs(level[k][0] - level[k - 1][0]) < 1e-6]
        assert shared and set(shared) == {how}


def test_a_diagonal_runs_from_corner_to_corner():
    (stroke,), _ = strokes_of(lines("20 in", angle=45, origin="centre line"))
    assert all(end.corner for end in stroke.ends)
    assert np.hypot(*(stroke.points[1] - stroke.points[0])) == pytest.approx(7.5 * IN * 2**0.5)


def test_a_chevron_is_drawn_side_by_side_and_an_arc_over_its_sheet():
    chevron = np.array([[0.0, 40.0], [40.0, 0.0], [80.0, 40.0]])
    assert [side.tolist() for side in sides_of(chevron)] == [chevron[:2].tolist(), chevron[1:].tolist()]
    arc = np.array([[50 * math.cos(k / 20), 50 * math.sin(k / 20)] for k in range(20)])
    assert sides_of(arc) == []
    assert len(sides_of(chevron[:2])) == 1
