"""Lines in groups: close, wide, close, wide (L3)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.fills.base import Group, Site, check_spacing
from kenzet.core.fills.origin import StraightFill
from kenzet.core.fills.turned import check_count
from kenzet.core.geom.clip import Straight
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

Crossed = Literal["no", "square", "at 60 degrees"]
_TURN = {"no": None, "square": 90.0, "at 60 degrees": 60.0}


class Pairs(StraightFill):
    """``together`` lines ``spacing`` apart, then a gap of ``wide``."""

    label: ClassVar[str] = tr("Pairs")
    help: ClassVar[str] = tr(
        "Two lines close together, then a wide gap. Check the gaps as you sew: one wrong gap shows."
    )
    tile: ClassVar[str] = "M-2 6H74M-2 11H74M-2 25H74M-2 30H74M12 -2V41M17 -2V41M42 -2V41M47 -2V41"
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 3

    kind: Literal["pairs"] = "pairs"
    spacing: Length = asked("1/4 in", Form("length", tr("Close gap"), tr("True distance within a pair.")))
    wide: Length = asked(
        "5/8 in", Form("length", tr("Wide gap"), tr("From one pair to the next."), after="spacing")
    )
    together: int = asked(2, Form("count", tr("Lines in a group"), after="wide"))
    crossed: Crossed = asked(
        "no",
        Form(
            "choice", tr("Crossed"),
            choices=(Choice("no", tr("no")), Choice("square", tr("square")), Choice("at 60 degrees", tr("at 60°"))),
            after="together",
        ),
    )  # fmt: skip
    rhythm: None = None

    @field_validator("wide")
    @classmethod
    def _wide(cls, length: Length) -> Length:
        return check_spacing(length)

    @field_validator("together")
    @classmethod
    def _together(cls, together: int) -> int:
        return check_count(together, 2, 12, tr("Lines in a group")) or 2

    @property
    def beats(self) -> tuple[Fraction, ...]:
        """The close gaps, then the wide one."""
        return (Fraction(1),) * (self.together - 1) + (self.wide.mm / self.spacing.mm,)

    def turn_of(self, family: int) -> int:
        """The first set is finished before the second crosses it."""
        return family

    def lay_out(self, site: Site) -> Iterable[Straight]:
        """One family, or two that cross."""
        base = self.base_angle(site) + self.angle
        yield self.family(site, base)
        turn = _TURN[self.crossed]
        if turn is not None:
            yield self.family(site, base + turn)

    def notes(self) -> Sequence[str]:
        """Advice about the order of close and wide gaps."""
        if self.crossed == "no":
            return ()
        return (tr("Keep the same order of close and wide in both sets."),)
