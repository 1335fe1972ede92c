"""Two families of parallel lines that cross (L6 to L9)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any, ClassVar, Literal

from pydantic import field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Figure, Site, SpacingSuggestion, check_spacing
from kenzet.core.fills.origin import StraightFill, check_angle
from kenzet.core.geom.clip import Straight
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Use = Literal["sewn", "drawn"]


class Grid(StraightFill):
    """Two families with one datum and a common spacing, or one each; sewn, or only marked as a base for other
    lines."""

    label: ClassVar[str] = tr("Grid")
    help: ClassVar[str] = tr(
        "Two sets of lines that cross. Sew the whole first set, then the second set across it."
    )
    tile: ClassVar[str] = (
        "M-4 14 14 -4M-4 40 40 -4M19 43 66 -4M45 43 76 12M-4 25 14 43M-4 -1 40 43M19 -4 66 43M45 -4 76 27"
    )
    order: ClassVar[int] = 2

    kind: Literal["grid"] = "grid"
    second_angle: float = asked(
        135.0, Form("angle", tr("Crossed at"), tr("The angle of the second set."), presets=(135, 90, 120, 150), after="angle")
    )  # fmt: skip
    crossed_from: Literal["level", "first set"] = asked(
        "level",
        Form(
            "choice",
            tr("Crossed at is counted"),
            tr("Counted from the first set, it turns with it."),
            choices=(
                Choice("level", tr("from level")),
                Choice("first set", tr("from the first set")),
            ),
            after="second_angle",
        ),
    )

    second_spacing: Length | None = asked(
        None,
        Form("length", tr("Spacing of the second set"), empty=tr("like the first"), after="crossed_from"),
    )
    use: Use = asked(
        "sewn",
        Form(
            "choice",
            tr("The grid is"),
            choices=(Choice("sewn", tr("sewn")), Choice("drawn", tr("only marked"))),
            after="second_spacing",
        ),
    )

    @field_validator("second_spacing")
    @classmethod
    def _second_spacing(cls, length: Length | None) -> Length | None:
        return length and check_spacing(length)

    @field_validator("second_angle", mode="before")
    @classmethod
    def _second_angle(cls, value: Any) -> float:
        return check_angle(value)

    @model_validator(mode="after")
    def _crosses(self) -> Grid:
        between = abs(math.sin(math.radians(self.turn)))
        if between < math.sin(math.radians(5)) - ROUNDING:
            raise BadValue(tr("The two sets of a grid must cross at 5 degrees or more."), "second_angle")
        return self

    @property
    def turn(self) -> float:
        """The angle from the first set to the second, degrees."""
        return self.second_angle if self.crossed_from == "first set" else self.second_angle - self.angle

    def turn_of(self, family: int) -> int:
        """The first set is finished before the second crosses it."""
        return family

    def lay_out(self, site: Site) -> Iterable[Straight]:
        """The first family, then the second."""
        first, second = self.angles(site)
        other = self.second_spacing.mm if self.second_spacing else None
        return [self.family(site, first), self.family(site, second, other)]

    @property
    def sewn(self) -> bool:
        """False if the grid is only a base."""
        return self.use == "sewn"

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that come out even, or pass through every corner, for both families at once."""
        return self.straight_wishes(site, self.angles(site)[: 1 if self.second_spacing else 2])

    def figures(self, site: Site) -> Sequence[Figure]:
        """F15, F16: the sides of a cell, and its diagonals if both sets have the same spacing."""
        across = math.radians(abs((self.turn + 90) % 180 - 90))
        one = float(self.spacing.mm)
        other = float(self.second_spacing.mm) if self.second_spacing else one
        sides = (one / math.sin(across), other / math.sin(across))
        if one != other:
            return (
                Figure(tr("Cell, along the second set"), sides[0]),
                Figure(tr("Cell, along the first set"), sides[1]),
            )
        found = [Figure(tr("Side of a cell"), sides[0])] if across < math.radians(89.9) else []
        both = (one / math.sin(across / 2), one / math.cos(across / 2))
        if across > math.radians(89.9):
            return (Figure(tr("Cell, corner to corner"), both[0]),)
        return (*found, Figure(tr("Cell, long way"), both[0]), Figure(tr("Cell, short way"), both[1]))

    def notes(self) -> Sequence[str]:
        """A warning about thin diamonds."""
        across = abs((self.turn + 90) % 180 - 90)
        return (tr("Diamonds this thin fill up with thread at their points."),) if across < 30 else ()

    def angles(self, site: Site) -> list[float]:
        """The angles of both families."""
        base = self.base_angle(site)
        return [base + self.angle, base + self.angle + self.turn]
