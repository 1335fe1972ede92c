"""Clamshells: rows of arcs whose points are on the crowns of the row below, single or double (L32, L33)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import LEAST_SPACING, Family, Figure, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.turned import Frame, TurnedFill, check_many
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.kit.curves import rise_of
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import whole_parts
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import EQUAL, NEARLY_WHOLE, ROUNDING, VISIBLE
from kenzet.texts import tr

Fit = Literal["whole", "as it is"]


class Clamshell(TurnedFill):
    """Arcs ``spacing`` wide and ``rise`` high; each row is shifted by half a width and moved up by one rise (F28)."""

    label: ClassVar[str] = tr("Clamshells")
    help: ClassVar[str] = tr(
        "Arcs whose points rest on the tops of the row below. A second, flatter arc makes them double."
    )
    tile: ClassVar[str] = (
        "M-12 38A12 12 0 0112 38A12 12 0 0136 38A12 12 0 0160 38A12 12 0 0184 38M0 26A12 12 0 0124 26A12 12 0 0148 26A12 12 0 0172 26M-12 14A12 12 0 0112 14A12 12 0 0136 14A12 12 0 0160 14A12 12 0 0184 14M0 2A12 12 0 0124 2A12 12 0 0148 2A12 12 0 0172 2"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 45
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Rows")

    kind: Literal["clamshell"] = "clamshell"
    spacing: Length = asked("1 3/4 in", Form("length", tr("Width of a scale"), tr("From point to point.")))
    rise: Length | None = asked(
        None, Form("length", tr("Height of a scale"), empty=tr("a half circle"), after="spacing")
    )
    second: Length | None = asked(
        None,
        Form(
            "length",
            tr("Rise of a second arc"),
            tr("A flatter one over the same points."),
            empty=tr("none"),
            after="rise",
        ),
    )
    fit: Fit = asked(
        "as it is",
        Form(
            "choice", tr("Along the row"),
            choices=(Choice("as it is", tr("as wide as set")), Choice("whole", tr("whole scales"))), after="second",
        ),
    )  # fmt: skip

    @field_validator("rise", "second")
    @classmethod
    def _rise(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/16 in", "50 in", tr("The height"))

    def scale(self, frame: Frame) -> tuple[float, float, float]:
        """Width, rise and radius of a scale, mm. Raises BadValue if it is higher than a half circle."""
        wide = float(self.spacing.mm)
        if self.fit == "whole":
            wide = frame.width / max(round(frame.width / wide), 1)
        rise = float(self.rise.mm) if self.rise else wide / 2
        if rise > wide / 2 + ROUNDING:
            raise BadValue(tr("A scale cannot be higher than half its width."), "rise")
        if self.second and float(self.second.mm) >= rise - VISIBLE:
            raise BadValue(
                tr("The second arc is the flatter one: its rise must be less than the first."), "second"
            )
        return wide, rise, wide**2 / (8 * rise) + rise / 2

    @property
    def counted_families(self) -> frozenset[int]:
        """The rows of scales; second arcs do not count as rows."""
        return frozenset({0})

    def turn_of(self, family: int) -> int:
        """All first arcs, then the flatter ones."""
        return family

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Rows from the zone's lower edge upwards, with whole scales from its left edge; then the flatter arcs."""
        frame = self.frame(site)
        wide, rise, _ = self.scale(frame)
        yield Paths(tuple(self._rows(frame, wide, rise, rise)))
        if self.second:
            yield Paths(tuple(self._rows(frame, wide, rise, float(self.second.mm))))

    def _rows(self, frame: Frame, wide: float, pitch: float, rise: float) -> Iterable[Path]:
        many = math.ceil(frame.width / wide) + 2
        check_many(many * frame.height / pitch)
        spare = (frame.width % wide) / 2 if self.fit == "as it is" else 0.0
        if spare > wide / 2 - EQUAL or spare < EQUAL:
            spare = 0.0
        for number in range(math.ceil(frame.height / pitch - ROUNDING)):
            begin = frame.left + spare - wide * (1.5 if number % 2 else 1.0)
            k = np.arange(many + 1)
            rows = np.stack(
                [
                    begin + k * wide,
                    np.full(len(k), frame.low + number * pitch),
                    np.full(len(k), bulge_for(wide, -rise)),
                ],
                axis=1,
            )
            yield frame.path(rows)

    def figures(self, site: Site) -> Sequence[Figure]:
        """Radius, height and counts."""
        frame = self.frame(site)
        wide, rise, radius = self.scale(frame)
        found = [
            Figure(tr("Radius of an arc"), radius),
            Figure(tr("Up from row to row"), rise),
            Figure(tr("Scales in a row"), frame.width / wide, "count"),
        ]
        if self.second:
            h = float(self.second.mm)
            found.append(Figure(tr("Radius of the second arc"), wide**2 / (8 * h) + h / 2))
        return found

    def by_radius(self, site: Site, radius: float) -> Sequence[SpacingSuggestion]:
        """The second, flatter arc by its rise (F24), or scales that are half circles. Raises BadValue if the arc
        is narrower than the scale."""
        unit = self.spacing.unit
        whole = SpacingSuggestion(Length.near(2 * radius, unit), tr("half circles"))
        wide, first, _ = self.scale(self.frame(site))
        rise = rise_of(radius, wide)
        if math.isnan(rise):
            raise BadValue(tr("too small a circle for a second arc over so wide a scale"), "second")
        if rise >= first - VISIBLE:
            return [whole]
        return [
            SpacingSuggestion(
                self.spacing, tr("second arc"), (("second", Length.near(round(rise, 4), unit).text),)
            ),
            whole,
        ]

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Widths that divide the row evenly, first those that give whole rows too."""
        frame = self.frame(site)
        wide = Fraction(round(frame.width * 10**6), 10**6)
        least = Length.parse(LEAST_SPACING).mm
        parts = [p for p in whole_parts(wide, self.spacing.mm, 1) if p >= least]
        found = [
            SpacingSuggestion(Length.near(part, self.spacing.unit), tr("whole scales")) for part in parts
        ]
        if self.rise is None:
            both = [w for w in found if _whole(frame.height / (float(w.length.mm) / 2))]
            found = [SpacingSuggestion(w.length, tr("whole scales and rows")) for w in both] + [
                w for w in found if w not in both
            ]
        return found[:2]


def _whole(number: float) -> bool:
    return abs(number - round(number)) < NEARLY_WHOLE
