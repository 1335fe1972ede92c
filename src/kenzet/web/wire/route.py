"""The route of a quilt, and the route at one place."""

from __future__ import annotations

from typing import Literal

import numpy as np

from kenzet.core.geom.affine import place_all
from kenzet.core.logbook.forecast import time_left
from kenzet.core.numbers.measure import Unit
from kenzet.core.params import forms
from kenzet.core.route.needle import needle
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.turns import all_pivots
from kenzet.core.route.visits import UnitVisit
from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import PlaceRoutes
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Pace
from kenzet.say import words as w
from kenzet.say.route_figures import hand_rows, needle_rows, route_rows, stitch_rows, throat_rows, way_rows
from kenzet.say.route_notes import cell_note, pin_fault, route_notes
from kenzet.say.route_words import sentence
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import StitchingDoc
from kenzet.web.wire.drawn import flat
from kenzet.web.wire.legs import LegView, legs_of

_THEMES = {
    "Order": ("order", "ditch", "families"),
    "Threads": ("stops", "ends", "over"),
    "Travelling": ("retrace", "steps", "longest_step", "turning", "rim", "across"),
    "Limits": ("same_way", "least_line", "rest"),
}
THEMES = {name: theme for theme, names in _THEMES.items() for name in names}
"""The headings of the stitching settings."""


class RouteRequest(m.Reading):
    """The route of the quilt, with details of the ``number``-th place of its order, from 1."""

    number: m.Number = 0


class RouteOrQuickRequest(RouteRequest):
    """The same; with ``quick``, a quick route is returned at once if a short one is not known yet."""

    quick: bool = False


class VisitView(m.Wire):
    """A place in the order: the start of its route, flat x, y in the quilt; ``stop`` if the thread is cut before
    it, ``way`` is the travel to it from the place before, ``share`` how much of it is sewn, 0 to 1."""

    place: str
    name: str
    at: list[float]
    middle: list[float]
    stop: bool
    way: list[float]
    share: float


class AvoidedView(m.Wire):
    """Number ``number`` of the avoided spots; ``at`` is its place in the quilt."""

    number: int
    how: Literal["bulky", "never"]
    at: list[float]


class TurnView(m.Wire):
    """When a ``zone`` is sewn: ``first``, ``last``, or with the rest (empty)."""

    zone: str
    name: str
    turn: str


class HereView(m.Wire):
    """What is sewn in one go at a place of ``part``; ``start`` and ``end`` are the pinned corners, empty if none is.

    ``cells`` describes the cells of its grids if some are whole, and where to begin with the first of them.
    ``fault`` says why pins could not be kept. ``kept`` is the key of a saved route from a longer search, empty if
    there is none.
    """

    place: str
    name: str
    occurs: str
    number: int
    part: str
    start: str
    end: str
    fault: str
    cells: str
    kept: str
    turns: list[TurnView]
    avoided: list[AvoidedView]
    sentence: str
    rows: list[w.Row]
    legs: list[LegView]


class RouteView(m.Wire):
    """The whole route, with details in ``here`` if a place was asked for. ``fields`` and ``paces`` are the
    settings, ``doc`` their stored form. After a ``quick`` one, ask again for a shorter one."""

    rows: list[w.Row]
    visits: list[VisitView]
    fields: list[w.FieldView]
    paces: list[w.FieldView]
    doc: StitchingDoc
    notes: list[w.Known]
    here: HereView | None
    quick: bool


class RouteAtQuery(m.Reading):
    """The route at the ``number``-th place, from 1."""

    number: m.Number


def visit_view(laid: QuiltLayout, found: QuiltRoute, visit: UnitVisit, share: float = 0.0) -> VisitView:
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


def here_view(laid: QuiltLayout, found: QuiltRoute, number: int, unit: Unit) -> HereView:
    """The route at the ``number``-th place, from 1."""
    visit = found.visits[number - 1]
    place = visit.place
    one = found.routes[visit.route]
    cost = needle(
        laid.quilt.kit, laid.quilt.stitching, one.sewn, one.travelled, len(one.unit.courses), all_pivots(one), len(one.runs) - 1
    )  # fmt: skip
    pin = laid.quilt.stitching.pins.get(one.unit.part.key)
    times = sum(other.route == visit.route for other in found.visits)
    return HereView(
        place=place,
        name=one.unit.part.name,
        occurs=tr("number {number} of {visits}", number=number, visits=len(found.visits))
        + (tr(" · the same way in {times}", times=times) if times > 1 else "")
        + (
            tr(" · direction {family} of its grids", family=one.unit.family + 1)
            if one.unit.family is not None
            else ""
        ),
        number=number,
        part=one.unit.part.key,
        start=(pin.start if pin else None) or "",
        end=(pin.end if pin else None) or "",
        fault=pin_fault(one, pin),
        cells=cell_note(one, unit),
        turns=[
            TurnView(zone=zone, name=laid.zone(zone).name, turn=laid.quilt.stitching.turns.get(zone, ""))
            for zone in dict.fromkeys(zone for zone, _ in one.unit.drawings)
        ],
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
        sentence=sentence(one, visit, one.unit.part.places[place]),
        rows=[
            *way_rows(one.network.stitched, one.travelled, len(one.runs) - 1, unit),
            *needle_rows(cost, unit)[:1],
            *hand_rows(len(one.unit.courses), all_pivots(one)),
            *throat_rows(laid, one, place, unit),
            *stitch_rows(laid, one),
        ],
        legs=list(legs_of(laid, one, visit, unit)),
    )


def route_of(laid: QuiltLayout, ways: PlaceRoutes, sewn: Sewn, body: RouteOrQuickRequest) -> RouteView:
    """The whole route, how much of it is sewn, and the settings."""
    found, left = ways.route, ways.left(sewn)
    stitching, unit = laid.quilt.stitching, body.unit
    shares = [one.share for one in left]
    begun = any(one.unsewn < one.whole for one in left)
    return RouteView(
        rows=route_rows(laid, found, time_left(laid, ways, sewn) if begun else None, unit),
        visits=[
            visit_view(laid, found, visit, share) for visit, share in zip(found.visits, shares, strict=True)
        ],
        fields=[
            w.model_field(stitching, name, unit).model_copy(update={"theme": THEMES[name]})
            for name in forms(type(stitching))
        ],
        paces=[w.model_field(stitching.pace, name, unit, "pace.") for name in forms(Pace)],
        doc=stitching.model_dump(mode="json"),
        notes=route_notes(laid, found, unit),
        here=here_view(laid, found, body.number, unit) if 0 < body.number <= len(found.visits) else None,
        quick=found.quick,
    )
