"""Sessions: nothing lost, nothing twice, never too long, on her days only."""

import itertools
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.forecast import LeftThere
from kenzet.core.logbook.schedule import MOST, REST_MIN, by_then, holds_all, schedule

KIT = Kit()
MONDAY = date(2026, 11, 30)


def planned(minutes, days=(0, 2), length=60, freehand=(), fading=None, rest=25):
    left = [LeftThere(k, f"1-{k}", 60.0 * m, True) for k, m in enumerate(minutes)]
    return schedule(left, days, length, MONDAY, rest, 2000.0, KIT, freehand, fading or {})


def test_on_her_days_and_in_order():
    sessions = planned([30, 30, 30], days=(0, 2), length=60)
    assert [session.day for session in sessions] == [MONDAY, MONDAY + timedelta(2)]
    assert [[(p.place, round(p.minutes)) for p in session.pieces] for session in sessions] == [
        [("1-0", 30), ("1-1", 20)], [("1-1", 10), ("1-2", 30)],
    ]  # fmt: skip
    assert sessions[0].rests == 1 and sessions[0].minutes == pytest.approx(50 + REST_MIN)


def test_the_last_minutes_begin_nothing():
    sessions = planned([22, 60], length=25, days=range(7))
    assert [p.place for p in sessions[0].pieces] == ["1-0"]


def test_a_place_that_is_longer_goes_on_where_it_stopped():
    sessions = planned([100], length=40, days=(5,))
    shares = [(piece.begins, piece.ends) for session in sessions for piece in session.pieces]
    assert shares[0][0] == 0 and shares[-1][1] == 1
    assert all(one[1] == pytest.approx(other[0]) for one, other in itertools.pairwise(shares))
    assert all(session.day.weekday() == 5 for session in sessions)


def test_freehand_begins_on_a_scrap_and_fading_marks_are_put_on_shortly_before():
    first, second = planned(
        [20, 20], length=30, days=range(7), freehand={"1-1"}, fading={"1-1": [("star", 48)]}
    )
    assert (first.warm_up, second.warm_up) == (True, True) or (first.warm_up, second.warm_up) == (False, True)
    assert second.marks == (("star", 48),)


def test_bobbins_are_those_of_its_minutes():
    (session,) = planned([50], length=90, days=range(7))
    assert session.bobbins == -(-50 * 2000 // float(KIT.bobbin.holds.mm))


def test_no_days_no_sessions_and_nothing_left_none():
    assert planned([10], days=()) == [] and planned([]) == []


def test_a_date_that_is_too_soon_asks_for_longer_sessions():
    sessions = planned([60] * 4, length=60, days=(0,))
    last = sessions[-1].day
    assert by_then(sessions, 60, last) == 0
    assert by_then(sessions, 60, last - timedelta(1)) == -(-60 * len(sessions) // (len(sessions) - 1))
    assert by_then(sessions, 60, MONDAY - timedelta(1)) == -1


def test_minutes_that_add_up_to_a_whole_session_by_a_hair_more_need_no_rest():
    sessions = planned([140.25, 46.0, 1.3258756640057614, 23.0], days=(0,), length=30, rest=30)
    assert [session.rests for session in sessions] == [0] * len(sessions)


@given(
    minutes=st.lists(st.floats(0.5, 200), max_size=8),
    days=st.sets(st.integers(0, 6), min_size=1),
    length=st.integers(30, 240),
    rest=st.integers(5, 60),
    freehand=st.sets(st.sampled_from([f"1-{k}" for k in range(8)])),
)
def test_all_is_sewn_once_and_no_session_is_longer_than_she_has(minutes, days, length, rest, freehand):
    sessions = planned(minutes, days, length, freehand, rest=rest)
    sewn = {}
    for session in sessions:
        assert session.day.weekday() in days and session.pieces
        assert session.minutes <= length + 1e-6
        for piece in session.pieces:
            assert piece.begins == pytest.approx(sewn.get(piece.place, 0.0), abs=1e-6)
            sewn[piece.place] = piece.ends
    left = [LeftThere(k, f"1-{k}", 60.0 * m, True) for k, m in enumerate(minutes)]
    assert holds_all(sessions, left)
    assert sewn == {f"1-{k}": pytest.approx(1.0) for k in range(len(minutes))}
    assert [session.day for session in sessions] == sorted({session.day for session in sessions})


def test_sessions_that_never_come_to_an_end_are_not_all():
    sessions = planned([3000], length=10, days=(0,), freehand={"1-0"}, rest=5)
    assert len(sessions) == MOST
    assert not holds_all(sessions, [LeftThere(0, "1-0", 180_000.0, True)])
    assert holds_all([], [])
