"""Loops that are not connected are patched into one run, and the run is shortened by exchanging joins.

A join is a pair of nodes between which one travels. Two joins (a, b), (c, d) are exchanged for (a, c), (b, d) or
(a, d), (b, c): that merges the loops they belong to, as in subtour patching. A node can be *visited*: that is the
join (v, v) of cost 0. An open end is a node at distance 0 to all. So the same exchange inserts a ring into a run,
moves the end of a run, or removes a detour. Deterministic: the random numbers are seeded.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import chain

import numpy as np
import rustworkx as rx

from kenzet.core.geom.region import Floats
from kenzet.core.route.disjoint_set import root
from kenzet.core.route.network import Ints
from kenzet.core.route.pairing import OPEN, Pair
from kenzet.core.route.shortest_paths import Roads
from kenzet.core.tolerances import COST_LEEWAY, SAME_COST

_TIDIED = 3
_PATIENCE = 12  # shakes that gain nothing
_DEAR = 1.10  # times the best: what costs more is not made shorter
_LOOKED = 120  # exchanges
_WORK = 2_000_000  # entries of exchange tables looked at when shaking

Exchange = tuple[int, int, bool]
"""Two joins by their rows, and whether they are crossed."""


class Patching:
    """For one set of lines: ``loops`` gives for every node its component of sewn lines (-1 if nothing is sewn
    there). If a thread cut is cheaper than a patch, loops stay separate. ``least`` is a lower bound of the
    cost."""

    def __init__(self, roads: Roads, loops: Sequence[int], stop: float, ways: TravelSets) -> None:
        assert roads.all is not None
        self._roads, self._stop, self._ways = roads, stop, ways
        self.least = -np.inf
        self._many = many = len(loops)
        self._far = np.zeros((many + 1, many + 1))  # the last is every open end
        self._far[:many, :many] = roads.all
        np.fill_diagonal(self._far, 0.0)
        self._visits = np.array([node for node, loop in enumerate(loops) if loop >= 0], dtype=np.int64)
        numbers = {loop: k for k, loop in enumerate(dict.fromkeys(loop for loop in loops if loop >= 0))}
        self._loop = [numbers.get(loop, -1) for loop in loops]
        self._loops = len(numbers)
        self._loop_at = np.array([*self._loop, -1])
        self._vias: dict[Pair, tuple[int, ...]] = {}
        self._best = self._here = np.zeros((0, 2), dtype=np.int64)
        self._begun = False
        self._shakes = self._gained = 0
        self._chance = np.random.default_rng(7)

    @property
    def best(self) -> list[Pair]:
        """The joins of the shortest route found."""
        return self._pairs(self._best)

    @property
    def done(self) -> bool:
        """Whether it is proven shortest."""
        return self._begun and (len(self._best) < 3 or self._worth(self._best) <= self.least + SAME_COST)

    @property
    def tired(self) -> bool:
        """Whether many perturbations in a row found nothing."""
        return self._shakes - self._gained > _PATIENCE

    @property
    def affordable(self) -> int:
        """The number of perturbations that take a reasonable time."""
        return int(_WORK // max((len(self._best) + len(self._visits)) ** 2, 1))

    def begin(self, starts: Iterable[Sequence[Pair]]) -> None:
        """Patches and shortens each of ``starts`` to a local optimum."""
        for pairs in starts:
            found = self._settled(self._table(pairs))
            if not self._begun or self._worth(found) < self._worth(self._best):
                self._best, self._begun = found, True
            if self.done:
                break
        self._here = self._best

    def lead(self) -> None:
        """Flips the best route around one face after another as long as that is shorter."""
        self._best = self._here = self._led(self._best)

    def offer(self, pairs: Sequence[Pair]) -> None:
        """Patches and shortens a route found elsewhere, and takes it if it is shorter."""
        self._weighed(self._settled(self._table(pairs)))

    def shake(self) -> None:
        """Perturbs the route at random, and shortens it."""
        chance, here, kind = self._chance, self._here, self._shakes % 4
        if kind == 0:
            shaken = self._table(self._ways.forced(*self._near_by(chance)))
        elif kind == 1 and self._ways.faces:
            shaken = here
            for number in chance.choice(self._ways.faces, min(2, self._ways.faces), replace=False).tolist():
                shaken = self._table(self._ways.turned(self._pairs(shaken), number))
        else:
            shaken = self._rematched(here, chance) if kind < 3 else self._shaken(here, chance)
        self._weighed(self._settled(shaken))
        self._shakes += 1

    def _weighed(self, tried: Ints) -> None:
        worth, its = self._worth(self._best), self._worth(tried)
        if its <= (1 + COST_LEEWAY) * worth:  # a little worse will do: it may lead on
            self._here = tried
        if its < worth - SAME_COST:
            self._best = self._here = self._led(tried)
            self._gained = self._shakes

    def _settled(self, pairs: Ints) -> Ints:
        """Patches, shortens and tidies, repeatedly as long as tidying helps."""
        found = self._shortened(self._patched(pairs))
        worth = self._worth(found)
        for _ in range(_TIDIED):
            tidy = self._shortened(self._patched(self._table(self._ways.tidied(self._pairs(found)))))
            its = self._worth(tidy)
            if its >= worth - SAME_COST:
                break
            found, worth = tidy, its
        return found

    def _led(self, pairs: Ints) -> Ints:
        many = self._ways.faces
        best, worth, k, last = pairs, self._worth(pairs), 0, 0
        while k - last < many and worth > self.least + SAME_COST:
            other = self._table(self._ways.turned(self._pairs(best), k % many))
            k += 1
            if self._far[other[:, 0], other[:, 1]].sum() > _DEAR * worth:
                continue
            other = self._settled(other)
            if self._worth(other) < worth - SAME_COST:
                best, worth, last = other, self._worth(other), k
        return best

    def _pairs(self, table: Ints) -> list[Pair]:
        many = self._many
        return [
            (int(a) if a < many else OPEN, int(b) if b < many else OPEN) for a, b in table.tolist() if a != b
        ]

    def _near_by(self, chance: np.random.Generator) -> Pair:
        """Two random nodes near each other."""
        a = int(chance.choice(self._visits))
        near = self._visits[np.argsort(self._far[a, self._visits])[1:5]]
        near = near[np.isfinite(self._far[a, near])]
        return a, int(chance.choice(near)) if len(near) else a

    def _table(self, pairs: Sequence[Pair]) -> Ints:
        many = self._many
        found = [(a if a >= 0 else many, b if b >= 0 else many) for a, b in pairs]
        return np.array(found, dtype=np.int64).reshape(-1, 2)

    def _worth(self, pairs: Ints) -> float:
        runs = self._parts(pairs)
        opens = int((pairs == self._many).sum())
        return float(self._far[pairs[:, 0], pairs[:, 1]].sum()) + (max(runs, opens // 2) - 1) * self._stop

    def _roots(self, pairs: Ints) -> list[int]:
        """For every loop the root of its run."""
        over = self._merged(pairs)[0]
        return [root(over, one) for one in range(self._loops)]

    def _parts(self, pairs: Ints) -> int:
        """The number of runs."""
        return self._merged(pairs)[1]

    def _merged(self, pairs: Ints) -> tuple[list[int], int]:
        """The disjoint-set forest of loops by ``pairs``, and the number of runs."""
        return self._hung([self._meets(a, b) for a, b in pairs.tolist()])

    def _hung(self, met: Iterable[tuple[int, ...]]) -> tuple[list[int], int]:
        """The same if ``met`` lists the loops that each join meets. The innermost loop of the search: roots are
        found inline."""
        over, left = list(range(self._loops)), self._loops
        for via in met:
            if not via:
                continue
            first = via[0]
            while over[first] != first:
                over[first] = first = over[over[first]]
            for other in via[1:]:
                while over[other] != other:
                    over[other] = other = over[over[other]]
                if other != first:
                    over[other] = first
                    left -= 1
        return over, left

    def _meets(self, a: int, b: int) -> tuple[int, ...]:
        """The loops that a join merges; empty for a visit, an open end, or a single loop."""
        if a == b or a >= self._many or b >= self._many:
            return ()
        via = self._vias.get((a, b))
        return self._via(a, b) if via is None else via

    def _via(self, a: int, b: int) -> tuple[int, ...]:
        """The loops that the travel from a to b meets."""
        met = (self._loop[node] for node in self._roads.nodes(a, b))
        found = tuple(dict.fromkeys(loop for loop in met if loop >= 0))
        if len(found) < 2:
            found = ()
        self._vias[a, b] = self._vias[b, a] = found
        return found

    def _patched(self, pairs: Ints) -> Ints:
        """Applies the cheapest exchanges that merge runs; with many runs, several disjoint ones at a time."""
        while True:
            roots = np.array([*self._roots(pairs), -1])
            parts = len(set(roots.tolist())) - 1
            if parts <= max(
                int((pairs == self._many).sum()) // 2, 1
            ):  # each has its own two ends: nothing is saved
                return pairs
            every = np.vstack([pairs, np.stack([self._visits, self._visits], axis=1)])
            part = roots[self._loop_at[every]].max(axis=1)
            gain, crossed = self._exchanges(every)
            gain[part[:, None] == part[None]] = np.inf
            merged: set[int] = set()
            chosen: list[Exchange] = []
            for k in self._least_of(gain):
                i, j = divmod(k, len(every))
                if not gain[i, j] < self._stop:
                    break
                its = {int(part[i]), int(part[j])}
                if len(chosen) > parts // 8:
                    break
                if not its & merged:
                    merged |= its
                    chosen.append((i, j, bool(crossed[i, j])))
            pairs = self._exchanged(pairs, every, chosen)
            if self._parts(pairs) >= parts:
                return pairs

    @staticmethod
    def _least_of(gain: Floats) -> list[int]:
        """The indices of the smallest entries in order."""
        flat = gain.ravel()
        some = min(_LOOKED, len(flat) - 1)
        chosen = np.argpartition(flat, some)[:some] if some > 0 else np.zeros(0, dtype=np.int64)
        found: list[int] = chosen[np.argsort(flat[chosen])].tolist()
        return found

    def _exchanges(self, every: Ints) -> tuple[Floats, np.ndarray]:
        """The additional cost of each exchange of two joins, and whether the crossed one is cheaper."""
        a, b = every[:, 0], every[:, 1]
        cost = self._far[a, b]
        straight = self._far[np.ix_(a, a)] + self._far[np.ix_(b, b)]
        crossed = self._far[np.ix_(a, b)]
        crossed = crossed + crossed.T
        with np.errstate(invalid="ignore"):
            more = np.minimum(straight, crossed) - cost[:, None] - cost[None]
        more[np.isnan(more)] = np.inf
        np.fill_diagonal(more, np.inf)
        return more, crossed < straight

    def _exchanged(self, pairs: Ints, every: Ints, chosen: Sequence[Exchange]) -> Ints:
        """``pairs`` after exchanges of rows of ``every``, which begins with them; visits remain available."""
        kept = np.ones(len(pairs), dtype=bool)
        new: list[Pair] = []
        for one in chosen:
            new += self._new(every, one)
            kept[[k for k in one[:2] if k < len(pairs)]] = False
        left = [pair for pair in new if pair[0] != pair[1]]
        return np.vstack([pairs[kept], np.array(left, dtype=np.int64).reshape(-1, 2)])

    @staticmethod
    def _new(every: Ints, exchange: Exchange) -> list[Pair]:
        """The two joins that result from an exchange of two rows of ``every``."""
        i, j, crossed = exchange
        (a, b), (c, d) = every[i].tolist(), every[j].tolist()
        return [(a, d), (b, c)] if crossed else [(a, c), (b, d)]

    def _shortened(self, pairs: Ints) -> Ints:
        """Applies exchanges that shorten the run and keep it connected, the best first, until there are none."""
        many = self._parts(pairs)
        for _ in range(_LOOKED):
            if len(pairs) < 2:
                return pairs
            gain, crossed = self._exchanges(pairs)
            table, touched = pairs, set[int]()
            rows, new = [self._meets(a, b) for a, b in table.tolist()], list[tuple[int, ...]]()
            chosen: list[Exchange] = []
            for k in self._least_of(gain):
                i, j = divmod(k, len(table))
                if gain[i, j] > -SAME_COST:
                    break
                if i in touched or j in touched:
                    continue
                one = (i, j, bool(crossed[i, j]))
                its = [self._meets(a, b) for a, b in self._new(table, one)]
                rest = (met for row, met in enumerate(rows) if row not in touched and row not in (i, j))
                parts = self._hung(chain(rest, new, its))[1]
                if parts <= many:
                    many = parts
                    chosen.append(one)
                    touched |= {i, j}
                    new += its
            pairs, changed = self._exchanged(table, table, chosen), bool(chosen)
            if not changed:
                return pairs
        return pairs

    def _rematched(self, pairs: Ints, chance: np.random.Generator) -> Ints:
        """Matches the joins near a random node again, with their costs increased at random by up to half."""
        node = int(chance.choice(self._visits))
        away = self._far[node][pairs].min(axis=1)
        near = np.argsort(away, kind="stable")[: int(chance.integers(4, 13))]
        near = near[np.isfinite(away[near]) & (pairs[near] < self._many).all(axis=1)]
        nodes = pairs[near].ravel()
        if len(nodes) < 4:
            return pairs
        dear = self._far[np.ix_(nodes, nodes)] * (1 + chance.random((len(nodes), len(nodes))) / 2)
        graph = rx.PyGraph(multigraph=False)
        graph.add_nodes_from(range(len(nodes)))
        i, j = np.nonzero(np.triu(np.isfinite(dear), 1))
        most = float(dear[i, j].max())
        weights = np.round((2 * most - dear[i, j]) * 1000).astype(np.int64).tolist()
        graph.add_edges_from(list(zip(i.tolist(), j.tolist(), weights, strict=True)))
        matched = sorted(rx.max_weight_matching(graph, max_cardinality=True, weight_fn=int))
        new = np.array([(nodes[a], nodes[b]) for a, b in matched], dtype=np.int64).reshape(-1, 2)
        new = new[new[:, 0] != new[:, 1]]
        return np.vstack([np.delete(pairs, near, axis=0), new])

    def _shaken(self, pairs: Ints, chance: np.random.Generator) -> Ints:
        """Exchanges two random neighboring joins, and two more."""
        for _ in range(2):
            i = int(chance.integers(len(pairs)))
            gain, crossed = self._exchanges(pairs)
            near = np.argsort(gain[i])[:8]
            j = int(near[chance.integers(len(near))])
            if i != j and np.isfinite(gain[i, j]):
                pairs = self._exchanged(pairs, pairs, [(i, j, bool(crossed[i, j]))])
        return pairs


def opens(pairs: Iterable[Pair]) -> int:
    """The number of open ends."""
    return sum((a == OPEN) + (b == OPEN) for a, b in pairs)


@dataclass(frozen=True, slots=True)
class TravelSets:
    """Operations on sets of travelled edges: ``forced(a, b)`` gives the cheapest joins that include one,
    ``tidied`` equivalent joins without what cancels out, ``turned(joins, k)`` the joins that go around face k
    of ``faces`` on the other side."""

    forced: Callable[[int, int], Sequence[Pair]]
    tidied: Callable[[Sequence[Pair]], Sequence[Pair]]
    turned: Callable[[Sequence[Pair], int], Sequence[Pair]]
    faces: int
