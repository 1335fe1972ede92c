"""What one travels along at which prices, and what a way costs."""

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
"""Where a run begins and ends; None where both are free."""


@dataclass(frozen=True, eq=False)
class Travel:
    """``edges`` are travelled once each (twice where they stand twice) beside what must be sewn; ``groups`` are the nodes of every run."""

    edges: tuple[int, ...]
    groups: tuple[frozenset[int], ...]
    cost: float
    stops: int


class Lanes:
    """Of one network, for one set of costs."""

    def __init__(self, network: Network, costs: Costs) -> None:
        self.network = network
        self.costs = costs
        self.weights: list[float] = costs.of(network).tolist()
        self.ends: list[tuple[int, int]] = [(int(a), int(b)) for a, b in network.ends.tolist()]
        self.roads = Roads(len(network.points), network.ends, costs.of(network))

    @cached_property
    def faces(self) -> list[list[int]]:
        """The edges of the lanes round each patch."""
        return faces_of(self.network, [math.isfinite(weight) for weight in self.weights])

    def worth(self, travel: Travel, runs: int | None = None) -> float:
        """What it costs with its stops."""
        stops = travel.stops if runs is None else max(travel.stops - len(travel.groups) + runs, 0)
        return travel.cost + stops * self.costs.stop

    def program(self, ends: Ends) -> IntegerProgram:
        """The integer program of the cheapest way."""
        return IntegerProgram(self.network, self.costs.of(self.network), self.costs.stop, ends)
