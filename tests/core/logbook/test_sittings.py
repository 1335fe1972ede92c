"""Sittings, mishaps, status and thread ends of events made by hand."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.logbook.sittings import BREAK_S, merged, sittings, thread_ends
from kenzet.core.sewing.log import PAUSE_S, Event
from kenzet.core.sewing.stretch import Stretch

STAR, POINTS = "star.0.00000000", "points.0.11111111"


def sewn(ident, when, line, far=100.0, place="1-1", of=STAR, kind="sewn", **more):
    stretch = Stretch(of, line, 0, 0.0, far)
    told = {"back": (stretch,)} if kind in ("unpicked", "skipped") else {"sewn": (stretch,)}
    return Event(f"event-{ident}", kind, when, place, (1.0, 2.0), far=far, **{**told, **more})


def test_a_long_break_begins_another_sitting_and_a_short_one_is_a_rest():
    some = [
        sewn(0, 0, 0),
        sewn(1, 60, 1),
        sewn(2, 60 + PAUSE_S + 1, 2),
        sewn(3, 60 + PAUSE_S + BREAK_S + 60, 3),
    ]
    first, second = sittings(some)
    assert (first.begun, first.ended, first.seconds) == (0, 60 + PAUSE_S + 1, 60)
    assert first.rests == ((60, 60 + PAUSE_S + 1),)
    assert second.length == 100 and first.length == 300


def test_time_and_threads_count_for_what_is_sewn_next():
    some = [
        Event("begin-1", "begun", 0, "1-1", (0, 0)), sewn(1, 30, 0), Event("gone-11", "gone", 40, "1-1", (0, 0)),
        sewn(2, 70, 0, of=POINTS), Event("begin-2", "begun", 90, "1-2", (0, 0)), sewn(3, 100, 0, place="1-2"),
    ]  # fmt: skip
    (one,) = sittings(some)
    assert [(there.drawing, there.place, there.seconds, there.threads) for there in one.there] == [
        (STAR, "1-1", 30, 1), (POINTS, "1-1", 40, 0), (STAR, "1-2", 30, 1),
    ]  # fmt: skip
    assert one.seconds == 100 and one.threads == 2


def test_what_is_sewn_twice_counts_once_and_what_is_unpicked_is_told():
    some = [
        sewn(0, 0, 0),
        sewn(1, 10, 0),
        sewn(2, 20, 1, kind="broke", far=40.0),
        sewn(3, 30, 0, kind="unpicked", far=60.0),
        sewn(4, 40, 5, kind="skipped"),
    ]
    (one,) = sittings(some)
    (there,) = one.there
    assert there.length == 140 and there.unpicked == 60 and there.broken == 1 and there.skipped == 1
    assert [(mishap.kind, mishap.line) for mishap in one.mishaps] == [
        ("broke", 1),
        ("unpicked", 0),
        ("skipped", 5),
    ]
    assert one.mishaps[0].at == (1.0, 2.0)


def test_sittings_of_devices_whose_events_come_in_late_are_in_order_of_time():
    late = [sewn(0, 100, 0), sewn(1, 20, 1)]
    (one,) = sittings(late)
    assert (one.begun, one.ended) == (20, 100)


def test_nothing_sewn_is_no_sitting():
    assert sittings([]) == []


def test_put_together_by_place_and_by_zone():
    some = [sewn(0, 0, 0), sewn(1, 5, 0, place="1-2"), sewn(2, BREAK_S + 10, 1, plan=3)]
    every = [there for sitting in sittings(some) for there in sitting.there]
    by_place, by_zone = merged(every, "place"), merged(every, "zone")
    assert {place: one.length for place, one in by_place.items()} == {"1-1": 200, "1-2": 100}
    assert by_zone["star"].length == 300 and len(by_zone["star"].lines) == 3
    assert by_place["1-1"].plan == 3


@given(st.lists(st.tuples(st.floats(0, 20_000), st.integers(0, 5), st.floats(1, 50)), max_size=30))
def test_whatever_comes_nothing_is_counted_twice(told):
    events = [sewn(k, when, line, far=far) for k, (when, line, far) in enumerate(told)]
    found = sittings(events)
    longest = {}
    for event in events:
        stretch = event.sewn[0]
        longest[stretch.line] = max(longest.get(stretch.line, 0), stretch.ends)
    assert sum(one.length for one in found) == pytest.approx(
        sum(longest.values()), abs=0.2 * len(told) + 1e-6
    )
    assert sum(one.seconds for one in found) <= max((event.when for event in events), default=0) + 1e-6
    for one, after in itertools.pairwise(found):
        assert after.begun - one.ended > BREAK_S


def test_a_thread_has_ends_where_it_begins_and_where_the_next_one_begins():
    at = [(float(k), 0.0) for k in range(6)]
    some = [
        Event("begin-1", "begun", 0, "1-1", at[0]),
        Event("sewn-11", "sewn", 1, "1-1", at[1], (Stretch(STAR, 0, 0, 0, 9),)),
        Event("begin-2", "begun", 2, "1-1", at[2]),
        Event("sewn-22", "broke", 3, "1-1", at[3], (Stretch(STAR, 1, 0, 0, 9),)),
        Event("begin-3", "begun", 4, "1-2", at[4]),
        Event("sewn-33", "sewn", 5, "1-2", at[5], (Stretch(STAR, 0, 0, 0, 9),)),
    ]
    here, there = thread_ends(some)
    assert (here.place, here.at) == ("1-1", (at[0], at[1], at[2], at[3]))
    assert (there.place, there.at) == ("1-2", (at[4],))  # the needle is still in it
