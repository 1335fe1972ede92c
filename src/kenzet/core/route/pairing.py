"""Odd nodes joined in pairs for the least: a minimum-weight T-join by matching (rustworkx)."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
import rustworkx as rx

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import Ints
from kenzet.core.route.shortest_paths import Roads

NEAR = 10
"""So many of the nearest odd nodes are tried as partners; more where that pairs not all of them."""
_GRAIN = 1e4  # weights are whole numbers of 1/10,000 mm
_APART = 1 << 20
_FAVOUR = 0.02  # mm
OPEN = -1

Pair = tuple[int, int]
"""Two nodes that are joined; OPEN in place of one: a run begins or ends at the other."""


def joined(
    roads: Roads, odd: Sequence[int], free: int, stop: float, favoured: Collection[Pair] = ()
) -> list[Pair]:
    """The cheapest pairs of the nodes ``odd``; ``free`` of them may stay open for nothing, any more for half a stop each.
    A node from which no lane leads on stays open. Among equally cheap ones those are taken that are ``favoured``.
    """
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
    """Pairs of the places 0 to ``count``; those from there on are open ends that cost nothing. What is not matched is open
    for half a stop: so a pair gains a stop less its way, a free end half a stop.
    """
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
    """A little, never the same for two pairs that are likely to be weighed against each other: of equally cheap matchings
    the library takes now one, now another, and a route must be the same each time that it is asked for.
    """
    return (a * 2654435761 + b * 2246822519) % 1021
