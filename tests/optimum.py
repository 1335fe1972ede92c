"""The proven optimum of a route by an integer program (HiGHS), for tests only: it shares nothing with the solver but the network."""

from __future__ import annotations

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import lil_matrix

from kenzet.core.route.costs import Costs
from kenzet.core.route.network import Network


def optimum(network: Network, costs: Costs, seconds: float = 60.0, gap: float = 1e-6) -> float:
    """The least that is travelled, and paid for stops, mm: free ends, every run connected.

    Variables: how often each lane is travelled (0 to 2), half of every node's degree, whether a run ends there, runs.
    """
    weights = costs.of(network)
    roads = np.flatnonzero(np.isfinite(weights))
    n, m = len(network.points), len(roads)
    width = m + 2 * n + 1  # lanes, halves, ends, runs
    prices = np.concatenate([weights[roads], np.zeros(2 * n), [costs.stop]])
    upper = np.concatenate([np.full(m, 2), np.full(n, 1000), np.ones(n), [1000]])
    lower = np.concatenate([np.zeros(m + 2 * n), [1]])
    rows = []
    parity = lil_matrix((n, width))
    for k, edge in enumerate(roads):
        for node in network.ends[edge]:
            parity[node, k] += 1
    for node in range(n):
        parity[node, m + node] = -2
        parity[node, m + n + node] = -1
    rows.append(LinearConstraint(parity.tocsr(), -network.degrees, -network.degrees))
    ends = lil_matrix((1, width))
    ends[0, m + n : m + 2 * n] = 1
    ends[0, -1] = -2
    rows.append(LinearConstraint(ends.tocsr(), -np.inf, 0))
    while True:
        found = milp(
            prices,
            integrality=np.ones(width),
            bounds=Bounds(lower, upper),
            constraints=rows,
            options={"time_limit": seconds, "mip_rel_gap": gap},
        )
        assert found.x is not None, found.message
        assert found.status == 0, found.message
        cuts = _cuts(network, roads, np.round(found.x).astype(int), width)
        if not cuts:
            return float(found.fun - costs.stop)
        rows += cuts


def _cuts(network, roads, x, width):
    """Every piece that no run links to the rest must be left along a lane, or be a run of its own."""
    used = [
        *np.flatnonzero(network.passes).tolist(),
        *(int(roads[k]) for k in np.flatnonzero(x[: len(roads)])),
    ]
    over = list(range(len(network.points)))

    def root(node):
        while over[node] != node:
            node = over[node]
        return node

    for edge in used:
        a, b = network.ends[edge].tolist()
        over[root(a)] = root(b)
    needed = {root(int(node)) for edge in np.flatnonzero(network.passes) for node in network.ends[edge]}
    runs = x[-1]
    if len(needed) <= runs:
        return []
    found = []
    for piece in needed:
        inside = np.array([root(node) == piece for node in range(len(network.points))])
        row = lil_matrix((1, width))
        for k, edge in enumerate(roads):
            a, b = network.ends[edge]
            if inside[a] != inside[b]:
                row[0, k] = 1
        row[0, -1] = 1
        found.append(LinearConstraint(row.tocsr(), 2, np.inf))
    return found
