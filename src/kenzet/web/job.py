"""The job sheet of a quilt: everything that the plan says, put into sentences for paper."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

import numpy as np
from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.marks.marking import marks_of, method_of
from kenzet.core.marks.prep import prep
from kenzet.core.marks.sheet import SheetWish, mark_sheet
from kenzet.core.marks.table import steps
from kenzet.core.marks.tools import choices, fabrics_of
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.document import Basted, Layered
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.formats.job_sheet import JobBlock, JobSheet, JobZone, Picture, job_pdf
from kenzet.formats.pdf import pages_of
from kenzet.formats.placement import Paper
from kenzet.web import models as m
from kenzet.web import show, slip
from kenzet.web import zone_models as z
from kenzet.web.at_hand import answer, file_answer, laid_quilt
from kenzet.web.marking_words import METHOD_LABELS
from kenzet.web.route_sheet import job_order
from kenzet.web.route_words import texture_name
from kenzet.web.table import step_words

job = APIBlueprint("job", __name__, url_prefix="/api/quilts/<quilt>")

MOST_STEPS = 60


class PrepView(m.Wire):
    """How the layers are put together, and what is done before the first stitch, in order."""

    layered: Layered
    basted: Basted
    steps: list[str]


class JobQuery(m.Reading):
    """On which paper, and whether in large type."""

    paper: Paper = "letter"
    large: bool = False


@job.get("/job.pdf")
def job_sheet(path: m.QuiltPath, query: JobQuery) -> Response:
    """One PDF for the sewing room."""
    kept, laid = laid_quilt(path.quilt)
    sheet = _sheet(laid, kept.revision, query.unit, query.paper)
    return file_answer(job_pdf(sheet, query.paper, query.large), "application/pdf", "job-sheet.pdf")


@job.post("/prep", responses={200: PrepView})
def prep_view(path: m.QuiltPath) -> Response:
    """From the pressed top to the basted quilt."""
    _, laid = laid_quilt(path.quilt)
    quilt = laid.quilt
    return answer(PrepView(layered=quilt.layered, basted=quilt.basted, steps=_prep(laid)))


def _prep(laid: LaidQuilt) -> list[str]:
    plans, tools = plan_quilt(laid).values(), laid.quilt.kit.tools
    todo: Counter[str] = Counter()
    spent, markers = 0.0, {}
    for plan in plans:
        for drawing in plan.drawings:
            marks = marks_of(plan, drawing)
            if not marks.seconds:
                continue
            times = len(drawing.places)
            for what, many in (
                ("stroke", marks.drawn),
                ("tick", marks.ticks),
                ("dot", len(marks.dots)),
                ("sign", len(marks.signs)),
                ("placing of tape or stencil", marks.laid_down),
            ):
                todo[what] += many * times
            spent += marks.seconds * times
            offered = {one.key: one for one in choices(tools, fabrics_of(laid.quilt, drawing))}
            hers = offered.get(plan.zone.mark_with or "") or next(iter(offered.values()), None)
            if hers and marks.method != "tape":
                markers[hers.key] = hers.marker
    what = [_many(many, what) for what, many in todo.items() if many]
    said = f"{', '.join(what)}; {show.minutes(spent)}" if what else "nothing has to be drawn"
    return prep(laid.quilt.layered, laid.quilt.basted, said, list(markers.values()))


def _many(many: int, what: str) -> str:
    first, *rest = what.split(" ")
    return " ".join([f"{many:,}", first if many == 1 else f"{first}s", *rest])


def _sheet(laid: LaidQuilt, revision: int, unit: Unit, paper: Paper) -> JobSheet:
    plans = plan_quilt(laid)
    if not plans:
        raise BadValue("No zone has a fill yet: there is no job to print.", "quilt")
    kinds: dict[str, list[ZonePlan]] = {}
    for plan in plans.values():
        kinds.setdefault(plan.zone.part, []).append(plan)
    blocks = [_block(laid, kind, some, unit, paper) for kind, some in kinds.items()]
    size = f"{show.shown(laid.top.width, unit).text} × {show.shown(laid.top.height, unit).text} {unit}"
    totals = [f"{total.label}: {show.plain(total.words)}" for total in show.totals(plans.values(), unit)]
    return JobSheet(
        laid.quilt.name,
        f"{size} · plan {revision}",
        _whole(laid, plans.values()),
        tuple(totals),
        tuple(_prep(laid)),
        tuple(blocks),
        job_order(laid, unit, _whole(laid, ()).seams),
    )


def _whole(laid: LaidQuilt, plans: Iterable[ZonePlan]) -> Picture:
    seams, lines = [], []
    for part in laid.top.parts.values():
        for placing in part.places.values():
            seams += [place_all(placing, ring) for ring in _rings(part)]
    for plan in plans:
        for drawing in plan.drawings:
            for place in drawing.places:
                placing = drawing.shape.part.places[place]
                lines += [place_all(placing, line) for line in drawing.polylines]
    return Picture((laid.top.width, laid.top.height), tuple(seams), tuple(lines))


def _rings(part: Part) -> list[Floats]:
    return [
        np.asarray(ring.coords)
        for patch in part.patches.values()
        for polygon in patch.area.geoms
        for ring in (polygon.exterior, *polygon.interiors)
    ]


def _block(laid: LaidQuilt, kind: str, plans: list[ZonePlan], unit: Unit, paper: Paper) -> JobBlock:
    shown = [(plan, plan.drawings[0]) for plan in plans]
    part = shown[0][1].shape.part
    places = len(laid.places(laid.zone(plans[0].key)))
    lines = [line for plan, drawing in shown for line in drawing.polylines]
    marks = [stroke for plan, drawing in shown for stroke in marks_of(plan, drawing).strokes]
    numbers = tuple((_inside(drawing), str(k)) for k, (_, drawing) in enumerate(shown, 1))
    zones = [_zone(laid, str(k), plan, drawing, unit, paper) for k, (plan, drawing) in enumerate(shown, 1)]
    return JobBlock(
        name=part.name,
        occurs="once" if places == 1 else f"{places} of them",
        picture=Picture((part.width, part.height), tuple(_rings(part)), tuple(lines), tuple(marks), numbers),
        zones=tuple(zones),
    )


def _inside(drawing: Drawing) -> tuple[float, float]:
    point = max(drawing.region.area.geoms, key=lambda piece: piece.area).representative_point()
    return point.x, point.y


def _zone(
    laid: LaidQuilt, number: str, plan: ZonePlan, drawing: Drawing, unit: Unit, paper: Paper
) -> JobZone:
    fill, marks = drawing.fill, marks_of(plan, drawing)
    spaced = f", {show.shown(fill.spacing.mm, unit).text} {unit} apart" if fill.is_spaced else ""
    where = _sentence(show.occurs(laid, plan.zone))
    says = [f"{fill.label}{spaced}: {drawing.lines} lines here. {where}"]
    if drawing.hints:
        large = show.shown(fill.spacing.mm, unit).text
        says = [f"{fill.label}: {texture_name(drawing)}, {large} {unit} large. {where}", *fill.notes()]
    if len(drawing.stretches):
        says.append(_sum(slip.the_sum(plan.sum(drawing), plan.kit, unit)))
    says += [f"{show.plain(row.label)}: {show.plain(row.words)}" for row in slip.begins(plan, drawing)]
    drift = show.plain(slip.drift(plan, drawing, unit))
    says += [drift] if drift else []
    drawn = f"{METHOD_LABELS[marks.method].lower()}, {marks.count} to draw, {show.minutes(marks.seconds)}"
    says.append(f"Marks: {drawn if marks.count else 'none'}.")
    try:
        pages = pages_of(
            mark_sheet([(plan, drawing)], SheetWish(method_of(plan, drawing)), "", 0, unit), paper
        )
        says.append(f"Its mark sheet has {len(pages.tiles)} {'page' if len(pages.tiles) == 1 else 'pages'}.")
    except TooMany:
        says.append("Its mark sheet would have too many pages: measure the ticks off along the edges.")
    todo = steps(plan, drawing, marks)
    told = [step_words(plan, drawing, step, unit) for step in todo[:MOST_STEPS]]
    if len(todo) > MOST_STEPS:
        told.append(f"… and {len(todo) - MOST_STEPS} more in the same way.")
    return JobZone(number, plan.zone.name, tuple(said for said in says if said), tuple(told))


def _sentence(words: str) -> str:
    return f"{words[0].upper()}{words[1:]}."


def _sum(view: z.SumView) -> str:
    if not view.terms:
        return show.plain(view.sentence)
    said = " + ".join(f"{show.plain(term.words)} {term.label}" for term in view.terms)
    ruler = f" With “{view.ruler}”." if view.ruler else ""
    return f"{said} = {show.plain(view.total.words)} {view.total.label}.{ruler}"
