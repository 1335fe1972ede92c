"""The star of eight diamonds that meet in the center."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import ClassVar, Literal

from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr

SIDE = 1 / (2 + math.sqrt(2))
"""The side of a diamond in a unit block: its tips are on the edges, the corner squares have this side."""


class DiamondStar(Pattern):
    """Eight diamonds of 45 degrees, four corner squares, four side triangles."""

    label: ClassVar[str] = tr("Eight-point diamond star")
    help: ClassVar[str] = tr("Eight diamonds meet in the center, in two alternating fabrics.")
    order: ClassVar[int] = 10

    kind: Literal["diamond-star"] = "diamond-star"

    def roles(self) -> Sequence[str]:
        """Background, and the two alternating kinds of diamonds."""
        return ("background", "diamonds", "other diamonds")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Diamond 1 is just above the horizontal on the right; all are counter-clockwise."""
        grid = Grid(width, height, 1, 1)
        low, far = 0.5 - SIDE / math.sqrt(2), 0.5 + SIDE / math.sqrt(2)
        inner = [
            (0.5 + SIDE, 0.5), (far, far), (0.5, 0.5 + SIDE), (low, far),
            (0.5 - SIDE, 0.5), (low, low), (0.5, 0.5 - SIDE), (far, low),
        ]  # fmt: skip
        tips = [(1, far), (far, 1), (low, 1), (0, far), (0, low), (low, 0), (far, 0), (1, low)]
        corners = [(1, 1), (0, 1), (0, 0), (1, 0)]
        pieces = [
            grid.shape(
                f"diamond-{k + 1}", self.roles()[1 + k % 2], (0.5, 0.5), inner[k], tips[k], inner[(k + 1) % 8]
            )
            for k in range(8)
        ]
        for k in range(4):
            pieces += [
                grid.shape(
                    f"corner-{k + 1}",
                    "background",
                    inner[2 * k + 1],
                    tips[2 * k],
                    corners[k],
                    tips[2 * k + 1],
                ),
                grid.shape(f"side-{k + 1}", "background", inner[2 * k], tips[2 * k - 1], tips[2 * k]),
            ]
        return pieces
