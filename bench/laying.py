"""Laying every line of a king-size top against planning them: what each line is laid from, its sum and the ruler's pose.

Both are done again in each round, for the same top of 169 blocks with a grid in every dark patch and in the sashes.
"""

from __future__ import annotations

from statistics import median
from time import perf_counter

from bench.king_size import king_size
from kenzet.core.plan.planner import PLANS, plan_quilt

ROUNDS = 5


def main() -> None:
    laid = king_size()
    planning, laying, posing = [], [], []
    lines = drawn = 0
    for _ in range(ROUNDS):
        laid.memo.forget(PLANS)
        began = perf_counter()
        plans = plan_quilt(laid)
        planning.append(perf_counter() - began)
        began = perf_counter()
        for plan in plans.values():
            for drawing in plan.drawings:
                plan.references(drawing)
                plan.sum(drawing)
        laying.append(perf_counter() - began)
        began = perf_counter()
        drawn = lines = 0
        for plan in plans.values():
            for drawing in plan.drawings:
                for line in range(0, drawing.lines, 10):
                    plan.pose(drawing, line)
                    drawn += 1
                lines += drawing.lines * len(drawing.places)
        posing.append(perf_counter() - began)
    ratio = median(laying) / median(planning)
    print(
        f"laying: {lines:,} lines of a king-size top: what each is laid from {median(laying) * 1e3:.0f} ms, planning them "
        f"{median(planning) * 1e3:.0f} ms: ratio {ratio:.2f} (wanted 1)"
    )
    print(f"  a ruler's pose: {median(posing) / drawn * 1e6:.0f} µs a line, {drawn:,} lines tried")


if __name__ == "__main__":
    main()
