"""Initial routes for the search: plain rows, greedy linking, runs from the outermost lines."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.lines import Lines
from kenzet.core.route.pairing import OPEN, Pair, joined
from kenzet.core.route.travel_edges import Ends

_TIPS = 8  # nodes to begin or end at
_WAYS = 6  # from loop to loop
_SOLVED = 150  # times that parity is solved to lead on


def rows(lines: Lines) -> list[list[Pair]]:
    """Plain rows: line after line in order, each joined to the nearer end of the next; from either end of the
    first."""
    far, each = lines.lanes.roads.all, lines.lanes.network.lines
    assert far is not None
    found = []
    for first in (0, 1):
        if not each:
            break
        pairs: list[Pair] = [(each[0][first], OPEN)]
        here = each[0][1 - first]
        for ends in each[1:]:
            near = min(ends, key=lambda node: far[here, node])
            pairs += [(here, near)] if np.isfinite(far[here, near]) else [(here, OPEN), (near, OPEN)]
            here = ends[1] if near == ends[0] else ends[0]
        found.append([*pairs, (here, OPEN)])
    return found


def led_on(lines: Lines, ends: Ends) -> list[Pair]:
    """Greedy linking: repeatedly the link between loops that costs least once parity is solved with it.

    A link on one side of a zone changes the pairing on that whole side, which local exchanges seldom find.
    """
    lanes, roads = lines.lanes, lines.lanes.roads
    assert roads.all is not None
    free = 2 if ends is None else 0
    given: list[Pair] = []
    joins = lines.joined(ends)
    groups = lines.travel(joins, ends).groups
    solved = 0
    while len(groups) > 1 and solved < _SOLVED:
        tried = []
        for way in _ways_on(groups, roads.all)[:_WAYS]:
            parity = set(lines.odd(ends))
            for node in (node for pair in (*given, way) for node in pair):
                parity ^= {node}
            some = [*given, way, *joined(roads, sorted(parity), free, lanes.costs.stop, set(joins))]
            solved += 1
            for there, all_of in (((way,), some), ((way, way), [*joins, way, way])):  # or back and forth
                travel = lines.travel(all_of, ends)
                worth = len(travel.groups) * lanes.costs.stop + travel.cost
                tried.append((worth, there, all_of, travel.groups))
        if not tried:
            break
        _, there, joins, after = min(tried, key=lambda one: one[0])
        if len(after) >= len(groups):
            break
        given, groups = [*given, *there], after
    return joins


def _ways_on(groups: Sequence[frozenset[int]], far: Floats) -> list[Pair]:
    """The shortest link from each group to another, the shortest first."""
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


def from_tips(lines: Lines) -> list[list[Pair]]:
    """Runs that begin and end at the outermost lines: the cheapest, and the cheapest that is connected."""
    tips = [tip for tip in lines.lanes.network.tips if lines.degrees[tip]]
    tips = tips if len(tips) <= _TIPS else _extremes(lines)
    found = []
    for pair in combinations(tips, 2):
        joins = lines.joined(pair)
        travel = lines.travel(joins, pair)
        found.append((len(travel.groups) > 1, travel.cost, [*joins, *((tip, OPEN) for tip in pair)]))
    found.sort(key=lambda one: one[:2])
    return [joins for _, _, joins in [*found[:1], *sorted(found, key=lambda one: one[1])[:1]]]


def _extremes(lines: Lines) -> list[int]:
    """The outermost odd nodes in eight directions."""
    odd = np.array(lines.odd(None))
    if not len(odd):
        return []
    turns = np.radians(np.arange(8) * 45.0 + 1.0)
    out = lines.lanes.network.points[odd] @ np.stack([np.cos(turns), np.sin(turns)])
    return sorted(set(odd[out.argmax(axis=0)].tolist()))
