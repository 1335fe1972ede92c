"""How far places are, on a real way through the practice cloth, and with what drawings are sewn."""

import pytest

from kenzet.core.inspect.sides import frame_at
from kenzet.core.logbook.sewn_with import sewn_with
from kenzet.core.logbook.status import _stage, share_of, status
from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.log import Event, Sewn
from kenzet.core.sewing.now import place_routes
from tests.photographed import LAID


@pytest.fixture(scope="module")
def ways():
    return place_routes(LAID[2], route_quilt(LAID[2], quick=True))


def sewn_of(ways, place, share=1.0):
    """The log after so much of the lines at a place."""
    moves = [move for k in ways.at[place] for move in ways.of(ways.route.visits[k]).sewn]
    some = [move.stretch for move in moves[: round(share * len(moves))]]
    log = Sewn()
    log.take(Event("event-1", "sewn", 0.0, place, (0.0, 0.0), tuple(some)))
    return log


def test_from_planned_to_inspected(ways):
    place, *others = ways.at
    told = {
        "planned": (Sewn(), (), ()),
        "marked": (Sewn(), tuple(LAID[2].quilt.zones), ()),
        "begun": (sewn_of(ways, place, 0.4), (), ()),
        "finished": (sewn_of(ways, place), (), ()),
        "inspected": (sewn_of(ways, place), (), (place,)),
    }
    for stage, (log, marked, seen) in told.items():
        one, *rest = status(ways, log, marked, seen)
        assert (one.place, one.stage) == (place, stage)
        assert [other.place for other in rest] == others
        assert all(other.stage in ("planned", "marked") for other in rest)
        assert (one.share == 1) is (stage in ("finished", "inspected"))
        whole = one.whole + sum(other.whole for other in rest)
        assert share_of([one, *rest]) == pytest.approx((one.whole - one.left) / whole)


@pytest.mark.parametrize(
    ("whole", "left", "ditch", "ditch_left", "stage"),
    [
        (100, 100, 30, 30, "planned"),
        (100, 95, 30, 30, "begun"),
        (100, 70, 30, 0, "anchored"),
        (100, 20, 30, 0, "anchored"),
        (100, 30, 30, 30, "filled"),
        (100, 10, 30, 10, "filled"),
        (100, 50, 30, 10, "begun"),
        (30, 10, 30, 10, "filled"),
        (100, 40, 0, 0, "begun"),
        (100, 0, 30, 0, "finished"),
    ],
)
def test_the_ditch_alone_anchors_and_all_but_the_ditch_fills(whole, left, ditch, ditch_left, stage):
    assert _stage(whole, left, ditch, ditch_left, False, False) == stage


def test_what_a_drawing_is_sewn_with_is_what_its_plan_said():
    side = next(one for one in frame_at(LAID[0], "1-1").sides if one.zone == "star-points")
    known = sewn_with(LAID[0], side.word)
    assert known.zone == "Star points" and float(known.fill.spacing.mm) == pytest.approx(6.35)
    assert known.ways.total() == side.drawing.lines
    assert known.technique == "straight"
    assert sewn_with(LAID[0], "star-points.0.ffffffff") is None
    assert sewn_with(LAID[0], "gone.0.ffffffff") is None
