"""The table of cases that the core and the screen share: where rulers lie, and what is read off them.

Run as a module it writes ``tests/bench-table.json`` again from the core; the tests hold both sides to it.
"""

from __future__ import annotations

import json
import random
from fractions import Fraction
from pathlib import Path
from typing import Any

from kenzet.core.bench.readout import BenchReference, Lay, read
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.kit.edges import Edge
from kenzet.core.kit.ruler_outline import Plastic, plastic
from kenzet.core.kit.things.rulers import ArcRuler, CombinedRuler, StraightRuler, WaveRuler, ZigzagTemplate
from kenzet.core.numbers.measure import Unit, figure
from tests.shapes import IN, REGIONS

TABLE = Path(__file__).with_name("bench-table.json")
STRAIGHT_SIDED = ("square", "right triangle", "thin strip", "L", "frame", "lattice")
RULERS: dict[str, tuple[Edge, ...]] = {
    "quarters": StraightRuler.model_validate({"length": "6 in", "width": "2 in"}).edges,
    "second scale": StraightRuler.model_validate({"length": "8 in", "etched": "eighths", "second": "5 mm, 12 mm"}).edges,
    "arc": ArcRuler.model_validate({"outside": "14 in", "inside": "10 in", "usable": "8 in", "usable_inside": "6 in"}).edges,
    "circle": ArcRuler.model_validate({"outside": "3 in"}).edges,
    "wave": WaveRuler().edges,
    "tight wave": WaveRuler.model_validate({"period": "1 1/4 in", "depth": "1/2 in"}).edges,
    "zigzag": ZigzagTemplate().edges,
    "several": CombinedRuler.model_validate({"inside": "4 in"}).edges,
}  # fmt: skip
FEET = (IN / 4, 5.0, 6.5)


def references_of(region: Region) -> list[BenchReference]:
    """The outline's edges, and a line across the middle that is laid along the first of them."""
    found = [
        BenchReference("seam", name, edge.start, edge.end)
        for name, edge in zip(edge_names(region), region.edges, strict=True)
    ]
    left, low, right, high = region.bounds
    return [*found, BenchReference("line", "line 1", (left, (low + high) / 2), (right, (low + high) / 2))]


def parts() -> dict[str, tuple[Plastic, float]]:
    """Every edge of every ruler, with a foot for each in turn."""
    edges = [(f"{name} {k}", its, k) for name, its in RULERS.items() for k in range(len(its))]
    return {key: (plastic(its, k, FEET[n % 3]), FEET[n % 3]) for n, (key, its, k) in enumerate(edges)}


def lays(region: Region, part: Plastic, foot: float, seed: int) -> list[Lay]:
    """One laid by an etched line along an edge of the outline, others anywhere."""
    dice = random.Random(seed)
    left, low, right, high = region.bounds
    edge = region.edges[seed % len(region.edges)]
    etched = [0.0, *(float(d) for d, _ in part.etched)][seed % (len(part.etched) + 1)]
    nx, ny = region.inward(edge)
    angle = (
        edge.angle
        if nx * (edge.end[1] - edge.start[1]) - ny * (edge.end[0] - edge.start[0]) > 0
        else edge.angle + 180
    )
    x, y = edge.at(edge.length / 2)
    by_edge = Lay(x + nx * etched, y + ny * etched, angle)
    loose = [Lay(dice.uniform(left, right), dice.uniform(low, high), dice.uniform(0, 360)) for _ in range(2)]
    bare = Lay(x - nx * foot / 3, y - ny * foot / 3, angle)
    return [by_edge, bare, *loose, Lay(right + 600, high + 600, 0.0)][: 5 if seed == 0 else 4]


def table() -> dict[str, Any]:
    """All cases with the core's answers, rounded to a hundred-thousandth of a mm."""
    made = parts()
    shapes = {name: REGIONS[name] for name in STRAIGHT_SIDED}
    cases = []
    for seed, (key, (part, foot)) in enumerate(made.items()):
        name = list(shapes)[seed % len(shapes)]
        region = shapes[name]
        references = references_of(region)
        for k, lay in enumerate(lays(region, part, foot, seed)):
            reading = read(part, lay, region, references, foot, whole := k % 2 == 0)
            cases.append(
                {
                    "part": key,
                    "region": name,
                    "whole": whole,
                    "lay": {"x": lay.x, "y": lay.y, "angle": lay.angle},
                    "held": [
                        [
                            h.reference,
                            _r(h.away),
                            None if h.etched is None else _r(float(h.etched)),
                            _r(h.bare),
                        ]
                        for h in reading.held
                    ],
                    "sewn": [_r(v) for v in reading.sewn.points.ravel().tolist()] if reading.sewn else [],
                    "stops": [
                        [_r(v) for v in (*s.needle, *s.edge)] + [None if s.along is None else _r(s.along)]
                        for s in reading.ends
                    ],
                }
            )
    return {
        "parts": {key: _part(part, foot) for key, (part, foot) in made.items()},
        "regions": {name: _region(region) for name, region in shapes.items()},
        "cases": cases,
        "figures": [_figure(mm, unit) for unit in ("in", "mm") for mm in _LENGTHS],
    }


_LENGTHS = [0.0, 1.5875, 3.0, 6.35, 13.0, 19.05, 25.4, 25.5, 33.3375, 99.99, -19.05, -0.1, 254.0, 1000.3]


def _figure(mm: float, unit: Unit) -> dict[str, Any]:
    grain = Fraction(1, 64) if unit == "in" else Fraction(1, 10)
    found = figure(Fraction(str(mm)), unit, grain)
    return {
        "mm": mm, "unit": unit,
        "shown": {k: getattr(found, k) for k in ("minus", "whole", "num", "den", "hair", "unit", "text")},
    }  # fmt: skip


def _part(part: Plastic, foot: float) -> dict[str, Any]:
    needle = part.needle.points.ravel().tolist() if part.needle else []
    return {
        "foot": foot,
        "straight": part.straight,
        "centre": None if part.centre is None else _r(part.centre),
        "edge": [_r(v) for v in part.edge.points.ravel().tolist()],
        "needle": [_r(v) for v in needle],
        "etched": [{"at": 0.0}, *({"at": _r(float(d))} for d, _ in part.etched)] if part.straight else [],
    }


def _region(region: Region) -> dict[str, Any]:
    rings = [ring for p in region.area.geoms for ring in (p.exterior, *p.interiors)]
    return {
        "rings": [[_r(v) for point in list(ring.coords)[:-1] for v in point] for ring in rings],
        "references": [
            {"kind": ref.kind, "points": [_r(v) for v in (*ref.start, *ref.end)]}
            for ref in references_of(region)
        ],
        "corners": [[_r(v) for v in corner] for corner in region.corners],
    }


def _r(value: float) -> float:
    return round(value, 5) + 0.0


if __name__ == "__main__":
    TABLE.write_text(json.dumps(table(), separators=(",", ":")) + "\n")
