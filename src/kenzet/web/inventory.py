"""The tools and supplies a quilter owns, shared by all quilts."""

from __future__ import annotations

import json
from datetime import date
from typing import Any

from flask import Response

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.kit.inventory import KitFile, OneThing, calibrated, new_key, plain
from kenzet.core.kit.things import THINGS, Thing
from kenzet.core.kit.things.base import GROUPS
from kenzet.core.kit.things.machine import RulerFoot
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.top.document import validated
from kenzet.formats import kit_csv
from kenzet.store import inventory as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, upload
from kenzet.web.wire import base as m
from kenzet.web.wire.inventory import (
    MOST_BYTES,
    InventoryView,
    KindView,
    StripRequest,
    ThingGroupView,
    ThingKeyPath,
    ThingRequest,
    ThingView,
    thing_view,
)

inventory = Blueprint("inventory", __name__, url_prefix="/api/things")


@inventory.get("", responses={200: InventoryView})
def show_things(query: m.Reading) -> Response:
    """All tools and supplies, by group."""
    return _groups(query.unit)


@inventory.post("", responses={200: ThingView})
def keep_thing(body: ThingRequest) -> Response:
    """Validate an item as typed, and store it."""
    thing: Thing = validated(OneThing, {"thing": body.thing}, body.unit).thing
    with connection() as conn:
        things = store.things(conn, LOCAL_OWNER)
        before = things.get(body.key or "")
        if isinstance(before, RulerFoot) and isinstance(thing, RulerFoot):
            thing = thing.model_copy(update={"history": before.history})  # her own record is not typed over
        key = body.key or new_key(thing.name, things)
        if body.keep:
            store.put(conn, LOCAL_OWNER, {key: thing})
    return answer(thing_view(key, thing, body.unit))


@inventory.delete("/<key>", responses={200: InventoryView})
def remove_thing(path: ThingKeyPath, query: m.Reading) -> Response:
    """Delete an item for good."""
    with connection() as conn:
        store.remove(conn, LOCAL_OWNER, path.key)
    return _groups(query.unit)


@inventory.post("/<key>/strip", responses={200: ThingView})
def read_strip(path: ThingKeyPath, body: StripRequest) -> Response:
    """A foot's offset from a test strip; with ``keep`` it is used from now on and the old one goes into the
    history."""
    try:
        span = Length.parse(body.span, body.unit)
    except BadValue as error:
        raise BadValue(error.message, "span") from error
    with connection() as conn:
        foot = store.things(conn, LOCAL_OWNER).get(path.key)
        if not isinstance(foot, RulerFoot):
            raise Unknown(tr("You have no such foot."), "thing")
        found = calibrated(foot, span, body.lines, body.side, date.today().isoformat())
        if body.keep:
            store.put(conn, LOCAL_OWNER, {path.key: found})
    return answer(thing_view(path.key, found, body.unit))


@inventory.post("/import", responses={200: InventoryView})
def bring_things(query: m.Reading) -> Response:
    """Add the items of a file (JSON or CSV); existing ones are not duplicated."""
    data = upload(MOST_BYTES, tr("A file of tools and supplies"))
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
    return _groups(query.unit)


def _parsed(data: bytes) -> Any:
    if not data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith(b"{"):
        return {"things": kit_csv.load(data)}
    try:
        return json.loads(data)
    except (ValueError, RecursionError) as error:
        raise BadValue(tr("This file is neither JSON nor a table."), "file") from error


def _things() -> dict[str, Thing]:
    with connection() as conn:
        return store.things(conn, LOCAL_OWNER)


def _groups(unit: Unit) -> Response:
    things = _things()
    return answer(
        InventoryView(
            groups=[
                ThingGroupView(
                    key=group,
                    label=label,
                    things=[
                        thing_view(key, thing, unit) for key, thing in things.items() if thing.group == group
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
