"""From place to place: in her order, each by one of the ways through it, so that little is travelled and few ways have to be learnt.

Of the ways through a kind each place could take the one that leads on best; but every further way through the same block is
another one to follow, which is worth so much travelling (ours).
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
    """The places in her order, pass after pass, with what it costs to go from each way (a row) to each at the next place."""

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
        """With another foot a new thread is begun."""
        if self.kinds[was][0].unit.foot != self.kinds[now][0].unit.foot:
            return np.full((len(self.ways[was]), len(self.ways[now])), np.inf)
        return self.seams.across(self.ways[was], before, self.ways[now], here)

    def best(self, own: Sequence[Floats]) -> tuple[float, list[int]]:
        """The cheapest sequence of ways and what it costs, where those of each kind cost ``own``."""
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
        """The sequence that costs least with what the ways are worth that have to be learnt."""
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
        """``own`` where no place of a kind takes one of the ways ``numbers``."""
        found = list(own)
        never = np.isin([number for number, _ in self.ways[kind]], numbers)
        found[kind] = np.where(never, np.inf, own[kind])
        return found

    def used(self, chosen: Sequence[int]) -> list[set[int]]:
        """The ways of each kind that are taken."""
        used: list[set[int]] = [set() for _ in self.kinds]
        for (kind, _), way in zip(self.places, chosen, strict=True):
            used[kind].add(self.ways[kind][way][0])
        return used

    def _worth(self, cost: float, chosen: Sequence[int]) -> float:
        return cost + LEARN * sum(map(len, self.used(chosen)))


def visits_of(laid: QuiltLayout, kinds: Sequence[Sequence[UnitRoute]], costs: Costs) -> Iterable[UnitVisit]:
    """Every place with the way that is taken there, forwards or backwards."""
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
    """A place in the order: by ``routes[route]``, ``back`` wards. One travels to it along ``way`` (n, 2), mm in the quilt, from
    where the place before ends (nothing at the first), or the thread is ended before it (``stop``).
    """

    route: int
    place: str
    back: bool
    way: Floats
    stop: bool

    @cached_property
    def across(self) -> float:
        """mm travelled to it."""
        return float(np.hypot(*np.diff(self.way, axis=0).T).sum()) if len(self.way) else 0.0
