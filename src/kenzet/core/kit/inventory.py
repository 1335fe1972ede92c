"""The tools and supplies a quilter owns, shared by all quilts, and what a quilt copies from them.

Glossary: a quilt's *kit* holds copies of items under their keys, so that a plan keeps its meaning. A kit is
*behind* if the items have changed since; updating it is the quilter's decision, and blocks already sewn keep the
kit they were sewn with.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import Field

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.kit.kit import Kit, ThingKey
from kenzet.core.kit.things import AnyThing, Edged, Thing
from kenzet.core.kit.things.machine import Checked, Machine, RulerFoot, WalkingFoot
from kenzet.core.kit.things.rulers import ArcRuler, Stencil, StraightRuler, WaveRuler
from kenzet.core.kit.things.supplies import Batting, Bobbin, Marker, Tape, Thread
from kenzet.core.numbers.measure import MM_PER, Length, in_words
from kenzet.core.params import Frozen, in_range, key_for
from kenzet.texts import tr

MOST_THINGS = 300
Slot = Literal["machine", "foot", "walking", "batting", "bobbin", "thread"]
SLOTS: dict[Slot, type[Thing]] = {
    "machine": Machine, "foot": RulerFoot, "walking": WalkingFoot, "batting": Batting, "bobbin": Bobbin, "thread": Thread,
}  # fmt: skip


class OneThing(Frozen):
    """One item of any kind."""

    thing: AnyThing


class KitFile(Frozen):
    """All tools and supplies as a file."""

    format: Literal["kenzet.kit"] = "kenzet.kit"
    version: Literal[1] = 1
    things: Annotated[tuple[AnyThing, ...], Field(max_length=MOST_THINGS)] = ()


@cache
def first_things() -> Mapping[str, Thing]:
    """The items of a new installation, to be edited. Their keys are the same in every language."""
    return {
        "machine": Machine(), "ruler-foot": RulerFoot(), "walking-foot": WalkingFoot(), "straight-ruler": StraightRuler(),
        "arc-14-in-circle": ArcRuler(name=tr("Arc, 14 in circle"), usable=Length.parse("12 in")), "wave": WaveRuler(),
        "stencil": Stencil(state="missing"), "tape": Tape(), "blue-pen": Marker(name=tr("Blue pen")),
        "chalk": Marker(name=tr("Chalk"), sort="chalk", colour="white", off="brushing"), "gray-thread": Thread(name=tr("Gray thread")),
        "cream-thread": Thread(name=tr("Cream thread"), colour="#e6dcc4"), "slate-thread": Thread(name=tr("Slate thread"), colour="#5b738a"),
        "bobbin": Bobbin(), "cotton-blend": Batting(name=tr("Cotton blend")),
    }  # fmt: skip


def new_key(name: str, taken: Mapping[str, Any]) -> str:
    """A new key for an item of that name, distinct from those ``taken``. Raises TooMany.

    >>> new_key("Arc, 14 in", {"arc-14-in": 1})
    'arc-14-in-2'
    """
    if len(taken) >= MOST_THINGS:
        raise TooMany(
            tr("At most {most_things} tools and supplies can be kept.", most_things=MOST_THINGS), "thing"
        )
    return key_for(name, taken)


def plain(thing: Thing) -> Thing:
    """The item without its history, as a quilt keeps it."""
    return thing.model_copy(update={"history": ()}) if isinstance(thing, RulerFoot) else thing


def taken_over(
    kit: Kit, things: Mapping[str, Thing], picks: Mapping[Slot, ThingKey | None] | None = None
) -> Kit:
    """``kit`` updated to the present items: those under its keys or those picked, and every ruler at hand.

    A slot without a key takes the first item of its kind that is at hand. Raises BadValue at ``kit.…``.
    """
    found: dict[str, Any] = {}
    for slot, model in SLOTS.items():
        key = (picks or {}).get(slot, getattr(kit, f"{slot}_key"))
        fitting = {
            k: thing for k, thing in things.items() if isinstance(thing, model) and thing.state == "at hand"
        }
        if picks and slot in picks and key not in fitting:
            raise BadValue(tr("You have no such tool at hand."), f"kit.{slot}")
        key = key if key in fitting else next(iter(fitting), None)
        if key is not None:
            found[slot], found[f"{slot}_key"] = plain(fitting[key]), key
    at_hand = {key: thing for key, thing in things.items() if thing.state == "at hand"}
    found["rulers"] = {key: thing for key, thing in at_hand.items() if isinstance(thing, Edged)}
    found["tools"] = {key: thing for key, thing in at_hand.items() if thing.group == "marking"}
    return kit.changed(**found)


@dataclass(frozen=True, slots=True)
class Behind:
    """The differences between a kit and the present items, by name: ``changed``, ``new`` or ``away``."""

    changed: tuple[str, ...]
    new: tuple[str, ...]
    away: tuple[str, ...]

    def __bool__(self) -> bool:
        return bool(self.changed or self.new or self.away)


def behind(kit: Kit, things: Mapping[str, Thing]) -> Behind:
    """How ``kit`` would change if it were updated now."""
    now = taken_over(kit, things)
    changed, new, away = [], [], []
    for slot in SLOTS:
        old_key, new_key_ = getattr(kit, f"{slot}_key"), getattr(now, f"{slot}_key")
        old, thing = getattr(kit, slot), getattr(now, slot)
        if old_key != new_key_ and old is not None and old_key is not None:
            away.append(old.name)
        elif thing is not None and old != thing:
            changed.append(thing.name)
    had: dict[str, Thing] = {**kit.rulers, **kit.tools}
    has: dict[str, Thing] = {**now.rulers, **now.tools}
    new += [thing.name for key, thing in has.items() if key not in had]
    changed += [thing.name for key, thing in has.items() if key in had and had[key] != thing]
    away += [thing.name for key, thing in had.items() if key not in has]
    return Behind(tuple(changed), tuple(new), tuple(away))


Side = Literal["offset", "left", "right", "front", "back"]


def calibrated(foot: RulerFoot, span: Length, lines: int, side: Side, day: str) -> RulerFoot:
    """The foot with its offset r computed from a test strip: ``lines`` lines, each sewn with the ruler's edge on the
    line before, ``span`` from first to last (A9).

    The offset valid until ``day`` (ISO) is added to its history. Raises BadValue at ``span`` or ``lines``.
    """
    if not 2 <= lines <= 60:
        raise BadValue(tr("Count 2 to 60 lines; nine are enough."), "lines")
    in_range(span, "1/16 in", "60 in", tr("From the first line to the last"))
    offset = strip_offset(span, lines)
    try:
        in_range(offset, "1/16 in", "1 in", tr("The foot's offset"))
    except BadValue as error:
        each = in_words(offset.mm, span.unit)
        raise BadValue(
            tr(
                "{lines} lines over {span} would make {each} each; a ruler foot's offset is between 1/16 in and 1 in. Measure from the first line to the last, or count the lines again.",
                lines=lines,
                span=span.text,
                each=each,
            ),
            "span",
        ) from error
    old = getattr(foot, side) if side != "offset" else None
    old = old or Length.near(foot.to_rim, foot.offset.unit)
    how = tr("{lines} lines over {span}", lines=lines, span=span.text) + (
        "" if side == "offset" else f", {side}"
    )
    history = (*foot.history, Checked(offset=old, until=day, how=how))[-40:]
    measured = "to the rim" if side == "offset" else foot.measured
    return foot.model_copy(update={side: offset, "measured": measured, "history": history})


def strip_offset(span: Length, lines: int) -> Length:
    """A9: r = M/(n − 1), to a hundred-thousandth of an inch or of a mm.

    >>> strip_offset(Length.parse("2.04 in"), 9).text
    '0.255 in'
    """
    exact = span.mm / (lines - 1)
    per = MM_PER[span.unit]
    return Length.parse(f"{float(exact / per):.5f}".rstrip("0").rstrip(".") + f" {span.unit}")
