"""Zigzag rows along a template: points one pitch apart, rows moved up by the steps of a rhythm (L20)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.fills.base import Figure, Group, Site
from kenzet.core.fills.turned import Frame, RowFill, repeats_from
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.texts import tr


class ZigzagRows(RowFill):
    """Rows across the zone along a template with points ``pitch`` apart and ``rise`` high."""

    label: ClassVar[str] = tr("Zigzag rows")
    help: ClassVar[str] = tr(
        "One template moved up row by row. A rhythm of steps makes thick and thin bands."
    )
    tile: ClassVar[str] = (
        "M-4 37 5 28 14 37 23 28 32 37 41 28 50 37 59 28 68 37 77 28M-4 31 5 22 14 31 23 22 32 31 41 22 50 31 59 22 68 31 77 22M-4 19 5 10 14 19 23 10 32 19 41 10 50 19 59 10 68 19 77 10M-4 13 5 4 14 13 23 4 32 13 41 4 50 13 59 4 68 13 77 4"
    )
    group: ClassVar[Group] = "zigzags"
    order: ClassVar[int] = 32
    lines_are: ClassVar[str] = tr("Rows")
    whole_rows: ClassVar[bool] = True

    kind: Literal["zigzag rows"] = "zigzag rows"
    pitch: Length = asked("1 1/2 in", Form("length", tr("Template: point to point"), after="typed"))
    rise: Length = asked(
        "3/4 in", Form("length", tr("and how high"), tr("From hollow to point."), after="pitch")
    )
    slide: Length | None = asked(
        None, Form("length", tr("Each row slides by"), empty=tr("no slide"), after="rise")
    )

    @field_validator("pitch", "rise")
    @classmethod
    def _template(cls, length: Length) -> Length:
        return in_range(length, "1/8 in", "40 in", tr("The template"))

    @field_validator("slide")
    @classmethod
    def _slide(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", "40 in", tr("The move"))

    @property
    def _half(self) -> float:
        return float(self.pitch.mm) / 2

    def slope(self, frame: Frame) -> float:
        """F17 with a = half the pitch and b = the rise."""
        return self._half / math.hypot(self._half, float(self.rise.mm))

    def span(self, frame: Frame) -> tuple[float, float]:
        """From hollow to point."""
        return 0.0, float(self.rise.mm)

    def template(self, site: Site) -> WaveEdge | ZigzagEdge | None:
        """A zigzag edge of its pitch and rise."""
        return ZigzagEdge(float(self.pitch.mm), float(self.rise.mm), self.frame(site).width)

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """A hollow at the left end of the zone or on the datum, shifted by ``slide`` for each row."""
        period, begin = repeats_from(frame, 2 * self._half, frame.left)
        moved = number * float(self.slide.mm) % period if self.slide else 0.0
        return period, begin + moved

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """From a hollow beyond the left end to a point beyond the right one."""
        _, begin = self.repeats(frame, number) or (0.0, 0.0)
        k = np.arange(-3, math.ceil(frame.width / self._half) + 4)
        high = np.where(k % 2 == 1, float(self.rise.mm), 0.0)
        return np.stack([begin + k * self._half, high, np.zeros(len(k))], axis=1)

    def figures(self, site: Site) -> Sequence[Figure]:
        """Leg and turn, with step and true spacing."""
        lean = math.degrees(math.atan2(float(self.rise.mm), self._half))
        leg = math.hypot(self._half, float(self.rise.mm))
        return (
            *super().figures(site),
            Figure(tr("Each leg"), leg, "sewn"),
            Figure(tr("Turn at each point"), 2 * lean, "angle"),
        )
