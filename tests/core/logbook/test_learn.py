"""What is learnt, against truths that the test makes up."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import frame_at
from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.learn import (
    FEWEST,
    HowSewn,
    LaidLine,
    Timed,
    laid_lines,
    learnt_bobbin,
    learnt_offset,
    learnt_pace,
    learnt_stitch,
    timed,
    weighed,
)
from kenzet.core.route.needle import thread
from kenzet.core.ruler.drift import anchor_every
from kenzet.core.sewing.log import PAUSE_S, Event
from kenzet.core.sewing.stretch import Stretch
from kenzet.core.top.stitching import Pace
from tests.photographed import LAID

CHANCE = np.random.default_rng(7)
KIT = Kit()
FOOT = float(KIT.foot_offset)


def test_a_foot_that_is_wider_shows_in_every_line_that_is_laid_on_the_last():
    """Each line of the grid comes a quarter mm too far from the one before it, however it is drawn."""
    frame = frame_at(LAID[2], "1-1")
    found = []
    for side in frame.sides:
        found.append(Finding(side, "", 0.25 * side.row, 0.0, 0.0, 20.0))
    lines = laid_lines(LAID[2], found, 5.0)
    assert len(lines) >= FEWEST
    assert all(abs(line.out) == pytest.approx(0.25, abs=1e-6) and line.when == 5.0 for line in lines)


def test_unseen_lines_teach_nothing():
    frame = frame_at(LAID[2], "1-1")
    assert laid_lines(LAID[2], [Finding(side, "no contrast", 1.0) for side in frame.sides], 0.0) == []


@pytest.mark.parametrize("true", [-0.3, 0.0, 0.35])
def test_the_offset_and_its_interval(true):
    lines = [LaidLine(true + CHANCE.normal(0, 0.3), 100.0 + k, "left", FOOT) for k in range(60)]
    lines += [LaidLine(9.0, 50.0, "left", FOOT)] * 3  # three that were laid quite wrong
    offset, spread = learnt_offset(lines, KIT)
    used = float(KIT.foot_offset)
    assert offset.low <= used + true <= offset.high and offset.value == pytest.approx(used + true, abs=0.12)
    assert offset.differs is (true != 0.0)
    assert (offset.many, offset.first, offset.last) == (63, 50.0, 159.0)
    assert spread.value == pytest.approx(0.3, rel=0.4)


@pytest.mark.parametrize("true", [25.4 / 32, 25.4 / 48])
def test_marks_at_the_learnt_spread_hold_the_tolerance(true):
    """Lines are placed one from another with a scatter in every gap; so many as the learnt spread allows without a
    mark end within an eighth of an inch in some 95 of 100 blocks."""
    chance, tolerance = np.random.default_rng(11), 25.4 / 8
    gaps = [LaidLine(gap, 0.0, "left", FOOT) for gap in chance.normal(0, true, 400)]
    spread = next(one for one in learnt_offset(gaps, KIT) if one.key == "spread")
    assert spread.low < true < spread.high
    many = anchor_every(0.0, spread.value, tolerance)
    ends = np.abs(chance.normal(0, true, (4000, many)).sum(axis=1))
    assert 0.93 < (ends < tolerance).mean() < 0.99


def test_few_lines_teach_nothing_and_some_lines_little():
    some = [LaidLine(0.4, 0.0, "left", FOOT) for _ in range(FEWEST - 1)]
    assert learnt_offset(some, KIT) == []
    wild = [LaidLine(0.4 + one, 0.0, "left", FOOT) for one in (-1.5, 1.5, -1.2, 1.2, 0.9, -0.9)]
    (offset,) = learnt_offset(wild, KIT)
    assert abs(offset.value - float(KIT.foot_offset)) < 0.4 and not offset.differs


@given(st.floats(-10, 10), st.floats(0.01, 5), st.floats(-10, 10), st.floats(0.01, 5))
def test_weighing_lies_between_and_is_surer_than_either(prior, prior_sd, value, sd):
    found, its = weighed(prior, prior_sd, value, sd)
    assert min(prior, value) - 1e-9 <= found <= max(prior, value) + 1e-9
    assert its <= min(prior_sd, sd) + 1e-12


@settings(max_examples=20)
@given(mm_a_minute=st.floats(500, 3000), lay=st.floats(3, 30), seed=st.integers(0, 99))
def test_pace_and_laying_come_apart(mm_a_minute, lay, seed):
    """Seconds = laying + mm by pace, with some lines at which she was held up."""
    chance = np.random.default_rng(seed)
    far = chance.uniform(40, 400, 120)
    seconds = lay + 60 * far / mm_a_minute + chance.normal(0, 0.5, 120)
    seconds[::15] += 60
    found = {
        one.key: one
        for one in learnt_pace(
            [Timed("straight", f, max(s, 0.1), k) for k, (f, s) in enumerate(zip(far, seconds, strict=True))],
            Pace(),
        )
    }
    assert found["straight"].value == pytest.approx(mm_a_minute, rel=0.12)
    assert found["lay"].value == pytest.approx(lay, abs=1.5)
    assert found["straight"].low < found["straight"].value < found["straight"].high


def test_what_a_turn_at_the_needle_takes():
    """Lines with none to six turns, each of four seconds; one break in the middle of a line."""
    chance = np.random.default_rng(8)
    far, turns = chance.uniform(50, 600, 90), chance.integers(0, 7, 90)
    seconds = 9 + 60 * far / 1200 + 4 * turns + chance.normal(0, 0.7, 90)
    seconds[17] += 80
    lines = [
        Timed("straight", f, s, k, int(n))
        for k, (f, s, n) in enumerate(zip(far, seconds, turns, strict=True))
    ]
    found = {one.key: one for one in learnt_pace(lines, Pace())}
    assert found["turn"].value == pytest.approx(4, abs=0.4) and found["turn"].low <= 4 <= found["turn"].high
    assert found["lay"].value == pytest.approx(9, abs=1.2)
    assert found["straight"].value == pytest.approx(1200, rel=0.1)
    assert "turn" not in {one.key for one in learnt_pace(lines[:FEWEST], Pace())}


def test_turns_are_counted_within_what_was_sewn_of_a_line():
    how = HowSewn("straight", {3: (10.0, 20.0, 30.0)})
    assert how.turns([Stretch("z.0.00000000", 3, 0, 0.0, 25.0)]) == 2
    assert how.turns([Stretch("z.0.00000000", 3, 0, 10.0, 30.0), Stretch("z.0.00000000", 4, 0, 0, 99)]) == 1


def test_lines_that_are_all_as_long_tell_no_pace():
    assert learnt_pace([Timed("straight", 100.0, 20.0, k) for k in range(20)], Pace()) == []


def sewn(k, when, far=100.0, stitches=0, kind="sewn", plan=1):
    return Event(
        f"event-{k}",
        kind,
        when,
        "1-1",
        (0.0, 0.0),
        (Stretch("z.0.00000000", k, 0, 0, far),),
        far=far,
        stitches=stitches,
        plan=plan,
    )


def test_pauses_and_sittings_that_are_left_out_are_not_timed():
    events = [sewn(0, 0), sewn(1, 20), sewn(2, 20 + PAUSE_S + 5), sewn(3, 40 + PAUSE_S + 5)]
    how = {(1, "z.0.00000000"): HowSewn("straight")}
    assert [one.seconds for one in timed(events, how, ())] == [20, 20]
    assert timed(events, how, [0.0]) == []
    assert timed(events, {}, ()) == []


def test_the_stitch_is_what_the_machine_counted():
    (one,) = learnt_stitch([sewn(k, k, far=240.0, stitches=100) for k in range(10)], KIT)
    assert one.value == pytest.approx(2.4)
    assert learnt_stitch([sewn(0, 0, far=240.0, stitches=100)], KIT) == []


def test_a_bobbin_holds_what_was_sewn_between_two_full_ones():
    per_mm = thread(1.0, float(KIT.batting.thickness.mm), float(KIT.stitch.mm))
    events = [Event("bobbin-0", "bobbin", 0.0)]
    for k in range(4):
        events += [sewn(10 * k, 10 * k + 1, far=20_000.0), Event(f"bobbin-{k + 1}", "bobbin", 10 * k + 2.0)]
    (one,) = learnt_bobbin(events, KIT)
    assert one.many == 4
    holds, true = float(KIT.bobbin.holds.mm), 20_000 * per_mm
    assert min(holds, true) < one.value < max(holds, true) and abs(one.value - true) < abs(one.value - holds)
    assert learnt_bobbin(events[:3], KIT) == []


def test_lines_that_were_sewn_with_another_figure_for_the_foot_teach_the_foot_itself():
    """Planned with 6.0 mm and 0.4 mm too far, or planned with 6.4 mm and true: the foot is the same."""
    far = [LaidLine(0.4 + 0.001 * k, 0.0, "left", 6.0) for k in range(20)]
    true = [LaidLine(0.001 * k, 0.0, "left", 6.4) for k in range(20)]
    one, other = (learnt_offset(lines, KIT)[0].value for lines in (far, true))
    assert one == pytest.approx(other, abs=1e-6) and one == pytest.approx(6.41, abs=0.01)
