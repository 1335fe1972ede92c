"""Tapered lines that open like a fan (L4)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import combinations
from typing import ClassVar, Literal

import numpy as np
import shapely
from pydantic import field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site, check_spacing
from kenzet.core.fills.origin import pick
from kenzet.core.fills.turned import Frame, check_count, check_many, frame_of
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

NarrowEnd = Literal["left", "right"]


class Fan(Fill):
    """Lines from a base edge, each turned by the same small angle from the one before (F19). Without a straight
    edge, or if the angle of the base is given, the base is a line at that angle that touches the zone."""

    label: ClassVar[str] = tr("Fan")
    help: ClassVar[str] = tr(
        "Lines close at one end and wide at the other. Each line turns a little from the last."
    )
    tile: ClassVar[str] = (
        "M-4 36H76M-4 33 76 25M-4 30 76 13M-4 27 76 1M-4 24 60 -3M-4 21 44 -3M-4 18 28 -3M-4 15 14 -3"
    )
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 6
    lends_spacing: ClassVar[bool] = False

    kind: Literal["fan"] = "fan"
    spacing: Length = asked(
        "1/8 in", Form("length", tr("Narrow end"), tr("True distance from line to line at the close end."))
    )
    wide: Length = asked(
        "1/4 in", Form("length", tr("Wide end"), tr("True distance at the other end."), after="spacing")
    )
    at: int | None = asked(
        None, Form("count", tr("Base edge"), tr("Click an edge of the zone."), empty=tr("the longest"))
    )
    lean: float | None = asked(
        None,
        Form("angle", tr("Angle of the base line"), tr("Degrees from level, where no edge is the base."), empty=tr("as the base edge"), presets=(0, 45, 90, 135)),
    )  # fmt: skip
    narrow: NarrowEnd = asked(
        "left",
        Form("choice", tr("Narrow end"), choices=(Choice("left", tr("left or top")), Choice("right", tr("right or bottom")))),
    )  # fmt: skip
    lines: int | None = asked(None, Form("count", tr("Lines"), tr("How many."), empty=tr("until full")))

    @field_validator("spacing", "wide")
    @classmethod
    def _spacing(cls, length: Length) -> Length:
        return check_spacing(length)

    @field_validator("lines")
    @classmethod
    def _lines(cls, lines: int | None) -> int | None:
        return check_count(lines, 1, 400, tr("Lines"))

    @model_validator(mode="after")
    def _opens(self) -> Fan:
        if self.wide.mm <= self.spacing.mm:
            raise BadValue(
                tr("The wide end must be wider than the narrow one; for even lines take Lines."), "wide"
            )
        return self

    def turn(self, length: float) -> float:
        """F19: the angle between neighboring lines over ``length`` mm, radians.

        >>> round(math.degrees(Fan(spacing="0.15 in", wide="0.30 in").turn(6 * 25.4)), 3)
        1.432
        """
        return math.atan(float(self.wide.mm - self.spacing.mm) / length)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Lines through the point where all would meet, from the base edge inwards until they are perpendicular to
        it."""
        frame, length, inward = self._base(site)
        turn = self.turn(length)
        reach = float(self.spacing.mm) / math.tan(turn)  # from that point to the narrow end
        far = reach + math.hypot(frame.width, frame.height) + length
        most = self.lines or math.ceil(math.radians(89.0) / turn)
        check_many(most * 20)
        side = 1.0 if self.narrow == "left" else -1.0
        apex = -reach if self.narrow == "left" else length + reach
        paths = []
        for k in range(1, most + 1):
            if k * turn >= math.radians(90.0):
                break
            du, dv = math.cos(k * turn) * side, math.sin(k * turn) * inward
            near = reach * 0.25  # nothing is sewn where all lines meet
            ends = [(apex + du * t, dv * t, 0.0) for t in (near, far)]
            paths.append(frame.path(np.array(ends)))
        yield Paths(tuple(paths))

    def _base(self, site: Site) -> tuple[Frame, float, float]:
        """The frame whose u runs along the base edge from its start, the edge's length, and the sign of v towards
        the inside."""
        edges = site.region.edges
        if not edges or self.lean is not None:
            return self._on_base_line(site)
        edge = max(edges, key=lambda e: e.length) if self.at is None else pick(edges, self.at, "at", "edge")
        nx, ny = site.region.inward(edge)
        angle = math.radians(edge.angle)
        inward = 1.0 if -math.sin(angle) * nx + math.cos(angle) * ny > 0 else -1.0
        return frame_of(site.region, edge.angle, edge.start), edge.length, inward

    def _on_base_line(self, site: Site) -> tuple[Frame, float, float]:
        """The same for a base line that touches the zone from below, at the given angle or parallel to the longest
        diagonal."""
        angle = self.lean if self.lean is not None else _from_tip_to_tip(site.region)
        ux, uy = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        points = shapely.get_coordinates(site.region.area)
        along, across = points @ np.array([ux, uy]), points @ np.array([-uy, ux])
        u, v = float(along.min()), float(across.min())
        return frame_of(site.region, angle, (u * ux - v * uy, u * uy + v * ux)), float(np.ptp(along)), 1.0

    def figures(self, site: Site) -> Sequence[Figure]:
        """The turn, how much of the last line shows, and the room that the lines need at both ends."""
        _, length, _ = self._base(site)
        turn = math.degrees(self.turn(length))
        many = self.lines or len(next(iter(self.lay_out(site))).paths)  # type: ignore[union-attr]
        narrow, wide = float(self.spacing.mm), float(self.wide.mm)
        return (
            Figure(tr("Turn a line"), turn, "angle"),
            Figure(tr("Turn in all"), turn * many, "angle"),
            Figure(tr("The last line shows at the narrow end by"), wide - narrow),
            Figure(tr("All need at the narrow end"), many * narrow),
            Figure(tr("All need at the wide end"), many * wide),
        )

    def notes(self) -> Sequence[str]:
        """Which way to tilt the ruler."""
        return (
            tr(
                "Right: tuck the ruler in at the narrow end, so that the last line shows there beyond the plastic. Wrong: tucked in at the wide end, the fan closes instead of opening."
            ),
        )


def _from_tip_to_tip(region: Region) -> float:
    """The angle in degrees of the line between the two corners that are farthest apart; 0 if there are fewer than
    two."""
    far = max(combinations(region.corners, 2), key=lambda pair: math.dist(*pair), default=None)
    if far is None:
        return 0.0
    (x0, y0), (x1, y1) = sorted(far)
    return math.degrees(math.atan2(y1 - y0, x1 - x0))
