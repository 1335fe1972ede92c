"""The edges for travel with their prices, and the cost of a route."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from kenzet.core.route.costs import Costs
from kenzet.core.route.integer_program import IntegerProgram
from kenzet.core.route.network import Network
from kenzet.core.route.planar_faces import faces_of
from kenzet.core.route.shortest_paths import Roads

Ends = tuple[int, int] | None
"""The first and the last node of a run; None if both are free."""


@dataclass(frozen=True, eq=False)
class Travel:
    """``edges`` are travelled in addition to what is sewn, with repetitions; ``groups`` are the nodes of every
    run."""

    edges: tuple[int, ...]
    groups: tuple[frozenset[int], ...]
    cost: float
    stops: int


class Lanes:
    """The lanes of one network, for one set of costs."""

    def __init__(self, network: Network, costs: Costs) -> None:
        self.network = network
        self.costs = costs
        self.weights: list[float] = costs.of(network).tolist()
        self.ends: list[tuple[int, int]] = [(int(a), int(b)) for a, b in network.ends.tolist()]
        self.roads = Roads(len(network.points), network.ends, costs.of(network))

    @cached_property
    def faces(self) -> list[list[int]]:
        """The lanes around each patch."""
        return faces_of(self.network, [math.isfinite(weight) for weight in self.weights])

    def worth(self, travel: Travel, runs: int | None = None) -> float:
        """The cost including thread cuts."""
        stops = travel.stops if runs is None else max(travel.stops - len(travel.groups) + runs, 0)
        return travel.cost + stops * self.costs.stop

    def program(self, ends: Ends) -> IntegerProgram:
        """The integer program of the cheapest route."""
        return IntegerProgram(self.network, self.costs.of(self.network), self.costs.stop, ends)
