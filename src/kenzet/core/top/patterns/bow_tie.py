"""A bow tie with its knot."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most, box
from kenzet.texts import tr


class BowTie(Pattern):
    """Two squares of tie, two of background; their inner corners (legs ``knot``) form the knot."""

    label: ClassVar[str] = tr("Bow tie")
    help: ClassVar[str] = tr("Two squares and a knot from lower left to upper right.")
    order: ClassVar[int] = 11

    kind: Literal["bow-tie"] = "bow-tie"
    knot: Length | None = asked(
        None, Form("length", tr("Leg of the knot"), empty=tr("a quarter of the block"))
    )

    @field_validator("knot")
    @classmethod
    def _knot(cls, knot: Length | None) -> Length | None:
        return knot and in_range(knot, "1/4 in", "60 in", tr("The knot"))

    def check(self, width: float, height: float) -> None:
        """The knot must fit inside its squares."""
        if self.knot:
            at_most(self.knot, min(width, height) / 2, "knot", tr("The knot"))

    def roles(self) -> Sequence[str]:
        """Background, tie, knot."""
        return ("background", "tie", "knot")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """The background is at the upper left and the lower right."""
        a = float(self.knot.mm) if self.knot else min(width, height) / 4
        x, y = width / 2, height / 2
        return [
            box("tie-1", "tie", 0.0, 0.0, x, y),
            box("tie-2", "tie", x, y, width, height),
            Piece(
                "background-1", "background", ((0.0, y), (x - a, y), (x, y + a), (x, height), (0.0, height))
            ),
            Piece("knot-1", "knot", ((x - a, y), (x, y), (x, y + a))),
            Piece("background-2", "background", ((x, 0.0), (width, 0.0), (width, y), (x + a, y), (x, y - a))),
            Piece("knot-2", "knot", ((x, y), (x, y - a), (x + a, y))),
        ]
