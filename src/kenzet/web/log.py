"""The log: progress, every sitting and block, remarks about them, and what is left to finish."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

import numpy as np
import shapely
from flask import Response
from pydantic import Field, model_validator

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.logbook.by_hand import tape_found
from kenzet.core.logbook.fading import MarksStay, learnt_fading
from kenzet.core.logbook.forecast import LeftThere, fits, in_all, spread_of, time_left
from kenzet.core.logbook.learn import (
    HowSewn,
    LaidLine,
    Learnt,
    laid_lines,
    learnt_bobbin,
    learnt_offset,
    learnt_pace,
    learnt_stitch,
    timed,
)
from kenzet.core.logbook.sewn_with import SewnWith, sewn_with
from kenzet.core.logbook.sittings import Sitting, sittings, thread_ends
from kenzet.core.logbook.status import PlaceStatus, status
from kenzet.core.logbook.swatch_lessons import learnt_batting
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.quilt_needle import whole_needle
from kenzet.core.sewing.log import Log, Sewn
from kenzet.core.sewing.now import PlaceRoutes, place_routes
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import log_places as places
from kenzet.say import log_words as say
from kenzet.say import words as w
from kenzet.say.learn_words import learnt_rows
from kenzet.store import logbook as store
from kenzet.store import marked, photos, swatches
from kenzet.store.logbook import Remark
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_at, laid_quilt
from kenzet.web.state.logs import logs
from kenzet.web.state.measured import findings_of
from kenzet.web.state.routes import routes
from kenzet.web.taped import Taped, TapeKept, tape_row, taped_of
from kenzet.web.wire import base as m
from kenzet.web.wire.drawn import flat

log = Blueprint("log", __name__, url_prefix="/api/quilts/<quilt>")
FACTS: Table[tuple[str, int, str], SewnWith | None] = Table(tr("what was sewn with"), most=400)
ABOUT = (
    r"^(place:[a-z0-9-]{1,40}|zone:[a-z0-9-]{1,40}|sitting:[0-9]{1,12}|(ends|ditch):[a-z0-9-]{1,40}|pins)$"
)
VERDICTS = ("keep", "touch up", "rip")


class RemarkRequest(m.Wire):
    """A remark about a place, a zone or a sitting: a verdict, a note, a photograph (its id), or that something is
    done."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    about: Annotated[str, Field(pattern=ABOUT)]
    kind: store.Kind
    told: Annotated[str, Field(min_length=1, max_length=2000)]
    unit: Unit = "in"

    @model_validator(mode="after")
    def _known(self) -> RemarkRequest:
        if self.kind == "verdict" and self.told not in VERDICTS:
            raise ValueError(tr("A verdict is one of {verdicts}.", verdicts=", ".join(VERDICTS)))
        if self.kind == "measured":
            raise ValueError(tr("A measurement needs its figures."))
        if self.kind in ("done", "left out") and not self.told.isdigit():
            raise ValueError(tr("“Done” and “left out” need a number."))
        return self


class TapeRequest(m.Reading):
    """A tape reading of ``zone`` at ``place``: the number of ``lines`` counted, the distance from the first to the
    last, and the widest gap, if measured."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    place: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
    zone: m.ZoneKey
    lines: Annotated[int, Field(ge=2, le=2000)]
    span: Annotated[str, Field(max_length=80)]
    gap: Annotated[str, Field(max_length=80)] = ""


class ProgressView(m.Wire):
    """The share of lines that is sewn, and the next place; empty if nothing is left."""

    sewn: str
    next: str


class FitsQuery(m.Reading):
    """The minutes available now."""

    minutes: Annotated[int, Field(ge=1, le=600)]


class FitsView(m.Wire):
    """What fits, in words, and the places in order."""

    says: str
    places: list[str]


class StrikeRequest(m.Reading):
    """The remark to remove."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]


@log.get("/log", responses={200: say.LogView})
def logbook(path: m.QuiltKey, query: m.Reading) -> Response:
    """The whole log."""
    return answer(log_view(path.quilt, query.unit))


@log.get("/progress", responses={200: ProgressView})
def progress(path: m.QuiltKey) -> Response:
    """Progress and the next step, for the card on the home page."""
    kept, laid = laid_quilt(path.quilt)
    with connection() as conn:
        told = logs().log(conn, path.quilt)
    found = status(routes_now(kept, laid), told.sewn, (), ())
    return answer(ProgressView(sewn=places.share_words(found), next=_next(laid, found, told)))


@log.get("/log/fits", responses={200: FitsView})
def what_fits(path: m.QuiltKey, query: FitsQuery) -> Response:
    """Whole places, from the next one on, that are very likely finished in the minutes available."""
    kept, laid = laid_quilt(path.quilt)
    ways = routes_now(kept, laid)
    with connection() as conn:
        told = logs().log(conn, path.quilt)
    left, spread = _forecast(laid, ways, told, sittings(told.events))
    found = fits(left, 60.0 * query.minutes, spread)
    names = places.part_names(laid)
    says = places.fits_words(found, left, names, spread)
    return answer(FitsView(says=says, places=list(dict.fromkeys(one.place for one in found))))


@log.post("/log/remarks", responses={200: say.LogView})
def add_remark(path: m.QuiltKey, body: RemarkRequest) -> Response:
    """Store a remark; sent twice, it is stored once."""
    laid_quilt(path.quilt)
    with connection() as conn:
        if body.kind == "photo" and not photos.is_there(conn, LOCAL_OWNER, body.told):
            raise Unknown(tr("There is no such photograph here."), "told")
        store.remark(conn, path.quilt, Remark(body.id, body.about, body.kind, body.told))
    return answer(log_view(path.quilt, body.unit))


@log.post("/log/measured", responses={200: say.LogView})
def add_measured(path: m.QuiltKey, body: TapeRequest) -> Response:
    """Store a tape reading of a block."""
    kept, laid = laid_quilt(path.quilt)
    told = TapeKept(
        zone=body.zone, lines=body.lines, span=_typed(body.span, body.unit, "span"),
        gap=_typed(body.gap, body.unit, "gap") if body.gap.strip() else None, revision=kept.revision,
    )  # fmt: skip
    tape_found(laid, body.place, told.reading, body.unit)
    with connection() as conn:
        store.remark(
            conn, path.quilt, Remark(body.id, f"place:{body.place}", "measured", told.model_dump_json())
        )
    return answer(log_view(path.quilt, body.unit))


def _typed(text: str, unit: Unit, field: str) -> Length:
    try:
        return Length.parse(text, unit)
    except BadValue as error:
        raise BadValue(error.message, field) from error


@log.post("/log/strike", responses={200: say.LogView})
def strike_remark(path: m.QuiltKey, body: StrikeRequest) -> Response:
    """Mark a remark as removed; its data is kept."""
    laid_quilt(path.quilt)
    with connection() as conn:
        store.strike(conn, path.quilt, body.id)
    return answer(log_view(path.quilt, body.unit))


def log_view(quilt: str, unit: Unit) -> say.LogView:
    """Everything on the Log station. Raises Unknown."""
    kept, laid = laid_quilt(quilt)
    ways = routes_now(kept, laid)
    with connection() as conn:
        told = logs().log(conn, quilt)
        on = [
            one
            for one in marked.marked(conn, quilt).values()
            if one.still_on and one.zone in laid.quilt.zones
        ]
        remarks = store.remarks(conn, quilt)
        looked_at = {one.place for one in store.inspections(conn, quilt)}
    looked_at |= {one.about.removeprefix("place:") for one in remarks if one.kind in ("verdict", "measured")}
    sat = sittings(told.events)
    facts = facts_of(kept, sat)
    found = status(ways, told.sewn, [one.zone for one in on], looked_at)
    left, spread = _forecast(laid, ways, told, sat)
    taped = taped_of(kept, remarks)
    return say.LogView(
        share=round(sum(one.whole - one.left for one in found) / max(sum(one.whole for one in found), 1), 4),
        sewn=places.share_words(found),
        time=w.minutes(sum(one.seconds for one in sat)),
        left=w.minutes(in_all(left, spread).seconds) if ways.route.visits else tr("nothing planned"),
        range=places.range_words(in_all(left, spread)),
        next=_next(laid, found, told),
        stages=places.stage_rows(found),
        places=places.place_rows(laid, found, {one.place: _outline(laid, one.place) for one in found}, left, spread),
        sittings=say.sitting_rows(laid, sat, facts, unit),
        blocks=say.block_rows(laid, sat, facts, unit),
        zones=say.zone_rows(sat, facts, unit),
        tools=say.tool_rows(sat, facts, unit),
        todo=say.todo_rows(
            laid, thread_ends(told.events), {one.zone: _off(laid, one.zone) for one in on}, found,
            {one.about: one.told for one in remarks if one.kind == "done"},
        ),
        learnt=learnt_rows(_learnt(kept, laid, told, facts, remarks, taped), laid.quilt.kit, laid.quilt.stitching, unit),
        remarks=[
            say.RemarkRow(id=one.id, about=one.about, kind=one.kind, told=one.told, when=say.day_words(one.when))
            for one in remarks
            if one.kind not in ("done", "measured")
        ],
        taped=[tape_row(one, unit) for one in taped],
    )  # fmt: skip


def _learnt(
    kept: Kept,
    laid: QuiltLayout,
    told: Log,
    facts: dict[tuple[int, str], SewnWith | None],
    remarks: list[Remark],
    taped: Sequence[Taped],
) -> list[Learnt]:
    """From inspections, from sittings that are not left out, and from swatches on the kit's batting."""
    kit, events = laid.quilt.kit, told.events
    with connection() as conn:
        measured = store.inspections(conn, kept.id)
        book = [one.dated for one in swatches.listed(conn, LOCAL_OWNER)]
        marks = list(marked.marked(conn, kept.id).values())
    lines: list[LaidLine] = []
    for one in measured:
        then = laid_at(kept, one.revision)
        lines += laid_lines(then, findings_of(then, one)[1], one.when)
    spans = [one.span for one in taped if one.span]
    out = [
        float(one.about.removeprefix("sitting:"))
        for one in remarks
        if one.kind == "left out" and one.told == "1"
    ]
    how = {key: HowSewn(known.technique, known.corners) for key, known in facts.items() if known}
    return [
        *learnt_offset(lines, kit, spans),
        *learnt_pace(timed(events, how, out), laid.quilt.stitching.pace),
        *learnt_stitch(events, kit),
        *learnt_bobbin(events, kit),
        *learnt_batting(book, kit),
        *learnt_fading(_marks_stay(laid, marks), kit),
    ]


def sat_with(quilt: str) -> tuple[list[Sitting], dict[tuple[int, str], SewnWith | None]]:
    """Every sitting at a quilt, and what everything was sewn with. Raises Unknown."""
    kept, _ = laid_quilt(quilt)
    with connection() as conn:
        sat = sittings(logs().log(conn, quilt).events)
    return sat, facts_of(kept, sat)


def routes_now(kept: Kept, laid: QuiltLayout) -> PlaceRoutes:
    """The route of the present plan; empty if nothing is planned."""
    try:
        return routes().soon(kept, laid)
    except BadValue:
        return place_routes(laid, QuiltRoute((), ()))


def facts_of(kept: Kept, sat: list[Sitting]) -> dict[tuple[int, str], SewnWith | None]:
    """What everything was sewn with, by the plan at that time."""
    found: dict[tuple[int, str], SewnWith | None] = {}
    for one in (one for sitting in sat for one in sitting.there):
        key = (one.plan, one.drawing)
        if key not in found:
            laid = laid_at(kept, one.plan or kept.revision)
            mine = (kept.id, *key)
            known = laid.memo.get(FACTS, mine)
            found[key] = known or laid.memo.put(FACTS, mine, sewn_with(laid, one.drawing))
    return found


def _outline(laid: QuiltLayout, place: str) -> list[list[float]]:
    rings = shapely.get_rings(shapely.get_parts(laid.outline_at(place)))
    return [flat(np.asarray(ring.coords)[:, :2]) for ring in rings]


def _forecast(
    laid: QuiltLayout, ways: PlaceRoutes, told: Log, sat: list[Sitting]
) -> tuple[list[LeftThere], tuple[float, float]]:
    """What is left, and the uncertainty of its time from earlier sittings."""
    if not ways.route.visits:
        return [], spread_of(sat, 1.0)
    whole = whole_needle(laid, ways.route).seconds
    length = sum(one.whole for one in ways.left(Sewn()))
    return time_left(laid, ways, told.sewn), spread_of(sat, whole / max(length, 1.0))


def _next(laid: QuiltLayout, found: list[PlaceStatus], told: Log) -> str:
    here = next((one for one in found if one.place == told.sewn.place and one.left > 0), None)
    nearest = here or next((one for one in found if one.left > 0), None)
    return places.part_names(laid).get(nearest.place, nearest.part) if nearest else ""


def _marks_stay(laid: QuiltLayout, marks: Sequence[marked.Marked]) -> list[MarksStay]:
    """How long the marks of zones stayed, or have been on now."""
    found = []
    for one in marks:
        tool = _marker(laid, one.zone) if one.zone in laid.quilt.zones else None
        hours = one.stayed if one.stayed is not None else one.for_hours
        if tool and hours is not None and one.done:
            found.append(MarksStay(tool, hours, one.stayed is not None, one.when))
    return found


def _marker(laid: QuiltLayout, zone: str) -> str:
    """The key of the zone's marking tool; empty if it leaves no marks."""
    tools, chosen = laid.quilt.kit.tools, laid.zone(zone).mark_with
    if chosen in tools:
        return chosen if isinstance(tools[chosen], Marker) else ""
    return next((key for key, one in tools.items() if isinstance(one, Marker)), "")


def _off(laid: QuiltLayout, zone: str) -> str:
    tool = laid.quilt.kit.tools.get(_marker(laid, zone))
    return (
        tr("removed by {off}", off=tr(tool.off))
        if isinstance(tool, Marker) and tool.off
        else tr("remove them as their maker says")
    )
