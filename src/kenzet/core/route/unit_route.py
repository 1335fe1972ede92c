"""The route of one kind of unit: how all that is sewn there in one go is gone through."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

from kenzet.core.route.costs import Costs
from kenzet.core.route.network import Network
from kenzet.core.route.solve import Ends, Solver, Travel
from kenzet.core.route.unit import Unit, corners_of
from kenzet.core.route.walk import Leg, Run, runs

_SMALL = 150  # nodes


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
