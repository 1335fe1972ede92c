"""At the marking table: the strokes of a zone one at a time, what is drawn, and what is still to be removed."""

from __future__ import annotations

from datetime import date

from flask import Response

from kenzet.core.errors import BadValue
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.table import steps
from kenzet.say.table_words import PINS
from kenzet.store import marked as store
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire.table import TableRequest, TableView, step_view, still_on

table = Blueprint("table", __name__, url_prefix="/api/quilts/<quilt>")


@table.post("/table", responses={200: TableView})
def at_the_table(path: m.QuiltKey, body: TableRequest) -> Response:
    """The steps and the progress; what is reported is stored."""
    _, laid = laid_quilt(path.quilt)
    found = planned(laid, body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    todo = steps(found, drawing, marks_of(found, drawing), body.unit)
    times = sum(len(one.places) for one in found.drawings)
    with connection() as conn:
        if body.done is not None:
            if body.done > len(todo) * times:
                raise BadValue(tr("There are {todo} steps in all.", todo=len(todo) * times), "done")
            store.set_done(conn, path.quilt, body.zone, body.done, date.today())
        if body.off:
            store.take_off(conn, path.quilt, body.zone, date.today(), faded=body.faded)
        known = store.marked(conn, path.quilt)
    mine = known.get(body.zone)
    return answer(
        TableView(
            zone=body.zone,
            name=found.zone.name,
            steps=[step_view(found, drawing, step, body.unit) for step in todo],
            times=times,
            done=min(mine.done, len(todo) * times) if mine and mine.taken_off is None else 0,
            pins=PINS if (laid.quilt.layered, laid.quilt.basted) == ("before marking", "pins") else "",
            still_on=[
                still_on(laid, one) for one in known.values() if one.still_on and one.zone in laid.quilt.zones
            ],
        )
    )
