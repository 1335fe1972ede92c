"""The content of a job sheet: the whole plan in sentences for paper."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from kenzet import texts
from kenzet.core.balance.weigh import weigh
from kenzet.core.errors import BadValue, TooMany
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.marks.marking import marks_of, method_of
from kenzet.core.marks.prep import prep
from kenzet.core.marks.sheet import SheetOptions, mark_sheet
from kenzet.core.marks.table import steps
from kenzet.core.marks.totals import to_draw
from kenzet.core.numbers.measure import Unit
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.relief.cloth import Raster
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.job_order import job_order
from kenzet.formats.job_parts import JobBlock, JobLook, JobSheet, JobZone, Picture
from kenzet.formats.placement import Paper, pages_of
from kenzet.formats.relief_picture import relief_picture
from kenzet.say import sum_words, whereabouts, zone_advice, zone_words
from kenzet.say import words as w
from kenzet.say.balance_words import look_words
from kenzet.say.mark_words import DRAWN, METHOD_LABELS
from kenzet.say.placing_words import summary
from kenzet.say.route_words import texture_name
from kenzet.say.sum_words import sum_line
from kenzet.say.table_words import step_words
from kenzet.texts import tr

MOST_STEPS = 60
_LOOK_PX = 1000


def prep_steps(laid: QuiltLayout) -> list[str]:
    """The steps from the pressed top to the basted quilt, one sentence each."""
    found = to_draw(laid.quilt, plan_quilt(laid).values())
    what = [texts.many(many, *DRAWN[kind]) for kind, many in found.counts.items() if many]
    said = f"{', '.join(what)}; {w.minutes(found.seconds)}" if what else tr("nothing to mark")
    return prep(laid.quilt.layered, laid.quilt.basted, said, list(found.markers))


def job_content(
    laid: QuiltLayout, route: QuiltRoute | None, revision: int, unit: Unit, paper: Paper
) -> JobSheet:
    """The whole sheet; ``route`` is None if nothing can be sewn yet.

    Raises BadValue if no zone has a fill.
    """
    plans = plan_quilt(laid)
    if not plans:
        raise BadValue(tr("No zone has a fill yet: there is no job to print."), "quilt")
    kinds: dict[str, list[ZonePlan]] = {}
    for plan in plans.values():
        kinds.setdefault(plan.zone.part, []).append(plan)
    blocks = [_block(laid, kind, some, unit, paper) for kind, some in kinds.items()]
    size = f"{w.shown(laid.top.width, unit).text} × {w.shown(laid.top.height, unit).text} {unit}"
    totals = [f"{total.label}: {w.plain(total.words)}" for total in w.totals(laid, plans, unit)]
    return JobSheet(
        laid.quilt.name,
        tr("{size} · plan {revision}", size=size, revision=revision),
        _whole(laid, plans.values()),
        tuple(totals),
        tuple(prep_steps(laid)),
        tuple(blocks),
        job_order(laid, route, unit, _whole(laid, ()).seams) if route else None,
        _look(laid, unit),
    )


def _look(laid: QuiltLayout, unit: Unit) -> JobLook:
    raster = Raster.over(laid, _LOOK_PX)
    picture = relief_picture(laid, _LOOK_PX)
    return JobLook(picture, (raster.columns, raster.rows), tuple(look_words(laid, weigh(laid), unit)))


def _whole(laid: QuiltLayout, plans: Iterable[ZonePlan]) -> Picture:
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


def _block(laid: QuiltLayout, kind: str, plans: list[ZonePlan], unit: Unit, paper: Paper) -> JobBlock:
    shown = [(plan, plan.drawings[0]) for plan in plans]
    part = shown[0][1].shape.part
    places = len(laid.places(laid.zone(plans[0].key)))
    lines = [line for plan, drawing in shown for line in drawing.polylines]
    marks = [stroke for plan, drawing in shown for stroke in marks_of(plan, drawing).strokes]
    numbers = tuple((_inside(drawing), str(k)) for k, (_, drawing) in enumerate(shown, 1))
    zones = [_zone(laid, str(k), plan, drawing, unit, paper) for k, (plan, drawing) in enumerate(shown, 1)]
    return JobBlock(
        name=part.name,
        occurs="once" if places == 1 else tr("{places} of them", places=places),
        picture=Picture((part.width, part.height), tuple(_rings(part)), tuple(lines), tuple(marks), numbers),
        zones=tuple(zones),
    )


def _inside(drawing: Drawing) -> tuple[float, float]:
    point = max(drawing.region.area.geoms, key=lambda piece: piece.area).representative_point()
    return point.x, point.y


def _zone(
    laid: QuiltLayout, number: str, plan: ZonePlan, drawing: Drawing, unit: Unit, paper: Paper
) -> JobZone:
    fill, marks = drawing.fill, marks_of(plan, drawing)
    spaced = (
        tr(", {mm} {unit} apart", mm=w.shown(fill.spacing.mm, unit).text, unit=unit) if fill.is_spaced else ""
    )
    where = w.as_sentence(whereabouts.occurs(laid, plan.zone, plan))
    says = [
        tr(
            "{label}{spaced}: {lines} lines here. {where}",
            label=fill.label,
            spaced=spaced,
            lines=drawing.lines,
            where=where,
        )
    ]
    if drawing.hints:
        large = w.shown(fill.spacing.mm, unit).text
        says = [
            tr(
                "{label}: {texture_name}, {large} {unit} large. {where}",
                label=fill.label,
                texture_name=texture_name(drawing),
                large=large,
                unit=unit,
                where=where,
            ),
            *fill.notes(),
        ]
    if any(planned(plan, drawing, line).on in ("line", "seam") for line in range(len(drawing.stretches))):
        says.append(sum_line(sum_words.the_sum(plan.sum(drawing), plan.kit, unit)))
    says += summary(plan, drawing, unit)
    says += [f"{w.plain(row.label)}: {w.plain(row.words)}" for row in zone_words.begins(plan, drawing)]
    drift = w.plain(zone_advice.drift(plan, drawing, unit))
    says += [drift] if drift else []
    drawn = tr(
        "{method_labels}, {count} to mark, {seconds}",
        method_labels=METHOD_LABELS[marks.method].lower(),
        count=marks.count,
        seconds=w.minutes(marks.seconds),
    )
    says.append(tr("Marks: {drawn}.", drawn=drawn if marks.count else tr("none")))
    try:
        pages = pages_of(
            mark_sheet([(plan, drawing)], SheetOptions(method_of(plan, drawing)), "", 0, unit), paper
        )
        says.append(tr("Its mark sheet has {pages}.", pages=texts.many(len(pages.tiles), "page")))
    except BadValue:
        pass  # nothing is marked
    except TooMany:
        says.append(
            tr("The mark sheet would have too many pages: measure the ticks along the edges instead.")
        )
    todo = steps(plan, drawing, marks, unit)
    told = [step_words(plan, drawing, step, unit) for step in todo[:MOST_STEPS]]
    if len(todo) > MOST_STEPS:
        told.append(tr("… and {todo} more in the same way.", todo=len(todo) - MOST_STEPS))
    return JobZone(number, plan.zone.name, tuple(said for said in says if said), tuple(told))
