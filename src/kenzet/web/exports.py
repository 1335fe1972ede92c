"""One table of all files that can be saved or printed: address, link and writer come from its rows.

A new export is a writer in ``formats`` and a row here.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import asdict, dataclass
from functools import partial
from typing import Any, Literal

from flask import Response

from kenzet.core.advice.recipes import RecipeBook
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.kit.inventory import KitFile
from kenzet.core.logbook.swatch import KeptSwatch, SwatchBook
from kenzet.core.marks.marking import method_of
from kenzet.core.marks.repeat import repeat_of
from kenzet.core.marks.sheet import MarkSheet, SheetOptions, mark_sheet
from kenzet.core.marks.together import together
from kenzet.core.numbers.measure import Unit
from kenzet.formats import kit_csv, plan_file
from kenzet.formats.density_picture import density_table
from kenzet.formats.job_content import job_content
from kenzet.formats.marks_csv import strokes_csv, ticks_csv
from kenzet.formats.placement import TRUE, Fit, room_on
from kenzet.formats.relief_picture import longer_side, relief_picture
from kenzet.formats.route_svg import place_route_svg
from kenzet.formats.svg import svg
from kenzet.store import logbook, printers, recipes, swatches
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.log import log_view, sat_with
from kenzet.web.request_context import connection, file_answer, her_things, laid_quilt, planned
from kenzet.web.schedule import ScheduleQuery, calendar_of
from kenzet.web.state.logs import logs
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.job import JobQuery
from kenzet.web.wire.route import RouteAtQuery
from kenzet.web.wire.sheets import BookQuery, CardsQuery, CheckQuery, ReliefPng, SheetQuery, StripQuery

PDF, SVG, DXF, CSV, JSON = "application/pdf", "image/svg+xml", "image/vnd.dxf", "text/csv", "application/json"
PNG, ICS = "image/png", "text/calendar"
Scope = Literal["zone", "quilt", "mine"]
WHERE: dict[Scope, str] = {
    "zone": "/quilts/<quilt>/zones/<zone>/",
    "quilt": "/quilts/<quilt>/",
    "mine": "/",
}
PATHS: dict[Scope, type[m.Wire]] = {"zone": m.ZoneOfQuilt, "quilt": m.QuiltKey}


@dataclass(frozen=True, slots=True)
class File:
    """The content of a file, and its name."""

    data: bytes
    name: str


@dataclass(frozen=True, slots=True)
class Export:
    """``label`` is the text of its link, ``file`` the end of its address. It belongs to a zone, a quilt, or to
    everything that is ``mine``; ``write`` takes the path (none for ``mine``) and the ``query``.

    Exports ``of_sheet`` are linked beside the mark sheet; those that ``need`` ticks or strokes only if there are
    any.
    """

    key: str
    label: str
    scope: Scope
    file: str
    mime: str
    query: type[m.Reading]
    write: Callable[..., File]
    of_sheet: bool = False
    needs: Literal["", "ticks", "strokes"] = ""

    @property
    def address(self) -> str:
        """The router's rule, below /api."""
        return WHERE[self.scope] + self.file

    @property
    def link(self) -> m.ExportLink:
        """What the front end makes its link from."""
        url = f"/api{self.address}".replace("<", "{").replace(">", "}")
        return m.ExportLink(key=self.key, label=self.label, url=url, of_sheet=self.of_sheet, needs=self.needs)


def _sheet(path: m.ZoneOfQuilt, query: SheetQuery) -> MarkSheet:
    kept, laid = laid_quilt(path.quilt)
    found = planned(laid, path.zone).layered(query.layer)
    drawing = found.drawing_at(query.place)
    drawn = together(laid, path.zone, query.place) if query.scope == "block" else [(found, drawing)]
    repeat = repeat_of(found, drawing, room_on(query.paper)) if query.scope == "repeat" else None
    if query.scope == "repeat" and repeat is None:
        raise BadValue(tr("The lines of this zone do not repeat along it."), "scope")
    wish = SheetOptions(query.method or method_of(found, drawing), query.kind, query.back, repeat)
    return mark_sheet(drawn, wish, kept.quilt.name, kept.revision, query.unit)


def _fit(name: str) -> Fit:
    """The correction of a printer."""
    if not name:
        return TRUE
    with connection() as conn:
        known = {printer.name: printer for printer in printers.printers(conn, LOCAL_OWNER)}
    found = known.get(name)
    return (found.across, found.up) if found else TRUE


# what writes PDF and DXF takes long to load, and is loaded when it is first asked for


def _printed_sheet(path: m.ZoneOfQuilt, query: SheetQuery) -> File:
    from kenzet.formats.pdf import pdf

    return File(pdf(_sheet(path, query), query.paper, _fit(query.printer)), f"{path.zone}-marks.pdf")


def _sheet_as(
    write: Callable[[MarkSheet, Any], bytes], name: str, path: m.ZoneOfQuilt, query: SheetQuery
) -> File:
    return File(write(_sheet(path, query), query.unit), f"{path.zone}-{name}")


def _dxf(sheet: MarkSheet, unit: Unit) -> bytes:
    from kenzet.formats.dxf_out import dxf

    return dxf(sheet, unit)


def _strip(path: m.ZoneOfQuilt, query: StripQuery) -> File:
    """A strip with the ticks of one edge, to cut out and place along it."""
    sheet = _sheet(path, query)
    if query.edge >= len(sheet.ticked):
        raise Unknown(tr("That edge has no ticks."), "edge")
    edge = sheet.ticked[query.edge]
    from kenzet.formats.strip import strip_pdf

    data = strip_pdf(sheet.title, edge, query.paper, query.unit, _fit(query.printer))
    return File(data, f"{path.zone}-ticks.pdf")


def _plan(path: m.QuiltKey, _: m.Reading) -> File:
    kept, _laid = laid_quilt(path.quilt)
    return File(plan_file.dump(kept.quilt), "quilt-plan.json")


def _job(path: m.QuiltKey, query: JobQuery) -> File:
    """The job sheet, with the route found so far; a longer search is not waited for."""
    kept, laid = laid_quilt(path.quilt)
    try:
        route = routes().soon(kept, laid).route
    except BadValue:  # nothing can be sewn yet
        route = None
    sheet = job_content(laid, route, kept.revision, query.unit, query.paper)
    from kenzet.formats.job_sheet import job_pdf

    return File(job_pdf(sheet, query.paper, query.large), "job-sheet.pdf")


def _way(path: m.QuiltKey, query: RouteAtQuery) -> File:
    """The route at one place at true size, every line numbered; as found so far."""
    kept, laid = laid_quilt(path.quilt)
    data, part = place_route_svg(laid, routes().soon(kept, laid).route, query.number, query.unit)
    return File(data, f"{part}-route.svg")


def _density(path: m.QuiltKey, _: m.Reading) -> File:
    return File(density_table(laid_quilt(path.quilt)[1]), "density.csv")


def _relief(path: m.QuiltKey, query: ReliefPng) -> File:
    laid = laid_quilt(path.quilt)[1]
    data = relief_picture(laid, longer_side(laid, query.px), query.light, query.back, "png")
    return File(data, "relief.png")


def _check_page(query: CheckQuery) -> File:
    from kenzet.formats.check_page import check_page

    return File(check_page(query.paper, query.unit, query.name, _fit(query.name)), "printer-check.pdf")


def _kit(_: m.Reading) -> File:
    file = KitFile(things=tuple(her_things().values()))
    return File((file.model_dump_json(indent=1) + "\n").encode(), "kit.json")


def _kit_table(_: m.Reading) -> File:
    return File(kit_csv.dump(her_things().values()), "kit.csv")


def _recipes(_: m.Reading) -> File:
    with connection() as conn:
        book = RecipeBook(recipes=tuple(recipes.listed(conn, LOCAL_OWNER)))
    return File((book.model_dump_json(indent=1) + "\n").encode(), "recipes.json")


def _swatch_file(_: m.Reading) -> File:
    with connection() as conn:
        kept = [one.dated for one in swatches.listed(conn, LOCAL_OWNER)]
    book = SwatchBook(swatches=tuple(KeptSwatch(swatch=one.swatch, found=one.found) for one in kept))
    return File((book.model_dump_json() + "\n").encode(), "swatches.json")


def _swatch_book(query: BookQuery) -> File:
    from kenzet.formats.swatch_book import swatch_book

    with connection() as conn:
        kept = [one.dated for one in swatches.listed(conn, LOCAL_OWNER)]
    return File(swatch_book(kept, query.paper, query.unit), "swatch-book.pdf")


def _log_table(path: m.QuiltKey, _: m.Reading) -> File:
    from kenzet.formats.log_files import log_csv

    return File(log_csv(*sat_with(path.quilt)), "log.csv")


def _log_file(path: m.QuiltKey, query: m.Reading) -> File:
    from kenzet.formats.log_files import log_json

    kept, _laid = laid_quilt(path.quilt)
    with connection() as conn:
        events = logs().log(conn, path.quilt).events
        remarks = [asdict(one) for one in logbook.remarks(conn, path.quilt)]
        measured = [
            {
                "place": one.place,
                "photo": one.photo,
                "revision": one.revision,
                "when": one.when,
                "found": one.found,
                "struck": one.struck,
            }
            for one in logbook.inspections(conn, path.quilt)
        ]
    view = log_view(path.quilt, query.unit)
    return File(log_json(kept.quilt.name, events, view, remarks, measured), "log.json")


def _log(path: m.QuiltKey, query: JobQuery) -> File:
    from kenzet.formats.log_files import log_pdf

    kept, _laid = laid_quilt(path.quilt)
    return File(log_pdf(kept.quilt.name, log_view(path.quilt, query.unit), query.paper), "log.pdf")


def _calendar(path: m.QuiltKey, query: ScheduleQuery) -> File:
    return File(calendar_of(path.quilt, query), "sewing.ics")


def _corner_cards(query: CardsQuery) -> File:
    from kenzet.formats.corner_cards import corner_cards

    return File(corner_cards(query.paper, _fit(query.printer)), "corner-cards.pdf")


EXPORTS = (
    Export("sheet-pdf", tr("Print mark sheet (PDF)"), "zone", "sheet.pdf", PDF, SheetQuery, _printed_sheet),
    Export("sheet-svg", "SVG", "zone", "sheet.svg", SVG, SheetQuery, partial(_sheet_as, svg, "marks.svg"), of_sheet=True),
    Export("sheet-dxf", "DXF", "zone", "sheet.dxf", DXF, SheetQuery, partial(_sheet_as, _dxf, "marks.dxf"), of_sheet=True),
    Export("ticks-csv", tr("Ticks as a table (CSV)"), "zone", "ticks.csv", CSV, SheetQuery, partial(_sheet_as, ticks_csv, "ticks.csv"), of_sheet=True, needs="ticks"),
    Export("strokes-csv", tr("strokes"), "zone", "strokes.csv", CSV, SheetQuery, partial(_sheet_as, strokes_csv, "strokes.csv"), of_sheet=True, needs="strokes"),
    Export("strip-pdf", tr("Print as a strip to put along the edge"), "zone", "strip.pdf", PDF, StripQuery, _strip),
    Export("plan-json", tr("Save as a file"), "quilt", "plan.json", JSON, m.Reading, _plan),
    Export("job-pdf", tr("Print the job sheet (PDF)"), "quilt", "job.pdf", PDF, JobQuery, _job),
    Export("route-svg", tr("Download numbered route (SVG)"), "quilt", "route.svg", SVG, RouteAtQuery, _way),
    Export("relief-png", tr("Relief as a picture (PNG)"), "quilt", "relief.png", PNG, ReliefPng, _relief),
    Export("density-csv", tr("Firmness as a table (CSV)"), "quilt", "density.csv", CSV, m.Reading, _density),
    Export("log-pdf", tr("Print the log (PDF)"), "quilt", "log.pdf", PDF, JobQuery, _log),
    Export("log-csv", tr("As a table (CSV)"), "quilt", "log.csv", CSV, m.Reading, _log_table),
    Export("log-json", tr("Save the whole log (JSON)"), "quilt", "log.json", JSON, m.Reading, _log_file),
    Export("schedule-ics", tr("Put the sessions into your calendar (ICS)"), "quilt", "schedule.ics", ICS, ScheduleQuery, _calendar),
    Export("corner-cards", tr("Print corner cards (PDF)"), "mine", "corner-cards.pdf", PDF, CardsQuery, _corner_cards),
    Export("printer-check", tr("1 · print the check page"), "mine", "printer-check.pdf", PDF, CheckQuery, _check_page),
    Export("kit-json", tr("Save all tools as a file"), "mine", "things/kit.json", JSON, m.Reading, _kit),
    Export("kit-csv", tr("as a table"), "mine", "things/kit.csv", CSV, m.Reading, _kit_table),
    Export("swatches-pdf", tr("Print the swatch book (PDF)"), "mine", "swatches/book.pdf", PDF, BookQuery, _swatch_book),
    Export("swatches-json", tr("Save the swatch book (JSON)"), "mine", "swatches/book.json", JSON, m.Reading, _swatch_file),
    Export("recipes-json", tr("Save all as a file"), "mine", "recipes/book.json", JSON, m.Reading, _recipes),
)  # fmt: skip


def links() -> list[m.ExportLink]:
    """The links of all exports."""
    return [export.link for export in EXPORTS]


def blueprint(table: Iterable[Export]) -> Blueprint:
    """A route for every row."""
    found = Blueprint("exports", __name__, url_prefix="/api")
    for export in table:
        found.get(export.address)(_view(export))
    return found


def _view(export: Export) -> Callable[..., Response]:
    """The view function of one row, with its path and query."""

    def of_something(path: Any, query: Any) -> Response:
        file = export.write(path, query)
        return file_answer(file.data, export.mime, file.name)

    def of_mine(query: Any) -> Response:
        file = export.write(query)
        return file_answer(file.data, export.mime, file.name)

    view = of_something if export.scope in PATHS else of_mine
    view.__annotations__ = {"query": export.query, "return": Response}
    if export.scope in PATHS:
        view.__annotations__ |= {"path": PATHS[export.scope]}
    view.__name__ = export.key.replace("-", "_")
    view.__doc__ = f"{export.label[0].upper()}{export.label[1:]}."
    return view
