"""Tape at the machine: round by round, each strip measured from the zone's side, nothing sewn at the table."""

from __future__ import annotations

import pytest

from kenzet.core.marks.marking import marks_of
from kenzet.core.placing.line_order import line_order
from kenzet.core.plan.planner import plan_zone
from kenzet.web.dry_run import Mishaps, dry_run
from tests.core.placing.test_placements import in_order
from tests.jobs import JOBS

IN = 25.4


@pytest.fixture(scope="module")
def taped():
    laid = JOBS["taped lines"]()
    plan = plan_zone(laid, next(iter(laid.quilt.zones)))
    return laid, plan, plan.drawings[0]


def test_a_line_waits_until_its_round_is_on_the_quilt(taped):
    _, plan, drawing = taped
    tape = marks_of(plan, drawing).tape
    turns = line_order(plan, drawing).turns
    assert sorted(set(turns)) == list(range(len(tape.rounds)))
    for line, (number, strip, edge) in tape.place_of.items():
        assert turns[line] == number
        assert tape.rounds[number][strip].lines[edge] == line
    assert len(in_order(plan, drawing)) == drawing.lines


def test_the_edge_of_every_strip_is_measured_from_the_zones_side(taped):
    """Replayed with a tape measure: the edge along which a line is sewn lies where the line is planned."""
    _, plan, drawing = taped
    tape = marks_of(plan, drawing).tape
    for number, strips in enumerate(tape.rounds):
        side = tape.side_of(drawing, number)
        begin = 30 * IN if side[0] > 0 else 0.0
        for strip, far in zip(strips, tape.measures(drawing, number), strict=True):
            x = drawing.stretches.ends[strip.lines[0], 0]
            assert abs(x - begin) == pytest.approx(far, abs=1e-6)


def test_at_the_machine_a_round_is_laid_when_its_first_line_comes_and_peeled_after_its_last(taped):
    laid, plan, drawing = taped
    tape = marks_of(plan, drawing).tape
    told = [step["text"] for step in dry_run(laid, Mishaps(), "in") if step["event"] == "sewn"]
    laid_down = [k for k, text in enumerate(told) if f"of {len(tape.rounds)}: put on " in text]
    sizes = [sum(len(strip.lines) for strip in strips) for strips in tape.rounds]
    assert laid_down == [sum(sizes[:k]) for k in range(len(sizes))]
    assert [k for k, text in enumerate(told) if "Peel the tape slowly" in text] == laid_down[1:]
    assert all("not through the tape" in text for text in told)
