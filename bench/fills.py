"""Fills over a block and over a king-size top, against the bare vectorised library calls for the same lines.

The top is 20 by 20 pinwheels of 6 in with a zone in each of its eight triangles: 3,200 zones. The bare call is
one array call of the library over every line and every zone of the top (echoes: one a round); the plan is what
the app does, which plans congruent zones once. For one 12 in block both do the same work.
"""

from __future__ import annotations

from collections.abc import Callable
from statistics import median
from time import perf_counter

import numpy as np
import shapely
from shapely.affinity import affine_transform

from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.fills import FILLS, Fill
from kenzet.core.fills.base import Paths, Rings
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.offset import _quarter_steps
from kenzet.core.numbers.measure import Length
from kenzet.core.plan.drawing import draw
from kenzet.core.plan.planner import COUNTS, PLANS, RINGS, plan_quilt
from kenzet.core.plan.zone_plan import site_at
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape
from tests.pinwheels import changed, filled, pinwheels

ROUNDS = 11
BLOCK_ROUNDS = 201
CASES = (
    ("lines", {"spacing": "1/4 in", "angle": 30}, 1 / 20),
    ("grid", {"spacing": "1/4 in", "angle": 45, "second_angle": 135}, 1 / 20),
    ("zigzag", {"spacing": "3/8 in", "advance": "3/8 in", "throw": "1/4 in", "skip": None}, 1 / 5),
    ("waves", {"spacing": "3/8 in", "period": "1 1/2 in", "depth": "1/4 in", "skip": None}, 1 / 5),
    ("echo", {"spacing": "1/4 in"}, 1 / 20),
)


def raw_lines(fill: Fill, laid: QuiltLayout, shape: ZoneShape, place: str) -> list[np.ndarray]:
    """What the fill lays out before clipping, as the library would be given it."""
    found = []
    left, low, right, high = shape.region.bounds
    far = right - left + high - low
    for family in fill.lay_out(site_at(shape, place, laid.middle)):
        if isinstance(family, Straight):
            (ux, uy), (nx, ny) = family.direction, family.normal
            at = [x * nx + y * ny for x, y in shape.region.extremes]
            mx, my = shape.region.middle
            middle = mx * ux + my * uy
            k = np.arange(
                int((min(at) - family.datum) // float(family.pitch)),
                int((max(at) - family.datum) // float(family.pitch)) + 2,
            )
            for n in family.datum + k * float(family.pitch):
                ends = [(ux * t + nx * n, uy * t + ny * n) for t in (middle - far, middle + far)]
                found.append(np.array(ends))
        elif isinstance(family, Paths):
            found += [path.points for path in family.paths]
    return found


def timed(
    ours: Callable[[], object], bare: Callable[[], object], rounds: int = ROUNDS
) -> tuple[float, float, float]:
    """Seconds of both, and the ratio: medians of rounds that take turns, so that a slow spell strikes both."""
    times = []
    for _ in range(rounds):
        began = perf_counter()
        ours()
        between = perf_counter()
        bare()
        times.append((between - began, perf_counter() - between))
    return (
        median(mine for mine, _ in times),
        median(its for _, its in times),
        median(mine / its for mine, its in times),
    )


def bare_call(
    fill: Fill, laid: QuiltLayout, shapes: list[tuple[ZoneShape, str]]
) -> tuple[Callable[[], object], int]:
    """The one array call (a call a round for echoes) over all zones given, and how many pieces go in."""
    placed = [(shape, place, shape.part.places[place]) for shape, place in shapes]
    areas = [affine_transform(s.region.area, (a, c, b, d, e, f)) for s, _, (a, b, c, d, e, f) in placed]
    sample = list(fill.lay_out(site_at(*shapes[0], laid.middle)))
    if isinstance(sample[0], Rings):
        rounds = [float(sample[0].first + k * sample[0].pitch) for k in range(len(sample[0].insides))]
        given = np.array(areas)

        def offsets() -> None:
            for distance in rounds:
                shapely.buffer(
                    given, -distance, join_style="mitre", mitre_limit=12.0, quad_segs=_quarter_steps(distance)
                )

        return offsets, len(areas) * len(rounds)
    by_shape: dict[int, list[np.ndarray]] = {}
    lines, owner = [], []
    for number, (shape, place, (a, b, c, d, e, f)) in enumerate(placed):
        raw = by_shape.setdefault(id(shape), raw_lines(fill, laid, shape, place))
        for points in raw:
            lines.append(
                np.stack(
                    [a * points[:, 0] + c * points[:, 1] + e, b * points[:, 0] + d * points[:, 1] + f], axis=1
                )
            )
            owner.append(number)
    index = np.repeat(np.arange(len(lines)), [len(points) for points in lines])
    given = shapely.linestrings(np.concatenate(lines), indices=index)
    chosen = np.array(areas)[owner]
    return lambda: shapely.intersection(given, chosen), len(lines)


def main() -> None:
    top = pinwheels(20)
    over_top(top, CASES)
    print("with nothing kept free at the quilt's edge, so that all triangles are alike")
    whole = top.with_quilt(top.quilt.model_copy(update={"edge": Length.parse("0 in")}))
    over_top(whole, CASES[-1:])
    block_alone(top)


def over_top(top: QuiltLayout, cases: tuple[tuple[str, dict, float], ...]) -> None:
    """Every zone filled, each case against the bare call."""
    keys = list(top.quilt.zones)
    zones = [(shape, place) for key in keys for shape in top.shapes(top.zone(key)) for place in shape.places]
    shapes = [shape for key in keys for shape in top.shapes(top.zone(key))]
    outlines = sum(1 for shape in shapes if shape.twin is None)
    print(
        f"fills: {len(zones):,} zones of a king-size top in {len(shapes)} shapes of {outlines} outlines, "
        f"median of {ROUNDS}"
    )
    for kind, values, wanted in cases:
        fill = FILLS[kind].model_validate(values)
        bare, many = bare_call(fill, top, zones)
        with_it = filled(top, fill.model_dump(mode="json"))

        def planned(laid: QuiltLayout = with_it) -> None:
            laid.memo.forget(PLANS, COUNTS, RINGS)
            plan_quilt(laid)

        ours, library, ratio = timed(planned, bare)
        print(
            f"  {kind}: {many:,} in; library {library * 1e3:.0f} ms, plan {ours * 1e3:.1f} ms, "
            f"ratio {ratio:.3f} (wanted at most {wanted:.3f})"
        )


def block_alone(top: QuiltLayout) -> None:
    """One 12 in square: nothing is congruent to it, both clip the same lines."""
    laid = changed(
        QuiltLayout(
            new_quilt(NewQuilt.model_validate({"name": "One", "columns": 1, "rows": 1, "block": "12 in"}))
        ),
        {"kind": "zone", "refs": ["1-1/patch"]},
    )
    (key,) = laid.quilt.zones
    (shape,) = laid.shapes(laid.zone(key))
    print("one 12 in block")
    for kind, values, _ in CASES:
        fill = FILLS[kind].model_validate(values)
        bare, many = bare_call(fill, laid, [(shape, shape.places[0])])
        families = tuple(fill.lay_out(site_at(shape, shape.places[0], laid.middle)))
        ours, library, ratio = timed(
            lambda fill=fill, families=families: draw(shape, fill, families, shape.places),
            bare,
            BLOCK_ROUNDS,
        )
        print(
            f"  {kind}: {many:,} in; library {library * 1e3:.2f} ms, clip {ours * 1e3:.2f} ms, ratio {ratio:.2f}"
        )


if __name__ == "__main__":
    main()
