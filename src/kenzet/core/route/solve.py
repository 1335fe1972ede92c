"""The cheapest travelling that makes lines sewable in unbroken runs.

Every node at which an odd number of passes end is the end of a run, or has to be joined to another along lanes: a
minimum-weight T-join, found exactly by matching. Without a further word that is a lower bound of any route; where it
leaves loops that do not hang together they are patched into one.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.chains import Chains
from kenzet.core.route.costs import Costs
from kenzet.core.route.faces import faces_of
from kenzet.core.route.joining import OPEN, Pair, joined
from kenzet.core.route.linking import linked
from kenzet.core.route.network import Network
from kenzet.core.route.patching import SHAKES, Patching, Turns
from kenzet.core.route.roads import Roads
from kenzet.core.route.union import root

Ends = tuple[int, int] | None
"""Where a run begins and ends; None where both are free."""
_TIPS = 8  # nodes to begin or end at
_WAYS = 6  # from loop to loop
_SOLVED = 150  # times that parity is solved to lead on
_MANY = 80  # lines: above, fewer starts are tried


@dataclass(frozen=True, eq=False)
class Travel:
    """``edges`` are travelled once each (twice where they stand twice) beside what must be sewn; ``groups`` are the nodes of every run."""

    edges: tuple[int, ...]
    groups: tuple[frozenset[int], ...]
    cost: float
    stops: int


class Solver:
    """For one network and one set of costs."""

    def __init__(self, network: Network, costs: Costs) -> None:
        self.network = network
        self.costs = costs
        self.weights: list[float] = costs.of(network).tolist()
        self.ends: list[tuple[int, int]] = [(int(a), int(b)) for a, b in network.ends.tolist()]
        self.roads = Roads(len(network.points), network.ends, costs.of(network))
        self.whole = _Lines(self, np.flatnonzero(network.passes).tolist())

    @cached_property
    def bound(self) -> float:
        """No route travels for less, stops among it: the T-join with free ends, not linked. In networks too large for it the
        same without retracing and steps; what two ends within chains could save is taken off.
        """
        if self.roads.all is None:
            return self.whole.bound_by_chains()
        return self.worth(self.whole.travel(self.whole.joined(None)), runs=1)

    def travel(self, ends: Ends = None, shakes: int | None = None) -> Travel:
        """The cheapest found: one run, or more where stops are cheaper than travelling or no lane leads on. More ``shakes``
        look longer.
        """
        if self.roads.all is None:
            return self.whole.along_chains(ends)
        pairs = self.whole.joined(ends)
        found = self.whole.travel(pairs, ends)
        if len(found.groups) == 1:
            return found
        starts = [self._in_pieces(ends)] if len(self.network.pieces) > 1 else []
        if shakes is None:
            shakes = (
                SHAKES // 10 if len(self.network.lines) >= _MANY else SHAKES if ends is None else SHAKES // 4
            )
        return self.whole.travel(self.whole.patched(ends, starts, shakes), ends)

    def quick(self, ends: Ends) -> Travel:
        """A route that is not looked at twice: to choose among many ends."""
        if self.roads.all is None:
            return self.whole.along_chains(ends)
        return self.whole.travel(self.whole.tree(ends), ends)

    def _in_pieces(self, ends: Ends) -> list[Pair]:
        """Piece by piece, each in a run of its own; then their ends joined."""
        found: list[Pair] = []
        loose: set[int] = set() if ends is None else {ends[0]} ^ {ends[1]}
        for some in self.network.pieces:
            piece = _Lines(self, some)
            joins = piece.joined(None)
            if len(piece.travel(joins).groups) > 1:
                joins = piece.patched(None, [], shakes=3)
            found += [pair for pair in joins if OPEN not in pair]
            for pair in joins:
                loose ^= set(pair) - {OPEN} if OPEN in pair else set()
        return [*found, *joined(self.roads, sorted(loose), 2 if ends is None else 0, self.costs.stop)]

    @cached_property
    def faces(self) -> list[list[int]]:
        """The edges of the lanes round each patch."""
        return faces_of(self.network, [math.isfinite(weight) for weight in self.weights])

    def worth(self, travel: Travel, runs: int | None = None) -> float:
        """What it costs with its stops."""
        stops = travel.stops if runs is None else max(travel.stops - len(travel.groups) + runs, 0)
        return travel.cost + stops * self.costs.stop


class _Lines:
    """The lines ``sewn`` (edges of the network) to be made sewable."""

    def __init__(self, solver: Solver, sewn: Sequence[int]) -> None:
        self._solver = solver
        self._sewn = sewn
        many = len(solver.network.points)
        self._degrees = np.zeros(many, dtype=np.int64)
        ends, passes = solver.network.ends[sewn], solver.network.passes[sewn]
        np.add.at(self._degrees, ends[:, 0], passes)
        np.add.at(self._degrees, ends[:, 1], passes)
        over = list(range(many))
        for k in sewn:
            a, b = solver.ends[k]
            over[root(over, a)] = root(over, b)
        self._loops = [root(over, node) if its else -1 for node, its in enumerate(self._degrees.tolist())]
        """Which nodes hang together by what must be sewn: a number for each, that of a node among them; -1 for others."""

    def _odd(self, ends: Ends) -> list[int]:
        odd = set(np.flatnonzero(self._degrees % 2).tolist())
        return sorted(odd if ends is None else odd ^ {ends[0]} ^ {ends[1]})

    def joined(self, ends: Ends) -> list[Pair]:
        """The cheapest joins, whether all hangs together by them or not."""
        return joined(self._solver.roads, self._odd(ends), 2 if ends is None else 0, self._solver.costs.stop)

    def tree(self, ends: Ends) -> list[Pair]:
        """Joins by which all hangs together: those of the cheapest that are linked by a tree, parity solved anew with it."""
        solver = self._solver
        free = 2 if ends is None else 0

        def join(odd: Sequence[int]) -> list[int]:
            return self._edges(joined(solver.roads, odd, free, solver.costs.stop))

        used = linked(join, solver.roads, solver.ends, self._odd(ends), self._loops, solver.costs.stop)
        return self._tidy([solver.ends[k] for k in used], ends)

    def _tidy(self, pairs: Sequence[Pair], ends: Ends) -> list[Pair]:
        """Joins for the same ways, but none goes where two others cancel out; what is odd then is open. As they were where less
        would hang together.
        """
        found = self._trails(_even(self._edges(pairs)))
        if len(self.travel(found, ends).groups) > len(self.travel(pairs, ends).groups):
            return list(pairs)
        left = set(self._odd(ends))
        for node in (node for pair in found for node in pair):
            left ^= {node}
        return found + [(node, OPEN) for node in sorted(left)]

    def _trails(self, used: Iterable[int]) -> list[Pair]:
        """Travelled edges as joins: each from a place that is sewn to the next that they lead to."""
        at: dict[int, list[int]] = {}
        for k in used:
            for node in self._solver.ends[k]:
                at.setdefault(node, []).append(k)
        found: list[Pair] = []
        for start in sorted(node for node in at if self._loops[node] >= 0):
            while at[start]:
                node, came = start, -1
                while True:
                    k = next(
                        (k for k in reversed(at[node]) if k != came), came
                    )  # not back where it came from
                    at[node].remove(k)
                    came = k
                    a, b = self._solver.ends[k]
                    node = b if node == a else a
                    at[node].remove(k)
                    if self._loops[node] >= 0 or not at[node]:
                        break
                found.append((start, node))
        return found

    def patched(self, ends: Ends, starts: Sequence[Sequence[Pair]], shakes: int = SHAKES) -> list[Pair]:
        """Joins by which all hangs together; ``starts`` are tried beside the cheapest and those linked by a tree, or
        in place of them where there are many lines.
        """
        solver, roads = self._solver, self._solver.roads
        free = 2 if ends is None else 0
        assert roads.all is not None

        patching = Patching(roads, self._loops, roads.all, solver.costs.stop)

        def tidied(pairs: Sequence[Pair]) -> Sequence[Pair]:
            pairs = self._tidy(pairs, ends)
            closed = ends is None and not any(OPEN in pair for pair in pairs)
            return [*pairs, (OPEN, OPEN)] if closed else pairs

        def forced(a: int, b: int) -> Sequence[Pair]:
            parity = sorted(set(self._odd(ends)) ^ {a} ^ {b})
            return tidied([(a, b), *joined(roads, parity, free, solver.costs.stop)])

        cheapest = self.joined(ends)
        if (
            len(self._sewn) >= _MANY
        ):  # pieces solved apart, or one that is led on, are as good as all others together
            found = list(starts) or [led := self._led_on(ends), tidied(led), self.tree(ends)]
        else:
            alone = ends is None and self is solver.whole
            rows = self._rows() if alone else []
            found = [
                cheapest, self.tree(ends), tidied(self._led_on(ends)), *rows, *map(tidied, rows), *starts,
                *(self._from_tips() if alone else []),
            ]  # fmt: skip
        least = solver.worth(self.travel(cheapest, ends), runs=1)

        many = len(solver.faces) if self is solver.whole and ends is None else 0

        def turned(pairs: Sequence[Pair], number: int) -> Sequence[Pair]:
            used, ring = Counter(_even(self._edges(pairs))), solver.faces[number]
            other = used + Counter(ring)
            other.subtract({k: 2 for k in ring if used[k] == 1})
            return tidied([solver.ends[k] for k in other.elements()])

        return patching.solve(found, forced, tidied, Turns(many, turned), least, shakes)

    def _rows(self) -> list[list[Pair]]:
        """Plain rows: line after line in order, each joined to the nearer end of the next; from either end of the first."""
        far, lines = self._solver.roads.all, self._solver.network.lines
        assert far is not None
        found = []
        for first in (0, 1):
            if not lines:
                break
            pairs: list[Pair] = [(lines[0][first], OPEN)]
            here = lines[0][1 - first]
            for ends in lines[1:]:
                near = min(ends, key=lambda node: far[here, node])
                pairs += [(here, near)] if np.isfinite(far[here, near]) else [(here, OPEN), (near, OPEN)]
                here = ends[1] if near == ends[0] else ends[0]
            found.append([*pairs, (here, OPEN)])
        return found

    def _led_on(self, ends: Ends) -> list[Pair]:
        """Of the ways from loop to loop the one that costs least once parity is solved with it, and so on: a way taken on one
        side of a zone turns the pairing of all that side round, which local exchanges seldom find.
        """
        solver, roads = self._solver, self._solver.roads
        assert roads.all is not None
        free = 2 if ends is None else 0
        given: list[Pair] = []
        joins = self.joined(ends)
        groups = self.travel(joins, ends).groups
        solved = 0
        while len(groups) > 1 and solved < _SOLVED:
            tried = []
            for way in self._ways_on(groups, roads.all)[:_WAYS]:
                parity = set(self._odd(ends))
                for node in (node for pair in (*given, way) for node in pair):
                    parity ^= {node}
                some = [*given, way, *joined(roads, sorted(parity), free, solver.costs.stop, set(joins))]
                solved += 1
                for there, all_of in (((way,), some), ((way, way), [*joins, way, way])):  # or to and fro
                    travel = self.travel(all_of, ends)
                    worth = len(travel.groups) * solver.costs.stop + travel.cost
                    tried.append((worth, there, all_of, travel.groups))
            if not tried:
                break
            _, there, joins, after = min(tried, key=lambda one: one[0])
            if len(after) >= len(groups):
                break
            given, groups = [*given, *there], after
        return joins

    @staticmethod
    def _ways_on(groups: Sequence[frozenset[int]], far: Floats) -> list[Pair]:
        """From each group the shortest way to another, the shortest first."""
        found: dict[Pair, float] = {}
        every = sorted(node for group in groups for node in group)
        for group in groups:
            mine = sorted(group)
            others = sorted(set(every) - group)
            away = far[np.ix_(mine, others)]
            for k in np.argsort(away, axis=None)[: max(2, 2 * _WAYS // len(groups))].tolist():
                i, j = divmod(k, len(others))
                if np.isfinite(away[i, j]):
                    found[min(mine[i], others[j]), max(mine[i], others[j])] = float(away[i, j])
        return sorted(found, key=lambda pair: found[pair])

    def _from_tips(self) -> list[list[Pair]]:
        """Runs that begin and end at the outermost lines: the cheapest, and the cheapest that hangs together."""
        tips = [tip for tip in self._solver.network.tips if self._degrees[tip]]
        tips = tips if len(tips) <= _TIPS else self._extremes()
        found = []
        for pair in combinations(tips, 2):
            joins = self.joined(pair)
            travel = self.travel(joins, pair)
            found.append((len(travel.groups) > 1, travel.cost, [*joins, *((tip, OPEN) for tip in pair)]))
        found.sort(key=lambda one: one[:2])
        return [joins for _, _, joins in [*found[:1], *sorted(found, key=lambda one: one[1])[:1]]]

    def _extremes(self) -> list[int]:
        """The outermost odd nodes in eight directions."""
        odd = np.array(self._odd(None))
        if not len(odd):
            return []
        turns = np.radians(np.arange(8) * 45.0 + 1.0)
        out = self._solver.network.points[odd] @ np.stack([np.cos(turns), np.sin(turns)])
        return sorted(set(odd[out.argmax(axis=0)].tolist()))

    def bound_by_chains(self) -> float:
        """No route that neither retraces nor steps across travels for less."""
        solver = self._solver
        chains = Chains(solver.network, solver.costs.of(solver.network))
        joins = chains.joins(self._odd(None), 2, solver.costs.stop)
        return max(self._travel(joins, None).cost - 2 * chains.saved_within(self._odd(None)), 0.0)

    def along_chains(self, ends: Ends) -> Travel:
        """For networks too large for all distances at once."""
        solver = self._solver
        chains = Chains(solver.network, solver.costs.of(solver.network))
        free, stop = (2 if ends is None else 0), solver.costs.stop
        used = linked(
            lambda odd: chains.joins(odd, free, stop),
            solver.roads,
            solver.ends,
            self._odd(ends),
            self._loops,
            stop,
        )
        return self._travel(used, ends)

    def _edges(self, pairs: Sequence[Pair]) -> list[int]:
        return [k for a, b in pairs if OPEN not in (a, b) for k in self._solver.roads.path(a, b)]

    def travel(self, pairs: Sequence[Pair], ends: Ends = None) -> Travel:
        """What is travelled for ``pairs``."""
        return self._travel(self._edges(pairs), ends)

    def _travel(self, used: Iterable[int], ends: Ends) -> Travel:
        solver = self._solver
        edges = _even(used)
        groups = self._groups(edges)
        odd = self._degrees.copy()
        for k in edges:
            a, b = solver.ends[k]
            odd[a] += 1
            odd[b] += 1
        if ends is not None:
            odd[list(ends)] += 1
        runs = sum(max(int((odd[list(group)] % 2).sum()) // 2, 1) for group in groups)
        return Travel(tuple(edges), tuple(groups), sum(solver.weights[k] for k in edges), runs - 1)

    def _groups(self, used: Iterable[int]) -> list[frozenset[int]]:
        """The nodes that hang together by what is sewn and travelled."""
        label = list(self._loops)
        over = list(range(len(label)))
        for k in used:
            a, b = self._solver.ends[k]
            for node in (a, b):
                if label[node] < 0:
                    label[node] = node
            over[root(over, label[a])] = root(over, label[b])
        found: dict[int, list[int]] = {}
        for node, one in enumerate(label):
            if one >= 0:
                found.setdefault(root(over, one), []).append(node)
        return [frozenset(nodes) for nodes in found.values()]


def _even(used: Iterable[int]) -> list[int]:
    """Of an edge travelled three times once is left: to and fro over it changes nothing."""
    many: dict[int, int] = {}
    for k in used:
        many[k] = many.get(k, 0) + 1
    return [k for k, times in many.items() for _ in range(times if times < 3 else 2 - times % 2)]
