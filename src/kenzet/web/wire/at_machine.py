"""What the machine screen shows: the next steps, what is left, the state of the bobbin."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from itertools import islice

import numpy as np

from kenzet.core.numbers.measure import Unit
from kenzet.core.sewing.log import Event, Log, at_needle, since_rest
from kenzet.core.sewing.now import Left, Now, PlaceRoutes, in_quilt, now
from kenzet.core.sewing.progress import (
    bobbin_of,
    left_by_zone,
    of_earlier_plans,
    progress_of,
    recent_lines,
    which_of_its_kind,
)
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import whereabouts
from kenzet.say.ruler_words import caution_of
from kenzet.say.sewing_words import (
    ENDING,
    bulk_words,
    earlier_words,
    left_words,
    log_rows,
    zone_left_words,
)
from kenzet.texts import tr
from kenzet.web.wire.drawn import flat
from kenzet.web.wire.sewing import (
    BobbinView,
    LeftRow,
    PlaceShare,
    RecentLine,
    SewHere,
    SewingRequest,
    SewingView,
    SewnStretch,
)
from kenzet.web.wire.steps import AHEAD, move_in_quilt, step_views

RECENT = 12


def sewing_of(laid: QuiltLayout, ways: PlaceRoutes, log: Log, body: SewingRequest) -> SewingView:
    """The current place, and everything that is shown there."""
    kit, stitching, events = laid.quilt.kit, laid.quilt.stitching, log.events
    left = ways.left(log.sewn)
    here = now(ways, log.sewn, body.place, body.visit)
    progress, bobbin = progress_of(left), bobbin_of(kit, log.sewn)
    midnight = datetime.now().replace(hour=0, minute=0, second=0, microsecond=0).timestamp()
    return SewingView(
        count=len(log),
        last=[event.id for event in reversed(events[-30:])],
        here=_here(laid, ways, log, here, left, body.unit) if here else None,
        spots=[_spot(ways, one) for one in left],
        places=[_left_at(ways, one) for one in progress.begun[:40]],
        zones=[
            LeftRow(place=one.next.place, visit=one.next.number, **zone_left_words(laid, one))
            for one in left_by_zone(left)
        ],
        untouched=progress.untouched,
        skipped=progress.skipped,
        bobbin=BobbinView(
            left=round(bobbin.left, 1), per_mm=round(bobbin.per_mm, 4), per_thread=bobbin.per_thread
        ),
        today=round(at_needle(events, midnight), 1),
        unrested=round(since_rest(events), 1),
        rest=60.0 * stitching.rest,
        many=progress.many,
        whole_mm=round(progress.whole, 1),
        share=progress.share,
        tally=log_rows(log.sewn, body.unit),
        ending=ENDING[stitching.ends],
        notes=earlier_words(of_earlier_plans(ways, log.sewn)),
        caution=caution_of(kit),
    )


def _spot(ways: PlaceRoutes, left: Left) -> PlaceShare:
    way = ways.of(ways.route.visits[left.number])
    middle = in_quilt(way, left.place, np.array([way.route.unit.part.centre]))[0]
    return PlaceShare(place=left.place, at=middle.round(2).tolist(), share=round(left.share, 4))


def _left_at(ways: PlaceRoutes, left: Left) -> LeftRow:
    part = ways.of(ways.route.visits[left.number]).route.unit.part
    name = whereabouts.placed(part.name, left.place)
    return LeftRow(place=left.place, visit=left.number, name=name, words=left_words(left))


def _here(
    laid: QuiltLayout, ways: PlaceRoutes, log: Log, here: Now, left: Sequence[Left], unit: Unit
) -> SewHere:
    part, place = here.way.route.unit.part, here.visit.place
    number, many = which_of_its_kind(ways, here)
    beyond = [move for step in here.steps[AHEAD:] for move in step.sews]
    return SewHere(
        place=place,
        where=whereabouts.placed(
            part.name, place, tr(" {number} of {many}", number=number, many=many) if many > 1 else ""
        ),
        number=here.number + 1,
        many=here.way.many,
        left=left[here.number].left,
        whole_mm=round(left[here.number].whole, 1),
        left_mm=round(left[here.number].unsewn, 1),
        stop=next((step.number for step in here.steps if step.stops), 0),
        bulk=bulk_words(laid, part, place, unit),
        steps=list(step_views(laid, log, here, unit)),
        done=[flat(in_quilt(here.way, place, path)) for path in here.way.done(log.sewn.of(place))],
        coming=[flat(move_in_quilt(here, move)) for move in beyond],
        recent=[_recent(laid, *one) for one in islice(recent_lines(log, here), RECENT)],
    )


def _recent(laid: QuiltLayout, event: Event, zone: str) -> RecentLine:
    return RecentLine(
        event=event.id,
        words=[tr("{name}, line {line}", name=laid.zone(zone).name, line=event.sewn[0].line + 1)],
        at=list(event.at or ()),
        sewn=[
            SewnStretch(drawing=s.of, line=s.line, turn=s.turn, begins=s.begins, ends=s.ends)
            for s in event.sewn
        ],
    )
