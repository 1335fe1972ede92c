"""Which candidate each zone gets, as an integer program (HiGHS).

Each zone takes one candidate. The number of kinds of fill is limited; no kind is used in one place only, except
one accent. The minutes stay within the hours available. Two neighbors that look alike add a cost: for any
candidates of both within one ratio of density, t(pair) >= the sum of their x - 1. The bound is tight, because two
zones look alike exactly if one such window holds both. Plans shown before are excluded: at least every second zone
must have another candidate.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import highspy
import numpy as np

from kenzet.core.advice.contrast import ratio
from kenzet.core.proposals.candidates import Candidate
from kenzet.core.tolerances import PROGRAM_GAP_QUICK

MOST_WORK, _LEAST_NODES, SECONDS = 6_000, 2, 60.0
"""Limit of nodes times variables, equal on every machine, after which the best known choice is taken; the seconds
are only a safeguard."""
APART = 2
"""At least one of this many zones has another fill in the next proposal."""


@dataclass(frozen=True)
class Problem:
    """The choice to make: the ``candidates`` of each zone, and the number of its ``places``.

    ``stays`` is mm for each mm² of zones that keep their fill, ``kept_kinds`` the kinds of these fills; ``beside``
    are pairs of neighbors.
    """

    candidates: Mapping[str, Sequence[Candidate]]
    places: Mapping[str, int]
    stays: Mapping[str, float]
    kept_kinds: frozenset[type]
    beside: Sequence[tuple[str, str]]
    kinds: int
    reads: float


@dataclass(frozen=True)
class Bounds:
    """Upper limits of the sums over all zones; None if there is no limit. ``shown`` are choices to exclude."""

    minutes: float | None = None
    firmness: float | None = None
    alike: int | None = None
    shown: Sequence[Mapping[str, Candidate]] = field(default_factory=tuple)


@dataclass(frozen=True)
class Choice:
    """A candidate for each zone, its cost, and a lower bound of the cost of every choice."""

    chosen: Mapping[str, Candidate]
    cost: float
    bound: float
    alike: int

    @property
    def gap(self) -> float:
        """The greatest possible distance from the optimum, as a share."""
        return max(self.cost - self.bound, 0.0) / max(abs(self.cost), 1.0)


class Program:
    """The integer program for one problem, with a cost for each candidate and each pair that looks alike."""

    def __init__(
        self,
        problem: Problem,
        costs: Mapping[Candidate, float],
        alike: float,
        bounds: Bounds,
        area: Mapping[str, float],
    ) -> None:
        self._problem, self._alike_cost = problem, alike
        self._highs = highspy.Highs()  # type: ignore[no-untyped-call]
        self._highs.setOptionValue("output_flag", False)
        self._highs.setOptionValue("mip_rel_gap", PROGRAM_GAP_QUICK)
        self._highs.setOptionValue("time_limit", SECONDS)
        self._x: dict[Candidate, int] = {}
        self._many = 0
        for some in problem.candidates.values():
            for one in some:
                self._x[one] = self._column(costs[one], whole=True)
            self._row([(self._x[one], 1.0) for one in some], 1, 1)
        self._few_kinds()
        self._pairs = self._neighbors(alike)
        every = [(one, self._x[one]) for some in problem.candidates.values() for one in some]
        if bounds.minutes is not None:
            self._row([(x, one.minutes) for one, x in every], -math.inf, bounds.minutes)
        if bounds.firmness is not None:
            self._row([(x, one.density * area[one.zone]) for one, x in every], -math.inf, bounds.firmness)
        if bounds.alike is not None and self._pairs:
            self._row([(t, 1.0) for t in self._pairs.values()], -math.inf, bounds.alike)
        for shown in bounds.shown:
            same = [(self._x[one], 1.0) for one in shown.values() if one in self._x]
            zones = len(problem.candidates)
            if same:
                self._row(same, -math.inf, zones - math.ceil(zones / APART))

    def _column(self, cost: float, whole: bool, most: float = 1.0) -> int:
        self._highs.addCol(cost, 0.0, most, 0, np.array([], dtype=np.int32), np.array([], dtype=float))
        if whole:
            self._highs.changeColIntegrality(self._many, highspy.HighsVarType.kInteger)
        self._many += 1
        return self._many - 1

    def _row(self, entries: Sequence[tuple[int, float]], least: float, most: float) -> None:
        columns = np.array([column for column, _ in entries], dtype=np.int32)
        numbers = np.array([number for _, number in entries], dtype=float)
        self._highs.addRow(least, most, len(entries), columns, numbers)

    def _few_kinds(self) -> None:
        """Limits the kinds of fill; each is used in at least two places, except one accent."""
        by_kind: dict[type, list[Candidate]] = {}
        for one in self._x:
            by_kind.setdefault(one.kind, []).append(one)
        used, accents = [], []
        for kind, some in by_kind.items():
            y, accent = self._column(0.0, whole=True), self._column(0.0, whole=True)
            for zone in dict.fromkeys(one.zone for one in some):
                mine = [(self._x[one], 1.0) for one in some if one.zone == zone]
                self._row([*mine, (y, -1.0)], -math.inf, 0)
            places = [(self._x[one], float(self._problem.places[one.zone])) for one in some]
            if kind in self._problem.kept_kinds:
                continue
            self._row([*places, (y, -2.0), (accent, 1.0)], 0, math.inf)
            used.append((y, 1.0))
            accents.append((accent, 1.0))
        if used:
            left = max(self._problem.kinds - len(self._problem.kept_kinds), 0)
            self._row(used, -math.inf, left)
            self._row(accents, -math.inf, 1)

    def _neighbors(self, alike: float) -> dict[tuple[str, str], int]:
        problem, found = self._problem, {}
        for one, other in problem.beside:
            mine, its = problem.candidates.get(one), problem.candidates.get(other)
            if mine is None and its is None:
                continue
            if mine is None:
                one, other, mine, its = other, one, its, mine
            t = self._column(alike, whole=False)
            found[one, other] = t
            mine = mine or ()
            if its is None:
                stays = problem.stays.get(other, 0.0)
                like = [self._x[one] for one in mine if _looks_like(one.density, stays, problem.reads)]
                if like:
                    self._row([(t, 1.0), *((x, -1.0) for x in like)], 0, math.inf)
                continue
            both = sorted((*mine, *its), key=lambda one: one.density)
            for k, lowest in enumerate(both):
                window = [one for one in both[k:] if _looks_like(lowest.density, one.density, problem.reads)]
                if len({one.zone for one in window}) > 1:
                    self._row([(t, 1.0), *((self._x[one], -1.0) for one in window)], -1, math.inf)
        return found

    def solve(self) -> Choice | None:
        """The best choice; None if there is none."""
        self._highs.setOptionValue("mip_max_nodes", max(MOST_WORK // self._many, _LEAST_NODES))
        self._highs.run()
        info = self._highs.getInfo()
        if info.primal_solution_status != highspy.SolutionStatus.kSolutionStatusFeasible:
            return None
        point = np.array(self._highs.getSolution().col_value)
        chosen = {one.zone: one for one, x in self._x.items() if point[x] > 1 / 2}
        alike = round(sum(point[t] for t in self._pairs.values()))
        return Choice(chosen, info.objective_function_value, info.mip_dual_bound, alike)


def _looks_like(one: float, other: float, reads: float) -> bool:
    told = ratio(one, other)
    return told is not None and told < reads
