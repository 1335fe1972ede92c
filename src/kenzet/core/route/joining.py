"""Odd nodes joined in pairs for the least: a minimum-weight T-join by matching (rustworkx)."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
import rustworkx as rx

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import Ints
from kenzet.core.route.roads import Roads

NEAR = 10
"""So many of the nearest odd nodes are tried as partners; more where that pairs not all of them."""
_GRAIN = 1e4  # weights are whole numbers of 1/10,000 mm
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
        if favoured:
            liked = [(odd[a], odd[b]) in favoured or (odd[b], odd[a]) in favoured for a, b in pairs.tolist()]
            away = away - _FAVOUR * np.array(liked)
        matched = _matched(len(odd), pairs, away, free, stop)
        loose = set(range(len(odd))) - {k for pair in matched for k in pair}
        if not loose or near >= len(odd):
            break
        near *= 3
    found = [
        (odd[a], odd[b] if b < len(odd) else OPEN)
        for a, b in (sorted(pair) for pair in matched)
        if a < len(odd)
    ]
    return [*found, *((odd[k], OPEN) for k in sorted(loose))]


def _matched(count: int, pairs: Ints, away: Floats, free: int, stop: float) -> list[tuple[int, int]]:
    """Pairs of the places 0 to ``count``; those from there on are open ends."""
    most = float(away.max(initial=1.0))
    nearest = np.full(count, np.inf)
    np.minimum.at(nearest, pairs[:, 0], away)
    np.minimum.at(nearest, pairs[:, 1], away)
    lonely = int((nearest > stop / 2).sum())  # these may rather stay open
    many = free + lonely + lonely % 2
    many += (count + many) % 2
    big = int((2 * most + stop + 1) * _GRAIN) + 1
    graph = rx.PyGraph(multigraph=False)
    graph.add_nodes_from(range(count + many))
    weights = (big - np.round(away * _GRAIN)).astype(np.int64).tolist()
    edges = [(a, b, weight) for (a, b), weight in zip(pairs.tolist(), weights, strict=True)]
    for k in range(many):
        price = 0.0 if k < free else stop / 2
        edges += [(a, count + k, big - round(price * _GRAIN)) for a in range(count)]
        edges += [(count + k, count + j, big) for j in range(k)]
    graph.add_edges_from(edges)
    return sorted(rx.max_weight_matching(graph, max_cardinality=True, weight_fn=int))
