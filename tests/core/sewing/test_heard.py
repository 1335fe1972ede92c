"""What a machine tells: nothing is counted twice, nothing is lost without a word."""

from __future__ import annotations

import pytest

from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.heard import Heard, Message
from kenzet.core.sewing.log import Log
from kenzet.core.sewing.now import now, place_routes
from kenzet.core.sewing.steps import sewn_until
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.standins.machine import MachineStandIn


@pytest.fixture(scope="module")
def ways():
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler")))
    return place_routes(laid, route_quilt(laid))


class Station:
    """Hears a machine and keeps its log."""

    def __init__(self, ways):
        self.ways, self.log, self.heard, self.faults = ways, Log(), Heard(), []

    def now(self):
        return now(self.ways, self.log.sewn)

    def hear(self, kind, seq, at=100.0, **more):
        events, fault = self.heard.take(Message(kind, seq, at, **more), 100.0, self.now)
        for event in events:
            assert self.log.take(event)
        self.faults += [fault] if fault else []
        return fault

    def told(self, lines):
        """The stand-in's way to tell."""
        for line in lines:
            self.hear(**line)
        here = self.now()
        if here is None:
            return None
        step = here.steps[0]
        return {
            "mm": sum(move.length for move in step.sews),
            "travel": sum(move.length for move in step.travels) + step.from_place,
        }


def stand_in(**more):
    return MachineStandIn(clock=lambda: 100.0, **more)


def test_the_stand_in_sews_all_and_the_tally_agrees_with_the_plan(ways):
    station, machine = Station(ways), stand_in()
    steps = machine.sews(station.told)
    sewn, route = station.log.sewn, ways.route
    assert station.now() is None and station.faults == []
    assert sewn.lines == pytest.approx(route.stitched, abs=1)
    assert (sewn.threads, sewn.breaks) == (route.stops + 1, 0)
    assert sewn.stitches == machine.stitches == pytest.approx(sewn.way / 2.5, rel=0.05)
    assert steps == len(station.log)


@pytest.mark.parametrize("drift", [-0.04, 0.0, 0.04])
def test_threads_break_and_bobbins_end_and_still_all_is_sewn_once(ways, drift):
    station, machine = Station(ways), stand_in(breaks=0.8, bobbin=2500.0, drift=drift, seed=5)
    machine.sews(station.told)
    sewn = station.log.sewn
    assert station.now() is None
    assert sewn.breaks >= 8 and sewn.threads == ways.route.stops + 1 + sewn.breaks
    assert sewn.lines == pytest.approx(ways.route.stitched, abs=1)
    bobbins = [event for event in station.log.events if event.kind == "bobbin"]
    assert len(bobbins) >= 3 and sewn.bobbin_way < 2800


def test_a_break_keeps_what_the_counter_says_and_no_more_than_the_line(ways):
    station = Station(ways)
    station.hear("hello", 0, name="counter")
    station.hear("pedal", 1)
    here = station.now()
    step = here.steps[0]
    long = sum(move.length for move in step.sews)
    station.hear("stitches", 2, count=4, mm=long / 3)
    station.hear("broke", 3)
    (stretch,), spot = sewn_until(step, long / 3)
    assert station.log.sewn.lines == pytest.approx(stretch.length) == pytest.approx(long / 3, abs=0.01)
    assert station.log.sewn.at == pytest.approx(here.point_in_quilt(spot))
    station.hear("pedal", 4)
    station.hear("stitches", 5, count=999, mm=10 * long)
    station.hear("broke", 6)
    assert station.log.sewn.lines == pytest.approx(long, abs=0.01)
    assert station.now().steps[1].number == step.number + 1


def test_doubled_late_missing_and_future_messages_are_told_and_the_count_is_kept(ways):
    station = Station(ways)
    assert "hello" in station.hear("stitches", 1, count=5, mm=10.0)
    assert station.hear("hello", 0, name="counter") == ""
    assert station.hear("stitches", 1, count=5, mm=10.0) == ""
    assert "twice or too late" in station.hear("stitches", 1, count=5, mm=10.0)
    assert "Messages 2 to 3 are missing" in station.hear("stitches", 4, count=5, mm=10.0)
    assert "twice or too late" in station.hear("stitches", 2, count=5, mm=10.0)
    assert "future" in station.hear("stitches", 5, at=9999.0, count=5, mm=10.0)
    assert "Message 5 is missing" in station.hear("stitches", 6, count=5, mm=10.0)
    assert (station.heard.stitches, station.heard.mm, len(station.log)) == (15, 30.0, 0)
    station.hear("hello", 0)
    assert (station.heard.stitches, station.heard.mm) == (0, 0.0)
    assert station.hear("pedal", 1) == "" and len(station.log) == 1


def test_when_all_is_sewn_the_pedal_does_nothing(ways):
    station = Station(ways)
    stand_in().sews(station.told)
    station.hear("hello", 0)
    assert station.hear("pedal", 1) == "Nothing is left to sew."


def test_its_stitches_wobble_about_their_length_and_the_counter_drifts():
    told = []

    def tell(lines):
        told.extend(lines)
        return {"mm": 5000.0, "travel": 0.0} if lines[-1]["kind"] == "hello" else None

    machine = stand_in(wobble=0.2, drift=0.03, stitch=3.0)
    machine.sews(tell)
    assert sum(line.get("mm", 0) for line in told) == pytest.approx(5000 * 1.03, rel=1e-3)
    assert machine.stitches == pytest.approx(5000 / 3, rel=0.03)
    assert [line["seq"] for line in told] == list(range(len(told))) and told[-1]["kind"] == "pedal"
    waited = []
    slow = MachineStandIn(pace=50.0, wait=waited.append, clock=lambda: 0.0)
    slow.sews(tell)
    assert sum(waited) == pytest.approx(100, rel=0.01)
