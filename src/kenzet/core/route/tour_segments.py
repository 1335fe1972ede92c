"""Large networks: along a seam between two junctions there is only one choice, so that only junctions have to be
matched.

Glossary: a *chain* is a sequence of lanes from junction to junction without another lane between. Along it, odd
nodes are joined to the one before or the one after; whether its first lane is travelled decides which. Exact,
except that retracing and steps are left out, and open ends are considered at junctions only.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import LANES, Ints, Network
from kenzet.core.route.pairing import OPEN, joined
from kenzet.core.route.shortest_paths import Roads

Flags = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class _Chain:
    """From junction ``start`` to ``end`` over ``edges``; ``nodes`` are those between, one fewer."""

    start: int
    end: int
    edges: Ints
    nodes: Ints
    lengths: Floats


class Chains:
    """The chains of the ditches and edges of ``network`` at ``prices``."""

    def __init__(self, network: Network, prices: Floats) -> None:
        self._many = len(network.points)
        lanes = np.flatnonzero(np.isfinite(prices) & np.isin(network.kinds, LANES))
        self._ends, self._prices = network.ends, prices
        self._at: list[list[int]] = [[] for _ in range(self._many)]
        for k in lanes.tolist():
            a, b = network.ends[k].tolist()
            if a != b:
                self._at[a].append(k)
                self._at[b].append(k)
        self._chains = self._found()

    def _found(self) -> list[_Chain]:
        junctions = [node for node, edges in enumerate(self._at) if edges and len(edges) != 2]
        done: set[int] = set()
        found = [
            chain for node in junctions for edge in self._at[node] if (chain := self._chain(node, edge, done))
        ]
        for node, edges in enumerate(self._at):  # rings of seam that meet no other
            found += [chain for edge in edges if (chain := self._chain(node, edge, done, alone=True))]
        return found

    def _chain(self, start: int, edge: int, done: set[int], alone: bool = False) -> _Chain | None:
        if edge in done:
            return None
        edges, nodes, here = [edge], [], self._over(edge, start)
        done.add(edge)
        while len(self._at[here]) == 2 and not (alone and here == start):
            following = next(k for k in self._at[here] if k != edges[-1])
            if following in done:
                break
            nodes.append(here)
            edges.append(following)
            done.add(following)
            here = self._over(following, here)
        return _Chain(start, here, np.array(edges), np.array(nodes, dtype=np.int64), self._prices[edges])

    def _over(self, edge: int, node: int) -> int:
        a, b = self._ends[edge].tolist()
        return int(b if a == node else a)

    def saved_within(self, odd: Collection[int]) -> float:
        """An upper bound of what an open end within a chain saves compared with one at a junction: travelled and
        untravelled lanes from there to the nearer end would be swapped."""
        is_odd = np.zeros(self._many, dtype=bool)
        is_odd[list(odd)] = True
        most = 0.0
        for chain in self._chains:
            signed = np.where(
                np.concatenate([[False], np.cumsum(is_odd[chain.nodes]) % 2 == 1]),
                chain.lengths,
                -chain.lengths,
            )
            before = np.abs(np.cumsum(signed))
            after = np.abs(signed.sum() - np.cumsum(signed))
            most = max(most, float(np.minimum(before, after).max()))
        return most

    def joins(self, odd: Collection[int], free: int, stop: float) -> list[int]:
        """The edges to travel so that every node of ``odd`` is joined, except two if ``free`` is 2."""
        is_odd = np.zeros(self._many, dtype=bool)
        is_odd[list(odd)] = True
        parity = is_odd.copy()
        used: list[Flags] = []
        gains: list[float] = []
        for chain in self._chains:
            first = np.concatenate([[False], np.cumsum(is_odd[chain.nodes]) % 2 == 1])
            cost = float(chain.lengths[first].sum())
            other = float(chain.lengths.sum()) - cost
            if other < cost:
                first = ~first
            used.append(first)
            gains.append(abs(other - cost))
            parity[chain.start] ^= bool(first[0])
            parity[chain.end] ^= bool(first[-1])
        for node in (node for chain in self._chains for node in chain.nodes.tolist()):
            parity[node] = False  # settled along its chain
        self._settle(np.flatnonzero(parity).tolist(), used, gains, free, stop)
        return [int(k) for chain, some in zip(self._chains, used, strict=True) for k in chain.edges[some]]

    def _settle(
        self, odd: Sequence[int], used: list[Flags], gains: Sequence[float], free: int, stop: float
    ) -> None:
        """Joins the remaining junctions along the chains whose other choice costs least more."""
        names = sorted({node for chain in self._chains for node in (chain.start, chain.end)} | set(odd))
        number = {node: k for k, node in enumerate(names)}
        ends = np.array([(number[chain.start], number[chain.end]) for chain in self._chains]).reshape(-1, 2)
        roads = Roads(len(names), ends, np.array(gains))
        for a, b in joined(roads, [number[node] for node in odd], free, stop):
            if OPEN not in (a, b):
                for chain in roads.path(a, b):
                    used[chain] = ~used[chain]
