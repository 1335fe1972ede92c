"""A wave that runs around the corners of a border (L27)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.turned import Frame, check_count, frame_of
from kenzet.core.fills.waves import one_period, steepest, tightest
from kenzet.core.geom.paths import Path
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import whole_repeats
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.texts import tr

Corner = Literal["crest", "trough"]


class WaveBorder(Fill):
    """Closed waves between an outline and the opening in it; whole repeats put the same point of the wave on every
    mitre."""

    label: ClassVar[str] = tr("Wave border")
    help: ClassVar[str] = tr(
        "A wave around a border, fitted so that every corner has the same point of the wave."
    )
    tile: ClassVar[str] = (
        "M5 5Q10 10 15 5T26 5T36 5T47 5T57 5T67 5Q62 10 67 13T67 22T67 34Q62 29 57 34T47 34T36 34T26 34T15 34T5 34Q10 29 5 26T5 17T5 5"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 42
    lines_are: ClassVar[str] = tr("Rounds")

    kind: Literal["wave border"] = "wave border"
    spacing: Length = asked(
        "1/2 in", Form("length", tr("Spacing"), tr("From round to round, on the straight sides."))
    )
    period: Length = asked("2 1/2 in", Form("length", tr("Crest to crest"), after="spacing"))
    depth: Length = asked("1/2 in", Form("length", tr("Crest to trough"), after="period"))
    rounds: int = asked(1, Form("count", tr("Rounds"), after="depth"))
    corner: Corner = asked(
        "crest",
        Form(
            "choice",
            tr("At the corner"),
            choices=(Choice("crest", tr("a crest outwards")), Choice("trough", tr("a trough inwards"))),
        ),
    )

    @field_validator("period", "depth")
    @classmethod
    def _wave(cls, length: Length) -> Length:
        return in_range(length, "1/16 in", "40 in", tr("A wave"))

    @field_validator("rounds")
    @classmethod
    def _rounds(cls, rounds: int) -> int:
        return check_count(rounds, 1, 60, tr("Rounds")) or 1

    def tightest_inner_radius(self, site: Site) -> float:
        """F29, for the shortest repeat on any side."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        depth = float(self.depth.mm)
        sides = [side for box in self._boxes(site, frame) for side in self._sides(*box)]
        return min(tightest(self.repeat(side)[0], depth) for side in sides)

    def template(self, site: Site) -> WaveEdge:
        """A wave of its depth, with the period on the longest side."""
        (w, h), *_ = self._boxes(site, frame_of(site.region, 0.0, site.region.middle))
        side = max(self._sides(w, h))
        return WaveEdge(self.repeat(side)[0], float(self.depth.mm), side)

    def _sides(self, w: float, h: float) -> tuple[float, float]:
        """The side lengths of a round from corner crest to corner crest, horizontal and vertical."""
        out = float(self.depth.mm) * (1 if self.corner == "crest" else -1)
        return w + out, h + out

    def repeat(self, side: float) -> tuple[float, int]:
        """Period and number of repeats along a side of ``side`` mm."""
        many = whole_repeats(side, float(self.period.mm))
        return side / many, many

    def _boxes(self, site: Site, frame: Frame) -> list[tuple[float, float]]:
        """Width and height of the center line of every round, from the outside in."""
        hole = self._opening(site)
        band = min(frame.width - hole[0], frame.height - hole[1]) / 2
        middle = band / 2
        first = middle - (self.rounds - 1) * float(self.spacing.mm) / 2
        boxes = [
            (frame.width - 2 * x, frame.height - 2 * x)
            for x in (first + k * float(self.spacing.mm) for k in range(self.rounds))
        ]
        if first <= 0 or min(boxes[-1]) <= float(self.depth.mm):
            raise BadValue(tr("So many rounds do not fit into this border."), "rounds")
        return boxes

    def _opening(self, site: Site) -> tuple[float, float]:
        """Width and height of the largest hole; 0 if there is none."""
        holes = [ring.bounds for p in site.region.area.geoms for ring in p.interiors]
        sizes = [(right - left, high - low) for left, low, right, high in holes]
        return max(sizes, key=lambda size: size[0] * size[1], default=(0.0, 0.0))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Round by round, each a closed line clockwise from the upper left corner."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        yield Paths(tuple(self._round(frame, w, h) for w, h in self._boxes(site, frame)))

    def _round(self, frame: Frame, w: float, h: float) -> Path:
        """Four sides of whole repeats from crest to crest; the crest at a corner is on its mitre."""
        half = float(self.depth.mm) / 2
        out = half if self.corner == "crest" else -half
        corners = [(-w / 2, h / 2), (w / 2, h / 2), (w / 2, -h / 2), (-w / 2, -h / 2)]
        rows = []
        for k, (x, y) in enumerate(corners):
            period, many = self.repeat(self._sides(w, h)[k % 2])
            u, v = (
                ((1.0, 0.0), (0.0, -1.0), (-1.0, 0.0), (0.0, 1.0))[k],
                ((0.0, 1.0), (1.0, 0.0), (0.0, -1.0), (-1.0, 0.0))[k],
            )
            one = one_period(period, 2 * half)
            quarter = len(one) // 4
            crest = np.roll(one, -quarter, axis=0)  # from a crest to the next
            crest[:, 0] = (crest[:, 0] - period / 4) % period
            if self.corner == "trough":
                crest[:, 1:] *= -1
            side = np.tile(crest, (many, 1))
            side[:, 0] += np.repeat(np.arange(many) * period, len(one)) - out
            rows.append(
                np.stack(
                    [
                        x + side[:, 0] * u[0] + side[:, 1] * v[0],
                        y + side[:, 0] * u[1] + side[:, 1] * v[1],
                        side[:, 2],
                    ],
                    axis=1,
                )
            )
        return frame.path(np.vstack(rows), closed=True)

    def figures(self, site: Site) -> Sequence[Figure]:
        """The repeats on both sides of the outermost round, and how much each is stretched."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        (w, h), *_ = self._boxes(site, frame)
        beside = (frame.width - w) / 2
        found = [
            Figure(tr("Line's middle from the edge"), beside),
            Figure(tr("Left beside it"), beside - float(self.depth.mm) / 2),
        ]
        for name, side in zip((tr("Repeats across"), tr("Repeats up")), self._sides(w, h), strict=True):
            period, many = self.repeat(side)
            found += [
                Figure(name, many, "count"),
                Figure(tr("Each changed by"), period - float(self.period.mm)),
            ]
        slope = math.degrees(steepest(float(self.period.mm), float(self.depth.mm)))
        return (*found, Figure(tr("Steepest slope"), slope, "angle"))

    def count_at_most(self, site: Site) -> int:
        """A round is divided where it leaves the zone."""
        return self.rounds * (2 + site.region.stretches_at_most * 2)
