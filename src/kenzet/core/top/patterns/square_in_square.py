"""A square in a square, any number of times."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.params import Form, asked
from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr


class SquareInSquare(Pattern):
    """Each round cuts off the corners at the midpoints of the sides."""

    label: ClassVar[str] = tr("Square in a square")
    help: ClassVar[str] = tr(
        "Every round of triangles leaves a square that stands on the middles of the sides."
    )
    offers: ClassVar[dict[str, dict[str, object]]] = {
        tr("Square in a square"): {"rounds": 1},
        tr("Square in two rounds"): {"rounds": 2},
    }
    order: ClassVar[int] = 6

    kind: Literal["square-in-square"] = "square-in-square"
    rounds: Annotated[int, Field(ge=1, le=6)] = asked(1, Form("count", tr("Rounds")))

    def roles(self) -> Sequence[str]:
        """The corners of every round, the outer ones first, then the center."""
        names = (
            ("corners",) if self.rounds == 1 else tuple(tr("round {k}", k=k + 1) for k in range(self.rounds))
        )
        return (*names, "centre")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Rounds from the outside; corners counter-clockwise from the lower left."""
        grid, roles = Grid(width, height, 1, 1), self.roles()
        square = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
        pieces = []
        for k in range(self.rounds):
            after = [square[1], square[2], square[3], square[0]]
            middles = [((p[0] + q[0]) / 2, (p[1] + q[1]) / 2) for p, q in zip(square, after, strict=True)]
            pieces += [
                grid.shape(f"round-{k + 1}-{n + 1}", roles[k], middles[n - 1], square[n], middles[n])
                for n in range(4)
            ]
            square = middles
        return [*pieces, grid.shape("centre", "centre", *square)]
