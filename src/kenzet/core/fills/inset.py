"""An open square with lines that change direction from quadrant to quadrant (L12)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, even_wishes, frame_of
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length, in_words
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import SNAP
from kenzet.texts import tr

First = Literal["upright", "level"]
Cross = Literal["sewn", "left out"]


class Inset(Fill):
    """A square around the center stays open; two opposite quadrants have upright lines, the other two level ones."""

    label: ClassVar[str] = tr("Inset square")
    help: ClassVar[str] = tr(
        "An open square in the middle. The lines around it change direction in each quarter."
    )
    tile: ClassVar[str] = (
        "M24 8H48V31H24ZM4 -2V19.500M12 -2V19.500M20 -2V19.500M28 -2V8M36 -2V8M36 6H74M48 13H74M36 0H74M48 19.500V41M56 19.500V41M64 19.500V41M72 19.500V41M40 31V41M-2 25H24M-2 31H24M-2 37H36"
    )
    group: ClassVar[Group] = "shapes"
    order: ClassVar[int] = 12

    kind: Literal["inset"] = "inset"
    spacing: Length = asked("3/8 in", Form("length", tr("Spacing"), tr("From the outer edge inward.")))
    half: Length = asked(
        "1 1/4 in",
        Form(
            "length", tr("Square, middle to side"), tr("Half the width of the open square."), after="spacing"
        ),
    )
    first: First = asked(
        "upright",
        Form(
            "choice",
            tr("Upper left quarter"),
            choices=(Choice("upright", tr("upright lines")), Choice("level", tr("level lines"))),
        ),
    )
    cross: Cross = asked(
        "left out",
        Form("choice", tr("Cross between the quarters"), choices=(Choice("left out", tr("a seam")), Choice("sewn", tr("sewn")))),
    )  # fmt: skip

    @field_validator("half")
    @classmethod
    def _half(cls, length: Length) -> Length:
        return in_range(length, "1/4 in", "100 in", tr("The half size of the square"))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The quadrants from the upper left clockwise, then the square, then the cross."""
        frame, a = frame_of(site.region, 0.0, site.region.middle), float(self.half.mm)
        w, h = frame.width / 2, frame.height / 2
        if a >= min(w, h) - SNAP:
            raise BadValue(
                tr(
                    "The square must stay inside the block: less than {w} from the middle.",
                    w=in_words(min(w, h), self.half.unit),
                ),
                "half",
            )
        for k, (sx, sy) in enumerate(((-1, 1), (1, 1), (1, -1), (-1, -1))):
            upright = (k % 2 == 0) == (self.first == "upright")
            yield Paths(tuple(self._quadrant(frame, w, h, a, sx, sy, upright)), self.spacing.mm)
        square = [(-a, -a), (a, -a), (a, a), (-a, a)]
        yield Paths((frame.path(np.array([(*p, 0.0) for p in square]), closed=True),))
        if self.cross == "sewn":
            arms = [
                ((-w, 0.0), (-a, 0.0)),
                ((a, 0.0), (w, 0.0)),
                ((0.0, -h), (0.0, -a)),
                ((0.0, a), (0.0, h)),
            ]
            yield Paths(tuple(frame.path(np.array([(*p, 0.0), (*q, 0.0)])) for p, q in arms))

    def _quadrant(
        self, frame: Frame, w: float, h: float, a: float, sx: int, sy: int, upright: bool
    ) -> Iterable[Path]:
        """Lines from the outer edge inwards. Lines beside the square end at it; a line that falls on its side is
        drawn only above it."""
        wide, tall, s = (w, h, float(self.spacing.mm)) if upright else (h, w, float(self.spacing.mm))
        k = 1
        while k * s < wide - SNAP:
            off = wide - k * s
            low = a if off <= a + SNAP else 0.0
            ends = (
                ((sx * off, sy * low), (sx * off, sy * tall))
                if upright
                else ((sx * low, sy * off), (sx * tall, sy * off))
            )
            yield frame.path(np.array([(*p, 0.0) for p in ends]))
            k += 1

    def figures(self, site: Site) -> Sequence[Figure]:
        """The gap left beside the cross."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        s = float(self.spacing.mm)
        lines = max(int((frame.width / 2 - SNAP) // s), 0)
        return (
            Figure(tr("Lines in an upright quarter"), lines, "count"),
            Figure(tr("Left beside the cross"), frame.width / 2 - lines * s),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that come out even at the cross."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        return even_wishes(Fraction(frame.width / 2).limit_denominator(10**9), self.spacing)
