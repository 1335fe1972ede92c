"""The star with eight half-square points around a square."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr

_SIDES = {
    "n": ((1, 4), (2, 3), (3, 4)),
    "e": ((4, 3), (3, 2), (4, 1)),
    "s": ((3, 0), (2, 1), (1, 0)),
    "w": ((0, 1), (1, 2), (0, 3)),
}
_POINTS = {
    "n-left": ((1, 4), (1, 3), (2, 3)), "n-right": ((3, 4), (2, 3), (3, 3)),
    "e-top": ((4, 3), (3, 3), (3, 2)), "e-bottom": ((4, 1), (3, 2), (3, 1)),
    "s-right": ((3, 0), (3, 1), (2, 1)), "s-left": ((1, 0), (2, 1), (1, 1)),
    "w-bottom": ((0, 1), (1, 1), (1, 2)), "w-top": ((0, 3), (1, 2), (1, 3)),
}  # fmt: skip


class SawtoothStar(Pattern):
    """On a grid of four by four."""

    label: ClassVar[str] = tr("Sawtooth star")
    help: ClassVar[str] = tr("Eight points round a square, on a grid of four.")
    order: ClassVar[int] = 9

    kind: Literal["sawtooth-star"] = "sawtooth-star"

    def roles(self) -> Sequence[str]:
        """Background, points, centre."""
        return ("background", "points", "centre")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Corners, sides, points, centre."""
        grid = Grid(width, height, 4, 4)
        corners = {"nw": (0, 3), "ne": (3, 3), "se": (3, 0), "sw": (0, 0)}
        return [
            *(grid.box(f"corner-{key}", "background", *at) for key, at in corners.items()),
            *(grid.shape(f"side-{key}", "background", *points) for key, points in _SIDES.items()),
            *(grid.shape(f"point-{key}", "points", *points) for key, points in _POINTS.items()),
            grid.box("centre", "centre", 1, 1, 2, 2),
        ]
