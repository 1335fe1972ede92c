"""What she sews with: the foot, one straight ruler, the step she marks by, the batting."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Any

from pydantic import Field, ValidationInfo, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.measure import Length, Unit
from kenzet.core.params import Frozen, in_range

SCALES = {"quarters": "1/4 in", "eighths": "1/8 in"}
MOST_ETCHED = 200


class Foot(Frozen):
    """A round ruler foot. ``offset`` is r: needle to rim."""

    offset: Length = Length.parse("1/4 in")

    @field_validator("offset")
    @classmethod
    def _offset(cls, offset: Length) -> Length:
        return in_range(offset, "1/16 in", "1 in", "The foot's offset")


class Ruler(Frozen):
    """A thick straight ruler; etched lines are parallel to the working edge.

    ``etched`` is ``quarters``, ``eighths`` or a list of distances from the working edge.
    """

    length: Length = Length.parse("12 in")
    width: Length = Length.parse("2 1/2 in")
    etched: str | tuple[Length, ...] = "quarters"

    @field_validator("length", "width")
    @classmethod
    def _size(cls, size: Length) -> Length:
        return in_range(size, "1/2 in", "60 in", "A ruler's length and width")

    @field_validator("etched", mode="before")
    @classmethod
    def _etched(cls, value: Any, info: ValidationInfo) -> str | tuple[Length, ...]:
        if isinstance(value, str) and value.strip().lower() in SCALES:
            return value.strip().lower()
        listed = re.split(r"[;\n]|,\s*", value) if isinstance(value, str) else value
        if not isinstance(listed, list | tuple) or not 1 <= len(listed) <= MOST_ETCHED:
            raise BadValue('Etched lines are "quarters", "eighths" or a list like 1/4, 1/2, 3/4.')
        unit: Unit = (info.context or {}).get("unit", "in")
        lines = [x if isinstance(x, Length) else Length.parse(str(x), unit) for x in listed if x != ""]
        for line in lines:
            in_range(line, "1/32 in", "60 in", "An etched line")
        return tuple(sorted(dict.fromkeys(lines), key=lambda line: line.mm))

    @property
    def lines(self) -> tuple[Fraction, ...]:
        """The distances of the etched lines from the working edge, mm, the edge itself (0) first."""
        if isinstance(self.etched, str):
            step = Length.parse(SCALES[self.etched]).mm
            return tuple(i * step for i in range((self.width.mm / step).__floor__() + 1))
        return (Fraction(0), *(line.mm for line in self.etched if line.mm <= self.width.mm))


class Batting(Frozen):
    """The layer in the middle; ``limit`` is the widest gap that its maker allows, ``thickness`` its loft."""

    name: str = Field("cotton batting", min_length=1, max_length=80)
    limit: Length = Length.parse("8 in")
    thickness: Length = Length.parse("1/8 in")

    @field_validator("thickness")
    @classmethod
    def _thickness(cls, thickness: Length) -> Length:
        return in_range(thickness, "1/32 in", "2 in", "The batting's thickness")

    @field_validator("limit")
    @classmethod
    def _limit(cls, limit: Length) -> Length:
        return in_range(limit, "1/2 in", "30 in", "The batting's limit")


class Kit(Frozen):
    """The things a quilt is planned with."""

    foot: Foot = Foot()
    ruler: Ruler = Ruler()
    batting: Batting = Batting()
    marking_step: Length = Length.parse("1/8 in")

    @field_validator("marking_step")
    @classmethod
    def _marking_step(cls, step: Length) -> Length:
        return in_range(step, "1/64 in", "1 in", "The marking step")
