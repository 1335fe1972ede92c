"""The kit that a quilt is planned with: what it takes from the cupboard, and what that makes."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.cupboard import SLOTS, Slot, behind, taken_over
from kenzet.core.kit.edges import StraightEdge
from kenzet.core.kit.kit import Kit, SewWith, ThingKey
from kenzet.core.kit.things import Thing
from kenzet.core.numbers.measure import Unit, in_words
from kenzet.core.params import Form
from kenzet.core.plan.planner import check_kit
from kenzet.core.top.document import validated
from kenzet.store import cupboard as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, laid_quilt

kit = APIBlueprint("kit", __name__, url_prefix="/api/quilts/<quilt>")


class KitRequest(m.Reading):
    """What to change of the quilt's kit: things picked by slot, numbers as typed, or all taken over from the cupboard."""

    picks: dict[Slot, ThingKey] | None = None
    values: dict[str, Any] | None = None
    sew_with: SewWith | None = None
    take_over: bool = False


class EtchedView(m.Wire):
    """An etched line ``at`` mm from the working edge, its name, and the spacing that it makes."""

    at: float
    label: m.Words
    words: m.Words


class MadeView(m.Wire):
    """A ruler of the kit, why it must not be used (empty where it may), and what its straight edge makes."""

    key: str
    name: str
    fault: str
    makes: list[EtchedView]


class SlotView(m.Wire):
    """Something that a quilt takes one of: the thing's key and name now, and what else is at hand."""

    slot: Slot
    label: str
    key: str
    name: str
    choices: list[m.ChoiceView]


class KitView(m.Wire):
    """The checked kit; ``changed``, ``new`` and ``away`` name what the cupboard has otherwise."""

    kit: dict[str, Any]
    slots: list[SlotView]
    sew_with: SewWith
    fields: list[m.FieldView]
    rulers: list[MadeView]
    foot: float
    fault: str
    sentence: m.Words
    changed: list[str]
    new: list[str]
    away: list[str]


_LABELS: dict[Slot, str] = {
    "machine": "Machine", "foot": "Ruler foot", "walking": "Walking foot", "batting": "Batting", "bobbin": "Bobbin",
}  # fmt: skip
_LENGTHS = {
    "marking_step": Form("length", "You mark in steps of", "Ticks are rounded to it, and [ ] step by it."),
    "tolerance": Form("length", "A line may be out by", "More than this and you would see it."),
    "hand": Form("length", "Your hand holds", "Of a line, before the hand on the ruler moves on."),
    "stitch": Form("length", "A stitch is long", "So that whole ones end at every point."),
    "spread": Form("length", "Hand and eye scatter", "How far lines stray though all is laid right."),
}


@kit.post("/kit", responses={200: KitView})
def kit_view(path: m.QuiltPath, body: KitRequest) -> Response:
    """The quilt's kit with what is changed of it; nothing is kept."""
    kept, laid = laid_quilt(path.quilt)
    with connection() as conn:
        things = store.things(conn, LOCAL_OWNER)
    typed = kept.quilt.kit
    if body.take_over or body.picks:
        typed = taken_over(typed, things, body.picks)
    if body.sew_with:
        typed = typed.changed(sew_with=body.sew_with)
    if body.values:
        typed = validated(Kit, {**typed.model_dump(mode="json"), **body.values}, body.unit, "kit")
    if typed is not kept.quilt.kit:
        check_kit(laid.with_quilt(kept.quilt.model_copy(update={"kit": typed})))
    return answer(_view(typed, things, body.unit))


def _view(kit: Kit, things: dict[str, Thing], unit: Unit) -> KitView:
    found = behind(kit, things)
    return KitView(
        kit=kit.model_dump(mode="json"),
        slots=[_slot(kit, slot, things) for slot in SLOTS],
        sew_with=kit.sew_with,
        fields=[
            show.field(name, form, getattr(kit, name), "mm" if name == "stitch" else unit)
            for name, form in _LENGTHS.items()
        ],
        rulers=[_made(kit, key, unit) for key in kit.rulers],
        foot=float(kit.reach),
        fault=foot_fault(kit.machine, kit.foot) if kit.sew_with == "ruler foot" else "",
        sentence=_sentence(kit, unit),
        changed=list(found.changed),
        new=list(found.new),
        away=list(found.away),
    )


def _slot(kit: Kit, slot: Slot, things: dict[str, Thing]) -> SlotView:
    thing = getattr(kit, slot)
    fitting = {k: t for k, t in things.items() if isinstance(t, SLOTS[slot]) and t.state == "at hand"}
    return SlotView(
        slot=slot,
        label=_LABELS[slot],
        key=getattr(kit, f"{slot}_key") or "",
        name=thing.name if thing else "",
        choices=[m.ChoiceView(key=key, label=t.name, picks="") for key, t in fitting.items()],
    )


def _made(kit: Kit, key: str, unit: Unit) -> MadeView:
    """F5: what each etched line of a ruler makes with her foot."""
    ruler = kit.rulers[key]
    straight = next((edge for edge in ruler.edges if isinstance(edge, StraightEdge)), None)
    return MadeView(
        key=key,
        name=ruler.name,
        fault=ruler_fault(kit.foot, ruler),
        makes=[
            EtchedView(
                at=float(line),
                label=["edge"] if line == 0 else [show.shown(line, unit, bare=True), " mark"],
                words=[show.shown(line + kit.reach, unit)],
            )
            for line in (straight.lines if straight else ())
        ],
    )


def _sentence(kit: Kit, unit: Unit) -> m.Words:
    if kit.sew_with == "walking foot":
        return [
            "With the walking foot you sew on drawn lines, or run a toe or the guide bar along the line before."
        ]
    return [f"Your foot counts in: every mark stitches {in_words(kit.reach, unit)} further out than it says."]
