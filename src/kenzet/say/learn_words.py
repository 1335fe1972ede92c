"""What was learnt, in words: beside the value in use, with its evidence, and what a click changes."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from datetime import datetime
from fractions import Fraction
from typing import Any, Literal

from kenzet import texts
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.logbook.learn import Key, Learnt
from kenzet.core.numbers.measure import MM_PER, Length, Unit
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.stitching import Stitching
from kenzet.say import words as w
from kenzet.texts import tr

_NAMES: dict[Key, str] = {
    "offset": tr("Needle to the foot’s rim"), "spread": tr("How far your lines vary"), "straight": tr("Along a ruler"), "curved": tr("Along a curved edge"),
    "walking": tr("With the walking foot"), "freehand": tr("Freehand"), "lay": tr("Placing a ruler"), "turn": tr("A turn at the needle"), "stitch": tr("Stitch length"), "bobbin": tr("A bobbin holds"),
    "thickness": tr("Thickness of the batting"), "rise": tr("Rise between lines 1 in apart, of the batting’s thickness"), "firmness": tr("Firmness of the batting quilted, 100 % is usual"), "shrinks": tr("Batting shrinks in the wash"), "takes_up": tr("Quilting takes up, on this batting"), "fades": tr("Marks fade after, at the latest"),
}  # fmt: skip


def _lines(count: int) -> str:
    return texts.many(count, "line")


def _bobbins(count: int) -> str:
    return texts.many(count, "bobbin")


def _pieces(count: int) -> str:
    return texts.many(count, "piece")


def _swatches(count: int) -> str:
    return texts.many(count, "swatch", "swatches")


def _zones(count: int) -> str:
    return texts.many(count, "zone")


_EVIDENCE: dict[Key, tuple[Callable[[int], str], str]] = {
    "offset": (_lines, tr("measured")), "spread": (_lines, tr("measured in photos")), "bobbin": (_bobbins, tr("used up")), "stitch": (_pieces, tr("counted by the machine")),
    "thickness": (_swatches, tr("measured")), "rise": (_swatches, tr("measured")), "firmness": (_swatches, tr("felt")), "shrinks": (_swatches, tr("washed")), "takes_up": (_swatches, tr("measured")), "fades": (_zones, tr("faded")),
}  # fmt: skip
_FINE: dict[Unit, Fraction] = {"in": Fraction(1, 1000), "mm": Fraction(1, 50)}
_MANY = 30
_MANY_SWATCHES = 6
_THINNEST = float(Length.parse(Batting.ranges["thickness"][0]).mm)


class LearntRow(w.Said):
    """A learnt value; ``differs`` if the value in use lies outside its range.

    ``change`` is what accepting it sets in this quilt: in its ``kit`` or its ``stitching``; ``thing`` is the
    changed tool or supply, with its key.
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
    """Rows that differ from the value in use come first."""
    rows = [_row(one, kit, stitching, unit) for one in found]
    return sorted(rows, key=lambda row: not row.differs)


def _row(one: Learnt, kit: Kit, stitching: Stitching, unit: Unit) -> LearntRow:
    change, thing, key = _taken(one, kit, stitching, unit)
    counted, how = _EVIDENCE.get(one.key, (_lines, tr("timed")))
    name = _NAMES[one.key]
    if one.key == "fades":
        name = f"{kit.tools[one.side].name}: {name[0].lower()}{name[1:]}"
    elif one.side:
        name += tr(", ruler at the {side}", side=tr(one.side))
    return LearntRow(
        key=f"{one.key}-{one.side}" if one.side else one.key, name=name, value=_said(one.key, one.value, unit),
        range=tr("{bare} to {said}", bare=_bare(one.key, one.low, unit), said=_said(one.key, one.high, unit)), used=_said(one.key, one.used, unit),
        evidence=f"{counted(one.many)} {how}, {_days(one.first, one.last)}",
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
    days = [texts.on_day(datetime.fromtimestamp(when)) for when in (first, last)]
    return days[0] if days[0] == days[1] else tr("{days} to {days2}", days=days[0], days2=days[1])


def _bare(key: Key, value: float, unit: Unit) -> str:
    return _said(key, value, unit).rsplit(" ", 3 if key in _PACES else 1)[0]


_PACES: tuple[Key, ...] = ("straight", "curved", "walking", "freehand")
_OF_BATTING: tuple[Key, ...] = ("thickness", "rise", "firmness", "shrinks", "takes_up")
_SECONDS: tuple[Key, ...] = ("lay", "turn")
_COUNTED: dict[Key, str] = {
    "lay": tr("seconds"),
    "turn": tr("seconds"),
    "rise": "%",
    "firmness": "%",
    "shrinks": "%",
    "takes_up": "%",
    "fades": tr("hours"),
}
_PER_CENT: tuple[Key, ...] = ("rise", "firmness", "shrinks", "takes_up")


def _said(key: Key, value: float, unit: Unit) -> str:
    """
    >>> _said("offset", 6.48, "in"), _said("straight", 1143.0, "in"), _said("lay", 11.6, "mm"), _said("rise", 71.6, "in")
    ('0.255 in', '45 in a minute', '12 seconds', '72 %')
    """
    if math.isnan(value):
        return tr("not known")
    if key in _COUNTED:
        return f"{value:.0f} {_COUNTED[key]}"
    if key in _PACES:
        return tr("{value} {unit} a minute", value=f"{value / float(MM_PER[unit]):.0f}", unit=unit)
    if key == "stitch":
        return tr("{value} mm", value=f"{value:.2f}")
    if key == "bobbin":
        return (
            tr("{value} yd", value=f"{value / float(36 * MM_PER['in']):.0f}")
            if unit == "in"
            else f"{value / 1000:.0f} m"
        )
    return f"{value / float(MM_PER[unit]):.{3 if unit == 'in' else 2}f} {unit}"


def _length(value: float, unit: Unit) -> str:
    """A length as it is stored."""
    steps = round(value / float(_FINE[unit] * MM_PER[unit]))
    return f"{float(steps * _FINE[unit]):g} {unit}"


def _within(one: Learnt) -> int:
    """Per cent, limited to what a batting may have."""
    least, most = w.limits(Batting, one.key)
    return round(min(max(one.value, least or 0.0), 100.0 if most is None else most))


def _taken(
    one: Learnt, kit: Kit, stitching: Stitching, unit: Unit
) -> tuple[dict[str, Any], dict[str, Any] | None, str]:
    """What accepting it changes in this quilt, and among the tools and supplies."""
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
