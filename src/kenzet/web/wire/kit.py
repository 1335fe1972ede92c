"""The kit of a quilt."""

from __future__ import annotations

from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.edges import StraightEdge
from kenzet.core.kit.inventory import SLOTS, Slot, behind, taken_over
from kenzet.core.kit.kit import Kit, SewWith
from kenzet.core.kit.things import Thing
from kenzet.core.numbers.measure import Unit
from kenzet.core.params import Form
from kenzet.core.top.document import validated
from kenzet.say import words as w
from kenzet.say.kit_words import SLOT_LABELS, curves_sewn, kit_sentence
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import KitDoc


class EtchedView(m.Wire):
    """An etched line ``at`` mm from the working edge, its name, and the spacing it makes."""

    at: float
    label: w.Words
    words: w.Words


class MadeView(m.Wire):
    """A ruler of the kit, why it is not safe with the foot (empty if it is), the spacings of its straight edge,
    and the radii of its curves."""

    key: str
    name: str
    fault: str
    sews: w.Words
    makes: list[EtchedView]


class SlotView(m.Wire):
    """A kind of item of which a quilt uses one: key and name of the present one, and the others at hand."""

    slot: Slot
    label: str
    key: str
    name: str
    choices: list[w.ChoiceView]


class KitView(m.Wire):
    """The checked kit; ``changed``, ``new`` and ``away`` name the differences from the present tools and supplies."""

    kit: KitDoc
    slots: list[SlotView]
    sew_with: SewWith
    fields: list[w.FieldView]
    rulers: list[MadeView]
    foot: float
    fault: str
    sentence: w.Words
    changed: list[str]
    new: list[str]
    away: list[str]


_FIELDS = {
    "marking_step": Form(
        "length", tr("Marking step"), tr("Ticks are rounded to this step, and [ ] change the spacing by it.")
    ),
    "tolerance": Form("length", tr("A line may be off by"), tr("A larger error would show.")),
    "seen_from": Form(
        "length", tr("Looked at from"), tr("An error that cannot be seen from there need not be sewn again.")
    ),
    "hand": Form(
        "length", tr("Your hand covers"), tr("Length you sew before you move your hand on the ruler.")
    ),
    "stitch": Form("length", tr("Stitch length"), tr("Used to end lines on a whole stitch.")),
    "spread": Form(
        "length", tr("Your accuracy"), tr("How far your lines vary although the ruler is placed correctly.")
    ),
    "needle": Form("text", tr("Needle"), tr("Kept in the log with what you sew."), empty=tr("not said")),
    "tension": Form("text", tr("Tension"), tr("Kept in the log with what you sew."), empty=tr("not said")),
}


def kit_of(kit: Kit, things: dict[str, Thing], unit: Unit) -> KitView:
    """A kit and its differences from the present tools and supplies."""
    found = behind(kit, things)
    return KitView(
        kit=kit.model_dump(mode="json"),
        slots=[_slot(kit, slot, things) for slot in SLOTS],
        sew_with=kit.sew_with,
        fields=[
            w.field(name, form, getattr(kit, name), "mm" if name == "stitch" else unit)
            for name, form in _FIELDS.items()
        ],
        rulers=[_made(kit, key, unit) for key in kit.rulers],
        foot=float(kit.foot_offset),
        fault=foot_fault(kit.machine, kit.foot) if kit.sew_with == "ruler foot" else "",
        sentence=kit_sentence(kit, unit),
        changed=list(found.changed),
        new=list(found.new),
        away=list(found.away),
    )


def _slot(kit: Kit, slot: Slot, things: dict[str, Thing]) -> SlotView:
    thing = getattr(kit, slot)
    fitting = {k: t for k, t in things.items() if isinstance(t, SLOTS[slot]) and t.state == "at hand"}
    return SlotView(
        slot=slot,
        label=SLOT_LABELS[slot],
        key=getattr(kit, f"{slot}_key") or "",
        name=thing.name if thing else "",
        choices=[w.ChoiceView(key=key, label=t.name, picks="") for key, t in fitting.items()],
    )


def _made(kit: Kit, key: str, unit: Unit) -> MadeView:
    """F5: the spacing that each etched line of a ruler makes with the foot."""
    ruler = kit.rulers[key]
    straight = next((edge for edge in ruler.edges if isinstance(edge, StraightEdge)), None)
    return MadeView(
        key=key,
        name=ruler.name,
        fault=ruler_fault(kit.foot, ruler),
        sews=curves_sewn(ruler.edges, kit, unit),
        makes=[
            EtchedView(
                at=float(line),
                label=[tr("edge")]
                if line == 0
                else w.told("{line} mark", line=w.shown(line, unit, bare=True)),
                words=[w.shown(line + kit.foot_offset, unit)],
            )
            for line in (straight.lines if straight else ())
        ],
    )


def kit_changed(kit: Kit, things: dict[str, Thing], change: m.KitChange, unit: Unit) -> Kit:
    """The kit after a change. Raises BadValue at ``kit.…``."""
    if change.take_over or change.picks:
        kit = taken_over(kit, things, change.picks)
    if change.sew_with:
        kit = kit.changed(sew_with=change.sew_with)
    if change.values:
        kit = validated(Kit, {**kit.model_dump(mode="json"), **change.values}, unit, "kit")
    return kit
