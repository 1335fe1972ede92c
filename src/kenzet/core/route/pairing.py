"""Joins odd nodes in pairs at the least cost: a minimum-weight T-join by matching (rustworkx)."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
import rustworkx as rx

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import Ints
from kenzet.core.route.shortest_paths import Roads

NEAR = 10
"""The number of nearest odd nodes tried as partners; more if not all can be paired."""
_GRAIN = 1e4  # weights are whole numbers of 1/10,000 mm
_APART = 1 << 20
_FAVOUR = 0.02  # mm
OPEN = -1

Pair = tuple[int, int]
"""Two nodes that are joined. If one is OPEN, a run begins or ends at the other."""


def joined(
    roads: Roads, odd: Sequence[int], free: int, stop: float, favoured: Collection[Pair] = ()
) -> list[Pair]:
    """The cheapest pairs of the nodes ``odd``. ``free`` of them may stay open at no cost, others for half a thread
    cut each; a node without a lane stays open. Among equally cheap pairs, ``favoured`` ones are preferred."""
    if not odd:
        return []
    near = NEAR
    while True:
        pairs, away = roads.near(odd, near)
        farthest = np.full(len(odd), -np.inf)
        np.maximum.at(farthest, pairs.ravel(), np.repeat(away, 2))
        if favoured:
            liked = [(odd[a], odd[b]) in favoured or (odd[b], odd[a]) in favoured for a, b in pairs.tolist()]
            away = away - _FAVOUR * np.array(liked)
        matched = _matched(len(odd), pairs, away, free, stop)
        alone = sorted(set(range(len(odd))) - {k for pair in matched for k in pair})
        if near >= len(odd) or not any(-np.inf < farthest[k] < stop for k in alone):
            break
        near *= 3
    found = [(odd[a], odd[b] if b < len(odd) else OPEN) for a, b in matched]
    return [*found, *((odd[k], OPEN) for k in alone)]


def _matched(count: int, pairs: Ints, away: Floats, free: int, stop: float) -> list[tuple[int, int]]:
    """Pairs of the indices 0 to ``count``; indices from there on are open ends without cost. An unmatched index is
    open for half a thread cut, so a pair gains a cut minus its length, a free end half a cut."""
    worth = away < stop
    gains = np.round((stop - away[worth]) * _GRAIN).astype(np.int64).tolist()
    graph = rx.PyGraph(multigraph=False)
    graph.add_nodes_from(range(count + free))
    edges = [
        (a, b, gain * _APART + _odds(a, b)) for (a, b), gain in zip(pairs[worth].tolist(), gains, strict=True)
    ]
    half = max(round(stop / 2 * _GRAIN), 1)
    edges += [(a, count + k, half * _APART + _odds(a, count)) for k in range(free) for a in range(count)]
    graph.add_edges_from(edges)
    found = rx.max_weight_matching(graph, max_cardinality=False, weight_fn=int)
    return sorted((min(a, b), min(max(a, b), count)) for a, b in found)


def _odds(a: int, b: int) -> int:
    """A small number that differs between competing pairs: it breaks ties, as the library's choice among equal
    matchings may vary and a route must always be the same."""
    return (a * 2654435761 + b * 2246822519) % 1021
