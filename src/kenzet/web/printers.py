"""Printers for mark sheets, and their corrections."""

from __future__ import annotations

from typing import Literal

from flask import Response

from kenzet.core.errors import BadValue
from kenzet.core.marks.printer import BARS, Printer, corrected
from kenzet.say.kit_words import printer_words
from kenzet.store import printers as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection
from kenzet.web.wire import base as m
from kenzet.web.wire.sheets import (
    CheckRequest,
    ForgetQuery,
    PrintersView,
    PrinterView,
    bar_length,
)

printers = Blueprint("printers", __name__, url_prefix="/api")


@printers.get("/printers", responses={200: PrintersView})
def her_printers(query: m.Reading) -> Response:
    """All printers."""
    return answer(_printers(query.unit))


@printers.post("/printers", responses={200: PrintersView})
def check_printer(body: CheckRequest) -> Response:
    """The reading of a check page; sheets for this printer are corrected from now on."""
    name = body.name.strip()
    if not name:
        raise BadValue(tr("Name the printer."), "name")
    with connection() as conn:
        known = {printer.name: printer for printer in store.printers(conn, LOCAL_OWNER)}
    found = corrected(
        known.get(name, Printer(name)), bar_length(body, "across"), bar_length(body, "up"), body.unit
    )
    if found.asks and not body.sure:
        view = _printers(body.unit)
        view.asks = tr(
            "Sheets would be {printer}. Printers are seldom so far out: was “fit to page” or “scale to fit” on? If so, turn it off, print the check page again and measure that.",
            printer=printer_words(found),
        )
        return answer(view)
    with connection() as conn:
        store.put(conn, LOCAL_OWNER, found)
    return answer(_printers(body.unit))


@printers.delete("/printers", responses={200: PrintersView})
def forget_printer(query: ForgetQuery) -> Response:
    """Delete a printer."""
    with connection() as conn:
        store.remove(conn, LOCAL_OWNER, query.name)
    return answer(_printers(query.unit))


def _printers(unit: Literal["in", "mm"]) -> PrintersView:
    with connection() as conn:
        found = store.printers(conn, LOCAL_OWNER)
    views = [PrinterView(name=p.name, across=p.across, up=p.up, words=printer_words(p)) for p in found]
    return PrintersView(printers=views, bar=BARS[unit].text)
