"""The route of a whole quilt: block after block in her order, each kind by one route, joined along the seams.

Glossary: a *unit* is what is sewn in one go at one place; a *visit* is one of its places in the order, its route taken
forwards or backwards. Lengths are mm.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations, pairwise

import numpy as np

from kenzet.core.drawing import Drawing
from kenzet.core.geom.region import Floats, Point
from kenzet.core.plan import plan_quilt
from kenzet.core.route.costs import INCH, Costs
from kenzet.core.route.network import TOUCH, Ints, Lane, Network, network
from kenzet.core.route.roads import Roads
from kenzet.core.route.solve import Ends, Solver, Travel
from kenzet.core.route.unit import Unit, corners_of
from kenzet.core.route.walk import Leg, Run, runs
from kenzet.core.top.laid import LaidQuilt
from kenzet.core.top.layout import Part, place_all
from kenzet.core.top.stitching import Order, Stitching
from kenzet.core.top.zone import TOP

_RETRACE = {"wanted": 0.8, "allowed": 2.0, "forbidden": None}
_MID = 0.5
_KEPT = 200  # routes
_SMALL = 150  # nodes


def costs_of(stitching: Stitching) -> Costs:
    """Her settings as prices: a stop weighs as much sewing as the square of how much she minds it, in inches (ours)."""
    step = 2.0 if stitching.steps == "allowed" else None
    return Costs(retrace=_RETRACE[stitching.retrace], step=step, stop=max(stitching.stops**2, 0.02) * INCH)


@dataclass(frozen=True, eq=False)
class UnitRoute:
    """The route of one kind of unit, in the part's coordinates."""

    unit: Unit
    network: Network
    travel: Travel
    runs: tuple[Run, ...]
    bound: float

    @property
    def travelled(self) -> float:
        """mm of travelling."""
        return float(sum(self.network.lengths[k] for k in self.travel.edges))

    @property
    def ends(self) -> tuple[int, int]:
        """The nodes at which it begins and ends."""
        return self.runs[0].start, self.runs[-1].end

    @cached_property
    def backwards(self) -> tuple[Run, ...]:
        """The same from its end to its start."""
        return tuple(
            Run(
                run.end, run.start, tuple(Leg(leg.edge, not leg.back, leg.sews) for leg in reversed(run.legs))
            )
            for run in reversed(self.runs)
        )


@dataclass(frozen=True, eq=False)
class Visit:
    """A place in the order: by ``routes[route]``, ``back`` wards; ``across`` mm are travelled along seams to get there
    (0 at the first), or the thread is ended before it (``stop``).
    """

    route: int
    place: str
    back: bool
    across: float
    stop: bool


@dataclass(frozen=True, eq=False)
class QuiltRoute:
    """All of it. ``stops`` are between runs, its first beginning and last end not counted."""

    routes: tuple[UnitRoute, ...]
    visits: tuple[Visit, ...]

    @property
    def stops(self) -> int:
        """Where the thread is ended on the way."""
        return sum(len(self.routes[v.route].runs) - 1 + v.stop for v in self.visits)

    @property
    def stitched(self) -> float:
        """mm of lines."""
        return sum(self.routes[v.route].network.stitched for v in self.visits)

    @property
    def travelled(self) -> float:
        """mm of travelling, from block to block too."""
        return sum(self.routes[v.route].travelled + v.across for v in self.visits)


def units_of(laid: LaidQuilt) -> list[Unit]:
    """What is sewn in one go at a place, every kind once; zones that lie together at a place go together."""
    by_place: dict[str, list[tuple[str, Drawing]]] = {}
    parts: dict[str, Part] = {}
    for key, plan in plan_quilt(laid).items():
        for drawing in plan.drawings:
            if not drawing.fill.sewn or drawing.hints or not drawing.lines:
                continue
            for place in drawing.places:
                by_place.setdefault(place, []).append((key, drawing))
                parts[place] = drawing.shape.part
    kinds: dict[tuple[str, ...], list[str]] = {}
    for place, drawings in by_place.items():
        kinds.setdefault(
            (parts[place].key, *(f"{key} {id(drawing)}" for key, drawing in drawings)), []
        ).append(place)
    return [Unit(parts[places[0]], tuple(places), tuple(by_place[places[0]])) for places in kinds.values()]


def route_unit(unit: Unit, costs: Costs, from_right: bool = False) -> tuple[UnitRoute, ...]:
    """The route of one kind. Where it is soon solved, others too, from corner to corner or from
    the first to the last line, of which each place takes the one that leads on best.
    """
    net = unit.network(steps=costs.step is not None)
    solver = Solver(net, costs)
    corners = [net.nearest(corner) for corner in corners_of(unit.part)]
    pairs: list[Ends] = [None]
    if len(net.points) <= _SMALL:
        pairs += list(
            combinations(net.tips if 2 <= len(net.tips) <= len(corners) else dict.fromkeys(corners), 2)
        )
    found = []
    for ends in pairs:
        travel = solver.travel(ends)
        if ends is None or len(travel.groups) == 1:
            found.append(
                UnitRoute(
                    unit, net, travel, tuple(runs(net, unit.courses, travel, ends, from_right)), solver.bound
                )
            )
    return tuple(found)


def route_quilt(laid: LaidQuilt) -> QuiltRoute:
    """The route of the quilt as it is planned; empty where nothing is."""
    costs = costs_of(laid.quilt.stitching)
    kinds = [_kept(laid, unit, costs) for unit in units_of(laid)]
    visits = list(_visits(laid, kinds, costs))
    routes = [route for some in kinds for route in some]
    taken = sorted({visit.route for visit in visits})
    at = {number: k for k, number in enumerate(taken)}
    return QuiltRoute(
        tuple(routes[number] for number in taken),
        tuple(replace(visit, route=at[visit.route]) for visit in visits),
    )


def _kept(laid: LaidQuilt, unit: Unit, costs: Costs) -> tuple[UnitRoute, ...]:
    """What was found for the same lines at the same prices is not looked for again."""
    from_right = laid.quilt.kit.machine.throat == "left"
    key = (
        unit.part.key,
        tuple(id(drawing) for _, drawing in unit.drawings),
        len(unit.places) > 1,
        costs,
        from_right,
    )
    found = laid.kept_routes.get(key)
    if not isinstance(found, tuple):
        found = route_unit(unit, costs, from_right)
        if len(laid.kept_routes) > _KEPT:
            laid.kept_routes.clear()
        laid.kept_routes[key] = found
    return tuple(replace(one, unit=unit) for one in found)


def _visits(laid: LaidQuilt, kinds: Sequence[Sequence[UnitRoute]], costs: Costs) -> Iterable[Visit]:
    """The places in her order, each by the route, forwards or backwards, with which the least is travelled in all."""
    routes = [route for some in kinds for route in some]
    first = np.cumsum([0, *(len(some) for some in kinds)]).tolist()
    ways = [
        [(number, back) for number in range(first[k], first[k + 1]) for back in (False, True)]
        for k in range(len(kinds))
    ]
    order = _in_order(laid, [(k, place) for k, some in enumerate(kinds) for place in some[0].unit.places])
    if not order:
        return
    seams = _Seams(laid, routes, costs)
    worth = [route.travel.cost + route.travel.stops * costs.stop for route in routes]
    own = [np.array([worth[number] for number, _ in some]) for some in ways]
    cost = own[order[0][0]]
    steps: list[tuple[Ints, Floats]] = []
    for (was, before), (now, here) in pairwise(order):
        across = np.array(
            [[seams.across((m, before), back, (n, here), to) for n, to in ways[now]] for m, back in ways[was]]
        )
        table = np.minimum(across, costs.stop) + cost[:, None]
        steps.append((table.argmin(axis=0), across))
        cost = table.min(axis=0) + own[now]
    chosen = [int(cost.argmin())]
    for best, _ in reversed(steps):
        chosen.append(int(best[chosen[-1]]))
    chosen.reverse()
    for k, (kind, place) in enumerate(order):
        number, back = ways[kind][chosen[k]]
        far = float(steps[k - 1][1][chosen[k - 1], chosen[k]]) if k else 0.0
        yield Visit(number, place, back, 0.0 if far >= costs.stop else far, far >= costs.stop)


class _Seams:
    """How far it is along seams from the end of one unit to the start of another."""

    def __init__(self, laid: LaidQuilt, routes: Sequence[UnitRoute], costs: Costs) -> None:
        self._laid, self._routes = laid, routes
        outlines = []
        for unit in {id(route.unit): route.unit for route in routes}.values():
            for place in unit.places:
                ring = np.array([*corners_of(unit.part), corners_of(unit.part)[0]])
                outlines.append(place_all(unit.part.places[place], ring))
        self._net = network([], [Lane(ring) for ring in outlines])
        self._roads = Roads(len(self._net.points), self._net.ends, costs.of(self._net))
        self._corners: dict[tuple[int, str], list[int]] = {}
        self._spots: dict[tuple[int, str], tuple[Floats, Floats]] = {}
        self._inside = [self._to_corners(route, costs) for route in routes]

    @staticmethod
    def _to_corners(route: UnitRoute, costs: Costs) -> list[list[float]]:
        """From its start and from its end to each of the part's corners."""
        roads = Roads(len(route.network.points), route.network.ends, costs.of(route.network))
        corners = [route.network.nearest(corner) for corner in corners_of(route.unit.part)]
        beyond = [
            math.dist(route.network.points[node], corner)
            for node, corner in zip(corners, corners_of(route.unit.part), strict=True)
        ]
        return [
            [roads.cost(end, node) + far for node, far in zip(corners, beyond, strict=True)]
            for end in route.ends
        ]

    def _at(self, number: int, place: str) -> list[int]:
        key = (number, place)
        if key not in self._corners:
            part = self._routes[number].unit.part
            spots = place_all(part.places[place], np.array(corners_of(part)))
            self._corners[key] = [self._net.nearest((float(x), float(y))) for x, y in spots]
        return self._corners[key]

    def across(self, before: tuple[int, str], was_back: bool, here: tuple[int, str], back: bool) -> float:
        """From the end of ``before`` to the start of ``here``."""
        out = self._inside[before[0]][0 if was_back else 1]
        into = self._inside[here[0]][1 if back else 0]
        ways = (
            out[a] + self._roads.cost(one, other) + into[b]
            for a, one in enumerate(self._at(*before))
            for b, other in enumerate(self._at(*here))
            if out[a] + into[b] < np.inf
        )
        return min(*ways, self._along_one_side(before, was_back, here, back), math.inf)

    def _along_one_side(
        self, before: tuple[int, str], was_back: bool, here: tuple[int, str], back: bool
    ) -> float:
        """Where both ends lie on one straight seam that the two units share; infinite where they do not."""
        (ends, box), (starts, other) = self._placed(*before), self._placed(*here)
        end, start = ends[0 if was_back else 1], starts[1 if back else 0]
        for axis in (0, 1):
            side = float(end[axis])
            shared = all(np.abs(one[:, axis] - side).min() < TOUCH for one in (box, other))
            touching = (
                box[0, 1 - axis] <= other[1, 1 - axis] + TOUCH
                and other[0, 1 - axis] <= box[1, 1 - axis] + TOUCH
            )
            if shared and touching and abs(side - float(start[axis])) < TOUCH:
                return abs(float(end[1 - axis] - start[1 - axis]))
        return math.inf

    def _placed(self, number: int, place: str) -> tuple[Floats, Floats]:
        """Start and end of a route at a place, and the lower left and upper right corner of what is sewn there."""
        key = (number, place)
        if key not in self._spots:
            route = self._routes[number]
            placing = route.unit.part.places[place]
            corners = place_all(placing, np.array(corners_of(route.unit.part)))
            ends = place_all(placing, route.network.points[list(route.ends)])
            self._spots[key] = (ends, np.stack([corners.min(axis=0), corners.max(axis=0)]))
        return self._spots[key]


def _in_order(laid: LaidQuilt, places: Sequence[tuple[int, str]]) -> list[tuple[int, str]]:
    """Blocks first, in her order, then what runs between and round them, then what lies across the whole top."""
    blocks = [
        one
        for one in places
        if one[1] in laid.quilt.parts_at and laid.quilt.parts_at[one[1]] in laid.quilt.blocks
    ]
    others = [one for one in places if one not in set(blocks)]
    others.sort(key=lambda one: (one[1] == TOP, one[1]))
    middles = {place: _middle(laid, place) for _, place in blocks}
    if laid.quilt.kit.machine.throat == "left":  # what is sewn moves out of the throat
        middles = {place: (laid.top.width - x, y) for place, (x, y) in middles.items()}
    sizes = [min(laid.top.at[place].width, laid.top.at[place].height) for _, place in blocks]
    band = _MID * min(sizes, default=1.0)
    keys = _ORDERS[laid.quilt.stitching.order](middles, laid.middle, band)
    return [*sorted(blocks, key=lambda one: keys[one[1]]), *others]


def _middle(laid: LaidQuilt, place: str) -> Point:
    part = laid.top.at[place]
    x, y = place_all(part.places[place], np.array([part.centre]))[0].tolist()
    return x, y


Keys = dict[str, tuple[float, ...]]


def _rows(middles: dict[str, Point], band: float, along: int, upwards: bool) -> Keys:
    """Row after row (column after column where ``along`` is 1), to and fro."""
    across = sorted({round(at[1 - along] / band) for at in middles.values()}, reverse=not upwards)
    number = {row: k for k, row in enumerate(across)}
    found: Keys = {}
    for place, at in middles.items():
        row = number[round(at[1 - along] / band)]
        found[place] = (float(row), at[along] if row % 2 == 0 else -at[along])
    return found


def _outward(middles: dict[str, Point], middle: Point, band: float) -> Keys:
    """Ring after ring round the middle; within a ring each time the nearest to the last."""
    away = {place: max(abs(x - middle[0]), abs(y - middle[1])) for place, (x, y) in middles.items()}
    left = dict(sorted(middles.items(), key=lambda one: one[1]))
    found: Keys = {}
    here = middle
    while left:
        least = min(round(away[place] / band) for place in left)
        ring = [place for place in left if round(away[place] / band) == least]
        place = min(ring, key=lambda one: round(math.dist(left[one], here) / band))
        here = left.pop(place)
        found[place] = (float(len(found)),)
    return found


_ORDERS: dict[Order, Callable[[dict[str, Point], Point, float], Keys]] = {
    "centre outward": _outward,
    "edge to edge": lambda middles, middle, band: _rows(middles, band, 0, upwards=False),
    "column by column": lambda middles, middle, band: _rows(middles, band, 1, upwards=True),
    "from the bottom": lambda middles, middle, band: _rows(middles, band, 0, upwards=True),
}


def line_of(path: Floats, back: bool) -> Floats:
    """A path in the direction in which it is sewn."""
    return path[::-1] if back else path
