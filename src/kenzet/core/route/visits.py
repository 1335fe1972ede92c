"""From place to place: in the chosen order, each with one of the routes of its kind, with little travel and few
different routes.

Each place could take the route that leads on best; but every additional route through the same block has to be
learnt, which counts as some travel (our choice).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations, pairwise

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import INCH
from kenzet.core.route.costs import Costs
from kenzet.core.route.order import in_order
from kenzet.core.route.seams import Seams, Taken
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.quilt_layout import QuiltLayout

LEARN = 12.0 * INCH
_WORK = 15_000  # places gone through to find fewer ways


class PlaceOrder:
    """The places in order, pass by pass, with the costs from each route (a row) to each route at the next place."""

    def __init__(self, laid: QuiltLayout, kinds: Sequence[Sequence[UnitRoute]], costs: Costs) -> None:
        self.kinds, self.stop = kinds, costs.stop
        routes = [route for some in kinds for route in some]
        first = np.cumsum([0, *(len(some) for some in kinds)]).tolist()
        self.ways: list[list[Taken]] = [
            [
                (number, back)
                for number in range(first[k], first[k + 1])
                for back in ((False,) if routes[number].one_way else (False, True))
            ]
            for k in range(len(kinds))
        ]
        passes: dict[int, list[tuple[int, str]]] = {}
        for k, some in enumerate(kinds):
            passes.setdefault(some[0].unit.rank, []).extend((k, place) for place in some[0].unit.places)
        self.places = [one for rank in sorted(passes) for one in in_order(laid, passes[rank])]
        worth = [route.travel.cost + route.travel.stops * costs.stop for route in routes]
        self.own = [np.array([worth[number] for number, _ in some]) for some in self.ways]
        self.seams = Seams(laid, routes, costs)
        self.across = [self._across(*one, *other) for one, other in pairwise(self.places)]

    def _across(self, was: int, before: str, now: int, here: str) -> Floats:
        """After a change of foot a new thread begins, at infinite travel cost."""
        if self.kinds[was][0].unit.foot != self.kinds[now][0].unit.foot:
            return np.full((len(self.ways[was]), len(self.ways[now])), np.inf)
        return self.seams.across(self.ways[was], before, self.ways[now], here)

    def best(self, own: Sequence[Floats]) -> tuple[float, list[int]]:
        """The cheapest sequence of routes and its cost, if those of each kind cost ``own``."""
        cost = own[self.places[0][0]]
        came = []
        for (kind, _), across in zip(self.places[1:], self.across, strict=True):
            table = np.minimum(across, self.stop) + cost[:, None]
            came.append(table.argmin(axis=0))
            cost = table.min(axis=0) + own[kind]
        chosen = [int(cost.argmin())]
        for best in reversed(came):
            chosen.append(int(best[chosen[-1]]))
        return float(cost.min()), chosen[::-1]

    @cached_property
    def fewest(self) -> list[int]:
        """The sequence that is cheapest with the cost of learning each route."""
        own = list(self.own)
        cost, chosen = self.best(own)
        left = _WORK // len(self.places)
        often = sorted(range(len(self.kinds)), key=lambda k: (-len(self.kinds[k][0].unit.places), k))
        for kind in often:
            numbers = list(dict.fromkeys(number for number, _ in self.ways[kind]))
            used = self.used(chosen)[kind]
            if len(used) < 2 or left < len(numbers):
                continue
            tried = [
                self._without(own, kind, [other for other in numbers if other != one]) for one in numbers
            ]
            if len(used) > 2:
                tried += [self._without(own, kind, [one]) for one in sorted(used)]
                tried += [
                    self._without(own, kind, [other for other in numbers if other not in pair])
                    for pair in combinations(sorted(used), 2)
                ]
            left -= len(tried)
            for some in tried:
                its, other = self.best(some)
                if self._worth(its, other) < self._worth(cost, chosen) - EQUAL:
                    own, cost, chosen = some, its, other
        return chosen

    def _without(self, own: Sequence[Floats], kind: int, numbers: Sequence[int]) -> list[Floats]:
        """``own`` if no place of a kind may take one of the routes ``numbers``."""
        found = list(own)
        never = np.isin([number for number, _ in self.ways[kind]], numbers)
        found[kind] = np.where(never, np.inf, own[kind])
        return found

    def used(self, chosen: Sequence[int]) -> list[set[int]]:
        """The routes of each kind that are used."""
        used: list[set[int]] = [set() for _ in self.kinds]
        for (kind, _), way in zip(self.places, chosen, strict=True):
            used[kind].add(self.ways[kind][way][0])
        return used

    def _worth(self, cost: float, chosen: Sequence[int]) -> float:
        return cost + LEARN * sum(map(len, self.used(chosen)))


def visits_of(laid: QuiltLayout, kinds: Sequence[Sequence[UnitRoute]], costs: Costs) -> Iterable[UnitVisit]:
    """Every place with its route, forwards or backwards."""
    if not kinds:
        return
    order = PlaceOrder(laid, kinds, costs)
    chosen = order.fewest
    for k, (kind, place) in enumerate(order.places):
        number, back = order.ways[kind][chosen[k]]
        far = float(order.across[k - 1][chosen[k - 1], chosen[k]]) if k else 0.0
        if k == 0 or far >= costs.stop:
            yield UnitVisit(number, place, back, np.zeros((0, 2)), far >= costs.stop)
            continue
        was, before = order.places[k - 1]
        way = order.seams.way(order.ways[was][chosen[k - 1]], before, (number, back), here=place)
        yield UnitVisit(number, place, back, way, False)


@dataclass(frozen=True, eq=False)
class UnitVisit:
    """A place in the order with ``routes[route]``, reversed if ``back``.

    One travels to it along ``way`` (n, 2), mm in the quilt, from the end of the place before (empty at the first),
    or the thread is cut before it (``stop``).
    """

    route: int
    place: str
    back: bool
    way: Floats
    stop: bool

    @cached_property
    def across(self) -> float:
        """Travel to it, mm."""
        return float(np.hypot(*np.diff(self.way, axis=0).T).sum()) if len(self.way) else 0.0
