"""The route of a whole quilt: block by block in the chosen order, each kind with one route, joined along the seams.

Glossary: a *unit* is what is sewn in one go at one place; a *visit* is one of its places in the order, with its
route taken forwards or backwards. Lengths are mm.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from kenzet.core.geom.region import Floats
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import INCH
from kenzet.core.placing.line_order import LineOrder, line_order
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.costs import Costs
from kenzet.core.route.passes import Pass, passes_of
from kenzet.core.route.unit import SewingUnit, Technique
from kenzet.core.route.unit_route import UnitOptions, UnitRoute, route_unit
from kenzet.core.route.visits import UnitVisit, visits_of
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Stitching
from kenzet.core.top.zone import Zone

_RETRACE = {"wanted": 0.8, "allowed": 2.0, "forbidden": None}
_ACROSS = 1.2  # a texture: it is not sewn yet, or sewn already (ours)
_Lines = tuple[Drawing, ...]
_Orders = tuple[LineOrder | None, ...]
ROUTES = Table[
    tuple[str, int | None, _Lines, _Orders, _Lines, bool, Costs, UnitOptions, tuple[int, ...]],
    tuple[UnitRoute, ...],
]("routes by what is sewn and at which prices", 200)


def costs_of(stitching: Stitching) -> Costs:
    """The settings as costs: a thread cut costs as many inches of sewing as the square of how much it is minded
    (our choice)."""
    step = 2.0 if stitching.steps == "allowed" else None
    rim = 1.0 if stitching.rim == "allowed" else None
    return Costs(
        retrace=_RETRACE[stitching.retrace],
        step=step,
        rim=rim,
        texture=_ACROSS if stitching.across == "allowed" else None,
        stop=max(stitching.stops**2, 0.02) * INCH,
    )


@dataclass(frozen=True, eq=False)
class QuiltRoute:
    """The whole route; ``kinds`` are all routes that were found, including unused ones. ``stops`` are between
    runs, without the first beginning and the last end."""

    routes: tuple[UnitRoute, ...]
    visits: tuple[UnitVisit, ...]
    kinds: tuple[tuple[UnitRoute, ...], ...] = ()

    @property
    def quick(self) -> bool:
        """Whether a shorter one is still to be searched for."""
        return any(one.quick for one in self.routes)

    @property
    def stops(self) -> int:
        """The number of thread cuts on the route."""
        return sum(len(self.routes[v.route].runs) - 1 + v.stop for v in self.visits)

    @property
    def sewn(self) -> Counter[Technique]:
        """mm of lines by technique."""
        return sum((self.routes[v.route].sewn for v in self.visits), Counter[Technique]())

    @property
    def stitched(self) -> float:
        """Length of all lines, mm."""
        return sum(self.routes[v.route].network.stitched for v in self.visits)

    @property
    def travelled(self) -> float:
        """Total travel, mm, including from block to block."""
        return sum(self.routes[v.route].travelled + v.across for v in self.visits)


def units_of(laid: QuiltLayout) -> list[SewingUnit]:
    """The units of the quilt, each kind once. Zones at the same place belong together if they are sewn in the same
    pass; freehand quilting comes after lines."""
    by_place: dict[tuple[Pass, str], list[tuple[str, Drawing]]] = {}
    textures: dict[str, list[Drawing]] = {}
    parts: dict[str, Part] = {}
    orders: dict[Drawing, LineOrder | None] = {}
    in_turns = laid.quilt.stitching.families != "in any order"
    for key, plan in plan_quilt(laid).items():
        for drawing in plan.drawings:
            if not drawing.fill.sewn or not (drawing.lines or drawing.hints):
                continue
            order = line_order(plan, drawing, in_turns)
            orders[drawing] = None if order.is_free else order
            for place in drawing.places if drawing.hints else ():
                textures.setdefault(place, []).append(drawing)
            for in_pass in passes_of(laid.quilt.stitching, plan.kit, key, drawing):
                for place in drawing.places:
                    by_place.setdefault((in_pass, place), []).append((key, drawing))
                    parts[place] = drawing.shape.part
    kinds: dict[tuple[Pass, str, tuple[tuple[str, Drawing], ...], _Lines], list[str]] = {}
    for (in_pass, place), drawings in by_place.items():
        alike = (in_pass, parts[place].key, tuple(drawings), tuple(textures.get(place, ())))
        kinds.setdefault(alike, []).append(place)
    ranks = {one: k for k, one in enumerate(sorted({one.over_the_quilt for one, _ in by_place}))}
    one_by_one = laid.quilt.stitching.families == "one by one"
    return [
        SewingUnit(
            parts[places[0]],
            tuple(places),
            tuple(by_place[in_pass, places[0]]),
            in_pass.foot,
            ranks[in_pass.over_the_quilt],
            in_pass.family if one_by_one else None,
            laid.rim(parts[places[0]]),
            tuple(textures.get(places[0], ())),
            tuple(orders[drawing] for _, drawing in by_place[in_pass, places[0]]),
            tuple(k for k, (key, _) in enumerate(by_place[in_pass, places[0]]) if _divides(laid.zone(key))),
        )
        for (in_pass, *_), places in sorted(kinds.items(), key=lambda one: one[0][0].freehand)
    ]


def _divides(zone: Zone) -> bool:
    """Whether its lines divide other zones, which treat them as seams."""
    return zone.on_top and bool(zone.by_hand)


def route_quilt(laid: QuiltLayout, quick: bool = False) -> QuiltRoute:
    """The route of the quilt as planned; empty if nothing is planned. With ``quick``, kinds without a route yet
    get one that is found at once."""
    costs = costs_of(laid.quilt.stitching)
    kinds = [_kept(laid, unit, costs, quick) for unit in units_of(laid)]
    visits = list(visits_of(laid, kinds, costs))
    routes = [route for some in kinds for route in some]
    visits = _trimmed(routes, visits)
    taken = sorted({visit.route for visit in visits})
    at = {number: k for k, number in enumerate(taken)}
    return QuiltRoute(
        tuple(routes[number] for number in taken),
        tuple(replace(visit, route=at[visit.route]) for visit in visits),
        tuple(kinds),
    )


def _trimmed(routes: list[UnitRoute], visits: list[UnitVisit]) -> list[UnitVisit]:
    """Removes travel before the first line after a thread begins, and after the last line before it is cut;
    extends ``routes``."""
    known: dict[tuple[int, bool, bool], int] = {}
    found = []
    for k, visit in enumerate(visits):
        begins = k == 0 or visit.stop
        ends = k + 1 == len(visits) or visits[k + 1].stop
        key = (visit.route, ends if visit.back else begins, begins if visit.back else ends)
        if key not in known:
            route = routes[visit.route].trimmed(key[1], key[2])
            known[key] = visit.route if route is routes[visit.route] else len(routes)
            if known[key] == len(routes):
                routes.append(route)
        found.append(replace(visit, route=known[key]))
    return found


def _kept(laid: QuiltLayout, unit: SewingUnit, costs: Costs, quick: bool) -> tuple[UnitRoute, ...]:
    """The routes of a unit, cached by its lines and costs."""
    wishes, ways = wishes_of(laid, unit), laid.quilt.stitching.ways
    key = (
        unit.part.key, unit.family, tuple(drawing for _, drawing in unit.drawings), unit.orders, unit.textures, len(unit.places) > 1, costs, wishes, unit.first,
    )  # fmt: skip
    found = laid.memo.get(ROUTES, key)
    if found is None or any(one.known != ways.get(one.word, ()) for one in found):
        found = route_unit(unit, costs, wishes, ways, quick)
        if any(one.quick for one in found):
            return found
        laid.memo.put(ROUTES, key, found)
    return tuple(replace(one, unit=unit) for one in found)


def wishes_of(laid: QuiltLayout, unit: SewingUnit) -> UnitOptions:
    """The quilter's settings for the route through the unit."""
    stitching, part = laid.quilt.stitching, unit.part.key
    avoided = tuple(one for one in stitching.avoided if one.part == part)
    return UnitOptions(
        laid.quilt.kit.machine.throat == "left",
        stitching.pins.get(part),
        avoided,
        stitching.over,
        stitching.step,
        stitching.turning == "allowed",
    )


def line_of(path: Floats, back: bool) -> Floats:
    """A path in the direction in which it is sewn."""
    return path[::-1] if back else path
