"""Random lines, straight or wavy, that never come closer than a least gap (L28, L44)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site, check_spacing
from kenzet.core.fills.skipping import SKIP
from kenzet.core.fills.turned import TurnedFill, chance
from kenzet.core.geom.curves import as_arcs
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import SCATTERED_CURVE_ERROR
from kenzet.texts import tr

Shape = Literal["straight", "wavy"]
_BENDS = 7


class Scattered(TurnedFill):
    """Lines across the zone with random ends or bends, from a seed; neighbors always keep the least gap."""

    label: ClassVar[str] = tr("Random lines")
    help: ClassVar[str] = tr(
        "Random lines that never come too close to each other. The same seed gives the same lines."
    )
    tile: ClassVar[str] = "M-2 5 74 2M-2 11 74 14M-2 22 74 18M-2 26 74 29M-2 36 74 33"
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 7
    lends_spacing: ClassVar[bool] = False

    kind: Literal["random"] = "random"
    spacing: Length = asked(
        "3/8 in", Form("length", tr("Smallest gap"), tr("The least distance between neighboring lines."))
    )
    most: Length = asked(
        "1 1/4 in", Form("length", tr("Largest gap, about"), tr("The widest gap, roughly."), after="spacing")
    )
    shape: Shape = asked(
        "straight",
        Form(
            "choice",
            tr("Lines"),
            choices=(Choice("straight", tr("straight")), Choice("wavy", tr("wavy"))),
            after="most",
        ),
    )
    seed: int = asked(
        1, Form("count", tr("Random seed"), tr("Another seed gives other lines."), after="shape")
    )
    skip: Length | None = asked("1 in", SKIP)

    @field_validator("most")
    @classmethod
    def _most(cls, length: Length) -> Length:
        return check_spacing(length)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Line after line upwards; at every bend the next line is at least the gap above, with a random addition.

        A line's bends lie within ``sway`` of its level, which bounds its slope; a step of gap / cos(slope) + 2 ·
        sway keeps the true gap.
        """
        gap, most = float(self.spacing.mm), float(self.most.mm)
        if most <= gap:
            raise BadValue(tr("The widest must be wider than the least gap."), "most")
        frame, dice = self.frame(site), chance(self.seed)
        bends = 2 if self.shape == "straight" else _BENDS
        across = (frame.width + 2.0) / (bends - 1)
        sway = min((most - gap) / 5, across * 0.35)
        least = gap / math.cos(math.atan(2 * sway / across)) + 2 * sway
        v = frame.low - least + dice.uniform(0, least)
        paths = []
        while v < frame.high + sway:
            level = [v + dice.uniform(-sway, sway) for _ in range(bends)]
            points = [(frame.left - 1.0 + k * across, level[k]) for k in range(bends)]
            paths.append(frame.path(_line(points)))
            v += least + dice.uniform(0, max(most - least, 0.0))
        yield Paths(tuple(paths))

    def figures(self, site: Site) -> Sequence[Figure]:
        """None: the lines are random."""
        return ()


def _line(points: list[tuple[float, float]]) -> np.ndarray:
    """A straight line through two points; else the arcs of a uniform cubic B-spline, which stays between its
    bends."""
    if len(points) == 2:
        return np.array([(*p, 0.0) for p in points])
    given = np.array([points[0], points[0], *points, points[-1], points[-1]])
    rows: list[tuple[float, ...]] = []
    for p0, p1, p2, p3 in zip(given, given[1:], given[2:], given[3:], strict=False):
        cubic = ((p0 + 4 * p1 + p2) / 6, (2 * p1 + p2) / 3, (p1 + 2 * p2) / 3, (p1 + 4 * p2 + p3) / 6)
        arcs = as_arcs(tuple((float(x), float(y)) for x, y in cubic), SCATTERED_CURVE_ERROR)  # type: ignore[arg-type]
        rows += [(*a, 0.0) if len(a) == 2 else a for a in arcs]
    rows.append((float(given[-1][0]), float(given[-1][1]), 0.0))
    return np.array(rows)
