"""What every tool or supply has: a kind, a name, whether it is at hand, and fields with their ranges."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Any, ClassVar, Literal

from pydantic import Field, ValidationInfo, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.kit.edges import Edge
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.params import Choice, Form, Frozen, asked, forms, in_range, plain_name
from kenzet.texts import tr

State = Literal["at hand", "lent", "missing", "broken"]
STATES: tuple[State, ...] = ("at hand", "lent", "missing", "broken")
Group = Literal["machine", "rulers", "marking", "supplies"]
GROUPS: dict[Group, str] = {
    "machine": tr("Machine and feet"), "rulers": tr("Rulers and templates"), "marking": tr("For marking"), "supplies": tr("Threads and batting"),
}  # fmt: skip
SCALES = {"quarters": "1/4 in", "eighths": "1/8 in", "centimetres": "1 cm", "half centimetres": "5 mm"}
MOST_ETCHED = 200


class Thing(Frozen):
    """Base of all kinds. Must set ``label`` and ``kind``. May set ``ranges``, the least and the greatest value of
    each length by its field, and ``says``, the fields that tell it from another of its kind."""

    label: ClassVar[str]
    says: ClassVar[tuple[str, ...]] = ()
    group: ClassVar[Group]
    order: ClassVar[int] = 0
    ranges: ClassVar[dict[str, tuple[str, str]]] = {}

    name: str = Field("", max_length=80, validate_default=True)
    state: State = asked(
        "at hand",
        Form("choice", tr("Status"), choices=tuple(Choice(state, tr(state)) for state in STATES), minor=True),
    )

    @field_validator("name")
    @classmethod
    def _name(cls, name: str) -> str:
        return plain_name(name.strip()) or cls.label

    @field_validator("*")
    @classmethod
    def _in_range(cls, value: Any, info: ValidationInfo) -> Any:
        if isinstance(value, Length) and info.field_name in cls.ranges:
            label = forms(cls)[info.field_name].label
            return in_range(value, *cls.ranges[info.field_name], f"“{label}”")
        return value


class Edged(Thing):
    """Base of thick rulers that a ruler foot runs along. Must override ``edges``."""

    group: ClassVar[Group] = "rulers"
    thickness: Length = asked(
        "1/4 in", Form("length", tr("Thickness"), tr("It must suit your foot and machine: their manuals say which."), minor=True)
    )  # fmt: skip

    @property
    def edges(self) -> tuple[Edge, ...]:
        """The edges that a foot can run along."""
        raise NotImplementedError


Etched = str | tuple[Length, ...]
ETCHED = Form(
    "choice", tr("Etched lines"), tr("Or a list of their distances from the working edge: 1/4, 1/2, 3/4."),
    choices=tuple(Choice(key, tr("every {step}", step=step)) for key, step in SCALES.items()),
)  # fmt: skip


def check_etched(value: Any, unit: Unit) -> Etched:
    """The name of a scale, or a list of distances from the working edge. Raises BadValue."""
    if isinstance(value, str) and value.strip().lower() in SCALES:
        return value.strip().lower()
    listed = re.split(r"[;\n]|,\s*", value) if isinstance(value, str) else value
    given = [x for x in listed if x != ""] if isinstance(listed, list | tuple) else []
    if not 1 <= len(given) <= MOST_ETCHED:
        raise BadValue(tr('Etched lines are "quarters", "eighths" or a list like 1/4, 1/2, 3/4.'))
    lines = [x if isinstance(x, Length) else Length.parse(str(x), unit) for x in given]
    for line in lines:
        in_range(line, "1/32 in", "60 in", tr("An etched line"))
    return tuple(sorted(dict.fromkeys(lines), key=lambda line: line.mm))


def etched_lines(etched: Etched, width: Length) -> tuple[Fraction, ...]:
    """The distances of the etched lines from the working edge, mm, the edge itself (0) first."""
    if isinstance(etched, str):
        step = Length.parse(SCALES[etched]).mm
        return tuple(i * step for i in range((width.mm / step).__floor__() + 1))
    return (Fraction(0), *(line.mm for line in etched if line.mm <= width.mm))
