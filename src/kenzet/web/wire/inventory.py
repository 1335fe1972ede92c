"""Tools and supplies: groups, items and their forms."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from kenzet.core.kit.edges import ArcEdge, StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.inventory import Side
from kenzet.core.kit.kit import ThingKey
from kenzet.core.kit.things import Edged, Thing
from kenzet.core.kit.things.machine import RulerFoot
from kenzet.core.numbers.measure import Unit
from kenzet.core.params import forms
from kenzet.say import words as w
from kenzet.say.kit_words import thing_words
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import ThingDoc

MOST_BYTES = 2_000_000


class RulerEdgeView(m.Wire):
    """An edge to draw, mm: straight (length, width, lines), an arc (radius, usable; outside or inside), a wave or points."""

    kind: str
    length: float
    width: float = 0.0
    lines: tuple[float, ...] = ()
    radius: float = 0.0
    period: float = 0.0
    depth: float = 0.0


class PastView(m.Wire):
    """An earlier offset of a foot, until when it was used, and how it was measured."""

    words: w.Words
    until: str
    how: str


class ThingView(m.Wire):
    """An item with its form; ``text`` is its description in one line, ``edges`` are its picture."""

    key: str
    kind: str
    label: str
    name: str
    state: str
    text: w.Words
    thing: ThingDoc
    fields: list[w.FieldView]
    edges: list[RulerEdgeView]
    history: list[PastView]


class KindView(m.Wire):
    """A kind of item that can be added."""

    kind: str
    label: str


class ThingGroupView(m.Wire):
    """A group of tools and supplies with its items and the kinds that can be added."""

    key: str
    label: str
    things: list[ThingView]
    kinds: list[KindView]


class InventoryView(m.Wire):
    """All tools and supplies."""

    groups: list[ThingGroupView]


class ThingRequest(m.Reading):
    """An item as typed with its ``key`` (null for a new one, which only needs its ``kind``); stored if ``keep``."""

    key: ThingKey | None = None
    thing: ThingDoc
    keep: bool = True


class ThingKeyPath(m.Wire):
    """Identifies an item."""

    key: ThingKey


class StripRequest(m.Reading):
    """A test strip: lines sewn with the ruler's edge on the line before, and the distance from the first to the
    last."""

    span: Annotated[str, Field(max_length=80)]
    lines: int = 9
    side: Side = "offset"
    keep: bool = False


class BringThings(m.Wire):
    """A file of tools and supplies."""

    kit: dict[str, Any]


def thing_view(key: str, thing: Thing, unit: Unit) -> ThingView:
    """An item with its form and its picture."""
    values = thing.model_dump(mode="json")
    fields = []
    for name, form in forms(type(thing)).items():
        used = form.only_with is None or values[form.only_with[0]] in form.only_with[1]
        value = getattr(thing, name)
        listed = ", ".join(line.text for line in value) if isinstance(value, tuple) else value
        fields.append(w.field(name, form, listed, unit, used))
    past = thing.history if isinstance(thing, RulerFoot) else ()
    return ThingView(
        key=key,
        kind=values["kind"],
        label=thing.label,
        name=thing.name,
        state=thing.state,
        text=thing_words(thing, unit),
        thing=values,
        fields=fields,
        edges=[_edge(edge) for edge in thing.edges] if isinstance(thing, Edged) else [],
        history=[
            PastView(words=[w.shown(past_one.offset.mm, unit)], until=past_one.until, how=past_one.how)
            for past_one in reversed(past)
        ],
    )


def _edge(edge: Any) -> RulerEdgeView:
    if isinstance(edge, StraightEdge):
        return RulerEdgeView(
            kind="straight",
            length=float(edge.length),
            width=float(edge.width),
            lines=tuple(float(x) for x in edge.lines),
        )
    if isinstance(edge, ArcEdge):
        return RulerEdgeView(kind=edge.side, length=edge.usable, radius=edge.radius)
    if isinstance(edge, WaveEdge):
        return RulerEdgeView(kind="wave", length=edge.length, period=edge.period, depth=edge.depth)
    assert isinstance(edge, ZigzagEdge)
    return RulerEdgeView(kind="zigzag", length=edge.length, period=edge.pitch, depth=edge.rise)
