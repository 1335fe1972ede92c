"""Flying geese, one above the other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.params import Form, asked
from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr


class Geese(Pattern):
    """``geese`` triangles that point up, with a half triangle of sky on either side."""

    label: ClassVar[str] = tr("Flying geese")
    help: ClassVar[str] = tr("Geese one above the other; turn the block to let them fly another way.")
    order: ClassVar[int] = 5

    kind: Literal["geese"] = "geese"
    geese: Annotated[int, Field(ge=1, le=12)] = asked(4, Form("count", tr("Geese")))

    def roles(self) -> Sequence[str]:
        """Sky and geese."""
        return ("sky", "geese")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Goose 1 is at the top."""
        grid, pieces = Grid(width, height, 2, self.geese), []
        for k in range(self.geese):
            y = self.geese - 1 - k
            pieces += [
                grid.shape(f"goose-{k + 1}", "geese", (0, y), (2, y), (1, y + 1)),
                grid.shape(f"sky-{k + 1}-left", "sky", (0, y), (1, y + 1), (0, y + 1)),
                grid.shape(f"sky-{k + 1}-right", "sky", (2, y), (2, y + 1), (1, y + 1)),
            ]
        return pieces
