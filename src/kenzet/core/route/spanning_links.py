"""Large networks: loops are linked by a spanning tree, and parity is solved again, until everything is connected."""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterable, Sequence

import numpy as np

from kenzet.core.route.disjoint_set import root
from kenzet.core.route.shortest_paths import Roads

_ROUNDS = 12


def linked(
    join: Callable[[Sequence[int]], Sequence[int]],
    roads: Roads,
    ends: Sequence[tuple[int, int]],
    odd: Sequence[int],
    loops: Sequence[int],
    stop: float,
) -> list[int]:
    """The edges to travel. ``join`` gives those that join odd nodes, ``loops`` are the components so far; a link
    that costs more than a thread cut is not used."""
    links: dict[int, None] = {}
    used: list[int] = []
    for _ in range(_ROUNDS):
        parity = set(odd)
        for k in links:
            parity ^= {ends[k][0]}
            parity ^= {ends[k][1]}
        used = [*links, *join(sorted(parity))]
        more = set(_tree(roads, ends, used, loops, stop)) - set(links)
        if not more:
            break
        links |= dict.fromkeys(sorted(more))
    return used


def _tree(
    roads: Roads, ends: Sequence[tuple[int, int]], used: Iterable[int], loops: Sequence[int], stop: float
) -> list[int]:
    """The edges of a spanning tree over the components that ``used`` leaves, by their nearest points."""
    label = list(loops)
    over = list(range(len(label)))

    for k in used:
        for node in ends[k]:
            if label[node] < 0:
                label[node] = node
        over[root(over, label[ends[k][0]])] = root(over, label[ends[k][1]])
    owner = {node: root(over, one) for node, one in enumerate(label) if one >= 0}
    best = dict.fromkeys(owner, 0.0)
    back: dict[int, tuple[int, int]] = {}
    heap = [(0.0, node) for node in owner]
    done: set[int] = set()
    while heap:
        cost, node = heapq.heappop(heap)
        if node in done:
            continue
        done.add(node)
        for weight, other, edge in roads.by_node[node]:
            if other not in done and cost + weight < best.get(other, np.inf):
                best[other], owner[other], back[other] = cost + weight, owner[node], (node, edge)
                heapq.heappush(heap, (cost + weight, other))
    bridges = sorted(
        (best[a] + best[b] + roads.price(k), k)
        for k, (a, b) in enumerate(ends)
        if a in owner and b in owner and owner[a] != owner[b]
    )
    found: list[int] = []
    for cost, k in bridges:
        one, other = root(over, owner[ends[k][0]]), root(over, owner[ends[k][1]])
        if one != other and cost < stop:
            over[one] = other
            found += [k, *_to_source(back, ends[k][0]), *_to_source(back, ends[k][1])]
    return found


def _to_source(back: dict[int, tuple[int, int]], node: int) -> list[int]:
    found = []
    while node in back:
        node, edge = back[node]
        found.append(edge)
    return found
