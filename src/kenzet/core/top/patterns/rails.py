"""Strips side by side: a set of strips, or a rail fence."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.params import Choice, Form, asked
from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr


class Rails(Pattern):
    """``rails`` strips of equal width, in one unit or in four units that alternate in direction."""

    label: ClassVar[str] = tr("Rails")
    help: ClassVar[str] = tr("Strips of one width, each its own fabric; four units turned make a rail fence.")
    offers: ClassVar[dict[str, dict[str, object]]] = {
        tr("Strips"): {"rails": 4, "units": "one"},
        tr("Rail fence"): {"rails": 3, "units": "four"},
    }
    order: ClassVar[int] = 4

    kind: Literal["rails"] = "rails"
    rails: Annotated[int, Field(ge=2, le=8)] = asked(3, Form("count", tr("Rails")))
    units: Literal["one", "four"] = asked(
        "four",
        Form(
            "choice",
            tr("Units"),
            choices=(Choice("one", tr("one, level")), Choice("four", tr("four, turned by turns"))),
        ),
    )

    def roles(self) -> Sequence[str]:
        """One role for each rail."""
        return tuple(tr("rail {k}", k=k + 1) for k in range(self.rails))

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Rail 1 is at the top of a horizontal unit, at the left of an upright one."""
        count, n, roles = (1 if self.units == "one" else 2), self.rails, self.roles()
        grid = Grid(width, height, count * n, count * n)
        pieces = []
        for row in range(count):
            for column in range(count):
                level = (row + column) % 2 == 0
                x, y, unit = (
                    column * n,
                    (count - 1 - row) * n,
                    f"u{row * count + column + 1}-" if count > 1 else "",
                )
                for k, role in enumerate(roles):
                    place = (x, y + n - 1 - k, n, 1) if level else (x + k, y, 1, n)
                    pieces.append(grid.box(f"{unit}rail-{k + 1}", role, *place))
        return pieces
