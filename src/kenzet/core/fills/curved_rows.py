"""Curved rows, each stepped from the last, with straight lines above or across (L10, L29)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site, check_spacing
from kenzet.core.fills.turned import Frame, RowFill
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import ROUNDING, STEEPEST
from kenzet.texts import tr

Bulging = Literal["up", "down"]
Straights = Literal["no", "above", "across"]


class CurvedRows(RowFill):
    """Rows of one arc as wide as the zone; each row is the same arc, moved by the step."""

    label: ClassVar[str] = tr("Curved rows")
    help: ClassVar[str] = tr(
        "One wide arc, moved up row by row, with optional straight lines above or across."
    )
    tile: ClassVar[str] = (
        "M-2 38Q36 26 74 38M-2 31Q36 19 74 31M-2 24Q36 12 74 24M6 22V-2M16 19V-2M26 18V-2M36 17V-2M46 18V-2M56 19V-2M66 22V-2"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 43
    lines_are: ClassVar[str] = tr("Rows and straights")

    kind: Literal["curved rows"] = "curved rows"
    rise: Length = asked(
        "1 in",
        Form(
            "length",
            tr("Rise of the arc"),
            tr("From the line between its ends to its middle."),
            after="typed",
        ),
    )
    bulging: Bulging = asked(
        "up",
        Form(
            "choice",
            tr("Its middle"),
            choices=(Choice("up", tr("up")), Choice("down", tr("down"))),
            after="rise",
        ),
    )
    straights: Straights = asked(
        "no",
        Form(
            "choice", tr("Straight lines"),
            choices=(Choice("no", tr("none")), Choice("above", tr("above the rows")), Choice("across", tr("all across"))),
            after="bulging",
        ),
    )  # fmt: skip
    apart: Length | None = asked(
        None,
        Form("length", tr("Spacing of the straight lines"), empty=tr("like the rows"), only_with=("straights", ("above", "across")), after="straights"),
    )  # fmt: skip

    @field_validator("rise")
    @classmethod
    def _rise(cls, length: Length) -> Length:
        return in_range(length, "1/32 in", "40 in", tr("The rise"))

    @field_validator("apart")
    @classmethod
    def _apart(cls, length: Length | None) -> Length | None:
        return length and check_spacing(length)

    def arc(self, frame: Frame) -> tuple[float, float]:
        """Radius and rise of the arc over the zone's width, mm. Raises BadValue if it is more than a half circle."""
        rise = float(self.rise.mm)
        if rise > frame.width / 2:
            raise BadValue(tr("That rises higher than a half circle over this zone."), "rise")
        return frame.width**2 / (8 * rise) + rise / 2, rise

    def slope(self, frame: Frame) -> float:
        """F6 at the ends of the arc, where it is steepest."""
        radius, _ = self.arc(frame)
        return math.sqrt(max(1 - (frame.width / 2 / radius) ** 2, STEEPEST))

    def span(self, frame: Frame) -> tuple[float, float]:
        """From the line between its ends to its middle."""
        _, rise = self.arc(frame)
        return (0.0, rise) if self.bulging == "up" else (-rise, 0.0)

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """One arc from end to end of the zone."""
        _, rise = self.arc(frame)
        bulge = bulge_for(frame.width, -rise if self.bulging == "up" else rise)
        return np.array([(frame.left, 0.0, bulge), (frame.right, 0.0, 0.0)])

    def places(self, frame: Frame) -> list[tuple[int, float]]:
        """If rows are counted from the edge, the first is one step inside."""
        if self.start == "edge" and self.first is None:
            moved = self.model_copy(update={"first": Length.near(self.step(frame), self.spacing.unit)})
            return moved.places(frame)
        return super().places(frame)

    def turn_of(self, family: int) -> int:
        """The rows, then the straight lines."""
        return family

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The rows, then the straight lines, counted from the middle of the zone."""
        frame = self.frame(site)
        places = self.places(frame)
        yield self.family(frame, places)
        if self.straights == "no":
            return
        s = float((self.apart or self.spacing).mm)
        middle = (frame.left + frame.right) / 2
        k = range(
            math.ceil((frame.left - middle) / s + ROUNDING),
            math.floor((frame.right - middle) / s - ROUNDING) + 1,
        )
        top = places[-1][1] if places and self.straights == "above" else frame.low - 1.0
        paths = []
        for u in (middle + i * s for i in k):
            low = top + self.height_at(frame, u - frame.left) if self.straights == "above" else top
            if low < frame.high:
                paths.append(frame.path(np.array([(u, low, 0.0), (u, frame.high + 1.0, 0.0)])))
        yield Paths(tuple(paths), (self.apart or self.spacing).mm)

    def height_at(self, frame: Frame, along: float) -> float:
        """The height v of the arc above its ends, ``along`` mm from its left end."""
        radius, rise = self.arc(frame)
        off = along - frame.width / 2
        height = math.sqrt(max(radius**2 - off**2, 0.0)) - (radius - rise)
        return height if self.bulging == "up" else -height

    def notes(self) -> Sequence[str]:
        """F12: with an odd number of rows, sewing ends on the far side (A103)."""
        if self.straights != "above" or self.rows is None or self.rows % 2 == 0:
            return ()
        return (
            tr(
                "Sewn back and forth, {rows} rows end on the far side: begin the straight lines there and come back, begin the rows on the other side, or sew {rows2}.",
                rows=self.rows,
                rows2=self.rows + 1,
            ),
        )

    def figures(self, site: Site) -> Sequence[Figure]:
        """Radius, chord and rise; step in the middle and true gap at the ends."""
        frame = self.frame(site)
        radius, rise = self.arc(frame)
        return (
            *super().figures(site),
            Figure(tr("Arc, end to end"), frame.width),
            Figure(tr("Arc, rise"), rise),
            Figure(tr("Arc, radius"), radius),
        )
