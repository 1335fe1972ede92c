"""Orders of lines: built, sorted, improved, and walked.

Glossary: an *item* is one pass over a line; a *variant* is a direction in which it is sewn, or the place where a
ring begins. Cost: nearly n log n to build an order of n lines, O(n²) for a round of improvement.
"""

from __future__ import annotations

import heapq
import math
import random
from collections import Counter
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from itertools import cycle, islice, pairwise

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.euler_walk import Leg, Run
from kenzet.core.route.network import LINE, Course, Network
from kenzet.core.route.precedence import Precedence, Sewn
from kenzet.core.route.shortest_paths import Roads
from kenzet.core.route.travel_edges import Ends, Travel
from kenzet.core.tolerances import SAME_COST

_ROOTS = 12  # places at which a ring is begun, at most
_ORDERED = 700  # items: with more, the shortest way of all is not put in order
_IMPROVED = 260  # items: with more, an order is not improved
_ROUNDS = 4
_SEGMENT = 6  # items moved at a time
_SHAKES = 150  # times that some are put elsewhere at random and the rest improved, at most
_SHAKES_WORK = 60_000  # items squared, times shakes
_SHAKEN = 50  # tries to put some elsewhere
_LEAVING = (0.0, 40.0, 400.0)  # mm of price for leaving a piece or a set unfinished, each tried (ours)


@dataclass(frozen=True, slots=True)
class _Variant:
    start: int
    end: int
    legs: tuple[Leg, ...]


def _variants(network: Network, courses: Sequence[Course]) -> list[list[_Variant]]:
    """The variants of each line."""
    edges: list[list[int]] = [[] for _ in courses]
    for k in np.flatnonzero(network.passes).tolist():
        edges[int(network.courses[k])].append(k)
    found: list[list[_Variant]] = []
    for course, own in zip(courses, edges, strict=True):
        forth = [Leg(k, False, True) for k in own]
        nodes = [network.ends[k].tolist() for k in own]
        if not own:
            found.append([])
            continue
        if not course.closed or nodes[0][0] != nodes[-1][1]:
            back = tuple(Leg(leg.edge, True, True) for leg in reversed(forth))
            a, b = nodes[0][0], nodes[-1][1]
            found.append([_Variant(a, b, tuple(forth)), _Variant(b, a, back)])
            continue
        step = max(len(own) // _ROOTS, 1)
        found.append(
            [
                _Variant(nodes[k][0], nodes[k][0], (*forth[k:], *forth[:k]) * course.passes)
                for k in range(0, len(own), step)
            ]
        )
    return found


def is_long(courses: Sequence[Course]) -> bool:
    """Whether there are too many items for an exhaustive search."""
    return len(courses) > _ORDERED


class LineSequence:
    """Orders of the items of one network."""

    def __init__(
        self,
        network: Network,
        courses: Sequence[Course],
        precedence: Precedence,
        roads: Roads,
        stop: float,
        ends: Ends,
    ) -> None:
        self._network, self._courses, self._precedence = network, courses, precedence
        self._roads, self._stop, self._ends = roads, stop, ends
        self._variants = _variants(network, courses)
        self._known: dict[tuple[int, int], float] = {}
        self._along_lines = bool(
            np.isfinite([roads.price(k) for k in np.flatnonzero(network.kinds == LINE).tolist()]).any()
        )
        self._starts: dict[int, list[tuple[int, int]]] = {}
        for course, some in enumerate(self._variants):
            for number, variant in enumerate(some):
                self._starts.setdefault(variant.start, []).append((course, number))
        self._paths: dict[tuple[int, int], tuple[list[int] | None, frozenset[int]]] = {}
        self._all = None if roads.all is None else roads.all.tolist()
        self._table = None if roads.all is None else np.pad(np.minimum(roads.all, stop), (0, 1))
        self._points: list[list[float]] = network.points.tolist()
        self._per_mm = roads.least_per_mm(network.lengths)

    def best(self, walked: Sequence[int], thorough: bool) -> tuple[tuple[Travel, list[Run]], float]:
        """The cheapest order found, and its cost if every line could be travelled along at any time; ``walked``
        are the lines in the order of the shortest route."""
        if is_long(self._courses):  # from line to nearest line there are no far ways to look for
            tried = [self._built(_LEAVING[1])]
        else:
            tried = [self._put_in_order(walked), *(self._built(leaving) for leaving in _LEAVING)]
        chosen = [self.chosen(order) for order in tried]
        cost, order = min(chosen, key=lambda one: one[0])
        if thorough and len(order) <= _IMPROVED:
            cost, order = self.improved(cost, order)
            chance = random.Random(len(order))
            for _ in range(min(_SHAKES_WORK // len(order) ** 2, _SHAKES) if self._ends is None else 0):
                found = self.improved(*self.chosen(self.shaken(order, chance)))
                cost, order = min((cost, order), found, key=lambda one: one[0])
        if not self._along_lines:  # then it is walked as it was computed
            return self.walked(order), cost
        some = [[course for course, _ in order], *tried]
        _, own = min((self.chosen(one, as_sewn=True) for one in some), key=lambda one: one[0])
        return self.walked(own), cost

    def _cost(self, a: int, b: int) -> float:
        """From node to node, or a thread cut if that is cheaper."""
        if self._all is not None:
            found: float = self._all[a][b]
            return min(found, self._stop)
        if (a, b) not in self._known:
            self._known[a, b] = min(self._roads.cost(a, b, self._stop), self._stop)
        return self._known[a, b]

    def _costs(self, begins: Sequence[int | None], ends: Sequence[int | None]) -> Floats:
        """From each to each, or from one to many, or from many to one; 0 where a node is None."""
        if self._table is None:
            many = max(len(begins), len(ends))
            pairs = islice(zip(cycle(begins), cycle(ends), strict=False), many)
            return np.array([0.0 if a is None or b is None else self._cost(a, b) for a, b in pairs])
        nowhere = len(self._table) - 1
        a, b = ([nowhere if node is None else node for node in nodes] for nodes in (begins, ends))
        return self._table[a, b]

    def items(self, order: Iterable[int]) -> Iterable[int]:
        """Each line once for every pass; a ring is sewn with all its passes at once."""
        left = {
            k: 1 if course.closed else course.passes
            for k, course in enumerate(self._courses)
            if self._variants[k]
        }
        for course in [*order, *range(len(self._courses))]:
            if left.get(course):
                left[course] -= 1
                yield course
        for course, many in left.items():
            yield from [course] * many

    def _put_in_order(self, walked: Sequence[int]) -> list[int]:
        """The given order, with items delayed until they are ready."""
        sewn = self._precedence.begin()
        found: list[int] = []
        waiting = list(self.items(walked))
        while waiting:
            later = []
            for course in waiting:
                if sewn.ready(course):
                    sewn.add(course)
                    found.append(course)
                else:
                    later.append(course)
            if len(later) == len(waiting):  # nothing is ready: what it rests on is not sewn here
                return [*found, *later]
            waiting = later
        return found

    def _built(self, leaving: float) -> list[int]:
        """A greedy order: always the nearest item that is ready; leaving a set unfinished costs ``leaving``."""
        sewn = self._precedence.begin()
        found: list[int] = []
        left = Counter(self.items(()))
        here = self._ends[0] if self._ends else None
        scope = None
        while left:
            best = self._next(here, scope, leaving, left, sewn)
            if best is None:
                return [*found, *left.elements()]
            course, number = best
            left[course] -= 1
            if not left[course]:
                del left[course]
            sewn.add(course)
            found.append(course)
            here, scope = self._variants[course][number].end, self._precedence.scopes[course]
        return found

    def _next(
        self, here: int | None, scope: object, leaving: float, left: Collection[int], sewn: Sewn
    ) -> tuple[int, int] | None:
        """The line and variant that cost least to reach, the first of equals; None if none is ready."""
        best: tuple[float, int, int] | None = None

        def take(far: float, course: int, number: int) -> None:
            nonlocal best
            scopes = self._precedence.scopes
            cost = min(far, self._stop) + (0.0 if scope in (None, scopes[course]) else leaving)
            if (
                best is None
                or cost < best[0] - SAME_COST
                or (cost < best[0] + SAME_COST and (course, number) < best[1:])
            ):
                best = cost, course, number

        if here is not None:
            for node, far in self._roads.outwards(here, self._stop):
                if best is not None and far > best[0] + SAME_COST:
                    break
                for course, number in self._starts.get(node, ()):
                    if course in left and sewn.ready(course):
                        take(far, course, number)
        if here is None or best is None or best[0] > self._stop:  # a new thread anywhere
            for course in left:
                if sewn.ready(course):
                    take(0.0 if here is None else self._stop, course, 0)
        return None if best is None else best[1:]

    def chosen(self, order: Sequence[int], as_sewn: bool = False) -> tuple[float, list[tuple[int, int]]]:
        """The cheapest variants for an order, exactly (dynamic programming), and the cost; with ``as_sewn``, no
        line is travelled along before it is sewn."""
        first = self._variants[order[0]]
        sewn: set[int] = set()
        costs = [0.0 if self._ends is None else self._cost(self._ends[0], v.start) for v in first]
        came: list[list[int]] = []
        for before, course in pairwise(order):
            was, now = self._variants[before], self._variants[course]
            sewn.add(before)
            costs, best = self._led_on(was, costs, now, sewn if as_sewn else None)
            came.append(best)
        if self._ends is not None:
            last = self._variants[order[-1]]
            costs = [cost + self._cost(v.end, self._ends[1]) for v, cost in zip(last, costs, strict=True)]
        at = min(range(len(costs)), key=costs.__getitem__)
        total, chosen = costs[at], [at]
        for best in reversed(came):
            chosen.append(best[chosen[-1]])
        return total, list(zip(order, reversed(chosen), strict=True))

    def _led_on(
        self, was: Sequence[_Variant], costs: Sequence[float], now: Sequence[_Variant], sewn: set[int] | None
    ) -> tuple[list[float], list[int]]:
        """The cost of each variant ``now`` after the best one before it, and which that is; routes that cannot be
        the best even in a straight line are not computed."""
        found, came = [], []
        for other in now:
            least = [
                cost + self._as_the_crow_flies(one.end, other.start)
                for one, cost in zip(was, costs, strict=True)
            ]
            best, at = np.inf, 0
            for k in sorted(range(len(was)), key=least.__getitem__):
                if least[k] > best:
                    break
                a, b = was[k].end, other.start
                cost = costs[k] + (self._cost(a, b) if sewn is None else self._cost_as_sewn(a, b, sewn))
                if cost < best or (cost == best and k < at):
                    best, at = cost, k
            found.append(best)
            came.append(at)
        return found, came

    def _as_the_crow_flies(self, a: int, b: int) -> float:
        """A lower bound of the cost from node to node."""
        if self._all is not None:
            return 0.0
        (ax, ay), (bx, by) = self._points[a], self._points[b]
        return min(self._per_mm * math.hypot(ax - bx, ay - by), self._stop)

    def improved(self, cost: float, order: list[tuple[int, int]]) -> tuple[float, list[tuple[int, int]]]:
        """Moves some items elsewhere, as they are or reversed, as long as that is cheaper."""
        for _ in range(_ROUNDS):
            before = cost
            order = self._moved(order)
            cost, order = self.chosen([course for course, _ in order])
            if cost > before - SAME_COST:
                break
        return cost, order

    def _moved(self, order: list[tuple[int, int]]) -> list[tuple[int, int]]:
        """One round over all items."""
        k = 0
        while k < len(order):
            for size in range(1, min(_SEGMENT, len(order) - k - 1) + 1):
                found = self._better_place(order, k, size)
                if found is not None:
                    order = found
                    break
            k += 1
        return order

    def shaken(self, order: Sequence[tuple[int, int]], chance: random.Random) -> list[int]:
        """A few lines moved at random, within their precedence."""
        own = [course for course, _ in order]
        for _ in range(_SHAKEN):
            k, size = chance.randrange(len(own)), chance.randint(1, 3 * _SEGMENT)
            some, rest = own[k : k + size], [*own[:k], *own[k + size :]]
            put = chance.randint(0, len(rest))
            tried = [*rest[:put], *(some if chance.random() < 0.5 else reversed(some)), *rest[put:]]
            if self._precedence.allows(tried):
                return tried
        return own

    def _better_place(self, order: list[tuple[int, int]], k: int, size: int) -> list[tuple[int, int]] | None:
        some, rest = order[k : k + size], [*order[:k], *order[k + size :]]
        if not rest:
            return None
        begin, end = self._ends or (None, None)

        def link(a: int | None, b: int | None) -> float:
            return 0.0 if a is None or b is None else self._cost(a, b)

        before = self._variant(rest[k - 1]).end if k else begin
        after = self._variant(rest[k]).start if k < len(rest) else end
        a, b = self._variant(some[0]).start, self._variant(some[-1]).end
        saved = link(before, a) + link(b, after) - link(before, after)
        if saved <= SAME_COST:
            return None
        stops = [begin] + [self._variants[course][v].end for course, v in rest]
        starts = [self._variants[course][v].start for course, v in rest] + [end]
        turned = [(course, self._turned(course, v)) for course, v in reversed(some)]
        ways = [(some, a, b, 0.0)]
        if size > 1 or turned != some:
            c, d = self._variant(turned[0]).start, self._variant(turned[-1]).end
            ways.append((turned, c, d, self._within(turned) - self._within(some)))
        gone = self._costs(stops, starts)
        tried = []
        for way, first, last, more in ways:
            gain = saved - (self._costs(stops, [first]) + self._costs([last], starts) - gone) - more
            if way is some:
                gain[k] = 0.0
            tried += [(float(gain[put]), put, way) for put in np.flatnonzero(gain > SAME_COST).tolist()]
        for _, put, way in sorted(tried, key=lambda one: (-one[0], one[1]))[:4]:
            found = [*rest[:put], *way, *rest[put:]]
            if self._precedence.allows(course for course, _ in found):
                return found
        return None

    def _variant(self, item: tuple[int, int]) -> _Variant:
        course, number = item
        return self._variants[course][number]

    def _turned(self, course: int, variant: int) -> int:
        return variant if self._courses[course].closed else 1 - variant

    def _within(self, some: Sequence[tuple[int, int]]) -> float:
        variants = [self._variants[course][v] for course, v in some]
        return sum(self._cost(one.end, other.start) for one, other in pairwise(variants))

    def walked(self, order: Sequence[tuple[int, int]]) -> tuple[Travel, list[Run]]:
        """The runs of an order, with items joined by the cheapest travel or by a new thread; no line is travelled
        along before it is sewn."""
        sewn: set[int] = set()
        runs: list[Run] = []
        travelled: list[int] = []
        start, here, legs = -1, -1, list[Leg]()
        for course, number in order:
            variant = self._variants[course][number]
            goal = self._ends[0] if start < 0 and self._ends else None
            if start < 0:
                start = here = variant.start if goal is None else goal
            if here != variant.start:
                lanes = self._lanes(here, variant.start, sewn)
                if lanes is not None:
                    travelled += [leg.edge for leg in lanes]
                    legs += lanes
                else:
                    if legs:
                        runs.append(Run(start, here, tuple(legs)))
                    start, legs = variant.start, []
            legs += variant.legs
            here = variant.end
            sewn.add(course)
        lanes = None if self._ends is None else self._lanes(here, self._ends[1], sewn)
        if self._ends is not None and lanes:
            travelled += [leg.edge for leg in lanes]
            legs += lanes
            here = self._ends[1]
        runs.append(Run(start, here, tuple(legs)))
        groups = tuple(
            frozenset(self._network.ends[[leg.edge for leg in run.legs]].ravel().tolist()) for run in runs
        )
        cost = sum(self._roads.price(k) for k in travelled)
        return Travel(tuple(sorted(travelled)), groups, cost, len(runs) - 1), runs

    def price(self, travel: Travel) -> float:
        """The cost of a route including thread cuts, mm."""
        return travel.cost + travel.stops * self._stop

    def _cost_as_sewn(self, a: int, b: int, sewn: Collection[int]) -> float:
        """From node to node if only the lines ``sewn`` can be travelled along, or a thread cut."""
        if a == b:
            return 0.0
        edges = self._edges(a, b, sewn)
        return self._stop if edges is None else sum(map(self._roads.price, edges))

    def _lanes(self, here: int, goal: int, sewn: Collection[int]) -> list[Leg] | None:
        """The cheapest travel to ``goal`` along lanes and the lines ``sewn``; None if a new thread is cheaper."""
        edges = self._edges(here, goal, sewn)
        return None if edges is None else list(self._legs(here, edges))

    def _edges(self, here: int, goal: int, sewn: Collection[int]) -> list[int] | None:
        """The edges of that travel."""
        if (here, goal) not in self._paths:
            edges: list[int] | None = None
            lines = frozenset[int]()
            if self._roads.cost(here, goal, self._stop) < self._stop:
                some = self._roads.path(here, goal)
                edges = some if here > goal else some[::-1]
                lines = frozenset(self._network.courses[edges].tolist()) - {-1}
            self._paths[here, goal] = edges, lines
        known, needed = self._paths[here, goal]
        if known is None or all(line in sewn for line in needed):
            return known
        return self._along_sewn(here, goal, sewn)

    def _along_sewn(self, here: int, goal: int, sewn: Collection[int]) -> list[int] | None:
        """The edges of that travel while some lines are not sewn yet (Dijkstra); None if a new thread is cheaper."""
        best, back = {here: 0.0}, dict[int, tuple[int, int]]()
        heap, done = [(0.0, here)], set[int]()
        courses = self._network.courses
        while heap:
            cost, node = heapq.heappop(heap)
            if cost >= self._stop:
                return None
            if node == goal:
                found: list[int] = []
                while node != here:
                    node, edge = back[node]
                    found.append(edge)
                return found[::-1]
            if node in done:
                continue
            done.add(node)
            for price, other, edge in self._roads.by_node[node]:
                if (courses[edge] < 0 or int(courses[edge]) in sewn) and cost + price < best.get(
                    other, np.inf
                ):
                    best[other], back[other] = cost + price, (node, edge)
                    heapq.heappush(heap, (cost + price, other))
        return None

    def _legs(self, here: int, edges: Iterable[int]) -> Iterable[Leg]:
        for k in edges:
            a, b = self._network.ends[k].tolist()
            yield Leg(k, here != a, False)
            here = b if here == a else a
