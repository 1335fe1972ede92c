"""Mark sheets to print and to take elsewhere, and the printers that they are printed on."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.marks.marking import method_of
from kenzet.core.marks.printer import BARS, Printer, corrected
from kenzet.core.marks.repeat import repeat_of
from kenzet.core.marks.sheet import MarkSheet, SheetWish, mark_sheet
from kenzet.core.marks.together import together
from kenzet.formats.check_page import check_page
from kenzet.formats.dxf_out import dxf
from kenzet.formats.marks_csv import strokes_csv, ticks_csv
from kenzet.formats.pdf import pdf
from kenzet.formats.placement import TRUE, Fit, room_on
from kenzet.formats.strip import strip_pdf
from kenzet.formats.svg import svg
from kenzet.say.kit_words import printer_words
from kenzet.store import printers as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.web.request_context import answer, connection, file_answer, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire.sheets import (
    CheckQuery,
    CheckRequest,
    ForgetRequest,
    PrintersView,
    PrinterView,
    SheetQuery,
    StripQuery,
    bar_length,
)

sheets = APIBlueprint("sheets", __name__, url_prefix="/api")


@sheets.get("/quilts/<quilt>/zones/<zone>/sheet.pdf")
def sheet_pdf(path: m.ZoneOfQuilt, query: SheetQuery) -> Response:
    """The mark sheet at true size, tiled over pages."""
    return file_answer(
        pdf(_sheet(path, query), query.paper, _fit(query.printer)),
        "application/pdf",
        f"{path.zone}-marks.pdf",
    )


@sheets.get("/quilts/<quilt>/zones/<zone>/sheet.svg")
def sheet_svg(path: m.ZoneOfQuilt, query: SheetQuery) -> Response:
    """The mark sheet at true size as one drawing."""
    return _file(path, query, svg, "image/svg+xml", "marks.svg")


@sheets.get("/quilts/<quilt>/zones/<zone>/sheet.dxf")
def sheet_dxf(path: m.ZoneOfQuilt, query: SheetQuery) -> Response:
    """The same with layers by meaning."""
    return _file(path, query, dxf, "image/vnd.dxf", "marks.dxf")


@sheets.get("/quilts/<quilt>/zones/<zone>/ticks.csv")
def sheet_ticks(path: m.ZoneOfQuilt, query: SheetQuery) -> Response:
    """Every tick, edge by edge."""
    return _file(path, query, ticks_csv, "text/csv", "ticks.csv")


@sheets.get("/quilts/<quilt>/zones/<zone>/strokes.csv")
def sheet_strokes(path: m.ZoneOfQuilt, query: SheetQuery) -> Response:
    """Every stroke from where to where."""
    return _file(path, query, strokes_csv, "text/csv", "strokes.csv")


@sheets.get("/quilts/<quilt>/zones/<zone>/strip.pdf")
def tick_strip(path: m.ZoneOfQuilt, query: StripQuery) -> Response:
    """A strip with the ticks of one edge, to be cut out and laid along it."""
    sheet = _sheet(path, query)
    if query.edge >= len(sheet.ticked):
        raise Unknown("That edge has no ticks.", "edge")
    edge = sheet.ticked[query.edge]
    data = strip_pdf(sheet.title, edge, query.paper, query.unit, _fit(query.printer))
    return file_answer(data, "application/pdf", f"{path.zone}-ticks.pdf")


@sheets.get("/printers", responses={200: PrintersView})
def printers(query: m.Reading) -> Response:
    """Her printers."""
    return answer(_printers(query.unit))


@sheets.get("/printer-check.pdf")
def printer_check(query: CheckQuery) -> Response:
    """Two bars to measure, drawn with what is known of the printer."""
    return file_answer(
        check_page(query.paper, query.unit, query.name, _fit(query.name)),
        "application/pdf",
        "printer-check.pdf",
    )


@sheets.post("/printers", responses={200: PrintersView})
def check_printer(body: CheckRequest) -> Response:
    """What she read: from then on sheets for this printer are corrected."""
    name = body.name.strip()
    if not name:
        raise BadValue("Give the printer a name.", "name")
    with connection() as conn:
        known = {printer.name: printer for printer in store.printers(conn, LOCAL_OWNER)}
    found = corrected(
        known.get(name, Printer(name)), bar_length(body, "across"), bar_length(body, "up"), body.unit
    )
    if found.asks and not body.sure:
        view = _printers(body.unit)
        view.asks = (
            f"Sheets would be {printer_words(found)}. Printers are seldom so far out: was “fit to page” or “scale to fit” on? "
            "If so, turn it off, print the check page again and measure that."
        )
        return answer(view)
    with connection() as conn:
        store.put(conn, LOCAL_OWNER, found)
    return answer(_printers(body.unit))


@sheets.post("/printers/forget", responses={200: PrintersView})
def forget_printer(body: ForgetRequest) -> Response:
    """Forget a printer."""
    with connection() as conn:
        store.remove(conn, LOCAL_OWNER, body.name)
    return answer(_printers(body.unit))


def _fit(name: str) -> Fit:
    if not name:
        return TRUE
    with connection() as conn:
        known = {printer.name: printer for printer in store.printers(conn, LOCAL_OWNER)}
    found = known.get(name)
    return (found.across, found.up) if found else TRUE


def _printers(unit: Literal["in", "mm"]) -> PrintersView:
    with connection() as conn:
        found = store.printers(conn, LOCAL_OWNER)
    views = [PrinterView(name=p.name, across=p.across, up=p.up, words=printer_words(p)) for p in found]
    return PrintersView(printers=views, bar=BARS[unit].text)


def _sheet(path: m.ZoneOfQuilt, query: SheetQuery) -> MarkSheet:
    kept, laid = laid_quilt(path.quilt)
    found = planned(laid, path.zone).layered(query.layer)
    drawing = found.drawing_at(query.place)
    drawn = together(laid, path.zone, query.place) if query.of == "block" else [(found, drawing)]
    repeat = repeat_of(found, drawing, room_on(query.paper)) if query.of == "repeat" else None
    if query.of == "repeat" and repeat is None:
        raise BadValue("The lines of this zone do not repeat along it.", "of")
    wish = SheetWish(query.method or method_of(found, drawing), query.kind, query.back, repeat)
    return mark_sheet(drawn, wish, kept.quilt.name, kept.revision, query.unit)


def _file(
    path: m.ZoneOfQuilt,
    query: SheetQuery,
    write: Callable[[MarkSheet, Literal["in", "mm"]], bytes],
    kind: str,
    name: str,
) -> Response:
    return file_answer(write(_sheet(path, query), query.unit), kind, f"{path.zone}-{name}")
