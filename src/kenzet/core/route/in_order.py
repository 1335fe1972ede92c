"""Lines sewn whole, in an order in which each finds its reference, with little travel.

The route that is shortest in any order is used if it keeps the order. Otherwise its lines are sorted into a valid
order, other orders are built greedily from the nearest line that is ready, and the best is improved by moving a
few lines at a time (or-opt). The direction of each line, and where a ring begins, is then chosen exactly for that
order.
"""

from __future__ import annotations

import random
from collections.abc import Iterable, Sequence

import numpy as np

from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import Run
from kenzet.core.route.line_sequence import LineSequence, is_long
from kenzet.core.route.network import LINE, Course, Network
from kenzet.core.route.precedence import Precedence
from kenzet.core.route.shortest_paths import Roads
from kenzet.core.route.travel_edges import Ends, Travel
from kenzet.core.tolerances import SAME_COST


def in_order(
    network: Network,
    courses: Sequence[Course],
    precedence: Precedence,
    roads: Roads,
    costs: Costs,
    walked: Sequence[Run],
    ends: Ends,
    thorough: bool = True,
) -> tuple[Travel, list[Run]] | None:
    """The runs in a valid order, and the travel; None if ``walked`` is valid as it is.

    Nobody travels along a line that is not sewn yet. If the cheapest travel of the best order would, an order that
    uses only seams, edges and steps is tried too; with many lines, only that.
    """
    if keeps_order(network, courses, precedence, walked):
        return None
    own = lines_along(network, walked)
    if is_long(courses):
        return _by_lanes(network, courses, precedence, costs, ends, own, thorough)
    sequence = LineSequence(network, courses, precedence, roads, costs.stop, ends)
    found, hoped_for = sequence.best(own, thorough)
    if sequence.price(found[0]) <= hoped_for + SAME_COST:
        return found
    other = _by_lanes(network, courses, precedence, costs, ends, own, thorough)
    return min(found, other, key=lambda way: sequence.price(way[0]))


def in_order_at_once(
    network: Network, courses: Sequence[Course], precedence: Precedence, costs: Costs, ends: Ends
) -> tuple[Travel, list[Run]]:
    """A valid order of many lines, found without computing the shortest route in any order."""
    return _by_lanes(network, courses, precedence, costs, ends, (), thorough=False)


def _by_lanes(
    network: Network,
    courses: Sequence[Course],
    precedence: Precedence,
    costs: Costs,
    ends: Ends,
    own: Sequence[int],
    thorough: bool,
) -> tuple[Travel, list[Run]]:
    """A valid order that travels along seams, edges and steps only."""
    prices = np.where(network.kinds == LINE, np.inf, costs.of(network))
    lanes = Roads(len(network.points), network.ends, prices)
    return LineSequence(network, courses, precedence, lanes, costs.stop, ends).best(own, thorough)[0]


def of_order(
    network: Network,
    courses: Sequence[Course],
    precedence: Precedence,
    roads: Roads,
    costs: Costs,
    order: Sequence[int],
    ends: Ends,
) -> tuple[Travel, list[Run]] | None:
    """The runs of a saved ``order`` of lines; None if it does not fit these lines or their precedence."""
    sequence = LineSequence(network, courses, precedence, roads, costs.stop, ends)
    if not order or sorted(order) != sorted(sequence.items(())) or not precedence.allows(order):
        return None
    return sequence.walked(sequence.chosen(order, as_sewn=True)[1])


class OrderSearch:
    """A search for a shorter order than ``order``, which costs ``cost`` (mm): some lines are moved at random, and
    the result is improved."""

    def __init__(
        self,
        network: Network,
        courses: Sequence[Course],
        precedence: Precedence,
        roads: Roads,
        costs: Costs,
        order: Sequence[int],
        ends: Ends,
    ) -> None:
        self._sequence = LineSequence(network, courses, precedence, roads, costs.stop, ends)
        self._network = network
        self.cost, self._order = self._sequence.chosen(order, as_sewn=True)
        self._chance = random.Random(len(order))

    @property
    def order(self) -> tuple[int, ...]:
        """The shortest order found so far."""
        return tuple(course for course, _ in self._order)

    @property
    def travelled(self) -> float:
        """Its travel, mm."""
        return float(self._network.lengths[list(self._sequence.walked(self._order)[0].edges)].sum())

    def shake(self) -> bool:
        """One attempt; returns whether a shorter order was found."""
        tried = self._sequence.shaken(self._order, self._chance)
        cost, found = self._sequence.improved(*self._sequence.chosen(tried))
        if cost >= self.cost - SAME_COST:
            return False
        cost, found = self._sequence.chosen([course for course, _ in found], as_sewn=True)
        if cost >= self.cost - SAME_COST:
            return False
        self.cost, self._order = cost, found
        return True


def keeps_order(
    network: Network, courses: Sequence[Course], precedence: Precedence, walked: Sequence[Run]
) -> bool:
    """Whether each line of ``walked`` finds its reference, and no line is travelled along before it is sewn. A
    line counts as sewn when its first pass is finished."""
    if precedence.free:
        return True
    sewn, far = precedence.begin(), [0.0] * len(courses)
    whole = np.zeros(len(courses))
    its = network.courses[network.passes > 0]
    np.add.at(whole, its, network.lengths[network.passes > 0])
    there: set[int] = set()
    for run in walked:
        for leg in run.legs:
            course = int(network.courses[leg.edge])
            if not leg.sews:
                if course >= 0 and course not in there:
                    return False
                continue
            if course not in there and not sewn.ready(course):
                return False
            far[course] += float(network.lengths[leg.edge])
            if far[course] >= whole[course] - SAME_COST:
                sewn.add(course)
                there.add(course)
    return True


def lines_along(network: Network, walked: Iterable[Run]) -> list[int]:
    """The lines in their order, one entry each time a line is begun."""
    found = []
    for run in walked:
        last = -1
        for leg in run.legs:
            course = int(network.courses[leg.edge]) if leg.sews else -1
            if course >= 0 and course != last:
                found.append(course)
            last = course
    return found
