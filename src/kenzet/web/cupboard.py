"""Her cupboard: what she owns, kept once for all quilts."""

from __future__ import annotations

import json
from datetime import date
from typing import Annotated, Any

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import Field

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.kit.cupboard import KitFile, OneThing, Side, calibrated, new_key, plain
from kenzet.core.kit.edges import ArcEdge, StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import ThingKey
from kenzet.core.kit.things import THINGS, Edged, Thing
from kenzet.core.kit.things.base import GROUPS
from kenzet.core.kit.things.machine import RulerFoot
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.params import forms
from kenzet.core.top.document import validated
from kenzet.formats import kit_csv
from kenzet.store import cupboard as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, file_answer, upload

cupboard = APIBlueprint("cupboard", __name__, url_prefix="/api/things")
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
    """What a foot's offset was, until when, and how it was found."""

    words: m.Words
    until: str
    how: str


class ThingView(m.Wire):
    """A thing with its form; ``says`` is its line on the shelf, ``edges`` are what is drawn of it."""

    key: str
    kind: str
    label: str
    name: str
    state: str
    says: m.Words
    thing: dict[str, Any]
    fields: list[m.FieldView]
    edges: list[RulerEdgeView]
    history: list[PastView]


class KindView(m.Wire):
    """A kind of thing that can be added."""

    kind: str
    label: str


class ShelfView(m.Wire):
    """A group of the cupboard with what stands on it and what could."""

    key: str
    label: str
    things: list[ThingView]
    kinds: list[KindView]


class CupboardView(m.Wire):
    """The whole cupboard."""

    shelves: list[ShelfView]


class ThingRequest(m.Reading):
    """A thing as typed under ``key`` (none: a new one, of which only ``kind`` need be sent); kept if ``keep``."""

    key: ThingKey | None = None
    thing: dict[str, Any]
    keep: bool = True


class ThingPath(m.Wire):
    """A thing by its key."""

    key: ThingKey


class StripRequest(m.Reading):
    """A strip that she sewed: lines laid edge on line, and the distance from the first to the last."""

    span: Annotated[str, Field(max_length=80)]
    lines: int = 9
    side: Side = "offset"
    keep: bool = False


class BringThings(m.Wire):
    """What a file of things holds."""

    kit: dict[str, Any]


@cupboard.get("", responses={200: CupboardView})
def show_things(query: m.Reading) -> Response:
    """All shelves."""
    return _shelves(query.unit)


@cupboard.post("", responses={200: ThingView})
def keep_thing(body: ThingRequest) -> Response:
    """Check a thing as typed, and keep it."""
    thing: Thing = validated(OneThing, {"thing": body.thing}, body.unit).thing
    with connection() as conn:
        things = store.things(conn, LOCAL_OWNER)
        before = things.get(body.key or "")
        if isinstance(before, RulerFoot) and isinstance(thing, RulerFoot):
            thing = thing.model_copy(update={"history": before.history})  # her own record is not typed over
        key = body.key or new_key(thing.name, things)
        if body.keep:
            store.put(conn, LOCAL_OWNER, {key: thing})
    return answer(_thing_view(key, thing, body.unit))


@cupboard.post("/<key>/remove", responses={200: CupboardView})
def remove_thing(path: ThingPath, body: m.Reading) -> Response:
    """Take one out for good."""
    with connection() as conn:
        store.remove(conn, LOCAL_OWNER, path.key)
    return _shelves(body.unit)


@cupboard.post("/<key>/strip", responses={200: ThingView})
def read_strip(path: ThingPath, body: StripRequest) -> Response:
    """A foot's offset from a strip; with ``keep`` it counts from now on and the old one goes into its history."""
    try:
        span = Length.parse(body.span, body.unit)
    except BadValue as error:
        raise BadValue(error.message, "span") from error
    with connection() as conn:
        foot = store.things(conn, LOCAL_OWNER).get(path.key)
        if not isinstance(foot, RulerFoot):
            raise Unknown("There is no such foot in the cupboard.", "thing")
        found = calibrated(foot, span, body.lines, body.side, date.today().isoformat())
        if body.keep:
            store.put(conn, LOCAL_OWNER, {path.key: found})
    return answer(_thing_view(path.key, found, body.unit))


@cupboard.get("/kit.json")
def kit_json() -> Response:
    """The cupboard as a file."""
    file = KitFile(things=tuple(_things().values()))
    return file_answer((file.model_dump_json(indent=1) + "\n").encode(), "application/json", "kit.json")


@cupboard.get("/kit.csv")
def kit_table() -> Response:
    """The cupboard as a table."""
    return file_answer(kit_csv.dump(_things().values()), "text/csv", "kit.csv")


@cupboard.post("/bring", responses={200: CupboardView})
def bring_things(query: m.Reading) -> Response:
    """The things of a file (JSON or CSV) beside one's own; what is there already is not doubled."""
    data = upload(MOST_BYTES, "A file of things")
    raw = _parsed(data)
    file: KitFile = validated(KitFile, raw, query.unit)
    with connection() as conn:
        things = store.things(conn, LOCAL_OWNER)
        own = [plain(thing) for thing in things.values()]
        new: dict[str, Thing] = {}
        for thing in file.things:
            if plain(thing) not in own and thing not in new.values():
                new[new_key(thing.name, {**things, **new})] = thing
        store.put(conn, LOCAL_OWNER, new)
    return _shelves(query.unit)


def _parsed(data: bytes) -> Any:
    if not data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith(b"{"):
        return {"things": kit_csv.load(data)}
    try:
        return json.loads(data)
    except ValueError as error:
        raise BadValue("This file is neither JSON nor a table.", "file") from error


def _things() -> dict[str, Thing]:
    with connection() as conn:
        return store.things(conn, LOCAL_OWNER)


def _shelves(unit: Unit) -> Response:
    things = _things()
    return answer(
        CupboardView(
            shelves=[
                ShelfView(
                    key=group,
                    label=label,
                    things=[
                        _thing_view(key, thing, unit) for key, thing in things.items() if thing.group == group
                    ],
                    kinds=[
                        KindView(kind=kind, label=model.label)
                        for kind, model in THINGS.items()
                        if model.group == group
                    ],
                )
                for group, label in GROUPS.items()
            ]
        )
    )


def _thing_view(key: str, thing: Thing, unit: Unit) -> ThingView:
    values = thing.model_dump(mode="json")
    fields = []
    for name, form in forms(type(thing)).items():
        used = form.only_with is None or values[form.only_with[0]] in form.only_with[1]
        value = getattr(thing, name)
        listed = ", ".join(line.text for line in value) if isinstance(value, tuple) else value
        fields.append(show.field(name, form, listed, unit, used))
    past = thing.history if isinstance(thing, RulerFoot) else ()
    return ThingView(
        key=key,
        kind=values["kind"],
        label=thing.label,
        name=thing.name,
        state=thing.state,
        says=_says(thing, unit),
        thing=values,
        fields=fields,
        edges=[_edge(edge) for edge in thing.edges] if isinstance(thing, Edged) else [],
        history=[
            PastView(words=[show.shown(past_one.offset.mm, unit)], until=past_one.until, how=past_one.how)
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


def _says(thing: Thing, unit: Unit) -> m.Words:
    """What tells it from another of its kind."""
    words: m.Words = []
    for value in (getattr(thing, name) for name in thing.says):
        if value is not None:
            said = show.shown(value.mm, unit) if isinstance(value, Length) else str(value)
            words += [" × ", said] if words else [said]
    return words
