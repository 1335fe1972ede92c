"""What was learnt, in words: beside the value in use, with its evidence, and what one click changes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import datetime
from fractions import Fraction
from typing import Any, Literal

from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.logbook.learn import Key, Learnt
from kenzet.core.numbers.measure import MM_PER, Length, Unit
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.stitching import Stitching
from kenzet.say import words as w

_NAMES: dict[Key, str] = {
    "offset": "Needle to the foot’s rim", "spread": "How far your lines vary", "straight": "Along a ruler", "curved": "Along a curved edge",
    "walking": "With the walking foot", "freehand": "Freehand", "lay": "Placing a ruler", "turn": "A turn at the needle", "stitch": "Stitch length", "bobbin": "A bobbin holds",
    "thickness": "Thickness of the batting", "rise": "Rise between lines 1 in apart, of the batting’s thickness", "firmness": "Firmness of the batting quilted, 100 % is usual", "shrinks": "Batting shrinks in the wash", "takes_up": "Quilting takes up, on this batting", "fades": "Marks fade after, at the latest",
}  # fmt: skip
_EVIDENCE: dict[Key, tuple[str, str, str]] = {
    "offset": ("line", "lines", "measured"), "spread": ("line", "lines", "measured in photos"), "bobbin": ("bobbin", "bobbins", "used up"), "stitch": ("piece", "pieces", "counted by the machine"),
    "thickness": ("swatch", "swatches", "measured"), "rise": ("swatch", "swatches", "measured"), "firmness": ("swatch", "swatches", "felt"), "shrinks": ("swatch", "swatches", "washed"), "takes_up": ("swatch", "swatches", "measured"), "fades": ("zone", "zones", "faded"),
}  # fmt: skip
_FINE: dict[Unit, Fraction] = {"in": Fraction(1, 1000), "mm": Fraction(1, 50)}
_MANY = 30
_MANY_SWATCHES = 6
_THINNEST = float(Length.parse(Batting.ranges["thickness"][0]).mm)


class LearntRow(w.Said):
    """A value that was learnt; ``differs`` says that the one in use lies outside its range. ``change`` is what taking it sets for this quilt: of its ``kit`` or its ``stitching``; ``thing`` what
    it sets in the cupboard, by the thing's ``key`` there.
    """

    key: str
    name: str
    value: str
    range: str
    used: str
    evidence: str
    sure: Literal["little to go by yet", "fairly sure", "sure"]
    differs: bool
    change: dict[str, Any]
    thing: dict[str, Any] | None
    thing_key: str


def learnt_rows(found: Sequence[Learnt], kit: Kit, stitching: Stitching, unit: Unit) -> list[LearntRow]:
    """Those that differ from what is in use first."""
    rows = [_row(one, kit, stitching, unit) for one in found]
    return sorted(rows, key=lambda row: not row.differs)


def _row(one: Learnt, kit: Kit, stitching: Stitching, unit: Unit) -> LearntRow:
    change, thing, key = _taken(one, kit, stitching, unit)
    noun, nouns, how = _EVIDENCE.get(one.key, ("line", "lines", "timed"))
    name = _NAMES[one.key]
    if one.key == "fades":
        name = f"{kit.tools[one.side].name}: {name[0].lower()}{name[1:]}"
    elif one.side:
        name += f", ruler at the {one.side}"
    return LearntRow(
        key=f"{one.key}-{one.side}" if one.side else one.key, name=name, value=_said(one.key, one.value, unit),
        range=f"{_bare(one.key, one.low, unit)} to {_said(one.key, one.high, unit)}", used=_said(one.key, one.used, unit),
        evidence=f"{w.many(one.many, noun, nouns)} {how}, {_days(one.first, one.last)}",
        sure=_sure(one),
        differs=one.differs, change=change, thing=thing, thing_key=key,
    )  # fmt: skip


def _sure(one: Learnt) -> Literal["little to go by yet", "fairly sure", "sure"]:
    many = _MANY_SWATCHES if one.key in _OF_BATTING else _MANY
    width = (one.high - one.low) / max(one.value, EQUAL)
    if one.many >= many and width < 1 / 4:
        return "sure"
    return "fairly sure" if one.many >= many / 3 and width < 1 / 2 else "little to go by yet"


def _days(first: float, last: float) -> str:
    days = [f"{datetime.fromtimestamp(when):%B} {datetime.fromtimestamp(when).day}" for when in (first, last)]
    return days[0] if days[0] == days[1] else f"{days[0]} to {days[1]}"


def _bare(key: Key, value: float, unit: Unit) -> str:
    return _said(key, value, unit).rsplit(" ", 3 if key in _PACES else 1)[0]


_PACES: tuple[Key, ...] = ("straight", "curved", "walking", "freehand")
_OF_BATTING: tuple[Key, ...] = ("thickness", "rise", "firmness", "shrinks", "takes_up")
_SECONDS: tuple[Key, ...] = ("lay", "turn")
_COUNTED: dict[Key, str] = {
    "lay": "seconds",
    "turn": "seconds",
    "rise": "%",
    "firmness": "%",
    "shrinks": "%",
    "takes_up": "%",
    "fades": "hours",
}
_PER_CENT: tuple[Key, ...] = ("rise", "firmness", "shrinks", "takes_up")


def _said(key: Key, value: float, unit: Unit) -> str:
    """
    >>> _said("offset", 6.48, "in"), _said("straight", 1143.0, "in"), _said("lay", 11.6, "mm"), _said("rise", 71.6, "in")
    ('0.255 in', '45 in a minute', '12 seconds', '72 %')
    """
    if math.isnan(value):
        return "not known"
    if key in _COUNTED:
        return f"{value:.0f} {_COUNTED[key]}"
    if key in _PACES:
        return f"{value / float(MM_PER[unit]):.0f} {unit} a minute"
    if key == "stitch":
        return f"{value:.2f} mm"
    if key == "bobbin":
        return f"{value / float(36 * MM_PER['in']):.0f} yd" if unit == "in" else f"{value / 1000:.0f} m"
    return f"{value / float(MM_PER[unit]):.{3 if unit == 'in' else 2}f} {unit}"


def _length(value: float, unit: Unit) -> str:
    """As it is kept."""
    steps = round(value / float(_FINE[unit] * MM_PER[unit]))
    return f"{float(steps * _FINE[unit]):g} {unit}"


def _within(one: Learnt) -> int:
    """Per cent, as far as a batting may have them."""
    least, most = w.limits(Batting, one.key)
    return round(min(max(one.value, least or 0.0), 100.0 if most is None else most))


def _taken(
    one: Learnt, kit: Kit, stitching: Stitching, unit: Unit
) -> tuple[dict[str, Any], dict[str, Any] | None, str]:
    """What taking it changes for this quilt, and in the cupboard."""
    if one.key == "offset":
        foot = kit.foot.model_dump(mode="json")
        own = getattr(kit.foot, one.side)
        foot["offset" if own is None else one.side] = _length(one.value, unit)
        return {"kit": {"values": {"foot": foot}}}, foot, kit.foot_key or ""
    if one.key == "bobbin":
        bobbin = {**kit.bobbin.model_dump(mode="json"), "holds": _length(one.value, unit)}
        return {"kit": {"values": {"bobbin": bobbin}}}, bobbin, kit.bobbin_key or ""
    if one.key in _OF_BATTING:
        kept = _within(one) if one.key in _PER_CENT else _length(max(one.value, _THINNEST), unit)
        batting = {**kit.batting.model_dump(mode="json"), one.key: kept}
        return {"kit": {"values": {"batting": batting}}}, batting, kit.batting_key or ""
    if one.key == "fades":
        tools = {key: tool.model_dump(mode="json") for key, tool in kit.tools.items()}
        tools[one.side] = {**tools[one.side], "hours": int(one.value)}
        return {"kit": {"values": {"tools": tools}}}, tools[one.side], one.side
    if one.key in ("spread", "stitch"):
        text = _length(one.value, "mm" if one.key == "stitch" else unit)
        return {"kit": {"values": {one.key: text}}}, None, ""
    value: Any = round(one.value) if one.key in _SECONDS else _length(one.value, unit)
    pace = {**stitching.pace.model_dump(mode="json"), one.key: value}
    return {"stitching": {**stitching.model_dump(mode="json"), "pace": pace}}, None, ""
