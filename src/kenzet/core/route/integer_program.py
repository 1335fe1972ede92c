"""The cheapest route as an integer program (HiGHS): a lower bound, and a route if it is solved.

Each edge is travelled u + 2 w times (0 or 1 each), y runs begin or end at a node, R is the number of runs. At
every node the degree of what is sewn plus u and y is even. From a set of nodes that contains something to sew, but
not everything, the route must lead out: if the number of line ends in it is even, x(out) + y(within) >= 2, if odd,
u(out) + y(within) >= 1, and always x(out) + R >= 2, where x = u + 2 w. These constraints are added only when
violated.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import highspy
import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.disjoint_set import root
from kenzet.core.route.network import Ints, Network
from kenzet.core.tolerances import EQUAL, FRACTIONAL, PROGRAM_GAP, PROGRAM_GAP_QUICK

_LEVELS = (EQUAL, 0.5)  # of travelling, above which nodes are taken to hang together
_ROUNDS = 60  # of rules
_MANY_RUNS = 1000


@dataclass(frozen=True, eq=False)
class Answer:
    """``edges`` to travel, with repetitions; unless ``whole``, they may leave several components."""

    edges: tuple[int, ...]
    whole: bool


def _row(
    highs: highspy.Highs, columns: Sequence[int], numbers: Sequence[float], least: float, most: float
) -> None:
    highs.addRow(least, most, len(columns), np.array(columns, dtype=np.int32), np.array(numbers, dtype=float))


def _cheapest(network: Network, prices: Floats) -> Ints:
    """Of parallel edges between two nodes, the cheapest."""
    found: dict[tuple[int, int], int] = {}
    for k in np.argsort(prices, kind="stable").tolist():
        a, b = sorted(network.ends[k].tolist())
        if a != b and np.isfinite(prices[k]):
            found.setdefault((a, b), k)
    return np.array(sorted(found.values()), dtype=np.int64)


class IntegerProgram:
    """The program for a ``network``, the ``prices`` of its edges (mm, infinite if not allowed), the price of a
    ``stop``, and the ``ends`` of the run (None if free)."""

    def __init__(self, network: Network, prices: Floats, stop: float, ends: tuple[int, int] | None) -> None:
        self._stop = stop
        self._edges = _cheapest(network, prices)
        self._ends = network.ends[self._edges]
        at = {(a, b): lane for lane, (a, b) in enumerate(np.sort(self._ends, axis=1).tolist())}
        self._lane = [at.get((a, b), -1) for a, b in np.sort(network.ends, axis=1).tolist()]
        self._many, self._lanes = len(network.points), len(self._edges)
        self._degrees = network.degrees
        self._sewn = self._degrees > 0
        over = list(range(self._many))
        for k in np.flatnonzero(network.passes).tolist():
            over[root(over, int(network.ends[k, 0]))] = root(over, int(network.ends[k, 1]))
        self._loops = [root(over, node) for node in range(self._many)]
        self._least = 0.0
        self._written: set[bytes] = set()
        self._highs = self._begun(prices[self._edges], ends)
        self._point = np.zeros(0)

    @property
    def bound(self) -> float:
        """A lower bound of the cost of every route, mm; it rises as constraints are added."""
        return self._least

    def relax(self) -> None:
        """Raises the bound with the linear relaxation."""
        highs = self._highs
        self._whole_numbers(False)
        for _ in range(_ROUNDS):
            highs.run()
            if highs.getModelStatus() != highspy.HighsModelStatus.kOptimal:
                return
            self._raised(highs.getInfo().objective_function_value)
            self._point = np.array(highs.getSolution().col_value)
            if not self._write(_LEVELS):
                return

    def solve(
        self,
        known: Sequence[int],
        stopped: Callable[[], bool] = bool,
        seconds: float = np.inf,
        looks: int | None = None,
    ) -> Answer | None:
        """The best integer solution under the present constraints, starting from the edges ``known``.

        None if none was found within ``seconds`` or ``looks`` callbacks of the library (which, unlike seconds,
        ends equally on every machine), or if it was ``stopped``. Constraints that the answer violates are added.
        """
        highs = self._highs
        self._whole_numbers(True)
        given = highspy.HighsSolution()
        given.col_value = self._numbers(known).tolist()
        highs.setSolution(given)
        highs.setOptionValue("time_limit", seconds)
        highs.setOptionValue("mip_heuristic_effort", 0.05 if looks is None else 0.0)
        highs.setOptionValue("mip_rel_gap", PROGRAM_GAP if looks is None else PROGRAM_GAP_QUICK)
        looked = 0

        def look(event: highspy.HighsCallbackEvent) -> None:
            nonlocal looked
            looked += 1
            if event.data_in is not None:
                event.data_in.user_interrupt = stopped() or (looks is not None and looked > looks)

        highs.cbMipInterrupt += look
        try:
            highs.run()
        finally:
            highs.cbMipInterrupt -= look
        info = highs.getInfo()
        self._raised(info.mip_dual_bound)
        if info.primal_solution_status != highspy.SolutionStatus.kSolutionStatusFeasible:
            return None
        self._point = np.round(highs.getSolution().col_value)
        times = (self._point[: self._lanes] + 2 * self._point[self._lanes : 2 * self._lanes]).astype(np.int64)
        return Answer(tuple(np.repeat(self._edges, times).tolist()), not self._write(_LEVELS[:1]))

    def _raised(self, found: float) -> None:
        self._least = max(self._least, found - self._stop) if np.isfinite(found) else self._least

    def _begun(self, prices: Floats, ends: tuple[int, int] | None) -> highspy.Highs:
        many, lanes = self._many, self._lanes
        highs: highspy.Highs = highspy.Highs()  # type: ignore[no-untyped-call]
        for option, value in (("output_flag", False), ("threads", 1), ("random_seed", 7)):
            highs.setOptionValue(option, value)
        least = np.zeros(2 * lanes + 2 * many + 1)
        most = np.concatenate(
            [np.ones(2 * lanes), 2.0 * self._sewn, np.full(many, np.inf), [float(_MANY_RUNS)]]
        )
        least[-1] = 1
        for node in ends or ():
            least[2 * lanes + node] += 1
        most = np.maximum(most, least)
        price = np.concatenate([prices, 2 * prices, np.zeros(2 * many), [self._stop]])
        none = np.zeros(0, dtype=np.int32)
        highs.addCols(len(price), price, least, most, 0, none, none, np.zeros(0))
        at: list[list[int]] = [[] for _ in range(many)]
        for lane, (a, b) in enumerate(self._ends.tolist()):
            at[a].append(lane)
            at[b].append(lane)
        for node, its in enumerate(at):
            odd = -float(self._degrees[node])
            columns = [*its, 2 * lanes + node, 2 * lanes + many + node]
            _row(highs, columns, [1.0] * len(its) + [-1.0, -2.0], odd, odd)
        runs = [*range(2 * lanes, 2 * lanes + many), 2 * lanes + 2 * many]
        _row(highs, runs, [1.0] * many + [-2.0], -np.inf, 0.0)
        return highs

    def _whole_numbers(self, on: bool) -> None:
        kind = highspy.HighsVarType.kInteger if on else highspy.HighsVarType.kContinuous
        count = 2 * self._lanes + 2 * self._many + 1
        self._highs.changeColsIntegrality(count, np.arange(count), np.array([kind] * count))

    def _numbers(self, edges: Iterable[int]) -> Floats:
        """The values of the columns for a route along ``edges``; parallel edges count as the cheapest of them."""
        lanes, many = self._lanes, self._many
        times = np.zeros(lanes, dtype=np.int64)
        for edge in edges:
            times[self._lane[edge]] += 1
        once, twice = times % 2, times // 2
        degrees = np.zeros(many, dtype=np.int64)
        np.add.at(degrees, self._ends, once[:, None])
        ends = (degrees + self._degrees) % 2
        labels = self._labels(times > 0, self._loops)
        for one in np.unique(labels[self._sewn]).tolist():
            its = np.flatnonzero((labels == one) & self._sewn)
            if not ends[its].any():
                ends[its[0]] = 2
        halves = (degrees + self._degrees - ends) / 2
        return np.concatenate([once, twice, ends, halves, [max(1, -(-int(ends.sum()) // 2))]]).astype(float)

    def _labels(self, open_: np.ndarray, within: Sequence[int]) -> Ints:
        """For every node the label of its component, by the edges ``open_`` and the components ``within``."""
        over = list(within)
        for a, b in self._ends[open_].tolist():
            over[root(over, a)] = root(over, b)
        return np.array([root(over, node) for node in range(self._many)], dtype=np.int64)

    def _write(self, levels: Sequence[float]) -> int:
        """Adds the constraints that the present solution violates; returns how many."""
        lanes, many, point = self._lanes, self._many, self._point
        once = point[:lanes]
        every = once + 2 * point[lanes : 2 * lanes]
        written = 0
        for level in levels:
            written += self._write_for(self._labels(every > level, self._loops), once, every, True)
            written += self._write_for(self._labels(once > level, range(many)), once, every, False)
        return written

    def _write_for(self, labels: Ints, once: Floats, every: Floats, together: bool) -> int:
        """The same for the sets given by ``labels``; with ``together``, each line lies within one of them."""
        lanes, many, point = self._lanes, self._many, self._point
        a, b = labels[self._ends].T
        out = a != b
        flow, single = np.zeros(many), np.zeros(many)
        for its in (a[out], b[out]):
            np.add.at(flow, its, every[out])
            np.add.at(single, its, once[out])
        ends = np.bincount(labels, point[2 * lanes : 2 * lanes + many], many)
        odd = np.bincount(labels, self._degrees, many).astype(np.int64) % 2 == 1
        sewn = np.bincount(labels, self._sewn, many) > 0
        if sewn.sum() < 2:
            return 0
        others = ends.sum() - ends
        runs = float(point[-1])
        written = 0
        rules: list[tuple[np.ndarray, str]] = [
            (sewn & odd & (single + np.minimum(ends, others) < 1 - FRACTIONAL), "odd")
        ]
        if together:
            rules += [
                (sewn & ~odd & (flow + np.minimum(ends, others) < 2 - FRACTIONAL), "even"),
                (sewn & (flow + runs < 2 - FRACTIONAL), "runs"),
            ]
        for broken, rule in rules:
            for one in np.flatnonzero(broken).tolist():
                written += self._written_down(
                    labels == one, (a == one) != (b == one), rule, bool(ends[one] <= others[one])
                )
        return written

    def _written_down(self, inside: np.ndarray, out: np.ndarray, rule: str, here: bool) -> int:
        """Adds one constraint for the nodes ``inside`` and the edges leading ``out``; counts the run ends
        ``here``, or all others."""
        key = rule.encode() + bytes([here]) + np.packbits(inside).tobytes()
        if key in self._written:
            return 0
        self._written.add(key)
        lanes = self._lanes
        once = np.flatnonzero(out).tolist()
        twice = [] if rule == "odd" else [lanes + lane for lane in once]
        counted = np.flatnonzero(inside if here else ~inside)
        other = [2 * lanes + 2 * self._many] if rule == "runs" else (2 * lanes + counted).tolist()
        numbers = [1.0] * len(once) + [2.0] * len(twice) + [1.0] * len(other)
        _row(self._highs, [*once, *twice, *other], numbers, 1.0 if rule == "odd" else 2.0, np.inf)
        return 1
