"""An open channel between dense areas (L40)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, ReferenceHint, Site, check_spacing
from kenzet.core.fills.turned import Frame, TurnedFill
from kenzet.core.fills.waves import steepest, tightest, wave
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Floats
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.texts import tr

Guides = Literal["mirrored", "alike"]
Dense = Literal["along the guide", "freehand"]


class Channel(TurnedFill):
    """Two guide waves enclose an open channel; outside it the same waves repeat ``spacing`` apart, or ``beyond``
    on the lower side."""

    label: ClassVar[str] = tr("Open channel")
    help: ClassVar[str] = tr("Two waves leave a ribbon unquilted between dense lines on either side.")
    tile: ClassVar[str] = (
        "M-2 3Q18 -3 36 3T74 3M-2 7Q18 1 36 7T74 7M-2 11Q18 5 36 11T74 11M-2 27Q18 33 36 27T74 27M-2 31Q18 37 36 31T74 31M-2 35Q18 41 36 35T74 35"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 52

    kind: Literal["channel"] = "channel"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Spacing of the dense lines"), tr("Beside the channel."))
    )
    beyond: Length | None = asked(
        None,
        Form(
            "length",
            tr("Spacing on the other side"),
            tr("Below the channel."),
            empty=tr("the same"),
            after="spacing",
        ),
    )
    dense: Dense = asked(
        "along the guide",
        Form(
            "choice",
            tr("Dense lines"),
            choices=(Choice("along the guide", tr("along the guide")), Choice("freehand", tr("freehand"))),
            after="beyond",
        ),
    )
    wide: Length = asked(
        "1 1/4 in",
        Form("length", tr("Channel, on average"), tr("Between the two guide waves."), after="dense"),
    )
    middle: Length | None = asked(
        None,
        Form(
            "length",
            tr("Its middle"),
            tr("From the lower edge of the zone."),
            empty=tr("the zone’s middle"),
            after="wide",
        ),
    )
    period: Length = asked("5 in", Form("length", tr("Crest to crest"), after="middle"))
    depth: Length = asked("1/2 in", Form("length", tr("Crest to trough"), after="period"))
    guides: Guides = asked(
        "mirrored",
        Form(
            "choice",
            tr("The two waves"),
            choices=(Choice("mirrored", tr("mirror each other")), Choice("alike", tr("run alike"))),
            after="depth",
        ),
    )

    other_period: Length | None = asked(
        None, Form("length", tr("Lower wave, crest to crest"), empty=tr("the same"), after="guides")
    )
    other_depth: Length | None = asked(
        None, Form("length", tr("Lower wave, crest to trough"), empty=tr("the same"), after="other_period")
    )

    @field_validator("wide", "period", "depth", "other_period", "other_depth", "middle")
    @classmethod
    def _size(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/16 in", "100 in", tr("The channel"))

    @field_validator("beyond")
    @classmethod
    def _beyond(cls, length: Length | None) -> Length | None:
        return length and check_spacing(length)

    def tightest_inner_radius(self, site: Site) -> float:
        """F29, for both guides."""
        return min(tightest(period, depth) for period, depth in map(self._wave, (1.0, -1.0)))

    def _wave(self, side: float) -> tuple[float, float]:
        """Period and depth of the guide above the channel, or below it (``side`` -1), mm."""
        own = (self.period, self.depth)
        if side < 0:
            own = (self.other_period or self.period, self.other_depth or self.depth)
        return float(own[0].mm), float(own[1].mm)

    def _apart(self, side: float) -> Length:
        """The spacing of the dense lines on one side."""
        return self.spacing if side > 0 else self.beyond or self.spacing

    @property
    def rows_by_eye(self) -> bool:
        """True: the dense lines follow the guide or each other."""
        return True

    @property
    def freehand_rows(self) -> bool:
        """Whether the dense lines are sewn without a ruler."""
        return self.dense == "freehand"

    def template(self, site: Site) -> WaveEdge | ZigzagEdge | None:
        """The wave of both guides; None if the guides differ."""
        if self._wave(1.0) != self._wave(-1.0):
            return None
        return WaveEdge(*self._wave(1.0), self.frame(site).width)

    def widths(self, frame: Frame) -> tuple[float, float]:
        """The narrowest and the widest width of the channel, mm, sampled at 2000 places."""
        u = np.linspace(frame.left, frame.right, 2000)
        above, below = (self._guide(frame, side, u) for side in (1.0, -1.0))
        wide = float(self.wide.mm) + above - below
        return float(wide.min()), float(wide.max())

    def _guide(self, frame: Frame, side: float, u: Floats) -> Floats:
        """The distance of a guide from its center line at ``u``, mm."""
        period, depth = self._wave(side)
        turned = side if self.guides == "mirrored" else 1.0
        found: Floats = turned * depth / 2 * np.sin(math.tau * (u - (frame.left + frame.right) / 2) / period)
        return found

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Both guides, each followed outwards to the zone's end. Raises BadValue if the channel closes or leaves
        the zone."""
        frame = self.frame(site)
        narrow, _ = self.widths(frame)
        if narrow < min(float(self._apart(side).mm) for side in (1.0, -1.0)):
            raise BadValue(
                tr("The channel would be pinched shut: make it wider, or the waves shallower."), "wide"
            )
        middle = self._middle(frame)
        if not frame.low < middle < frame.high:
            raise BadValue(tr("Its middle would lie outside the zone."), "middle")
        for side in (1.0, -1.0):
            paths = tuple(self._side(frame, middle, side))
            step: ReferenceHint = ("step", self._apart(side).mm)
            yield Paths(paths, laid_on=(None, *(step for _ in paths[1:])), way=frame.way)

    def _middle(self, frame: Frame) -> float:
        return (frame.low + frame.high) / 2 if self.middle is None else frame.low + float(self.middle.mm)

    def _side(self, frame: Frame, middle: float, side: float) -> Iterable[Path]:
        (period, depth), s = self._wave(side), float(self._apart(side).mm)
        turned = side if self.guides == "mirrored" else 1.0
        shape = wave(frame.left, frame.right, period, depth, (frame.left + frame.right) / 2)
        shape = shape * np.array([1.0, turned, turned])
        room = frame.high - middle if side > 0 else middle - frame.low
        for k in range(max(math.ceil((room - float(self.wide.mm) / 2 + depth) / s), 1)):
            rows = shape.copy()
            rows[:, 1] += middle + side * (float(self.wide.mm) / 2 + k * s)
            yield frame.path(rows)

    def figures(self, site: Site) -> Sequence[Figure]:
        """Narrowest and widest width, and how much of the zone stays open."""
        frame = self.frame(site)
        narrow, wide = self.widths(frame)
        slopes = min(
            float(self._apart(side).mm) * math.cos(steepest(*self._wave(side))) for side in (1.0, -1.0)
        )
        return (
            Figure(tr("Narrowest place"), narrow),
            Figure(tr("Widest place"), wide),
            Figure(tr("Spacing of the dense lines on the slopes"), slopes),
            Figure(tr("Open, percent of the height"), 100 * float(self.wide.mm) / frame.height, "count"),
        )
