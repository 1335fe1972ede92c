"""Quilts: the list, one quilt, changes, undo and redo, and the unit of figures."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from flask import Response

from kenzet import __version__
from kenzet.core.changes import AnyChange, Change, applied
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.changes.quilt import SetKit
from kenzet.core.kit.inventory import taken_over
from kenzet.core.numbers.measure import Unit
from kenzet.core.params import Frozen, free
from kenzet.core.plan.planner import check_quilt
from kenzet.core.top.document import Quilt, read, validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.formats.picture_svg import picture_svg
from kenzet.say import words as w
from kenzet.store import inventory, photos
from kenzet.store import quilts as store
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.web.blueprint import Blueprint
from kenzet.web.exports import links
from kenzet.web.open_views import views_of
from kenzet.web.request_context import answer, connection, her_things, laid_quilt
from kenzet.web.state.cards import Card, cards
from kenzet.web.state.layouts import layouts
from kenzet.web.wire import base as m
from kenzet.web.wire.kit import kit_changed
from kenzet.web.wire.quilt import ChangeRequest, Touched, VersionRequest, quilt_of, touched

quilts = Blueprint("quilts", __name__, url_prefix="/api")


_SIZE: dict[Unit, Fraction] = {"in": Fraction(1, 2), "mm": Fraction(5)}
"""The step to which a quilt's size is rounded in the list."""


class _OneChange(Frozen):
    change: AnyChange


@quilts.get("/health", responses={200: m.Health})
def health() -> Response:
    """Whether the app answers, and its database too."""
    with connection() as conn:
        store.unit(conn, LOCAL_OWNER)
    return answer(m.Health(name="Kenzet", version=__version__))


@quilts.get("/home", responses={200: m.Home})
def home() -> Response:
    """The unit and the quilts, the last changed first."""
    return _home()


def _home() -> Response:
    with connection() as conn:
        unit: Unit = store.unit(conn, LOCAL_OWNER)  # type: ignore[assignment]
        found = [_listed(one, cards().of(conn, one), unit) for one in store.listed(conn, LOCAL_OWNER)]
        return answer(m.Home(unit=unit, quilts=found, exports=links()))


def _listed(one: store.Listed, card: Card, unit: Unit) -> m.Listed:
    station, says = card.next(one.sewn)
    return m.Listed(
        id=one.id, name=one.name, put_away=one.state == "put away", revision=one.revision, changed=one.changed,
        size=[w.shown(card.width, unit, _SIZE[unit], bare=True, about=True), " × ", w.shown(card.height, unit, _SIZE[unit], about=True)], zones=card.zones, filled=card.filled, sewn=one.sewn,
        next=station, next_says=says,
    )  # fmt: skip


@quilts.get("/quilts/<quilt>/picture.svg")
def picture(path: m.QuiltKey) -> Response:
    """A small picture of the quilt in its fabrics, with its lines."""
    _, laid = laid_quilt(path.quilt)
    return Response(picture_svg(laid), mimetype="image/svg+xml")


@quilts.post("/quilts", responses={200: m.Home})
def add_quilts(body: m.NewQuilts) -> Response:
    """Store a quilt from a plan file or from a wish, or the demo quilts if neither is sent."""
    if body.wish is not None:
        quilt = new_quilt(validated(NewQuilt, body.wish, body.unit, "wish"))
        with connection() as conn:
            kit = taken_over(quilt.kit, inventory.things(conn, LOCAL_OWNER))
        found = [quilt.model_copy(update={"kit": kit})]
    else:
        found = demo_quilts()[::-1] if body.plan is None else [read(body.plan)]
    for quilt in found:
        check_quilt(QuiltLayout(quilt))
    with connection() as conn:
        for quilt in found:
            store.add(conn, LOCAL_OWNER, _with_known_photo(conn, quilt))
    return _home()


def _with_known_photo(conn: Any, quilt: Quilt) -> Quilt:
    """Without its photograph if that is not stored here: a plan file only refers to it."""
    if quilt.ground and not photos.is_there(conn, LOCAL_OWNER, quilt.ground.photo):
        return quilt.model_copy(update={"ground": None})
    return quilt


@quilts.post("/quilts/<quilt>/copy", responses={200: m.Home})
def copy_quilt(path: m.QuiltKey) -> Response:
    """A copy of the present state; it has no undo history."""
    kept, _ = laid_quilt(path.quilt)
    with connection() as conn:
        names = [listed.name for listed in store.listed(conn, LOCAL_OWNER)]
        name = free(kept.quilt.name[:70], names, " ")
        store.add(conn, LOCAL_OWNER, kept.quilt.model_copy(update={"name": name}))
    return _home()


@quilts.put("/quilts/<quilt>/state", responses={200: m.Home})
def set_state(path: m.QuiltKey, body: m.StateRequest) -> Response:
    """Archive a quilt, delete it, or restore it."""
    with connection() as conn:
        store.set_state(conn, LOCAL_OWNER, path.quilt, body.state)
    return _home()


@quilts.put("/unit", responses={200: m.UnitRequest})
def set_unit(body: m.UnitRequest) -> Response:
    """Use inches or millimeters from now on; no length changes."""
    with connection() as conn:
        store.set_unit(conn, LOCAL_OWNER, body.unit)
    return answer(body)


@quilts.get("/quilts/<quilt>", responses={200: m.QuiltView})
def quilt_view(path: m.QuiltKey, query: m.Reading) -> Response:
    """A quilt laid out, with every zone's lines."""
    kept, laid = laid_quilt(path.quilt)
    return answer(quilt_of(kept, laid, query.unit))


@quilts.post("/quilts/<quilt>/changes", responses={200: Touched})
def change(path: m.QuiltKey, body: ChangeRequest) -> Response:
    """Store changes in order; if one cannot be planned, none is stored. The answer says what they affected:
    everything, if some were sent before and the answer was lost; those are not made again."""
    with connection() as conn:
        known = store.made_already(conn, path.quilt, [one.key for one in body.changes])
    kept, before = laid_quilt(path.quilt)
    laid, made = before, []
    for one in body.changes:
        if one.key not in known:
            laid, what = _changed(laid, one, body.unit)
            made.append(store.Made(laid.quilt, what, one.key, one.joins))
    with connection() as conn:
        now = store.change(conn, LOCAL_OWNER, kept.id, body.version + len(known), made)
    return _touched(before if kept.version == body.version else None, now, body)


def _changed(laid: QuiltLayout, one: m.ChangeMade, unit: Unit) -> tuple[QuiltLayout, str]:
    """The quilt after a change, checked that it can be planned."""
    if one.kit is not None:
        wanted: Change = SetKit(kit=kit_changed(laid.quilt.kit, her_things(), one.kit, unit))
    else:
        wanted = validated(_OneChange, {"change": one.change or {}}, unit).change
    quilt, what = applied(wanted, laid)
    changed = laid.with_quilt(quilt)
    check_quilt(changed, laid)
    return changed, what


@quilts.post("/quilts/<quilt>/undo", responses={200: Touched})
def undo(path: m.QuiltKey, body: VersionRequest) -> Response:
    """One step back, and what it affected."""
    _, before = laid_quilt(path.quilt)
    with connection() as conn:
        now = store.undo(conn, LOCAL_OWNER, path.quilt, body.version)
    return _touched(before, now, body)


@quilts.post("/quilts/<quilt>/redo", responses={200: Touched})
def redo(path: m.QuiltKey, body: VersionRequest) -> Response:
    """One step forward, and what it affected."""
    _, before = laid_quilt(path.quilt)
    with connection() as conn:
        now = store.redo(conn, LOCAL_OWNER, path.quilt, body.version)
    return _touched(before, now, body)


def _touched(before: QuiltLayout | None, kept: Kept, body: VersionRequest) -> Response:
    laid = layouts().of(kept)
    return answer(touched(before, kept, laid, views_of(kept, laid, body), body))
