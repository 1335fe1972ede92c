"""A longer search for shorter routes, kind by kind; it can be stopped at any time with the best so far.

The integer program gives a lower bound, and routes in several components; these are patched, and the best route is
perturbed, in turn.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.numbers.measure import INCH
from kenzet.core.route.costs import Costs
from kenzet.core.route.in_order import OrderSearch, lines_along
from kenzet.core.route.one_mark import OneMark, best_mark
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.shortest_paths import DENSE
from kenzet.core.route.solve import Solver
from kenzet.core.route.travel_edges import Ends
from kenzet.core.route.unit_route import UnitRoute, network_fingerprint
from kenzet.core.tolerances import AT_BOUND

_SLICE = (1.0, 30.0)  # seconds of the integer program at a time, at first and at most
_SHAKES = 6  # after each
_WORTH_A_LINE = 4 * INCH  # mm: for less nobody draws another line
_VAIN = 10  # rounds without gain, where other kinds wait


@dataclass(eq=False)
class Kind:
    """The search for one kind of unit: the route between ``ends`` (None if free) that ``one`` uses at ``places``
    places.

    ``kept`` is the best so far: the travelled edges or, if the lines have an order, that order; it costs
    ``worth``, at first ``begun``; ``least`` is a lower bound. ``mark`` is the line whose mark would save most.
    """

    one: UnitRoute
    ends: Ends
    word: str
    places: int
    kept: tuple[int, ...]
    begun: float
    worth: float
    least: float = 0.0
    travelled: float = 0.0
    mark: OneMark | None = None

    @property
    def proven(self) -> bool:
        """Whether the route is proven to be shortest."""
        return self.worth <= self.least + AT_BOUND * max(self.worth, 1.0)

    @property
    def mark_saves(self) -> float:
        """mm of travel saved on the best route by marking one more line; 0 if less than ``_WORTH_A_LINE``."""
        if self.mark is None or self.worth - self.mark.worth < _WORTH_A_LINE:
            return 0.0
        return max(self.travelled - self.mark.travelled, 0.0)

    @property
    def better(self) -> bool:
        """Whether the route is shorter than at first."""
        return self.worth < self.begun * (1 - AT_BOUND)


def look(kind: Kind, solver: Solver, stopped: Callable[[], bool], vain: float = np.inf) -> None:
    """Searches until the route is proven shortest, it is ``stopped``, or ``vain`` rounds found nothing shorter."""
    program = solver.program(kind.ends)
    program.relax()
    search = solver.search_from(solver.joins_of(kind.kept, kind.ends), kind.ends)
    seconds, gained = _SLICE[0], 0

    def weigh(edges: Sequence[int]) -> bool:
        travel = solver.whole.travelled(edges, kind.ends)
        worth = solver.worth(travel)
        if worth >= kind.worth - AT_BOUND:
            return False
        kind.kept, kind.worth = travel.edges, worth
        kind.travelled = float(solver.network.lengths[list(travel.edges)].sum())
        return True

    while not stopped() and not kind.proven and gained < vain:
        answer = program.solve(kind.kept, stopped, seconds)
        kind.least = max(kind.least, program.bound)
        shorter = False
        if answer:
            shorter = weigh(answer.edges)
            search.offer(solver.joins_of(answer.edges, kind.ends))
        if not shorter and (answer is None or answer.whole):
            seconds = min(2 * seconds, _SLICE[1])
        for _ in range(_SHAKES):
            if not stopped() and not kind.proven:
                search.shake()
        shorter |= weigh(solver.whole.along(search.best))
        gained = 0 if shorter else gained + 1


def look_in_order(kind: Kind, solver: Solver, stopped: Callable[[], bool], vain: float = np.inf) -> None:
    """The same for lines with an order."""
    unit = kind.one.unit
    search = OrderSearch(
        kind.one.network, unit.courses, unit.precedence, solver.roads, solver.costs, kind.kept, kind.ends
    )
    kind.worth = min(kind.worth, search.cost)
    gained = 0
    while not stopped() and not kind.proven and gained < vain * _SHAKES:
        gained += 1
        if search.shake():
            kind.kept, kind.worth, gained = search.order, search.cost, 0
            kind.travelled = search.travelled


class LocalSearch:
    """The search for all kinds of a route (or only the one at the ``number``-th place, from 1, unless that is 0)
    with their ``costs``; kinds with too many lines are ``skipped``."""

    def __init__(self, route: QuiltRoute, costs: Costs, number: int = 0) -> None:
        self._costs = costs
        wanted = route.routes[route.visits[number - 1].route].network if number else None
        chosen = [some for some in route.kinds if wanted in (None, some[0].network)]
        self.skipped = [some[0] for some in chosen if len(some[0].network.points) > DENSE]
        self.kinds = [self._kind(route, some) for some in chosen if some[0] not in self.skipped]
        self.at: Kind | None = None
        self.done = not self.kinds

    def _kind(self, route: QuiltRoute, some: Sequence[UnitRoute]) -> Kind:
        network = some[0].network
        solver = Solver(network, self._costs)
        best = min(some, key=lambda one: solver.worth(one.travel))
        ends = some[0].ends if some[0].pinned else None
        worth = solver.worth(best.travel)
        places = sum(route.routes[visit.route].network is network for visit in route.visits)
        return Kind(
            best,
            ends,
            some[0].word or network_fingerprint(network, self._costs, ends),
            places,
            best.travel.edges if best.unit.precedence.free else tuple(lines_along(network, best.runs)),
            worth,
            worth,
            travelled=best.travelled,
        )

    @property
    def gained(self) -> float:
        """The share of the initial cost that is saved."""
        begun = sum(kind.places * kind.begun for kind in self.kinds)
        return 1 - sum(kind.places * kind.worth for kind in self.kinds) / begun if begun else 0.0

    @property
    def left(self) -> float:
        """The share of the initial cost that could still be saved at most."""
        begun = sum(kind.places * kind.begun for kind in self.kinds)
        return (
            sum(kind.places * max(kind.worth - kind.least, 0) for kind in self.kinds) / begun
            if begun
            else 0.0
        )

    @property
    def ways(self) -> Mapping[str, tuple[int, ...]]:
        """The shorter routes by their fingerprints."""
        return {kind.word: kind.kept for kind in self.kinds if kind.better}

    def run(self, stopped: Callable[[], bool]) -> None:
        """Searches until every route is proven shortest, it is ``stopped``, or many rounds have found nothing for
        every kind."""
        try:
            self._run(stopped)
        finally:
            self.at, self.done = None, True

    def _run(self, stopped: Callable[[], bool]) -> None:
        solvers = [Solver(kind.one.network, self._costs) for kind in self.kinds]
        for kind, solver in zip(self.kinds, solvers, strict=True):
            kind.least = solver.least_for(kind.ends)
        gains = [kind.places * (kind.worth - kind.least) for kind in self.kinds]
        for k in sorted(range(len(gains)), key=lambda k: -gains[k]):
            if not stopped() and not self.kinds[k].proven:
                self.at = self.kinds[k]
                in_order = not self.kinds[k].one.unit.precedence.free
                kind = self.kinds[k]
                kind.mark = best_mark(kind.one, solvers[k], self._costs, kind.ends, stopped)
                (look_in_order if in_order else look)(
                    self.kinds[k], solvers[k], stopped, _VAIN if len(gains) > 1 else np.inf
                )
