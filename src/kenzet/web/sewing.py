"""At the machine: the next step, what was done, and what is left."""

from __future__ import annotations

import time
from dataclasses import replace

from flask import Response

from kenzet.core.errors import BadValue
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.sewing.now import place_routes
from kenzet.core.sewing.progress import fault_of
from kenzet.say.sewing_words import FAULTS
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.state.logs import logs
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.at_machine import sewing_of
from kenzet.web.wire.sewing import EventsRequest, EventsTaken, Refusal, SewingRequest, SewingView, event_of

sewing = Blueprint("sewing", __name__, url_prefix="/api/quilts/<quilt>")

LATE_S = 120.0


@sewing.post("/sewing", responses={200: SewingView})
def at_the_machine(path: m.QuiltKey, body: SewingRequest) -> Response:
    """The next steps, and the progress."""
    kept, laid = laid_quilt(path.quilt)
    ways = routes().ways(kept, laid)
    with connection() as conn:
        log = logs().log(conn, path.quilt)
    return answer(sewing_of(laid, ways, log, body))


@sewing.post("/sewing/events", responses={200: EventsTaken})
def take_events(path: m.QuiltKey, body: EventsRequest) -> Response:
    """Stored in the order in which they are sent. An impossible event is refused alone, with the reason; what was
    sewn counts even if nothing is planned there any more."""
    kept, laid = laid_quilt(path.quilt)
    try:
        ways = routes().ways(kept, laid)
    except BadValue:  # every fill was taken away meanwhile
        ways = place_routes(laid, QuiltRoute((), ()))
    latest = time.time() + LATE_S
    told = [(event, fault_of(ways, event)) for event in (event_of(one, latest) for one in body.events)]
    with connection() as conn:
        mine = [replace(event, plan=kept.revision) for event, fault in told if not fault]
        count = logs().keep(conn, path.quilt, mine)
    refused = [Refusal(id=event.id, why=FAULTS[fault]) for event, fault in told if fault]
    return answer(EventsTaken(count=count, refused=refused))
