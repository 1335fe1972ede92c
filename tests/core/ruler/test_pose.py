"""Where the ruler goes: sums, references, stops."""

from __future__ import annotations

import math
from fractions import Fraction as F

import numpy as np
import pytest

from kenzet.core.advice.edge_step import slants, step_along
from kenzet.core.geom.clip import Straight, clip
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.machine import RulerFoot
from kenzet.core.kit.things.rulers import StraightRuler
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.ruler.line_references import Bundle, References, lay_family
from kenzet.core.ruler.offset_sums import Mode, best_offset_sum, line_lands_at, offset_sum
from kenzet.core.ruler.pose import pose
from tests.shapes import IN, REGIONS, box, inches

INCH = MM_PER["in"]
QUARTER, EIGHTH = INCH / 4, INCH / 8
QUARTERS, EIGHTHS = (StraightRuler(etched=scale).edges[0].lines for scale in ("quarters", "eighths"))


def inch(text: str) -> F:
    return Length.parse(text).mm


@pytest.mark.parametrize(
    ("spacing", "mode", "ruler", "etched"),
    [
        ("5/8", Mode.RULER_FOOT, EIGHTHS, "3/8"),  # A1
        ("5/8", Mode.DRAWING, EIGHTHS, "5/8"),  # A2
        ("1/4", Mode.RULER_FOOT, QUARTERS, "0"),  # A3
        ("1 1/4", Mode.RULER_FOOT, QUARTERS, "1"),  # A4
        ("3/4", Mode.RULER_FOOT, QUARTERS, "1/2"),
        ("1/2", Mode.DRAWING, QUARTERS, "1/2"),
    ],
)
def test_the_etched_line(spacing, mode, ruler, etched):
    found = offset_sum(inch(spacing), QUARTER, ruler, mode)
    assert found.etched == inch(etched)
    assert line_lands_at(found.etched, QUARTER, mode) == inch(spacing)


def test_a5_no_etched_line_the_nearest_two_are_offered():
    found = offset_sum(inch("5/8"), QUARTER, QUARTERS)
    assert found.etched is None
    assert found.nearest == ((inch("1/4"), inch("1/2")), (inch("1/2"), inch("3/4")))
    assert offset_sum(inch("5/8"), QUARTER, EIGHTHS).etched == inch("3/8")


def test_a6_a_millimetre_foot_on_an_inch_ruler():
    found = offset_sum(F(10), F(6), EIGHTHS)
    assert found.wanted == 4
    assert found.etched is None
    etched, makes = min(found.nearest, key=lambda pair: abs(pair[1] - 10))
    assert etched == EIGHTH
    assert float(makes) == pytest.approx(9.175)
    assert float(makes - 10) == pytest.approx(-0.825)


def test_f5_the_ruler_table_for_a_foot_of_6_mm():
    made = [float(line_lands_at(i * EIGHTH, F(6), Mode.RULER_FOOT)) for i in (0, 1, 2, 3, 4, 5, 6, 8)]
    assert made == pytest.approx([6.00, 9.18, 12.35, 15.53, 18.70, 21.88, 25.05, 31.40], abs=0.006)


def test_a8_closer_than_the_foot_the_last_line_shows():
    found = offset_sum(inch("1/8"), QUARTER, EIGHTHS)
    assert (found.etched, found.behind, found.nearest) == (None, inch("1/8"), ())


@pytest.mark.parametrize(("degrees", "step"), [(22.5, 1.307), (30, 1.0), (45, 0.707), (60, 0.577)])
def test_a59_step_along_a_seam(degrees, step):
    assert step_along(0.5, degrees) == pytest.approx(step, abs=1e-3)
    assert step_along(0.25, degrees) == pytest.approx(step / 2, abs=1e-3)


def test_slants_name_the_longest_run_first_and_leave_out_what_is_square():
    family = Straight(45, QUARTER, 0.0)
    assert [s.degrees for s in slants(REGIONS["star background"], [family])] == [45.0]
    assert slants(REGIONS["square"], [Straight(0, QUARTER, 0.0)]) == []


def kit_with(etched, offset="1/4 in"):
    ruler = StraightRuler(etched=etched)
    return Kit(foot=RulerFoot(offset=Length.parse(offset)), rulers={"mine": ruler})


def laid(region, family, kit=None):
    found = clip([(piece, family) for piece in region.pieces])
    spans = found.ends.reshape(-1, 2, 2) @ np.array(family.direction)
    refs = References.empty(len(found))
    bundle = Bundle(np.arange(len(found)), found.job, found.line, *spans.T)
    refs.order[:] = lay_family(region.pieces, family, bundle, kit or Kit(), refs) if len(found) else []
    return found, refs


@pytest.mark.parametrize("name", REGIONS)
@pytest.mark.parametrize("angle", [0.0, 45.0, 90.0, 120.0])
def test_every_line_has_a_reference_that_comes_before_it(name, angle):
    family = Straight(angle, inch("3/4"), datum=3.0)
    found, refs = laid(REGIONS[name], family)
    assert sorted(refs) == list(range(len(found)))
    done = set()
    for number, ref in refs.items():  # in the order of sewing
        if ref.kind == "line":
            assert ref.line in done
            assert found.line[number] - found.line[ref.line] == ref.way
        done.add(number)


def test_a_seam_that_the_ruler_can_lie_on_spares_the_mark():
    square = inches(box(0, 0, 7.5, 7.5))
    _, refs = laid(square, Straight(0, inch("3/4"), datum=0.0))
    assert [ref.kind for ref in refs.values()].count("mark") == 0
    assert next(iter(refs.values())).kind == "seam"
    _, refs = laid(square, Straight(0, inch("3/4"), datum=inch("1/3").__float__()))
    kinds = [ref.kind for ref in refs.values()]
    assert kinds.count("mark") <= 1


def test_a_family_on_the_bias_of_a_square_wants_one_mark_its_longest_line():
    found, refs = laid(inches(box(0, 0, 3, 3)), Straight(45, inch("3/4"), datum=0.0))
    marks = [k for k, ref in refs.items() if ref.kind == "mark"]
    assert len(marks) == 1
    assert found.lengths[marks[0]] == pytest.approx(3 * math.sqrt(2) * IN)
    assert {ref.way for ref in refs.values()} == {1, -1}


@pytest.mark.parametrize("offset", ["1/4 in", "6 mm"])
@pytest.mark.parametrize("left", [True, False])
def test_the_working_edge_lies_r_from_the_line_and_the_etched_line_on_the_reference(offset, left):
    kit = kit_with("eighths", offset)
    distance = kit.foot_offset + inch("1/2")
    found = pose(
        REGIONS["square"], (0.0, 50.0), (190.5, 50.0), left, best_offset_sum(kit, distance, 190.5), kit
    )
    side = 1 if left else -1
    assert found.body[0][1] - 50 == pytest.approx(side * float(kit.foot_offset))
    assert found.chosen == 4
    assert found.etched[4][1] - 50 == pytest.approx(side * float(distance))
    assert found.foot_radius == pytest.approx(float(kit.foot_offset))


@pytest.mark.parametrize(("angle", "along"), [(45, 0.354), (60, 0.289), (30, 0.5), (90, 0.25)])
def test_f7_the_edge_crosses_the_seam_r_over_sine_away(angle, along):
    strip = inches(box(-40, 0, 80, 4))
    family = Straight(angle, inch("3/4"), 0.0)
    ends = clip([(strip, family)]).ends[20]
    found = pose(strip, tuple(ends[:2]), tuple(ends[2:]), True, best_offset_sum(Kit(), inch("3/4")), Kit())
    for stop in found.stops:
        assert stop.along / IN == pytest.approx(along, abs=1e-3)
        away = np.array(stop.edge) - np.array(stop.needle)
        nx, ny = family.normal
        assert abs(away[0] * nx + away[1] * ny) == pytest.approx(6.35, abs=1e-6)
        assert stop.edge[1] == pytest.approx(stop.needle[1])


def test_a_long_line_wants_the_ruler_slid_along():
    strip = inches(box(0, 0, 40, 4))
    found = pose(strip, (0.0, 25.4), (30 * IN, 25.4), True, best_offset_sum(Kit(), inch("3/4")), Kit())
    assert found.moves == 2  # (30 - 1) / (12 - 1) = 2.6: three placements


def test_where_no_etched_line_makes_the_spacing_every_line_is_drawn():
    found, refs = laid(REGIONS["square"], Straight(0, inch("5/8"), datum=0.0), kit_with("quarters"))
    assert {ref.kind for ref in refs.values()} == {"mark"}
    assert len(refs) == len(found) == 11
    _, refs = laid(REGIONS["square"], Straight(0, inch("5/8"), datum=0.0), kit_with("eighths"))
    assert "mark" not in {ref.kind for ref in refs.values()}
