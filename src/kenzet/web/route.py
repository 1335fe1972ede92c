"""The route: how a quilt is sewn with few thread stops, block by block and line by line."""

from __future__ import annotations

from itertools import pairwise
from typing import Any, Literal

import numpy as np
from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import Unknown
from kenzet.core.geom.placing import place_all
from kenzet.core.measure import COARSE, Unit, in_words, long_figure
from kenzet.core.params import forms
from kenzet.core.route.bobbins import Leg as BobbinLeg
from kenzet.core.route.bobbins import bobbin_changes
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.costs import Costs
from kenzet.core.route.needle import TAIL, Needle, needle, repeated_leg, roll, thread
from kenzet.core.route.quilt import QuiltRoute, Visit, line_of
from kenzet.core.route.unit import rings
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.sewing.laid_on import drawn_besides
from kenzet.core.sewing.way import Way
from kenzet.core.sums import whole_stitches
from kenzet.core.top.laid import LaidQuilt
from kenzet.formats.route_svg import WayPiece, route_svg
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, file_answer, laid_quilt
from kenzet.web.marks import flat
from kenzet.web.route_legs import LegView, legs_of
from kenzet.web.route_words import pivots, same_way, sentence
from kenzet.web.sewing import logs

route = APIBlueprint("route", __name__, url_prefix="/api/quilts/<quilt>")


_FEW = 6


class RouteRequest(m.Reading):
    """The route of the quilt, and of what is sewn at the ``number``-th place of its order, from 1."""

    number: m.Number = 0


class VisitView(m.Wire):
    """A place in the order: where its route begins, flat x, y in the quilt; ``stop`` where the thread is ended before it,
    ``way`` is gone to it from the place before, ``share`` how much of it is sewn, 0 to 1.
    """

    place: str
    name: str
    at: list[float]
    middle: list[float]
    stop: bool
    way: list[float]
    share: float


class AvoidedView(m.Wire):
    """The ``number``-th of the spots that are avoided; ``at`` is where it lies in the quilt."""

    number: int
    how: Literal["bulky", "never"]
    at: list[float]


class HereView(m.Wire):
    """What is sewn in one go at a place of ``part``; ``start`` and ``end`` are the corners that are pinned, empty where none is.
    ``fault`` says why they could not be kept. ``kept`` is the word under which a way that was looked for longer is kept, empty
    where this is none.
    """

    place: str
    name: str
    occurs: str
    number: int
    part: str
    start: str
    end: str
    fault: str
    kept: str
    avoided: list[AvoidedView]
    sentence: str
    rows: list[m.Row]
    legs: list[LegView]


class RouteView(m.Wire):
    """The whole route; ``here`` is told where a place was asked for. ``fields`` are her settings, ``doc`` what is kept."""

    rows: list[m.Row]
    visits: list[VisitView]
    fields: list[m.FieldView]
    doc: dict[str, Any]
    notes: list[str]
    here: HereView | None


@route.post("/route", responses={200: RouteView})
def route_view(path: m.QuiltPath, body: RouteRequest) -> Response:
    """Worked out for the plan as it is kept."""
    kept, laid = laid_quilt(path.quilt)
    ways = logs().ways(kept, laid)
    found, stitching = ways.route, laid.quilt.stitching
    with connection() as conn:
        left = ways.left(logs().log(conn, path.quilt).sewn)
    shares = [1 - one.left / max(one.many, 1) for one in left]
    return answer(
        RouteView(
            rows=route_rows(laid, found, body.unit),
            visits=[
                visit_view(laid, found, visit, share)
                for visit, share in zip(found.visits, shares, strict=True)
            ],
            fields=[
                show.field(name, form, getattr(stitching, name), body.unit)
                for name, form in forms(type(stitching)).items()
            ],
            doc=stitching.model_dump(mode="json"),
            notes=route_notes(laid, found, body.unit),
            here=_here(laid, found, body.number, body.unit) if 0 < body.number <= len(found.visits) else None,
        )
    )


class WayQuery(m.Reading):
    """The way through what is sewn at the ``number``-th place, from 1."""

    number: m.Number


@route.get("/route.svg")
def way_svg(path: m.QuiltPath, query: WayQuery) -> Response:
    """As a picture at true size, in the coordinates of the block, every line numbered."""
    kept, laid = laid_quilt(path.quilt)
    found = logs().ways(kept, laid).route
    if not 0 < query.number <= len(found.visits):
        raise Unknown("Nothing is sewn there.", "number")
    visit = found.visits[query.number - 1]
    one = found.routes[visit.route]
    part = one.unit.part
    way = [
        WayPiece(line_of(one.network.paths[leg.edge], leg.back), leg.sews, k == 0)
        for run in (one.backwards if visit.back else one.runs)
        for k, leg in enumerate(run.legs)
    ]
    seams = [ring for patch in part.patches.values() for ring in rings(patch.area)]
    title = f"{laid.quilt.name} · {part.name} · {sentence(one, visit)}"
    data = route_svg(title, (part.width, part.height), seams, way, query.unit)
    return file_answer(data, "image/svg+xml", f"{part.key}-route.svg")


def visit_view(laid: LaidQuilt, found: QuiltRoute, visit: Visit, share: float = 0.0) -> VisitView:
    """A place in the order, where its way begins, and how much of it is sewn."""
    one = found.routes[visit.route]
    start = one.network.points[one.ends[1 if visit.back else 0]]
    placing = one.unit.part.places[visit.place]
    spots = place_all(placing, np.array([start, one.unit.part.centre]))
    return VisitView(
        place=visit.place,
        name=one.unit.part.name,
        at=spots[0].round(2).tolist(),
        middle=spots[1].round(2).tolist(),
        stop=visit.stop,
        way=flat(visit.way),
        share=round(share, 4),
    )


def route_rows(laid: LaidQuilt, found: QuiltRoute, unit: Unit) -> list[m.Row]:
    """What the whole route takes."""
    laid_down = sum(len(found.routes[v.route].unit.courses) for v in found.visits)
    turns = sum(_pivots(found.routes[v.route]) for v in found.visits)
    cost = needle(
        laid.quilt.kit,
        found.stitched,
        found.travelled,
        laid_down,
        turns,
        found.stops,
        laid.quilt.stitching.ends,
    )
    rows = [*_way_rows(found.stitched, found.travelled, found.stops, unit), *_needle_rows(cost, unit)]
    return [*rows, *_bobbin_rows(laid, found), *_hand_rows(laid_down, turns)]


def _hand_rows(laid_down: int, turns: int) -> list[m.Row]:
    return [
        m.Row(label=["A ruler laid, or a line begun"], words=[f"{laid_down:,} times"]),
        m.Row(label=["Turns at the needle"], words=[f"{turns:,}"]),
    ]


def _throat_rows(laid: LaidQuilt, one: UnitRoute, place: str, unit: Unit) -> list[m.Row]:
    bulk = least_in_throat(laid, one.unit.part, place)
    if bulk is None:
        return []
    wide, thick = (show.shown(mm, unit, COARSE[unit], about=True) for mm in (round(bulk.width), bulk.thick))
    return [m.Row(label=[f"In the throat, {bulk.edge} edge there"], words=[wide, ", rolled ", thick])]


def _bobbin_rows(laid: LaidQuilt, found: QuiltRoute) -> list[m.Row]:
    """Where each is changed, as far as a few lines tell it."""
    kit = laid.quilt.kit
    per_mm = thread(1.0, float(kit.batting.thickness.mm), float(kit.stitch.mm))
    legs = []
    for k, visit in enumerate(found.visits):
        one = found.routes[visit.route]
        begins = k == 0 or visit.stop
        way = one.network.stitched + one.travelled + visit.across
        legs.append(BobbinLeg(way * per_mm + (len(one.runs) - 1 + begins) * TAIL, begins))
    changes = list(bobbin_changes(legs, float(kit.bobbin.holds.mm)))
    said = []
    for at_stop, word in ((True, "before"), (False, "in")):
        numbers = list(dict.fromkeys(f"{one.number + 1}" for one in changes if one.at_stop is at_stop))
        some = [*numbers[:_FEW], "…"] if len(numbers) > _FEW else numbers
        said += [f"{word} {', '.join(some)}"] if some else []
    return [m.Row(label=["A full bobbin"], words=["; ".join(said)])] if said else []


def _way_rows(sewn: float, travelled: float, stops: int, unit: Unit) -> list[m.Row]:
    share = f" · {round(100 * travelled / sewn)} % more" if sewn else ""
    return [
        m.Row(label=["Lines"], words=[long_figure(sewn, unit)]),
        m.Row(label=["Travelling"], words=[long_figure(travelled, unit) + share]),
        m.Row(label=["Thread stops on the way"], words=[f"{stops:,}" if stops else "none"]),
    ]


def _needle_rows(cost: Needle, unit: Unit) -> list[m.Row]:
    yards = f"{cost.thread / 914.4:,.0f} yd" if unit == "in" else f"{cost.thread / 1000:,.0f} m"
    return [
        m.Row(label=["At the needle, about"], words=[show.minutes(cost.seconds)]),
        m.Row(label=["Thread on top, as much below"], words=[yards]),
        m.Row(label=["Bobbins"], words=[f"{cost.bobbins}"]),
    ]


def _pivots(one: UnitRoute) -> int:
    return sum(pivots(one, run) for run in one.runs)


def route_notes(laid: LaidQuilt, found: QuiltRoute, unit: Unit) -> list[str]:
    """What the route asks of her beside following it."""
    kit, said = laid.quilt.kit, []
    side = min(laid.top.width, laid.top.height)
    thick = roll(side / 2, float(kit.batting.thickness.mm))
    opening = min(float(kit.machine.opening.mm), float(kit.machine.height.mm))
    if thick > opening:
        said.append(
            f"Half of the quilt rolled up is about {in_words(thick, unit, COARSE[unit])} thick; the opening of your machine "
            f"is {in_words(opening, unit, COARSE[unit])}: fold it loosely instead, or sew from one edge on."
        )
    most = laid.quilt.stitching.same_way
    for one in found.routes:
        row = max((same_way(one, run) for run in one.runs), default=0)
        if row > most:
            said.append(
                f"{one.unit.part.name}: {row} lines in a row are sewn the same way; the layers may creep."
            )
    for before, visit in pairwise(found.visits):
        foot, was = (found.routes[v.route].unit.foot for v in (visit, before))
        if foot != was:
            number = found.visits.index(visit)
            said.append(
                f"Numbers 1 to {number} are sewn with the {was}; change to the {foot} before number {number + 1}."
            )
    said += _finished(found)
    if laid.quilt.stitching.ditch == "last" and any(
        one.unit.rank and all(d.fill.in_the_ditch for _, d in one.unit.drawings) for one in found.routes
    ):
        said.append(
            "The ditch is sewn last: until then it holds no stitching to hide a travel in. Where you travel along it, that counts as sewing it."
        )
    loose = sum(len(one.runs) > 1 for one in found.routes)
    if loose and laid.quilt.stitching.retrace == "forbidden":
        said.append("Lines may not be sewn over again: some can only be reached with a new thread.")
    return list(dict.fromkeys(said))


def _here(laid: LaidQuilt, found: QuiltRoute, number: int, unit: Unit) -> HereView:
    visit = found.visits[number - 1]
    place = visit.place
    one = found.routes[visit.route]
    cost = needle(
        laid.quilt.kit, one.network.stitched, one.travelled, len(one.unit.courses), _pivots(one), len(one.runs) - 1, laid.quilt.stitching.ends
    )  # fmt: skip
    pin = laid.quilt.stitching.pins.get(one.unit.part.key)
    times = sum(other.route == visit.route for other in found.visits)
    return HereView(
        place=place,
        name=one.unit.part.name,
        occurs=f"number {number} of {len(found.visits)}"
        + (f" · the same way in {times}" if times > 1 else "")
        + (f" · direction {one.unit.family + 1} of its grids" if one.unit.family is not None else ""),
        number=number,
        part=one.unit.part.key,
        start=(pin.start if pin else None) or "",
        end=(pin.end if pin else None) or "",
        fault="No lane leads from the one corner to the other in one thread."
        if pin and (pin.start or pin.end) and not one.pinned
        else "",
        kept=one.word if one.known else "",
        avoided=[
            AvoidedView(
                number=k,
                how=spot.how,
                at=flat(place_all(one.unit.part.places[place], np.array([[spot.x, spot.y]]))),
            )
            for k, spot in enumerate(laid.quilt.stitching.avoided)
            if spot.part == one.unit.part.key
        ],
        sentence=sentence(one, visit),
        rows=[
            *_way_rows(one.network.stitched, one.travelled, len(one.runs) - 1, unit),
            *_needle_rows(cost, unit)[:1],
            *_hand_rows(len(one.unit.courses), _pivots(one)),
            *_throat_rows(laid, one, place, unit),
            *_stitch_rows(laid, one, visit),
        ],
        legs=list(legs_of(laid, one, visit, unit)),
    )


def _finished(found: QuiltRoute) -> list[str]:
    """Where one direction of the grids is sewn and the next is not begun."""
    units = [found.routes[visit.route].unit for visit in found.visits]
    at = [
        k
        for k, (one, other) in enumerate(pairwise(units), 1)
        if one.family is not None and other.family != one.family and other.family
    ]
    return [
        f"After number {k} one direction is sewn everywhere and the quilt looks finished: you may stop there."
        for k in at
    ]


def _stitch_rows(laid: LaidQuilt, one: UnitRoute, visit: Visit) -> list[m.Row]:
    """What has to be drawn besides the marks; F40: where sides repeat, the stitch length with which a stitch ends at every turn."""
    drawn = drawn_besides(laid, Way(one, visit.back, Costs()))
    rows = [
        m.Row(
            label=["To draw besides the marks, sewn in this order"],
            words=[f"{drawn} lines" if drawn > 1 else "a line"],
        )
    ]
    leg = repeated_leg([line for _, drawing in one.unit.drawings for line in drawing.polylines])
    if not drawn:
        rows = []
    if leg is None:
        return rows
    many, long = whole_stitches(leg, float(laid.quilt.kit.stitch.mm))
    return [*rows, m.Row(label=["To turn on a whole stitch"], words=[f"{many} of {long:.2f} mm"])]
