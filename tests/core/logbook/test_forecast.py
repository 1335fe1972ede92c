"""Time that is left, and what fits into an evening."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.logbook.forecast import LeftThere, fits, in_all, spread_of, time_left
from kenzet.core.logbook.sittings import Sitting, There
from kenzet.core.route.quilt import route_quilt
from kenzet.core.route.quilt_needle import whole_needle
from kenzet.core.sewing.log import Event, Sewn
from kenzet.core.sewing.now import place_routes
from tests.photographed import LAID

EVEN = (1.0, 1.0)


def there(seconds, stops=False):
    return [
        LeftThere(k, f"1-{k}", s, end)
        for k, (s, end) in enumerate(zip(seconds, stops or [False] * len(seconds), strict=True))
    ]


@pytest.fixture(scope="module")
def ways():
    return place_routes(LAID[0], route_quilt(LAID[0], quick=True))


def test_all_that_is_left_is_what_the_whole_route_takes(ways):
    left = time_left(LAID[0], ways, Sewn())
    whole = whole_needle(LAID[0], ways.route).seconds
    assert len(left) == len(ways.route.visits)
    assert sum(one.seconds for one in left) == pytest.approx(whole, rel=0.01)


def test_what_is_sewn_is_left_no_more(ways):
    before = time_left(LAID[0], ways, Sewn())
    place = before[0].place
    moves = ways.of(ways.route.visits[0]).sewn
    log = Sewn()
    half = moves[: len(moves) // 2]
    log.take(Event("event-1", "sewn", 0.0, place, (0.0, 0.0), tuple(move.stretch for move in half)))
    after = time_left(LAID[0], ways, log)
    share = 1 - sum(move.stretch.length for move in half) / sum(move.stretch.length for move in moves)
    assert after[0].place == place and after[0].seconds == pytest.approx(before[0].seconds * share, rel=0.01)
    log.take(Event("event-2", "sewn", 0.0, place, (0.0, 0.0), tuple(move.stretch for move in moves)))
    assert time_left(LAID[0], ways, log)[0].number == 1


def sitting(seconds, length):
    return Sitting(0.0, seconds, seconds, (), 1, 0, (There("1-1", "z.0.00000000", length=length),), ())


def test_her_own_sittings_say_how_far_a_time_may_be_out():
    assert spread_of([sitting(1000, 1000)], 1.0) == (0.75, 1.25)
    low, high = spread_of([sitting(s, 1000) for s in (900, 1000, 1100, 1500)], 1.0)
    assert 0.9 <= low < 1 < high <= 1.5
    assert spread_of([sitting(100, 10)] * 9, 1.0) == (0.75, 1.25)  # too short to tell
    whole = in_all(there([600, 600]), (0.8, 1.5))
    assert (whole.seconds, whole.low, whole.high) == (1200, 960, 1800)


@pytest.mark.parametrize(
    ("seconds", "stops", "minutes", "many"),
    [
        ([600, 600, 600], [False, False, False], 25, 2),
        ([600, 600, 600], [True, False, False], 25, 1),  # ends with a thread
        ([600, 600, 600], [False, False, True], 30, 3),
        ([600, 600], [True, True], 5, 0),
        ([], [], 40, 0),
    ],
)
def test_whole_places_that_fit_and_end_with_a_thread_where_one_does(seconds, stops, minutes, many):
    assert len(fits(there(seconds, stops), 60 * minutes, EVEN)) == many


@given(
    st.lists(st.tuples(st.floats(1, 3000), st.booleans()), max_size=12), st.floats(0, 20_000), st.floats(1, 2)
)
def test_what_fits_is_never_too_long(told, seconds, slow):
    left = there([s for s, _ in told], [end for _, end in told])
    found = fits(left, seconds, (1.0, slow))
    assert sum(one.seconds for one in found) * slow <= seconds + 1e-6
    assert found == left[: len(found)]
