"""Lines that are to be sewn in unbroken runs, and the effect of joining their ends."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from kenzet.core.route.disjoint_set import root
from kenzet.core.route.pairing import OPEN, Pair, joined
from kenzet.core.route.spanning_links import linked
from kenzet.core.route.tour_segments import Chains
from kenzet.core.route.travel_edges import Ends, Lanes, Travel


class Lines:
    """The lines ``sewn`` (edges of the network) that are to be joined into runs."""

    def __init__(self, lanes: Lanes, sewn: Sequence[int]) -> None:
        self.lanes = lanes
        self._sewn = sewn
        many = len(lanes.network.points)
        self.degrees = np.zeros(many, dtype=np.int64)
        ends, passes = lanes.network.ends[sewn], lanes.network.passes[sewn]
        np.add.at(self.degrees, ends[:, 0], passes)
        np.add.at(self.degrees, ends[:, 1], passes)
        over = list(range(many))
        for k in sewn:
            a, b = lanes.ends[k]
            over[root(over, a)] = root(over, b)
        self.loops = [root(over, node) if its else -1 for node, its in enumerate(self.degrees.tolist())]
        """Which nodes hang together by what must be sewn: a number for each, that of a node among them; -1 for others."""

    def odd(self, ends: Ends) -> list[int]:
        """The nodes with an odd number of pass ends, taking the run's ``ends`` into account."""
        odd = set(np.flatnonzero(self.degrees % 2).tolist())
        return sorted(odd if ends is None else odd ^ {ends[0]} ^ {ends[1]})

    def joined(self, ends: Ends) -> list[Pair]:
        """The cheapest joins, whether the result is connected or not."""
        return joined(self.lanes.roads, self.odd(ends), 2 if ends is None else 0, self.lanes.costs.stop)

    def tree(self, ends: Ends) -> list[Pair]:
        """Joins that make everything connected: the cheapest joins are linked by a tree, and parity is solved
        again."""
        lanes = self.lanes
        free = 2 if ends is None else 0

        def join(odd: Sequence[int]) -> list[int]:
            return self.along(joined(lanes.roads, odd, free, lanes.costs.stop))

        used = linked(join, lanes.roads, lanes.ends, self.odd(ends), self.loops, lanes.costs.stop)
        return self.tidied([lanes.ends[k] for k in used], ends)

    def tidied(self, pairs: Sequence[Pair], ends: Ends) -> list[Pair]:
        """Equivalent joins without parts that cancel out; what becomes odd is left open. The joins do not change
        if they would be less connected."""
        found = self._trails(even(self.along(pairs)))
        if len(self.travel(found, ends).groups) > len(self.travel(pairs, ends).groups):
            return list(pairs)
        left = set(self.odd(ends))
        for node in (node for pair in found for node in pair):
            left ^= {node}
        return found + [(node, OPEN) for node in sorted(left)]

    def _trails(self, used: Iterable[int]) -> list[Pair]:
        """Travelled edges as joins: each from a sewn node to the next sewn node they lead to."""
        at: dict[int, list[int]] = {}
        for k in used:
            for node in self.lanes.ends[k]:
                at.setdefault(node, []).append(k)
        found: list[Pair] = []
        for start in sorted(node for node in at if self.loops[node] >= 0):
            while at[start]:
                node, came = start, -1
                while True:
                    k = next(
                        (k for k in reversed(at[node]) if k != came), came
                    )  # not back where it came from
                    at[node].remove(k)
                    came = k
                    a, b = self.lanes.ends[k]
                    node = b if node == a else a
                    at[node].remove(k)
                    if self.loops[node] >= 0 or not at[node]:
                        break
                found.append((start, node))
        return found

    def bound_by_chains(self) -> float:
        """A lower bound for routes that neither retrace nor step across."""
        lanes = self.lanes
        chains = Chains(lanes.network, lanes.costs.of(lanes.network))
        joins = chains.joins(self.odd(None), 2, lanes.costs.stop)
        return max(self.travelled(joins, None).cost - 2 * chains.saved_within(self.odd(None)), 0.0)

    def along_chains(self, ends: Ends) -> Travel:
        """A route for networks too large for all distances at once."""
        lanes = self.lanes
        chains = Chains(lanes.network, lanes.costs.of(lanes.network))
        free, stop = (2 if ends is None else 0), lanes.costs.stop
        used = linked(
            lambda odd: chains.joins(odd, free, stop),
            lanes.roads,
            lanes.ends,
            self.odd(ends),
            self.loops,
            stop,
        )
        return self.travelled(used, ends)

    def along(self, pairs: Sequence[Pair]) -> list[int]:
        """The edges along which joins lead."""
        return [k for a, b in pairs if OPEN not in (a, b) for k in self.lanes.roads.path(a, b)]

    def travel(self, pairs: Sequence[Pair], ends: Ends = None) -> Travel:
        """The travel for ``pairs``."""
        return self.travelled(self.along(pairs), ends)

    def travelled(self, used: Iterable[int], ends: Ends) -> Travel:
        """The travel along the edges ``used``."""
        lanes = self.lanes
        edges = even(used)
        groups = self._groups(edges)
        odd = self.degrees.copy()
        for k in edges:
            a, b = lanes.ends[k]
            odd[a] += 1
            odd[b] += 1
        if ends is not None:
            odd[list(ends)] += 1
        runs = sum(max(int((odd[list(group)] % 2).sum()) // 2, 1) for group in groups)
        return Travel(tuple(sorted(edges)), tuple(groups), sum(lanes.weights[k] for k in edges), runs - 1)

    def _groups(self, used: Iterable[int]) -> list[frozenset[int]]:
        """The components of nodes connected by sewn and travelled edges."""
        label = list(self.loops)
        over = list(range(len(label)))
        for k in used:
            a, b = self.lanes.ends[k]
            for node in (a, b):
                if label[node] < 0:
                    label[node] = node
            over[root(over, label[a])] = root(over, label[b])
        found: dict[int, list[int]] = {}
        for node, one in enumerate(label):
            if one >= 0:
                found.setdefault(root(over, one), []).append(node)
        return [frozenset(nodes) for nodes in found.values()]


def even(used: Iterable[int]) -> list[int]:
    """Without pairs of travels that cancel out: of an edge travelled three times one is left."""
    many: dict[int, int] = {}
    for k in used:
        many[k] = many.get(k, 0) + 1
    return [k for k, times in many.items() for _ in range(times if times < 3 else 2 - times % 2)]
