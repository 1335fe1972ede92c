"""Shortest paths between nodes along lanes, by cost."""

from __future__ import annotations

import heapq
from collections.abc import Iterator, Sequence
from functools import cached_property

import numpy as np
import rustworkx as rx

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import Ints
from kenzet.core.tolerances import EQUAL

DENSE = 700
"""Up to this number of nodes all distances are computed at once; beyond, from each node as far as needed."""


class Roads:
    """A graph of ``many`` nodes with edges between ``ends`` (m, 2) at ``prices`` (m,), infinite if not allowed."""

    def __init__(self, many: int, ends: Ints, prices: Floats) -> None:
        self._many = many
        self._open = np.flatnonzero(np.isfinite(prices) & (ends[:, 0] != ends[:, 1]))
        self._ends, self._prices = ends, prices
        self._reaches: dict[int, _Reach] = {}

    @cached_property
    def by_node(self) -> list[list[tuple[float, int, int]]]:
        """Price, other end and edge of every edge at every node."""
        found: list[list[tuple[float, int, int]]] = [[] for _ in range(self._many)]
        for k in self._open.tolist():
            a, b = self._ends[k].tolist()
            found[a].append((float(self._prices[k]), b, k))
            found[b].append((float(self._prices[k]), a, k))
        return found

    @cached_property
    def all(self) -> Floats | None:
        """The distances between all nodes; None if there are too many nodes."""
        if self._many > DENSE:
            return None
        graph = rx.PyGraph(multigraph=False)
        graph.add_nodes_from(range(self._many))
        cheapest: dict[tuple[int, int], float] = {}
        for k in self._open.tolist():
            a, b = sorted(self._ends[k].tolist())
            cheapest[a, b] = min(cheapest.get((a, b), np.inf), float(self._prices[k]))
        graph.add_edges_from([(a, b, price) for (a, b), price in cheapest.items()])
        return rx.floyd_warshall_numpy(graph, weight_fn=float)

    def near(self, nodes: Sequence[int], many: int) -> tuple[Ints, Floats]:
        """Pairs (p, 2) of indices into ``nodes``, each with its ``many`` nearest, and their distances."""
        count = len(nodes)
        if count < 2:
            return np.zeros((0, 2), dtype=np.int64), np.zeros(0)
        if self.all is None:
            return self._near_one_by_one(nodes, many)
        far = self.all[np.ix_(nodes, nodes)]
        np.fill_diagonal(far, np.inf)
        some = min(many, count - 1)
        beside = np.zeros((count, count), dtype=bool)
        np.put_along_axis(beside, np.argpartition(far, some - 1, axis=1)[:, :some], True, axis=1)
        pairs = np.argwhere(np.triu((beside | beside.T) & np.isfinite(far)))
        return pairs, far[pairs[:, 0], pairs[:, 1]]

    def _near_one_by_one(self, nodes: Sequence[int], many: int) -> tuple[Ints, Floats]:
        at = {node: k for k, node in enumerate(nodes)}
        found: dict[tuple[int, int], float] = {}
        for node in nodes:
            reach, k, left = self.reach(node), 0, many
            while left:
                if k == len(reach.order) and not reach.further(self.by_node):
                    break
                other = reach.order[k]
                if other in at and other != node:
                    found[min(at[node], at[other]), max(at[node], at[other])] = reach.best[other]
                    left -= 1
                k += 1
        pairs = np.array(list(found), dtype=np.int64).reshape(-1, 2)
        return pairs, np.array(list(found.values()))

    def reach(self, node: int) -> _Reach:
        """The shortest-path search from ``node``."""
        if node not in self._reaches:
            self._reaches[node] = _Reach(node)
        return self._reaches[node]

    def outwards(self, start: int, most: float) -> Iterator[tuple[int, float]]:
        """The nodes within cost ``most`` of ``start``, each with its cost, the nearest first."""
        reach, k = self.reach(start), 0
        while k < len(reach.order) or (reach.nearest < most and reach.further(self.by_node)):
            node = reach.order[k]
            if reach.best[node] >= most:
                return
            yield node, reach.best[node]
            k += 1

    def path(self, start: int, end: int) -> list[int]:
        """The edges of the cheapest path between two nodes; of equal paths always the same, in both directions."""
        start, end = min(start, end), max(start, end)
        reach = self.reach(start)
        while end not in reach.done and reach.further(self.by_node):
            pass
        found = []
        while end != start:
            end, edge = reach.back[end]
            found.append(edge)
        return found

    def nodes(self, start: int, end: int) -> list[int]:
        """The nodes on that path, including both ends."""
        start, end = min(start, end), max(start, end)
        reach, found = self.reach(start), [end]
        while end not in reach.done and reach.further(self.by_node):
            pass
        while end != start:
            end, _ = reach.back[end]
            found.append(end)
        return found

    def least_per_mm(self, lengths: Floats) -> float:
        """The least cost of a mm on any edge; ``lengths`` are those of all edges."""
        rates = self._prices[lengths > EQUAL] / lengths[lengths > EQUAL]
        return float(rates.min(initial=np.inf)) if np.isfinite(rates).any() else 0.0

    def price(self, edge: int) -> float:
        """The price of an edge; infinite if not allowed."""
        return float(self._prices[edge])

    def cost(self, start: int, end: int, most: float = np.inf) -> float:
        """The cost of that path; infinite if there is none, or none below ``most``."""
        reach = self.reach(start)
        while end not in reach.done and reach.nearest < most and reach.further(self.by_node):
            pass
        return reach.best[end] if end in reach.done else np.inf


class _Reach:
    """A Dijkstra search from one node, run only as far as needed."""

    def __init__(self, start: int) -> None:
        self.order: list[int] = []
        self.best: dict[int, float] = {start: 0.0}
        self.back: dict[int, tuple[int, int]] = {}
        self.done: set[int] = set()
        self._heap = [(0.0, start)]

    @property
    def nearest(self) -> float:
        """A lower bound of the cost of nodes not reached yet."""
        return self._heap[0][0] if self._heap else np.inf

    def further(self, roads: Sequence[Sequence[tuple[float, int, int]]]) -> bool:
        """Settles one more node; False if none is left."""
        while self._heap:
            cost, node = heapq.heappop(self._heap)
            if node in self.done:
                continue
            self.done.add(node)
            self.order.append(node)
            for weight, other, edge in roads[node]:
                if cost + weight < self.best.get(other, np.inf):
                    self.best[other] = cost + weight
                    self.back[other] = (node, edge)
                    heapq.heappush(self._heap, (cost + weight, other))
            return True
        return False
