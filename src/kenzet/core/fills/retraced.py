"""An outline built up of thread: the seam is sewn two or three times (L45)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Family, Fill, Group, Paths, Site, Surrounds
from kenzet.core.fills.origin import pick
from kenzet.core.fills.turned import check_count
from kenzet.core.geom.paths import Path, straight_path, with_arcs
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked
from kenzet.texts import tr


class Retraced(Fill):
    """The zone's outline, or one of its edges, sewn ``times`` times."""

    label: ClassVar[str] = tr("Thread outline")
    help: ClassVar[str] = tr("The edge itself, sewn two or three times so the thread stands out.")
    tile: ClassVar[str] = "M8 6H64V33H8ZM9 7H63V32H9ZM10 8H62V31H10Z"
    group: ClassVar[Group] = "echoes"
    order: ClassVar[int] = 25
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Outlines")

    surrounds: ClassVar[Surrounds] = "ditch"

    kind: Literal["retraced"] = "retraced"
    spacing: Length = Length.parse("1/4 in")
    times: int = asked(
        2, Form("count", tr("Times sewn over"), tr("Two or three times make the line stand out."))
    )
    at: int | None = asked(
        None, Form("count", tr("Edge"), tr("Click an edge of the zone."), empty=tr("all round"))
    )

    @field_validator("times")
    @classmethod
    def _times(cls, times: int) -> int:
        return check_count(times, 1, 6, tr("Times")) or 1

    @classmethod
    def surrounding(cls, spacing: Length, rounds: int) -> Retraced:
        """The outline, sewn once."""
        return cls(times=1)

    @property
    def sews_outline(self) -> bool:
        """True for the whole outline; a single chosen edge is sewn whatever lies beside it."""
        return self.at is None

    @property
    def passes(self) -> int:
        """The chosen number of times."""
        return self.times

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Every ring of the outline, or one edge."""
        if self.at is not None:
            edge = pick(site.region.edges, self.at, "at", "edge")
            yield Paths((straight_path(edge.start, edge.end),), on_outline=True)
            return
        rings = [ring for p in site.region.area.geoms for ring in (p.exterior, *p.interiors)]
        paths = tuple(
            Path(with_arcs(np.asarray(ring.coords)[:-1], closed=True), closed=True) for ring in rings
        )
        yield Paths(paths, on_outline=True)

    def notes(self) -> Sequence[str]:
        """When not to use it, and an alternative."""
        return (
            tr(
                "A cord or yarn couched on does the same in one pass. Do not use it to hide every small error."
            ),
        )
