"""At the machine: what to do next, what was done, and what is left."""

from __future__ import annotations

import threading
import time
from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import datetime
from itertools import islice
from typing import Annotated, Any, Literal

from flask import Response, current_app
from flask_openapi3 import APIBlueprint
from pydantic import Field, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.core.measure import Unit, long_figure
from kenzet.core.plan import plan_zone
from kenzet.core.route.needle import BOBBIN, TAIL, thread
from kenzet.core.route.quilt import Visit, route_quilt
from kenzet.core.sewing.laid_on import LaidOn, laid_on
from kenzet.core.sewing.log import Event, Kind, Log, at_needle, since_rest
from kenzet.core.sewing.now import Left, Now, Ways, in_quilt, now, ways_of
from kenzet.core.sewing.steps import Step
from kenzet.core.sewing.stretch import Stretch
from kenzet.core.sewing.way import Move
from kenzet.core.sums import best_sum
from kenzet.core.top.laid import LaidQuilt
from kenzet.store import sewing as store
from kenzet.store.quilts import Kept
from kenzet.web import models as m
from kenzet.web import show, slip
from kenzet.web import zone_models as z
from kenzet.web.at_hand import answer, connection, laid_quilt
from kenzet.web.marks import flat
from kenzet.web.route_words import corner_words
from kenzet.web.ruler import CAUTION
from kenzet.web.sewing_words import (
    ENDING,
    hand_words,
    is_curved,
    lay_words,
    sew_words,
    short_words,
    travel_words,
)

sewing = APIBlueprint("sewing", __name__, url_prefix="/api/quilts/<quilt>")

AHEAD = 60
"""So many steps are told at once: with them she goes on where the server is lost."""
REST_S = 25 * 60.0
RECENT = 12
_LATE_S = 120.0


class SewnStretch(m.Wire):
    """A stretch of a line: see ``Stretch``; ``back`` where it is sewn from its end to its beginning."""

    of: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}\.[0-9]\.[0-9a-f]{8}$")]
    line: Annotated[int, Field(ge=0, le=1_000_000)]
    turn: Annotated[int, Field(ge=0, le=20)]
    begins: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    ends: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    back: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> SewnStretch:
        if self.ends <= self.begins:
            raise ValueError("A stretch ends after it begins.")
        return self


Stretches = Annotated[list[SewnStretch], Field(default_factory=list, max_length=2000)]
Coordinate = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]


class Told(m.Wire):
    """An event at the machine, see ``Event``; ``when`` in seconds since 1970."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    kind: Kind
    when: Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
    place: m.PlaceKey = ""
    at: Annotated[list[Coordinate], Field(min_length=2, max_length=2)] | None = None
    sewn: Stretches
    back: Stretches
    far: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    stitches: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    freehand: bool = False
    of: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{0,40}$")] = ""


class ToldRequest(m.Wire):
    """What was done, in order."""

    events: Annotated[list[Told], Field(min_length=1, max_length=500)]


class Refusal(m.Wire):
    """An event that is not taken, and why."""

    id: str
    why: str


class Taken(m.Wire):
    """``count`` events are known now."""

    count: int
    refused: list[Refusal]


class SewingRequest(m.Reading):
    """What to do next; at ``place`` if one is chosen."""

    place: m.PlaceKey = ""


class SewStep(m.Wire):
    """A step: where to lay what, how far to sew, where to go then. ``points`` are sewn, ``travels`` gone after that: flat x, y in
    the quilt, mm; ``at`` is where the needle is then, ``start`` where it is before. ``far`` mm in all, ``stops`` where the
    thread ends. ``sewn`` is what to tell when it is done.
    """

    kind: Literal["begin", "go", "line"]
    number: int
    zone: str
    lay: m.Words
    sum: z.SumView | None
    hand: m.Words
    sew: m.Words
    then: m.Words
    short: m.Words
    points: list[list[float]]
    travels: list[list[float]]
    start: list[float]
    at: list[float]
    far: float
    stops: bool
    sewn: list[SewnStretch]


class RecentLine(m.Wire):
    """A line that was sewn, to be unpicked or to have broken after."""

    event: str
    words: m.Words
    at: list[float]
    sewn: list[SewnStretch]


class SewHere(m.Wire):
    """Where she sews. ``steps`` are the next; ``done`` is sewn, ``coming`` lies beyond them: flat x, y in the quilt, mm."""

    place: str
    name: str
    which: str
    number: int
    many: int
    left: int
    steps: list[SewStep]
    done: list[list[float]]
    coming: list[list[float]]
    recent: list[RecentLine]


class LeftRow(m.Wire):
    """What is left at a place that is begun, or of a zone over all places (``place`` empty)."""

    place: str
    name: str
    words: str


class Bobbin(m.Wire):
    """mm of thread ``left`` in the bobbin; what a mm of way and what a thread's two tails take of it."""

    left: float
    per_mm: float
    per_thread: float


class SewingView(m.Wire):
    """``count`` events are known; ``last`` are the newest of them by id, the newest first. ``today`` and ``unrested`` are seconds
    at the machine; a rest is due after ``rest``. ``share`` of the quilt's lines are sewn.
    """

    count: int
    last: list[str]
    here: SewHere | None
    places: list[LeftRow]
    zones: list[LeftRow]
    untouched: int
    skipped: int
    bobbin: Bobbin
    today: float
    unrested: float
    rest: float
    share: float
    tally: list[m.Row]
    ending: str
    notes: list[str]
    caution: str


class CountView(m.Wire):
    """How many events are known."""

    count: int


class Logs:
    """The logs of the last few quilts, and the ways through them, kept up to date."""

    def __init__(self, most: int = 8) -> None:
        self._logs: dict[str, tuple[Log, int]] = {}
        self._ways: dict[str, tuple[int, Ways]] = {}
        self._most = most
        self._lock = threading.RLock()

    def log(self, conn: Any, quilt: str) -> Log:
        """With all that has come in by now."""
        with self._lock:
            log, seq = self._logs.pop(quilt, None) or (Log(), 0)
            for number, event in store.after(conn, quilt, seq):
                log.take(event)
                seq = number
            self._logs[quilt] = (log, seq)
            while len(self._logs) > self._most:
                del self._logs[next(iter(self._logs))]
            return log

    def ways(self, kept: Kept, laid: LaidQuilt) -> Ways:
        """Of the quilt as it is planned now. Raises BadValue where nothing is."""
        with self._lock:
            found = self._ways.get(kept.id)
            if found is None or found[0] != kept.revision:
                route = route_quilt(laid)
                if not route.visits:
                    raise BadValue(
                        "No zone has a line to sew yet. Choose a fill in Fills, and come back.", "quilt"
                    )
                found = self._ways[kept.id] = (kept.revision, ways_of(laid, route))
            while len(self._ways) > self._most:
                del self._ways[next(iter(self._ways))]
            return found[1]


def logs() -> Logs:
    """The application's."""
    found: Logs = current_app.extensions["sewing"]
    return found


@sewing.post("/sewing", responses={200: SewingView})
def at_the_machine(path: m.QuiltPath, body: SewingRequest) -> Response:
    """What to do next, and how far she is."""
    kept, laid = laid_quilt(path.quilt)
    ways = logs().ways(kept, laid)
    with connection() as conn:
        log = logs().log(conn, path.quilt)
    return answer(_view(laid, ways, log, body))


@sewing.get("/sewing/count", responses={200: CountView})
def events_known(path: m.QuiltPath) -> Response:
    """Whether another device has told something."""
    with connection() as conn:
        return answer(CountView(count=len(logs().log(conn, path.quilt))))


@sewing.post("/sewing/events", responses={200: Taken})
def take_events(path: m.QuiltPath, body: ToldRequest) -> Response:
    """Kept in the order in which they are told. One that cannot be is refused alone, with the reason."""
    kept, laid = laid_quilt(path.quilt)
    ways = logs().ways(kept, laid)
    latest = time.time() + _LATE_S
    good, refused = [], []
    for told in body.events:
        why = _why_not(ways, told)
        if why:
            refused.append(Refusal(id=told.id, why=why))
        else:
            good.append(event_of(told, latest))
    return answer(Taken(count=keep(path.quilt, good), refused=refused))


def keep(quilt: str, events: Sequence[Event]) -> int:
    """Keeps them; how many are known then."""
    with connection() as conn:
        if events:
            store.append(conn, quilt, events)
        return len(logs().log(conn, quilt))


def event_of(told: Told, latest: float) -> Event:
    """As the core knows it; a clock that is ahead is set right."""

    def stretches(some: Iterable[SewnStretch]) -> tuple[Stretch, ...]:
        return tuple(Stretch(one.of, one.line, one.turn, one.begins, one.ends) for one in some)

    return Event(
        told.id, told.kind, min(told.when, latest), told.place, (told.at[0], told.at[1]) if told.at else None,
        stretches(told.sewn), stretches(told.back), told.far, told.stitches, told.freehand, told.of,
    )  # fmt: skip


def _why_not(ways: Ways, told: Told) -> str:
    """What is wrong with an event, if anything is. Lines of an earlier plan are taken: they were sewn."""
    if told.kind in ("sewn", "skipped", "broke", "unpicked", "begun", "gone") and told.place not in ways.at:
        return "That place of the quilt has nothing to sew, or is no longer there."
    if told.kind == "sewn" and not told.sewn:
        return "It does not say what was sewn."
    if told.kind == "undone" and not told.of:
        return "It does not say what did not happen."
    if told.place in ways.at:
        unit = ways.of(ways.route.visits[ways.at[told.place]]).route.unit
        drawn = dict(zip(unit.words, (drawing for _, drawing in unit.drawings), strict=True))
        for one in (*told.sewn, *told.back):
            drawing = drawn.get(one.of)
            if drawing is not None and (
                one.line >= drawing.lines or one.ends > drawing.length_of(one.line) + 1
            ):
                return "There is no such line there, or it is not as long as that."
    return ""


def _view(laid: LaidQuilt, ways: Ways, log: Log, body: SewingRequest) -> SewingView:
    sewn, events = log.sewn, log.events
    left = ways.left(sewn)
    here = now(laid, ways, sewn, body.place)
    kit, stitching = laid.quilt.kit, laid.quilt.stitching
    per_mm = thread(1.0, float(kit.batting.thickness.mm), float(kit.stitch.mm))
    used = sewn.bobbin_way * per_mm + sewn.bobbin_threads * TAIL
    midnight = datetime.now().replace(hour=0, minute=0, second=0, microsecond=0).timestamp()
    many = sum(one.many for one in left)
    begun = [one for one in left if one.skipped or 0 < one.left < one.many]
    return SewingView(
        count=len(log),
        last=[event.id for event in reversed(events[-30:])],
        here=_here(laid, ways, log, here, left, body.unit) if here else None,
        places=[_left_at(ways, one) for one in begun[:40]],
        zones=list(_left_of_zones(laid, left)),
        untouched=sum(one.left == one.many and not one.skipped for one in left),
        skipped=sum(one.skipped for one in left),
        bobbin=Bobbin(left=round(float(BOBBIN) - used, 1), per_mm=round(per_mm, 4), per_thread=TAIL),
        today=round(at_needle(events, midnight), 1),
        unrested=round(since_rest(events), 1),
        rest=REST_S,
        share=1 - sum(one.left for one in left) / many if many else 1.0,
        tally=_tally(log, body.unit),
        ending=ENDING[stitching.ends],
        notes=_notes(ways, log),
        caution=CAUTION
        if kit.sew_with == "ruler foot"
        else "Needle down before you turn the quilt; the machine stopped before a hand comes near the foot. "
        "Your machine’s manual has the last word.",
    )


def _tally(log: Log, unit: Unit) -> list[m.Row]:
    sewn = log.sewn
    rows = [
        m.Row(label=["Lines sewn"], words=[long_figure(max(sewn.lines, 0.0), unit)]),
        m.Row(label=["Threads begun"], words=[f"{sewn.threads}"]),
    ]
    if sewn.breaks:
        rows.append(m.Row(label=["Breaks"], words=[f"{sewn.breaks}"]))
    if sewn.freehand:
        rows.append(m.Row(label=["Of them by hand and eye"], words=[long_figure(sewn.freehand, unit)]))
    if sewn.stitches:
        rows.append(m.Row(label=["Stitches counted"], words=[f"{sewn.stitches:,}"]))
    return rows


def _notes(ways: Ways, log: Log) -> list[str]:
    """What was sewn to a plan that has been changed since."""
    known = {(visit.place, word) for visit in ways.route.visits for word in ways.of(visit).route.unit.words}
    old = sum((place, key[0]) not in known for place, covered in log.sewn.covered.items() for key in covered)
    if not old:
        return []
    lines = "A line was" if old == 1 else f"{old} lines were"
    return [
        f"{lines} sewn to an earlier plan of these zones, and not counted here. Undo brings that plan back."
    ]


def _left_at(ways: Ways, left: Left) -> LeftRow:
    part = ways.of(ways.route.visits[left.number]).route.unit.part
    words = f"{left.left} of {left.many} lines left" + (f", {left.skipped} skipped" if left.skipped else "")
    return LeftRow(place=left.place, name=f"{part.name}, {show.place_name(left.place)}", words=words)


def _left_of_zones(laid: LaidQuilt, left: Sequence[Left]) -> Iterable[LeftRow]:
    lines, places = Counter[tuple[str, int]](), Counter[tuple[str, int]]()
    for one in left:
        for key, many in one.zones.items():
            lines[key] += many
            places[key] += 1
    for (zone, turn), many in sorted(lines.items()):
        times = "" if turn == 0 else ", once more over" if turn == 1 else f", time {turn + 1} over"
        where = "a place" if places[zone, turn] == 1 else f"{places[zone, turn]} places"
        yield LeftRow(
            place="",
            name=laid.zone(zone).name + times,
            words=f"{many:,} line{'s' if many > 1 else ''} in {where}",
        )


def _here(laid: LaidQuilt, ways: Ways, log: Log, here: Now, left: Sequence[Left], unit: Unit) -> SewHere:
    one = here.way.route
    alike = [v for v in ways.route.visits if ways.route.routes[v.route].unit.part.name == one.unit.part.name]
    which = f"{alike.index(here.visit) + 1} of {len(alike)} · " if len(alike) > 1 else ""
    covered = log.sewn.of(here.visit.place)
    beyond = [move for step in here.steps[AHEAD:] for move in step.sews]
    return SewHere(
        place=here.visit.place,
        name=one.unit.part.name,
        which=which + show.place_name(here.visit.place),
        number=here.number + 1,
        many=here.way.many,
        left=left[here.number].left,
        steps=list(_steps(laid, log, here, unit)),
        done=[flat(in_quilt(here.way, here.visit.place, path)) for path in here.way.done(covered)],
        coming=[flat(_placed(here, move)) for move in beyond],
        recent=list(islice(_recent(laid, log, here), RECENT)),
    )


def _placed(here: Now, move: Move) -> Floats:
    return in_quilt(here.way, here.visit.place, move.path)


def _recent(laid: LaidQuilt, log: Log, here: Now) -> Iterable[RecentLine]:
    """The last lines sewn here that still are, the newest first."""
    covered = log.sewn.of(here.visit.place)
    unit = here.way.route.unit
    zones = dict(zip(unit.words, (zone for zone, _ in unit.drawings), strict=True))
    for event in reversed(log.events):
        if event.place != here.visit.place or not event.sewn or event.at is None:
            continue
        if any(covered.left(stretch) for stretch in event.sewn) or event.sewn[0].of not in zones:
            continue
        first = event.sewn[0]
        yield RecentLine(
            event=event.id,
            words=[f"{laid.zone(zones[first.of]).name}, line {first.line + 1}"],
            at=list(event.at),
            sewn=[SewnStretch(of=s.of, line=s.line, turn=s.turn, begins=s.begins, ends=s.ends) for s in event.sewn],
        )  # fmt: skip


def _steps(laid: LaidQuilt, log: Log, here: Now, unit: Unit) -> Iterable[SewStep]:
    left = {move.stretch.key for step in here.steps for move in step.sews if move.stretch}
    sewn: dict[str, set[int]] = {}
    for move in here.way.sewn:
        if move.stretch and move.stretch.key not in left:
            sewn.setdefault(move.stretch.of, set()).add(move.stretch.line)
    newest = next((event.sewn[-1] for event in reversed(log.events) if event.sewn), None)
    last = (newest.of, newest.line) if newest else ("", -1)
    for k, step in enumerate(here.steps[:AHEAD]):
        if step.kind != "line":
            yield _way_in(laid, here, step, k, unit)
            continue
        yield _line(laid, here, step, sewn, last, k + 1 == len(here.steps), unit)
        stretch = step.sews[-1].stretch
        assert stretch is not None
        sewn.setdefault(stretch.of, set()).add(stretch.line)
        last = (stretch.of, stretch.line)


def _way_in(laid: LaidQuilt, here: Now, step: Step, number: int, unit: Unit) -> SewStep:
    """A thread begun, or a way gone."""
    placed = [_placed(here, move) for move in step.travels]
    first = here.steps[number + 1].moves[0] if number + 1 < len(here.steps) else step.moves[-1]
    spot = in_quilt(here.way, here.visit.place, first.path[:1] if not placed else step.travels[0].path[:1])[0]
    end = spot if not placed else placed[-1][-1]
    corner = corner_words(here.way.route, step.moves[0].start if step.moves else first.start)
    fresh: m.Words = [f"Begin {corner}: bring the bobbin thread up, and sew a few tiny stitches."]
    go = travel_words(step.travels, placed, unit)
    return SewStep(
        kind=step.kind, number=0, zone="", sum=None, hand=[], sewn=[],
        lay=fresh if step.kind == "begin" else ["Travel ", *go, "."],
        sew=[], then=["Then travel ", *go, "."] if step.kind == "begin" and go else [],
        short=["begin a thread" if step.kind == "begin" else "travel"],
        points=[], travels=[flat(path) for path in placed],
        start=spot.round(3).tolist(), at=end.round(3).tolist(), far=round(step.length, 3), stops=False,
    )  # fmt: skip


def _line(
    laid: LaidQuilt,
    here: Now,
    step: Step,
    sewn: dict[str, set[int]],
    last: tuple[str, int],
    is_last: bool,
    unit: Unit,
) -> SewStep:
    one = here.way.route.unit
    course = one.courses[step.sews[0].course]
    key, drawing = one.drawings[course.zone]
    plan = plan_zone(laid, key)
    stretch = step.sews[0].stretch
    assert plan is not None and stretch is not None
    if stretch.turn:
        on, total = LaidOn("last", plan.kit.reach), None
        lay: m.Words = ["Once more over the same line, the ruler where it lies."]
    else:
        on = laid_on(
            plan,
            drawing,
            course.number,
            sewn.get(stretch.of, set()),
            last[1] if last[0] == stretch.of else None,
        )
        total = (
            best_sum(plan.kit, on.distance, drawing.length_of(course.number)) if on.kind != "mark" else None
        )
        lay = lay_words(plan, drawing, course.number, on, total or best_sum(plan.kit, plan.kit.reach), unit)
    placed = [_placed(here, move) for move in step.sews]
    travels = [_placed(here, move) for move in step.travels]
    go = travel_words(step.travels, travels, unit)
    whole = sum(move.length for move in step.sews)
    curved = is_curved(plan, drawing, course.number)
    told = total is not None and total.can_be_laid and not curved
    return SewStep(
        kind="line",
        number=step.number,
        zone=laid.zone(key).name,
        lay=lay,
        sum=slip.the_sum(total, plan.kit, unit, _ON_SUM[on.kind], "from the seam" if on.kind == "seam" else "apart")
        if told and total is not None
        else None,
        hand=hand_words(plan, whole, unit),
        sew=sew_words(step, here.way.on_lanes, course.closed, unit, placed),
        then=_then(laid, step, go, is_last),
        short=short_words(on, None if curved else total, unit),
        points=[flat(path) for path in placed],
        travels=[flat(path) for path in travels],
        start=placed[0][0].round(3).tolist(),
        at=(travels or placed)[-1][-1].round(3).tolist(),
        far=round(step.length, 3),
        stops=step.stops,
        sewn=[
            SewnStretch(
                of=s.of, line=s.line, turn=s.turn, begins=s.begins, ends=s.ends, back=move.back
            )
            for move in step.sews
            if (s := move.stretch) is not None
        ],
    )  # fmt: skip


_ON_SUM = {"last": "your last line", "line": "the line beside it", "seam": "the seam", "mark": ""}


def _then(laid: LaidQuilt, step: Step, go: m.Words, is_last: bool) -> m.Words:
    if go:
        return ["Then travel ", *go, "."]
    if is_last:
        return ["With that, this place is sewn."]
    if step.stops:
        return [ENDING[laid.quilt.stitching.ends]]
    return ["The next line begins here: turn, or lay the ruler anew."]


def visit_at(ways: Ways, place: str) -> Visit | None:
    """The visit of a place."""
    number = ways.at.get(place)
    return None if number is None else ways.route.visits[number]
