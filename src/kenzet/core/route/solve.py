"""The cheapest travel that makes lines sewable in unbroken runs.

Every node with an odd number of pass ends is the end of a run, or has to be joined to another along lanes: a
minimum-weight T-join, solved exactly by matching. Its cost is a lower bound for every route; loops that it leaves
unconnected are patched together. An integer program gives a better bound; if the route is far above it, the
program's solutions are patched too.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from functools import cached_property

import numpy as np

from kenzet.core.route.costs import Costs
from kenzet.core.route.initial_tours import from_tips, led_on, rows
from kenzet.core.route.integer_program import IntegerProgram
from kenzet.core.route.lines import Lines, even
from kenzet.core.route.network import Network
from kenzet.core.route.pairing import OPEN, Pair, joined
from kenzet.core.route.patching import Patching, TravelSets
from kenzet.core.route.travel_edges import Ends, Lanes, Travel
from kenzet.core.tolerances import NO_WORSE

_MANY = 80  # lines: above, fewer starts are tried
_SHAKES = 24
_NEAR = 1.03  # times what nothing costs less than: near enough
_SOLVED = 4  # times that the program is solved where it is not
_LOOKS = 12  # of its, each time


class Solver(Lanes):
    """Solves one network with one set of costs."""

    def __init__(self, network: Network, costs: Costs) -> None:
        super().__init__(network, costs)
        self._least: dict[Ends, float] = {}
        self._program: IntegerProgram | None = None
        self.whole = Lines(self, np.flatnonzero(network.passes).tolist())

    @cached_property
    def bound(self) -> float:
        """A lower bound of the cost of every route, thread cuts included: the T-join with free ends, not connected.

        In networks too large for that, the same without retracing and steps, less what two ends within chains
        could save.
        """
        if self.roads.all is None:
            return self.whole.bound_by_chains()
        return self.worth(self.whole.travel(self.whole.joined(None)), runs=1)

    def least_for(self, ends: Ends) -> float:
        """A lower bound for given ends: the T-join or, if that is not connected and both ends are free, the linear
        relaxation (which says little if all lines are closed). Only if all distances are computed."""
        if ends not in self._least:
            joined = self.whole.travel(self.whole.joined(ends), ends)
            self._least[ends] = self.worth(joined, runs=1)
            if len(joined.groups) > 1 and ends is None and self.bound > 0:
                self._program = self.program(None)
                self._program.relax()
                self._least[ends] = max(self._least[ends], self._program.bound)
        return self._least[ends]

    def travel(self, ends: Ends = None, shakes: int | None = None) -> Travel:
        """The cheapest route found: one run, or more if thread cuts are cheaper than travel or no lane leads on.
        More ``shakes`` search longer."""
        if self.roads.all is None:
            return self.whole.along_chains(ends)
        found = self.whole.travel(self.whole.joined(ends), ends)
        if len(found.groups) == 1:
            return found
        if shakes is None:
            many = len(self.network.lines) >= _MANY
            shakes = _SHAKES // 10 if many else _SHAKES if ends is None else _SHAKES // 4
        search = self.search(ends)
        for _ in range(min(shakes, search.affordable)):
            if search.done or search.tired:
                break
            search.shake()
        return self.whole.travel(search.best, ends)

    def search(self, ends: Ends) -> Patching:
        """A search for a shorter route than its initial ones; only if all distances are computed."""
        search = self._patching(self.whole, ends)
        search.least = self.least_for(ends)
        search.begin(self._starts(ends))
        search.lead()
        if ends is None and self._program and len(self.network.lines) < _MANY:
            self._programmed(search, self._program)
        return search

    def _programmed(self, search: Patching, program: IntegerProgram) -> None:
        """Offers solutions of the integer program to the search until it is close enough to the lower bound."""
        for _ in range(_SOLVED):
            if self.worth(self.whole.travel(search.best, None)) <= _NEAR * search.least:
                break
            answer = program.solve(self.whole.along(search.best), looks=_LOOKS)
            search.least = self._least[None] = max(search.least, program.bound)
            if answer:
                search.offer(self.joins_of(answer.edges, None))

    def search_from(self, pairs: Sequence[Pair], ends: Ends) -> Patching:
        """A search that begins with the joins ``pairs``."""
        search = self._patching(self.whole, ends)
        search.least = self.least_for(ends)
        search.begin([pairs])
        return search

    def known(self, edges: Sequence[int], ends: Ends) -> Travel | None:
        """The route with travel along ``edges``; None if they are not in this network or not allowed, or if a
        quick route is better."""
        if not all(k < len(self.weights) and np.isfinite(self.weights[k]) for k in edges):
            return None
        found = self.whole.travelled(edges, ends)
        return found if self.worth(found) <= self.worth(self.quick(ends)) + NO_WORSE else None

    def quick(self, ends: Ends) -> Travel:
        """A route without any search, for choosing among many ends."""
        if self.roads.all is None:
            return self.whole.along_chains(ends)
        return self.whole.travel(self.whole.tree(ends), ends)

    def soon(self, ends: Ends) -> Travel:
        """A route that is found at once, to be shown while a shorter one is searched for."""
        if self.roads.all is None or len(self.network.lines) < _MANY or len(self.network.pieces) > 1:
            return self.quick(ends)
        return self.whole.travel(led_on(self.whole, ends), ends)

    def joins_of(self, edges: Iterable[int], ends: Ends) -> Sequence[Pair]:
        """Joins that lead along ``edges``, with repetitions."""
        return _closed(self.whole.tidied([self.ends[k] for k in edges], ends), ends)

    def _starts(self, ends: Ends) -> Iterable[Sequence[Pair]]:
        """Initial joins: the cheapest, a tree, plain rows, from the tips, piece by piece, greedy linking. With
        many lines, only pieces solved separately, or greedy linking, which are then as good as all together."""
        whole = self.whole
        many = len(self.network.lines) >= _MANY
        in_pieces = len(self.network.pieces) > 1
        if many and in_pieces:
            yield self._in_pieces(ends)
            return
        if many:
            led = led_on(whole, ends)
            yield from (led, _closed(whole.tidied(led, ends), ends), whole.tree(ends))
            return
        yield whole.joined(ends)
        yield whole.tree(ends)
        if ends is None:
            plain = rows(whole)
            yield from plain
            yield from (_closed(whole.tidied(some, ends), ends) for some in plain)
            yield from from_tips(whole)
        if in_pieces:
            yield self._in_pieces(ends)
        if ends is None or not whole.odd(None):  # between given ends it seldom gains, but for rings
            yield _closed(whole.tidied(led_on(whole, ends), ends), ends)

    def _in_pieces(self, ends: Ends) -> list[Pair]:
        """One run for each piece, with their ends joined."""
        joins = self._pieces
        loose: set[int] = set() if ends is None else {ends[0]} ^ {ends[1]}
        for pair in joins:
            loose ^= set(pair) - {OPEN} if OPEN in pair else set()
        found = [pair for pair in joins if OPEN not in pair]
        return [*found, *joined(self.roads, sorted(loose), 2 if ends is None else 0, self.costs.stop)]

    @cached_property
    def _pieces(self) -> list[Pair]:
        return [pair for some in self.network.pieces for pair in self._of_piece(some)]

    def _of_piece(self, some: Sequence[int]) -> list[Pair]:
        piece = Lines(self, some)
        joins = piece.joined(None)
        travel = piece.travel(joins)
        if len(travel.groups) == 1:
            return joins
        search = self._patching(piece, None)
        search.least = self.worth(travel, runs=1)
        led = led_on(piece, None)
        starts = [led] if len(some) >= _MANY else [joins]
        search.begin([*starts, piece.tree(None), _closed(piece.tidied(led, None), None)])
        for _ in range(min(3, search.affordable)):
            if not search.done:
                search.shake()
        return search.best

    def _patching(self, lines: Lines, ends: Ends) -> Patching:
        free = 2 if ends is None else 0

        def tidied(pairs: Sequence[Pair]) -> Sequence[Pair]:
            return _closed(lines.tidied(pairs, ends), ends)

        def forced(a: int, b: int) -> Sequence[Pair]:
            parity = sorted(set(lines.odd(ends)) ^ {a} ^ {b})
            return tidied([(a, b), *joined(self.roads, parity, free, self.costs.stop)])

        def turned(pairs: Sequence[Pair], number: int) -> Sequence[Pair]:
            used, ring = Counter(even(lines.along(pairs))), self.faces[number]
            other = used + Counter(ring)
            other.subtract({k: 2 for k in ring if used[k] == 1})
            return tidied([self.ends[k] for k in other.elements()])

        faces = len(self.faces) if lines is self.whole and ends is None else 0
        return Patching(self.roads, lines.loops, self.costs.stop, TravelSets(forced, tidied, turned, faces))


def _closed(pairs: Sequence[Pair], ends: Ends) -> Sequence[Pair]:
    """A closed run may begin, and so end, anywhere."""
    closed = ends is None and not any(OPEN in pair for pair in pairs)
    return [*pairs, (OPEN, OPEN)] if closed else pairs
