"""Building the marking plan of a king-size top against planning its lines, both done again in each round."""

from __future__ import annotations

from statistics import median
from time import perf_counter

from bench.king_size import king_size
from kenzet.core.marks.marking import marks_of
from kenzet.core.plan.planner import PLANS, plan_quilt

ROUNDS = 5


def main() -> None:
    laid = king_size()
    planning, marking = [], []
    drawn = 0
    for _ in range(ROUNDS):
        laid.memo.forget(PLANS)
        began = perf_counter()
        plans = plan_quilt(laid)
        planning.append(perf_counter() - began)
        for plan in plans.values():
            for drawing in plan.drawings:
                plan.references(drawing)  # measured by the bench of laying
        began = perf_counter()
        drawn = sum(
            marks_of(plan, drawing).count * len(drawing.places)
            for plan in plans.values()
            for drawing in plan.drawings
        )
        marking.append(perf_counter() - began)
    ratio = median(marking) / median(planning)
    print(
        f"marking: {drawn:,} marks of a king-size top: {median(marking) * 1e3:.1f} ms, planning its lines "
        f"{median(planning) * 1e3:.1f} ms: ratio {ratio:.2f} (wanted at most 1)"
    )


if __name__ == "__main__":
    main()
