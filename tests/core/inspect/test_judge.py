"""What measured sides say, against figures computed by hand."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely

from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.judge import SEEN_ANGLE, report
from kenzet.core.inspect.sides import Frame, frame_at
from tests.photographed import LAID

TOLERANCE, LOOK = 3.175, 1828.8
FRAME = frame_at(LAID[2], "1-1")
ZONE = max({side.zone for side in FRAME.sides}, key=lambda zone: sum(s.zone == zone for s in FRAME.sides))
SIDES = sorted(
    (side for side in FRAME.sides if side.zone == ZONE and side.family == 0), key=lambda side: side.row
)
PITCH = float(SIDES[0].drawing.fill.spacing.mm)
BOX = shapely.box(0, 0, FRAME.width, FRAME.height)


def sewn(offsets, tilts=None, straight=0.0):
    """The first lines of the set with these errors; None where one is unseen."""
    tilts = tilts or [0.0] * len(offsets)
    return [
        Finding(side, "no contrast") if offset is None else Finding(side, "", offset, tilt, straight, 20.0)
        for side, offset, tilt in zip(SIDES, offsets, tilts, strict=False)
    ]


def reported(findings, points=(), areas=None):
    frame = Frame("1-1", "part", FRAME.width, FRAME.height, tuple(one.side for one in findings), ())
    return report(frame, findings, points, areas or {}, TOLERANCE, LOOK)


def test_spacing_drift_and_worst_gap_of_a_set():
    (found,) = reported(sewn([0.1, 0.3, 0.2, 0.9, 0.5])).sets
    assert (found.many, found.seen, found.planned) == (5, 5, pytest.approx(PITCH))
    assert found.drift == pytest.approx(0.4) and found.spacing == pytest.approx(PITCH + 0.1)
    assert found.worst_gap == pytest.approx(0.7)
    assert found.spread == pytest.approx(np.std([0.2, -0.1, 0.7, -0.4], ddof=1))
    assert found.mean == pytest.approx(0.4)


def test_unseen_lines_are_left_out_and_their_gaps_too():
    said = reported(sewn([0.2, None, 0.4, 0.1]))
    (found,) = said.sets
    assert found.seen == 3 and found.worst_gap == pytest.approx(-0.3)
    assert found.drift == pytest.approx(-0.1)
    assert [one.truth for one in said.judged] == ["within", "unseen", "within", "within"]
    assert [one.gap for one in said.judged] == [None, None, pytest.approx(-0.3), pytest.approx(-0.3)]


def test_one_line_of_a_set_has_no_spacing():
    (found,) = reported(sewn([0.2])).sets
    assert (found.spacing, found.spread, found.drift, found.per_line) == (None, None, None, None)


def test_within_near_and_out_by_the_tolerance():
    said = reported(sewn([3.0, -4.0, 4.9], straight=0.0))
    assert [one.truth for one in said.judged] == ["within", "near", "out"]


def test_an_error_is_told_by_the_distance_from_which_it_is_seen():
    said = reported(sewn([0.0, 2.0]))
    assert said.worst[0].seen_from == pytest.approx(2.0 / math.tan(SEEN_ANGLE))
    assert round(said.worst[0].seen_from) == 2292


def test_what_is_not_seen_from_where_it_is_looked_at_is_kept():
    even = sewn([5.0, 5.0, 5.0])  # all lines are shifted: no gap shows it
    assert reported(even).verdict == "keep"
    assert reported(sewn([0.0, 5.0, 0.0])).verdict == "rip"
    leaning = sewn([0.0, 3.0, 0.0], [0.0, 5.0, 0.0])  # true at one end
    assert reported(leaning).verdict == "touch up"


def test_a_point_is_missed_by_what_the_line_is_out_there():
    side = SIDES[1]
    point = tuple(side.path[-1].tolist())
    (missed,) = reported([Finding(side, "", 0.5, 0.8, 0.0, 20.0)], [point, (1.0, 1.0)]).missed
    assert missed.by == pytest.approx(0.9) and missed.at == point


def test_the_widest_gap_is_that_of_the_lines_as_they_lie():
    """A wide empty square with two lines across: 30 mm between them as planned, 33 as sewn; 35 at the edges."""
    base = SIDES[0]
    lines = [replace(base, path=np.array([[0.0, y], [100.0, y]]), zone="z") for y in (35.0, 65.0)]
    findings = [Finding(lines[0], "", -2.0, 0.0, 0.0, 20.0), Finding(lines[1], "", 1.0, 0.0, 0.0, 20.0)]
    frame = Frame("1-1", "part", 100.0, 100.0, tuple(lines), ())
    (gap,) = report(frame, findings, [], {"z": shapely.box(0, 0, 100, 100)}, TOLERANCE, LOOK).gaps
    assert gap.planned == pytest.approx(35.0, abs=0.5)
    assert gap.sewn == pytest.approx(34.0, abs=0.5)
    assert gap.at[1] == pytest.approx(83, abs=1.5)
    middle = [replace(findings[0], offset=-10.0), replace(findings[1], offset=10.0)]
    (gap,) = report(frame, middle, [], {"z": shapely.box(0, 0, 100, 100)}, TOLERANCE, LOOK).gaps
    assert gap.sewn == pytest.approx(50.0, abs=0.5) and gap.at[1] == pytest.approx(50, abs=1)
