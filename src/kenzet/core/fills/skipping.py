"""Shared by fills whose lines are cut into scraps at an edge: short pieces can be left out."""

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
    """Base of fills that can leave out short pieces; a fill may set another default."""

    skip: Length | None = asked(None, SKIP)

    @field_validator("skip")
    @classmethod
    def _skip(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", "40 in", tr("The shortest piece"))

    @property
    def least_piece(self) -> float:
        """The length below which pieces are left out, mm."""
        return float(self.skip.mm) if self.skip else 0.0
