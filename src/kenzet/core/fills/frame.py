"""A frame of echoes around an inset outline (L13)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

from pydantic import field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Figure, Fill, Group, Rings, Site
from kenzet.core.fills.turned import check_count
from kenzet.core.geom.offset import inward
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.texts import tr


class FrameEcho(Fill):
    """The zone's outline, moved in by ``inset``, and ``echoes`` of it outwards, ``spacing`` apart; the middle
    stays open."""

    label: ClassVar[str] = tr("Frame")
    help: ClassVar[str] = tr(
        "One outline inside the edge, with a few echoes around it. The middle stays open for a motif."
    )
    tile: ClassVar[str] = "M6 5H66V34H6ZM10 8.500H62V30.500H10ZM18 14H54V25H18Z"
    group: ClassVar[Group] = "shapes"
    order: ClassVar[int] = 14
    lines_are: ClassVar[str] = tr("Rounds")

    kind: Literal["frame"] = "frame"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Spacing"), tr("From the inner outline to its echo, and on outward."))
    )
    inset: Length = asked("1 1/4 in", Form("length", tr("Inner outline, in from the edge"), after="spacing"))
    echoes: int = asked(1, Form("count", tr("Echoes round it"), after="inset"))

    @field_validator("inset")
    @classmethod
    def _inset(cls, length: Length) -> Length:
        return in_range(length, "1/4 in", "100 in", tr("The inset"))

    @field_validator("echoes")
    @classmethod
    def _echoes(cls, echoes: int) -> int:
        return check_count(echoes, 0, 60, tr("Echoes")) or 0

    @model_validator(mode="after")
    def _fits(self) -> FrameEcho:
        if self.echoes * self.spacing.mm >= self.inset.mm:
            raise BadValue(
                tr("So many echoes reach beyond the edge: take fewer, or set the outline further in."),
                "echoes",
            )
        return self

    @property
    def follows_outline(self) -> bool:
        """Always true."""
        return True

    def lay_out(self, site: Site) -> Iterable[Rings]:
        """The outermost echo first, so that each ring can be placed from the one outside it."""
        first = self.inset.mm - self.echoes * self.spacing.mm
        insides = [
            inward(site.region, float(first + k * self.spacing.mm), "mitred") for k in range(self.echoes + 1)
        ]
        yield Rings(tuple(i for i in insides if not i.is_empty), first, self.spacing.mm)

    def count_at_most(self, site: Site) -> int:
        """One ring for each round and loop, more where a ring splits."""
        return (self.echoes + 1) * sum(
            2 + len(p.interiors) + len(p.exterior.coords) // 4 for p in site.region.area.geoms
        )

    def figures(self, site: Site) -> Sequence[Figure]:
        """The size of the open middle."""
        inner = inward(site.region, float(self.inset.mm), "mitred")
        if inner.is_empty:
            return ()
        left, low, right, high = inner.bounds
        return Figure(tr("Inner outline, across"), right - left), Figure(tr("and up"), high - low)
