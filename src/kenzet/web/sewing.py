"""At the machine: what to do next, what was done, and what is left."""

from __future__ import annotations

import threading
import time
from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import datetime
from itertools import islice
from typing import Any

import numpy as np
from flask import Response, current_app
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Unit, long_figure
from kenzet.core.route.needle import TAIL, thread
from kenzet.core.route.quilt import QuiltRoute, route_quilt
from kenzet.core.sewing.log import Event, Log, at_needle, since_rest
from kenzet.core.sewing.now import Left, Now, Ways, in_quilt, now, ways_of
from kenzet.core.sewing.stretch import Stretch
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.store import sewing as store
from kenzet.store.quilts import Kept
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, laid_quilt
from kenzet.web.marks import flat
from kenzet.web.ruler import CAUTION
from kenzet.web.sewing_models import (
    Bobbin,
    LeftRow,
    PlaceShare,
    RecentLine,
    Refusal,
    SewHere,
    SewingRequest,
    SewingView,
    SewnStretch,
    Taken,
    Told,
    ToldRequest,
)
from kenzet.web.sewing_steps import AHEAD, move_in_quilt, step_views
from kenzet.web.sewing_words import (
    ENDING,
    bulk_words,
)

sewing = APIBlueprint("sewing", __name__, url_prefix="/api/quilts/<quilt>")

RECENT = 12
_LATE_S = 120.0
_AT_A_PLACE = ("sewn", "skipped", "broke", "unpicked", "begun", "gone")


class Logs:
    """The logs of the last few quilts, and the ways through them, kept up to date."""

    def __init__(self, most: int = 8) -> None:
        self._logs: dict[str, tuple[Log, int]] = {}
        self._ways: dict[str, tuple[int, Ways]] = {}
        self._finding: dict[str, threading.Lock] = {}
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
            finding = self._finding.setdefault(kept.id, threading.Lock())
        with finding:  # others' logs are not held up by it
            found = self._known(kept)
            if found is None:
                found = _ways(laid, quick=False)
                with self._lock:
                    self._ways[kept.id] = (kept.revision, found)
                    while len(self._ways) > self._most:
                        del self._ways[next(iter(self._ways))]
            return found

    def ways_soon(self, kept: Kept, laid: LaidQuilt) -> Ways:
        """The same where they are found already, else quick ones. Raises BadValue where nothing is planned."""
        return self._known(kept) or _ways(laid, quick=True)

    def _known(self, kept: Kept) -> Ways | None:
        with self._lock:
            revision, found = self._ways.get(kept.id, (None, None))
            return found if revision == kept.revision else None


def _ways(laid: LaidQuilt, quick: bool) -> Ways:
    route = route_quilt(laid, quick)
    if not route.visits:
        raise BadValue("No zone has a line to sew yet. Choose a fill in Fills, and come back.", "quilt")
    return ways_of(laid, route)


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


@sewing.post("/sewing/events", responses={200: Taken})
def take_events(path: m.QuiltPath, body: ToldRequest) -> Response:
    """Kept in the order in which they are told. One that cannot be is refused alone, with the reason; what was sewn is sewn,
    even if nothing is planned there any more.
    """
    kept, laid = laid_quilt(path.quilt)
    try:
        ways = logs().ways(kept, laid)
    except BadValue:  # every fill was taken away meanwhile
        ways = ways_of(laid, QuiltRoute((), ()))
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
    if told.kind in _AT_A_PLACE and told.place not in ways.at and not (told.sewn or told.back):
        return "That place of the quilt has nothing to sew, or is no longer there."
    if told.kind == "sewn" and not told.sewn:
        return "It does not say what was sewn."
    if told.kind == "undone" and not told.of:
        return "It does not say what did not happen."
    if told.place in ways.at:
        units = [ways.of(ways.route.visits[k]).route.unit for k in ways.at[told.place]]
        known = {word for unit in units for word in unit.words}
        lengths = {key: long for unit in units for key, long in unit.lengths.items()}
        for one in (*told.sewn, *told.back):
            if one.of in known and one.ends > lengths.get((one.of, one.line), -1.0) + 1:
                return "There is no such line there, or it is not as long as that."
    return ""


def _view(laid: LaidQuilt, ways: Ways, log: Log, body: SewingRequest) -> SewingView:
    sewn, events = log.sewn, log.events
    left = ways.left(sewn)
    here = now(ways, sewn, body.place)
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
        spots=[_spot(ways, one) for one in left],
        places=[_left_at(ways, one) for one in begun[:40]],
        zones=list(_left_of_zones(laid, left)),
        untouched=sum(one.left == one.many and not one.skipped for one in left),
        skipped=sum(one.skipped for one in left),
        bobbin=Bobbin(
            left=round(float(kit.bobbin.holds.mm) - used, 1), per_mm=round(per_mm, 4), per_thread=TAIL
        ),
        today=round(at_needle(events, midnight), 1),
        unrested=round(since_rest(events), 1),
        rest=60.0 * stitching.rest,
        many=many,
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


def _spot(ways: Ways, left: Left) -> PlaceShare:
    way = ways.of(ways.route.visits[left.number])
    middle = in_quilt(way, left.place, np.array([way.route.unit.part.centre]))[0]
    return PlaceShare(
        place=left.place, at=middle.round(2).tolist(), share=round(1 - left.left / max(left.many, 1), 4)
    )


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
        where = "one place" if places[zone, turn] == 1 else f"{places[zone, turn]} places"
        yield LeftRow(
            place="",
            name=laid.zone(zone).name + times,
            words=f"{many:,} line{'s' if many > 1 else ''} in {where}",
        )


def _here(laid: LaidQuilt, ways: Ways, log: Log, here: Now, left: Sequence[Left], unit: Unit) -> SewHere:
    one = here.way.route
    alike = [v for v in ways.route.visits if ways.route.routes[v.route].unit.part.name == one.unit.part.name]
    places = list(dict.fromkeys(visit.place for visit in alike))
    which = f"{places.index(here.visit.place) + 1} of {len(places)} · " if len(places) > 1 else ""
    covered = log.sewn.of(here.visit.place)
    beyond = [move for step in here.steps[AHEAD:] for move in step.sews]
    return SewHere(
        place=here.visit.place,
        name=one.unit.part.name,
        which=which + show.place_name(here.visit.place),
        number=here.number + 1,
        many=here.way.many,
        left=left[here.number].left,
        stop=next((step.number for step in here.steps if step.stops), 0),
        bulk=bulk_words(laid, one.unit.part, here.visit.place, unit),
        steps=list(step_views(laid, log, here, unit)),
        done=[flat(in_quilt(here.way, here.visit.place, path)) for path in here.way.done(covered)],
        coming=[flat(move_in_quilt(here, move)) for move in beyond],
        recent=list(islice(_recent(laid, log, here), RECENT)),
    )


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
