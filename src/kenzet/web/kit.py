"""The kit that a quilt is planned with: what it takes from the cupboard, and what that makes."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.kit.cupboard import taken_over
from kenzet.core.kit.kit import Kit
from kenzet.core.plan.planner import check_kit
from kenzet.core.top.document import validated
from kenzet.store import cupboard as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire.kit import KitRequest, KitView, kit_of

kit = APIBlueprint("kit", __name__, url_prefix="/api/quilts/<quilt>")


@kit.post("/kit", responses={200: KitView})
def kit_view(path: m.QuiltKey, body: KitRequest) -> Response:
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
    return answer(kit_of(typed, things, body.unit))
