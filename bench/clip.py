"""The scan against the bare vectorised library call, for the same lines of the demo quilt, in one run."""

from __future__ import annotations

import math
from collections.abc import Callable
from statistics import median
from time import perf_counter

import numpy as np
import shapely
from shapely.affinity import affine_transform

from kenzet.core.geom.clip import Straight, clip
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts

ROUNDS = 15


def placed_pieces() -> list[Region]:
    """Every connected piece of every zone at every place of the demo quilt."""
    laid = QuiltLayout(demo_quilts()[0])
    pieces = []
    for zone in laid.quilt.zones.values():
        for shape in laid.shapes(zone):
            for a, b, c, d, e, f in (shape.part.places[place] for place in shape.places):
                for piece in shape.region.pieces:
                    pieces.append(Region(affine_transform(piece.area, (a, c, b, d, e, f))))
    return pieces


def raw_lines(pieces: list[Region], family: Straight) -> tuple[np.ndarray, np.ndarray]:
    """The unclipped lines over each piece's bounds, and the piece that each belongs to."""
    (ux, uy), (nx, ny) = family.direction, family.normal
    lines, owner = [], []
    for number, piece in enumerate(pieces):
        left, low, right, high = piece.bounds
        corners = np.array([(left, low), (right, low), (right, high), (left, high)])
        q = (corners @ (nx, ny) - family.datum) / float(family.pitch)
        t = corners @ (ux, uy)
        for i in range(math.ceil(q.min()), math.floor(q.max()) + 1):
            at = family.place(i)
            lines.append(
                [
                    (nx * at + ux * (t.min() - 1), ny * at + uy * (t.min() - 1)),
                    (nx * at + ux * (t.max() + 1), ny * at + uy * (t.max() + 1)),
                ]
            )
            owner.append(number)
    return shapely.linestrings(np.array(lines)), np.array(owner)


def timed(work: Callable[..., object], *given: object) -> float:
    times = []
    for _ in range(ROUNDS):
        began = perf_counter()
        work(*given)
        times.append(perf_counter() - began)
    return median(times)


def main() -> None:
    pieces = placed_pieces()
    areas = np.array([piece.area for piece in pieces])
    print(f"clip: {len(pieces)} pieces of the demo quilt, median of {ROUNDS}")
    for spacing in ("1/4 in", "3/4 in"):
        for angle in (45.0, 30.0):
            family = Straight(angle, Length.parse(spacing).mm, datum=0.37)
            lines, owner = raw_lines(pieces, family)
            chosen = areas[owner]
            jobs = [(piece, family) for piece in pieces]
            for piece in pieces:
                _ = piece.segments  # both sides begin with their regions at hand
            bare, scan = timed(shapely.intersection, lines, chosen), timed(clip, jobs)
            long = shapely.length(shapely.intersection(lines, chosen)).sum()
            off = abs(long - clip(jobs).lengths.sum()) / long
            print(
                f"  {spacing} at {angle:g}°: {len(lines)} lines, {len(clip(jobs))} stretches; "
                f"library {bare * 1e3:.1f} ms, scan {scan * 1e3:.2f} ms, ratio {scan / bare:.3f} (wanted at most 0.100); "
                f"total length differs by {off:.1e}"
            )


if __name__ == "__main__":
    main()
