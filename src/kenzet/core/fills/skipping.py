"""Short pieces that are left out: shared by fills whose lines are cut into crumbs at an edge."""

from __future__ import annotations

from pydantic import field_validator

from kenzet.core.fills.base import Fill
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.texts import tr

SKIP = Form(
    "length",
    tr("Leave out pieces shorter than"),
    tr("Short pieces at an edge are seldom worth sewing."),
    empty=tr("none"),
)


class SkippingFill(Fill):
    """Base of fills that may leave out short pieces; a fill may set another default."""

    skip: Length | None = asked(None, SKIP)

    @field_validator("skip")
    @classmethod
    def _skip(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", "40 in", tr("The shortest piece"))

    @property
    def least_piece(self) -> float:
        """What she wants left out, mm."""
        return float(self.skip.mm) if self.skip else 0.0
