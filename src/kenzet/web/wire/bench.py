"""The ruler bench: what the screen needs to move a ruler over a zone, and where one is placed for a line."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from pydantic import Field

from kenzet.core.bench.readout import BenchReference, references_in
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.geom.arcs import Arc
from kenzet.core.geom.region import Floats
from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.curves import radius_of, ranked
from kenzet.core.kit.kit import Kit, ThingKey
from kenzet.core.kit.ruler_outline import plastic
from kenzet.core.kit.things.base import Edged
from kenzet.core.numbers.measure import COARSE, Length, Unit
from kenzet.core.params import in_range
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import whereabouts
from kenzet.say import words as w
from kenzet.say.ruler_words import CAUTION, CurveView, edge_words, fit_words
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn

NUDGE: dict[Unit, Fraction] = {"in": Fraction(127, 80), "mm": Fraction(1)}


MOST_REFERENCES = 6000


class BenchRequest(m.Reading):
    """A zone at one of its places."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""


class LayRequest(BenchRequest):
    """A planned line (null: the one that shows best how the others are placed), and the ruler for it, if one is
    chosen."""

    layer: m.Layer = 0
    line: int | None = None
    side: int = -1
    ruler: ThingKey | None = None


class CurveRequest(m.Reading):
    """A curve by its chord and rise, as typed."""

    chord: str = Field(max_length=40)
    rise: str = Field(max_length=40)


class EtchedLine(m.Wire):
    """A line of a ruler, ``at`` mm from its edge; x0, y0, x1, y1 in the ruler's own coordinates."""

    at: float
    label: w.Words
    line: list[float]


class BenchEdge(m.Wire):
    """One edge of a ruler with the plastic behind it, flat x, y lists in the ruler's own coordinates (see
    ``plastic``).

    ``needle`` is empty if the foot cannot follow it. ``etched`` begins with the edge itself.
    """

    label: w.Words
    straight: bool
    rings: list[list[float]]
    edge: list[float]
    needle: list[float]
    etched: list[EtchedLine]
    others: list[list[float]]
    dead: list[list[float]]
    centre: float | None
    grips: list[list[float]]


class BenchRuler(m.Wire):
    """A ruler of this quilt's kit; ``fault`` says why it is not safe with the foot."""

    key: str
    name: str
    fault: str
    edges: list[BenchEdge]


class ReferenceView(m.Wire):
    """A straight seam or line to place a ruler from; mm in the part."""

    kind: str
    name: str
    points: list[float]


class HandView(m.Wire):
    """A saved line and how it is placed."""

    words: w.Words


class BenchView(m.Wire):
    """A zone with everything the screen needs to place rulers in it; mm in the part, y up. ``nudge`` is the step
    of an arrow key, ``foot`` is r, ``at`` a point well inside."""

    zone: str
    name: str
    place: str
    where: str
    times: int
    foot: float
    foot_name: str
    foot_words: w.Words
    throat: str
    nudge: float
    rulers: list[BenchRuler]
    references: list[ReferenceView]
    corners: list[list[float]]
    rings: list[list[float]]
    at: list[float]
    hand: list[HandView]
    refused: str
    caution: str


class LayView(m.Wire):
    """The position of a ruler: the middle of edge number ``edge`` of ``ruler`` at x, y, the edge at ``angle``
    degrees."""

    line: int
    ruler: str
    edge: int
    x: float
    y: float
    angle: float
    fit: CurveView | None


class FoundCurve(m.Wire):
    """The radius of a curve, and the ruler edges for it; ``ruler`` and ``edge`` identify each."""

    words: w.Words
    rows: list[w.Row]
    curves: list[CurveView]
    rulers: list[str]
    edges: list[int]


def curve_length(body: CurveRequest, name: str) -> Length:
    """A typed length of a curve. Raises BadValue at ``name``."""
    try:
        length = Length.parse(getattr(body, name), body.unit)
        return in_range(
            length,
            "1/4 in" if name == "chord" else "0 in",
            "200 in",
            tr("The chord") if name == "chord" else tr("The rise"),
        )
    except BadValue as error:
        raise BadValue(error.message, name) from error


def bench_of(laid: QuiltLayout, body: BenchRequest) -> BenchView:
    """A zone at a place, with every ruler of the kit."""
    zone, kit, unit = laid.zone(body.zone), laid.quilt.kit, body.unit
    places = laid.places(zone)
    shape = laid.shape_at(zone, body.place) or next(iter(laid.shapes(zone)), None)
    if shape is None:
        raise Unknown(tr("No part of {name} lies inside the quilt’s edge.", name=zone.name), "zone")
    place = body.place if body.place in shape.places else shape.places[0]
    references = references_in(plan_zone(laid, body.zone), shape, place)[:MOST_REFERENCES]
    inside = max(shape.region.area.geoms, key=lambda piece: piece.area).representative_point()
    return BenchView(
        zone=body.zone,
        name=zone.name,
        place=place,
        where=whereabouts.place_name(place),
        times=len(places),
        foot=float(kit.foot_offset),
        foot_name=kit.foot.name,
        foot_words=w.told("sews {offset} off it", offset=w.shown(kit.foot_offset, unit)),
        throat=kit.machine.throat,
        nudge=float(NUDGE[unit]),
        rulers=[
            _ruler(kit, key, ruler, unit) for key, ruler in kit.rulers.items() if ruler.state == "at hand"
        ],
        references=[_reference(ref) for ref in references],
        corners=[list(corner) for corner in shape.region.corners],
        rings=drawn.rings(shape.region.area.geoms),
        at=[inside.x, inside.y],
        hand=[HandView(words=_hand_words(line.on, line.distance, unit)) for line in zone.by_hand],
        refused=foot_fault(kit.machine, kit.foot),
        caution=CAUTION,
    )


def _reference(ref: BenchReference) -> ReferenceView:
    points = [round(v, 4) for v in (*ref.start, *ref.end)]
    return ReferenceView.model_construct(kind=ref.kind, name=ref.name, points=points)


def _hand_words(on: str, distance: Length | None, unit: Unit) -> w.Words:
    if not on or distance is None:
        return [tr("to be marked")]
    return [w.shown(distance.mm, unit), tr(" from a seam") if on == "seam" else tr(" from a line")]


def _ruler(kit: Kit, key: str, ruler: Edged, unit: Unit) -> BenchRuler:
    fault = ruler_fault(kit.foot, ruler) or foot_fault(kit.machine, kit.foot)
    edges = [] if fault else [_edge(kit, ruler, k, unit) for k in range(len(ruler.edges))]
    return BenchRuler(key=key, name=ruler.name, fault=fault, edges=edges)


def _edge(kit: Kit, ruler: Edged, number: int, unit: Unit) -> BenchEdge:
    part = plastic(ruler.edges, number, float(kit.foot_offset))
    edge = part.edge.points
    etched = [EtchedLine(at=0.0, label=[tr("edge")], line=[*edge[0].tolist(), *edge[-1].tolist()])]
    etched += [
        EtchedLine(at=float(d), label=[w.shown(d, unit, bare=True)], line=list(line))
        for d, line in part.etched
    ]
    return BenchEdge(
        label=edge_words(ruler.edges, number, unit),
        straight=part.straight,
        rings=list(_flat(part.rings)),
        edge=next(iter(_flat([edge]))),
        needle=next(iter(_flat([part.needle.points]))) if part.needle is not None else [],
        etched=etched if part.straight else [],
        others=[list(line) for line in part.others],
        dead=list(_flat(part.dead)),
        centre=part.centre,
        grips=[list(grip) for grip in part.grips],
    )


def _flat(many: Iterable[Floats]) -> Iterable[list[float]]:
    return (points.round(4).ravel().tolist() for points in many)


def found_curve(kit: Kit, chord: float, rise: float, unit: Unit) -> FoundCurve:
    """A curve by its chord and rise, mm (F24), and the edges that sew it."""
    if rise < 0.2:  # A97
        return FoundCurve(
            words=[tr("That line is straight: use a straight ruler.")],
            rows=[],
            curves=[],
            rulers=[],
            edges=[],
        )
    radius = radius_of(chord, rise)
    arc = Arc((0.0, 0.0), (chord, 0.0), 2 * rise / chord)
    fits = ranked(kit, radius, arc.angle)[:6]
    grain = COARSE[unit] / 4
    words: w.Words = w.told("Radius {radius}", radius=w.shown(radius, unit, grain, about=True))
    if rise > chord / 2:
        words.append(tr(", more than a half circle: place it twice"))  # A98
    elif not fits:
        words.append(tr("; none of your curved rulers comes close"))
    return FoundCurve(
        words=[*words, "."],
        rows=[
            w.Row(
                label=[tr("Across the whole circle")], words=[w.shown(2 * radius, unit, grain, about=True)]
            ),
            w.Row(
                label=[tr("Along the curve")],
                words=[w.shown(radius * abs(arc.angle), unit, grain, about=True)],
            ),
        ],
        curves=[fit_words(kit, fit, unit) for fit in fits],
        rulers=[fit.ruler for fit in fits],
        edges=[kit.rulers[fit.ruler].edges.index(fit.edge) for fit in fits],
    )
