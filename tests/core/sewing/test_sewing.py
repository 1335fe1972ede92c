"""At the machine: whatever happens on the way, everything is sewn once, and the tally agrees with the plan."""

from __future__ import annotations

import math
import random
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.changes import CHANGES
from kenzet.core.marks.marking import marks_of
from kenzet.core.placing.as_it_is import placed as placement_of
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt, plan_zone
from kenzet.core.route.needle import repeated_leg
from kenzet.core.route.quilt import route_quilt
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.sewing.along import placements_along
from kenzet.core.sewing.log import Event, Log, Sewn, at_needle, since_rest
from kenzet.core.sewing.now import in_quilt, now, place_routes
from kenzet.core.sewing.place_route import cut_out
from kenzet.core.sewing.steps import steps_of
from kenzet.core.sewing.stretch import LEAST, Covered, Stretch
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.route.test_quilt_route import ruled_top, stitched_as, with_ditch

SPANS = st.tuples(st.integers(0, 40), st.integers(1, 20)).map(lambda one: (float(one[0]), float(sum(one))))


def stretch(begins, ends, line=0):
    return Stretch("zone.0.00000000", line, 0, begins, ends)


@given(st.lists(st.tuples(st.booleans(), SPANS), max_size=12), SPANS)
def test_stretches_cover_what_their_millimetres_do(done, asked):
    covered, cells = Covered(), np.zeros(64, dtype=bool)
    for adds, (a, b) in done:
        before = cells.copy()
        cells[int(a) : int(b)] = adds
        changed = covered.add(stretch(a, b)) if adds else covered.take_out(stretch(a, b))
        assert changed == pytest.approx(np.sum(before != cells))
    left = covered.left(stretch(*asked))
    assert [k for a, b in left for k in range(int(a), int(b))] == [
        k for k in range(int(asked[0]), int(asked[1])) if not cells[k]
    ]
    assert all(b - a > LEAST for a, b in left) and all(p[1] < q[0] for p, q in pairwise(left))


@pytest.fixture(scope="module")
def cloth():
    """The quilt laid out, and its ways."""
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler")))
    return laid, place_routes(laid, route_quilt(laid))


class Machine:
    """Does what it is told, and tells it; ``log`` is what is known."""

    def __init__(self, ways):
        self.ways, self.log, self.number = ways, Log(), 0

    def now(self, place=""):
        return now(self.ways, self.log.sewn, place)

    def tell(self, kind, place="", at=None, **more):
        self.number += 1
        event = Event(f"event-{self.number}", kind, 10.0 * self.number, place, at, **more)
        assert self.log.take(event)
        return event

    def sew(self, here, step):
        """The step that is next."""
        kind = {"begin": "begun", "go": "gone", "line": "sewn"}[step.kind]
        spot = step.moves[-1].end if step.moves else here.steps[1].moves[0].start
        return self.tell(
            kind, here.visit.place, placed(here, spot), far=step.length,
            sewn=step.sewn,
        )  # fmt: skip


def placed(here, point):
    return tuple(in_quilt(here.way, here.visit.place, np.array([point]))[0].tolist())


def sew_all(machine):
    while (here := machine.now()) is not None:
        machine.sew(here, here.steps[0])


def hangs_together(machine):
    """Every step begins where the one before it ended, unless a thread begins there."""
    at = machine.log.sewn.at if machine.log.sewn.thread else None
    while (here := machine.now()) is not None and len(machine.log) < 5000:
        step = here.steps[0]
        if step.across is not None:
            assert math.dist(step.across[0], at) < 1.0
            assert math.dist(step.across[-1], placed(here, here.steps[1].moves[0].start)) < 1.0
        if step.kind == "line" or (step.kind == "go" and step.moves):
            assert at is not None and math.dist(placed(here, step.moves[0].start), at) < 1.0
        at = machine.sew(here, step).at


@pytest.mark.parametrize("name", ["Sampler", "Kelp"])
def test_sewn_through_in_order_the_tally_is_the_plan(name):
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith(name)))
    ways = place_routes(laid, route_quilt(laid))
    machine = Machine(ways)
    hangs_together(machine)
    assert len(machine.log) < 3 * sum(ways.of(visit).many for visit in ways.route.visits)
    sewn, route = machine.log.sewn, ways.route
    assert sewn.lines == pytest.approx(route.stitched, abs=1)
    assert sewn.way == pytest.approx(route.stitched + route.travelled, abs=0.5)
    assert sewn.threads == route.stops + 1
    assert all(one.left == 0 for one in ways.left(sewn))


@pytest.mark.parametrize("seed", range(8))
def test_whatever_happens_everything_is_sewn_once(cloth, seed):
    anything_happens(cloth[1], seed)


def anything_happens(ways, seed):
    """Eight things at random, then the rest: all of it is sewn once."""
    chance = random.Random(seed)
    machine = Machine(ways)
    lines = []
    for _ in range(8):
        here = machine.now()
        if here is None:
            break
        step, place = here.steps[0], here.visit.place
        does = chance.choice(["sew"] * 5 + ["break", "skip", "unpick", "elsewhere", "undo"])
        if does == "break" and step.sews:
            move = chance.choice(step.sews)
            far = chance.uniform(0, move.stretch.length)
            a, b = move.stretch.begins, move.stretch.ends
            part = replace(move.stretch, begins=b - far) if move.back else replace(move.stretch, ends=a + far)
            before = [one.stretch for one in step.sews[: step.sews.index(move)]]
            at = cut_out(move.path, 0, far)[-1]
            some = (*before, *([part] if far > LEAST else []))
            machine.tell("broke", place, placed(here, at), sewn=some)
            assert machine.now(place).steps[0].kind == "begin"
        elif does == "skip" and step.sews:
            machine.tell("skipped", place, back=tuple(move.stretch for move in step.sews))
        elif does == "unpick" and lines:
            where, some = chance.choice(lines)
            machine.tell("unpicked", where, machine.log.sewn.at, back=some)
        elif does == "elsewhere":
            here = machine.now(chance.choice(list(ways.at)))
            machine.sew(here, here.steps[0])
        elif does == "undo" and machine.log.events:
            machine.tell("undone", of=machine.log.events[-1].id)
        else:
            event = machine.sew(here, step)
            lines += [(place, event.sewn)] if event.sewn else []
    hangs_together(machine)
    if machine.log.sewn.skipped:
        machine.tell("taken up")
        hangs_together(machine)
    assert machine.log.sewn.lines == pytest.approx(ways.route.stitched, abs=1)
    assert all(one.left == 0 for one in ways.left(machine.log.sewn))


def test_a_thread_that_breaks_begins_anew_right_there(cloth):
    _, ways = cloth
    machine = Machine(ways)
    for _ in range(4):
        machine.sew(here := machine.now(), here.steps[0])
    here = machine.now()
    line = here.steps[0].sews[0]
    half = line.stretch.length / 2
    good = replace(line.stretch, begins=line.stretch.ends - half) if line.back else replace(
        line.stretch, ends=line.stretch.begins + half
    )  # fmt: skip
    spot = tuple(cut_out(line.path, 0, half)[-1])
    machine.tell("broke", here.visit.place, placed(here, spot), sewn=(good,))
    begin, rest = machine.now().steps[:2]
    assert (begin.kind, rest.kind, rest.number) == ("begin", "line", here.steps[0].number)
    assert math.dist(rest.moves[0].start, spot) < 0.01
    assert rest.sews[0].length == pytest.approx(half, abs=0.01)
    assert [one.number for one in machine.now().steps[2:]] == [one.number for one in here.steps[1:]]


def test_a_skipped_line_waits_and_an_unpicked_one_comes_back(cloth):
    _, ways = cloth
    machine = Machine(ways)
    machine.sew(here := machine.now(), here.steps[0])
    here = machine.now()
    first, place = here.steps[0], here.visit.place
    skipped = tuple(move.stretch for move in first.sews)
    machine.tell("skipped", place, back=skipped)
    assert machine.now().steps[-1].number == here.steps[-1].number
    assert first.number not in [step.number for step in machine.now().steps]
    sew_all(machine)
    (waits,) = [one for one in ways.left(machine.log.sewn) if one.left]
    assert (waits.left, waits.skipped, waits.place) == (1, 1, place)
    machine.tell("taken up")
    assert [step.number for step in machine.now().steps if step.sews] == [first.number]
    sew_all(machine)
    machine.tell("unpicked", place, back=skipped)
    assert machine.log.sewn.lines == pytest.approx(
        ways.route.stitched - sum(one.length for one in skipped), abs=1
    )
    assert [step.kind for step in machine.now().steps] == ["begin", "line"]
    sew_all(machine)
    assert machine.log.sewn.lines == pytest.approx(ways.route.stitched, abs=1)


def test_skipping_the_rest_of_a_line_keeps_what_is_sewn_of_it():
    log = Log([
        Event("a-00001", "broke", 0.0, "1-1", (5.0, 0.0), (stretch(0, 5),)),
        Event("a-00002", "skipped", 1.0, "1-1", back=(stretch(0, 10),)),
    ])  # fmt: skip
    assert log.sewn.lines == 5 and log.sewn.of("1-1").left(stretch(0, 10)) == [(5, 10)]
    assert log.sewn.skipped["1-1"] == {stretch(0, 10).key}


def test_what_is_told_twice_counts_once_and_what_is_undone_not_at_all(cloth):
    _, ways = cloth
    machine = Machine(ways)
    events = [machine.sew(here := machine.now(), here.steps[0]) for _ in range(5)]
    before = replace_ids(machine.log.sewn)
    assert not machine.log.take(events[3])
    again = replace(events[3], id="from-another-device", when=events[3].when + 1)
    machine.log.take(again)
    assert replace_ids(machine.log.sewn) == before
    machine.tell("undone", of="from-another-device")
    machine.tell("undone", of=events[4].id)
    assert machine.log.sewn.lines == pytest.approx(sum(s.length for e in events[:4] for s in e.sewn))
    assert machine.now().steps[0].number == 4
    assert Log([*events, *events]).sewn.way == pytest.approx(sum(event.far for event in events))


def replace_ids(sewn: Sewn):
    return round(sewn.lines, 6), round(sewn.way, 6), sewn.threads, sewn.stitches


def test_a_new_bobbin_is_full_and_a_pause_is_no_work():
    log = Log([
        Event("a-00001", "begun", 0.0, "1-1", (0.0, 0.0), far=0.0),
        Event("a-00002", "sewn", 60.0, "1-1", (10.0, 0.0), (stretch(0, 10),), far=12.0),
        Event("a-00003", "bobbin", 90.0),
        Event("a-00004", "sewn", 1000.0, "1-1", (20.0, 0.0), (stretch(10, 20),), far=11.0),
        Event("a-00005", "rested", 1060.0),
        Event("a-00006", "sewn", 1100.0, "1-1", (30.0, 0.0), (stretch(20, 30),), far=10.0, stitches=4),
    ])  # fmt: skip
    assert (log.sewn.way, log.sewn.bobbin_way) == (33.0, 21.0)
    assert (log.sewn.threads, log.sewn.bobbin_threads, log.sewn.stitches) == (1, 0, 4)
    assert at_needle(log.events, 0.0) == 60 + 30 + 60 + 40  # the 910 s between are a pause
    assert at_needle(log.events, 1000.0) == 100 and since_rest(log.events) == 40
    assert at_needle([], 0.0) == since_rest([]) == 0


def test_a_line_is_laid_on_what_is_sewn_beside_it_whichever_side_that_is(cloth):
    laid, _ = cloth
    key = next(key for key, zone in laid.quilt.zones.items() if zone.name.startswith("Straight"))
    plan = plan_zone(laid, key)
    (drawing,) = plan.drawings
    references = plan.references(drawing)
    follows = next(line for line, one in references.items() if one.line is not None)
    before = references[follows].line
    forth = placement_of(plan, drawing, follows, {"": {before}}, "", before)
    back = placement_of(plan, drawing, before, {"": {follows}}, "", None)
    assert (forth.on, forth.over) == ("last", 1) and forth.distance == references[follows].distance
    if references[before].kind == "line":
        assert (back.on, back.distance) == ("line", forth.distance)
    gaps = drawing.straight[0].gaps
    for line, other in ((2, 4), (4, 2), (3, 6)):
        far = placement_of(plan, drawing, line, {"": {other}}, "", None)
        if far.on == "line" and far.by != "follow" and far.reference == other:
            assert far.over == abs(line - other) and far.distance == far.over * gaps[0]
            assert best_offset_sum(plan.kit, far.distance, drawing.length_of(line)).etched is not None
    assert placement_of(plan, drawing, follows, {}, "", None).on in ("seam", "nothing", "drawn")


def test_steps_take_a_line_in_pieces_as_one(cloth):
    _, ways = cloth
    for visit in ways.route.visits:
        way = ways.of(visit)
        steps = steps_of(way.moves)
        lines = [step.number for step in steps if step.sews]
        assert lines == list(range(1, way.many + 1))
        assert sum(step.length for step in steps) == pytest.approx(sum(move.length for move in way.moves))
        assert steps[0].kind == "begin" and steps[-1].stops
        assert all(a.stops == (b.kind == "begin") for a, b in pairwise(steps) if a.kind == "line")


def test_a_drawing_s_word_changes_with_its_lines_and_only_with_them(cloth):
    laid, _ = cloth
    words = {drawing.word for plan in plan_quilt(laid).values() for drawing in plan.drawings}
    again = QuiltLayout(laid.quilt)
    assert words == {drawing.word for plan in plan_quilt(again).values() for drawing in plan.drawings}
    assert len(words) == sum(len(plan.drawings) for plan in plan_quilt(laid).values())


def test_the_ruler_lies_behind_the_line_on_the_side_of_what_it_is_laid_from(cloth):
    laid, _ = cloth
    key = next(key for key, zone in laid.quilt.zones.items() if zone.name.startswith("Straight"))
    plan = plan_zone(laid, key)
    (drawing,) = plan.drawings
    references = plan.references(drawing)
    line = next(line for line, one in references.items() if one.line is not None)
    before = references[line].line
    normal = np.array(drawing.straight[0].normal)
    free = next(k for k, one in references.items() if one.kind == "line" and one.line == line)
    for sewn, laid_line in ((before, line), (free, line)):
        on = placement_of(plan, drawing, laid_line, {"": {sewn}}, "", sewn)
        pose, total = plan.pose_from(drawing, laid_line, on.distance, on.way)
        own, other = (drawing.polylines[k].mean(axis=0) @ normal for k in (laid_line, sewn))
        body = np.array(pose.body).mean(axis=0) @ normal
        assert (body < own) == (other < own) and total.spacing == on.distance


def test_f40_sides_that_repeat_are_found_and_curves_are_not():
    zigzag = np.array([[10.0 * k, 24.0 * (k % 2)] for k in range(12)])
    circle = np.array([[50 * math.cos(k / 20), 50 * math.sin(k / 20)] for k in range(60)])
    assert repeated_leg([zigzag]) == pytest.approx(26.0)
    assert repeated_leg([circle]) is None and repeated_leg([zigzag[:4]]) is None
    assert repeated_leg([np.array([[0.0, 0.0], [300.0, 0.0]])] * 9) is None
    uneven = np.array([[0, 0], [7, 0], [7, 31], [90, 31], [90, 50], [140, 50], [140, 99]], dtype=float)
    assert repeated_leg([uneven]) is None


def test_passes_over_the_same_places_are_sewn_one_after_the_other():
    laid = ruled_top(columns=2, rows=2)
    (zone,) = laid.quilt.zones
    grid = {"kind": "fill", "zone": zone, "fill": {"kind": "grid", "spacing": "1 in"}}
    laid = QuiltLayout(CHANGES["fill"].model_validate(grid).apply(laid)[0])
    laid = stitched_as(laid, families="one by one")
    ways = place_routes(laid, route_quilt(laid))
    machine = Machine(ways)
    seen = []
    while (here := machine.now()) is not None:
        machine.sew(here, here.steps[0])
        seen.append(here.number)
    assert seen == sorted(seen) and set(seen) == set(range(8))
    assert machine.log.sewn.lines == pytest.approx(ways.route.stitched, abs=1)
    assert machine.log.sewn.threads == ways.route.stops + 1


def test_the_foot_is_changed_once_and_said_before_the_first_line(cloth):
    laid, _ = cloth
    key = next(key for key, zone in laid.quilt.zones.items() if zone.name.startswith("Two"))
    zone = laid.quilt.zones[key].model_copy(update={"sew_with": "walking foot"})
    mixed = QuiltLayout(laid.quilt.model_copy(update={"zones": {**laid.quilt.zones, key: zone}}))
    ways = place_routes(mixed, route_quilt(mixed))
    feet = [ways.of(visit).route.unit.foot for visit in ways.route.visits]
    assert feet == ["walking foot", "ruler foot", "ruler foot"]
    machine, changes = Machine(ways), []
    while (here := machine.now()) is not None:
        if here.new_foot:
            changes.append((here.number, here.new_foot, here.steps[0].kind))
        machine.sew(here, here.steps[0])
    assert set(changes) == {(1, "ruler foot", "begin"), (1, "ruler foot", "line")}


def test_in_the_planned_order_every_line_is_placed_as_it_is_planned(cloth):
    """On whichever screen: what the panel tells of a line is what the machine tells when its turn comes."""
    laid, ways = cloth
    for visit in ways.route.visits:
        seen = 0
        for _, plan, drawing, on in placements_along(laid, ways.of(visit)):
            as_planned = planned(plan, drawing, on.line)
            assert on is as_planned or (on.on == "last" and as_planned.on == "line")
            assert (on.distance, on.by, on.way, on.reference) == (
                as_planned.distance, as_planned.by, as_planned.way, as_planned.reference,
            )  # fmt: skip
            seen += 1
        assert seen == len(ways.of(visit).route.unit.courses)


def test_where_nothing_is_sewn_a_line_is_laid_on_a_drawn_one_that_a_ruler_reaches(cloth):
    laid, ways = cloth
    visit = next(one for one in ways.route.visits if ways.of(one).route.unit.part.name.startswith("Two"))
    key, drawing = ways.of(visit).route.unit.drawings[0]
    plan = plan_zone(laid, key)
    marked = set(marks_of(plan, drawing).lines)
    found = [placement_of(plan, drawing, line, {}, "", None) for line in range(drawing.lines)]
    assert {line for line, on in enumerate(found) if on.on == "mark"} == set(marks_of(plan, drawing).lines)
    by_drawn = [on for on in found if on.on == "drawn"]
    assert by_drawn and all(on.reference in marked and on.total.etched is not None for on in by_drawn)


def test_a104_a_ditch_that_is_travelled_is_sewn_already_when_its_pass_comes():
    laid = with_ditch(ditch="last")
    ways = place_routes(laid, route_quilt(laid))
    machine = Machine(ways)
    while (here := machine.now()).way.route.unit.rank == 0:
        machine.sew(here, here.steps[0])
    ditches = [ways.of(visit) for visit in ways.route.visits if ways.of(visit).route.unit.rank]
    travelled = sum(move.length for visit in ways.route.visits for move in ways.of(visit).moves if move.also)
    done = sum(
        stretch.length for event in machine.log.events for stretch in event.sewn if ".1." in stretch.of
    )
    assert done == pytest.approx(travelled, rel=0.02) and done > 3 * 25.4
    whole = sum(move.length for way in ditches for move in way.sewn)
    covered = {visit.place: machine.log.sewn.of(visit.place) for visit in ways.route.visits}
    left = [
        end - begin
        for visit in ways.route.visits
        if ways.of(visit).route.unit.rank
        for move in ways.of(visit).sewn
        for begin, end in covered[visit.place].left(move.stretch)
    ]
    once = Covered()  # a stretch that is travelled twice is sewn once
    there = sum(
        once.add(replace(stretch, of=event.place + stretch.of))
        for event in machine.log.events for stretch in event.sewn if ".1." in stretch.of
    )  # fmt: skip
    assert sum(left) == pytest.approx(whole - there, abs=1) and there <= done + 0.01
    sew_all(machine)
    assert machine.log.sewn.lines == pytest.approx(ways.route.stitched, abs=2)
    assert all(one.left == 0 for one in ways.left(machine.log.sewn))
