"""The balance of a quilt: how firm and how high, what is seen first, which thread; and the density map."""

from __future__ import annotations

from typing import Annotated

from flask import Response
from pydantic import Field

from kenzet.core.balance.effort import accents, moved
from kenzet.core.balance.weigh import Balance, threads_for, weigh
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.logbook.swatch_lessons import shrinkage_by_density
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.density_picture import density_picture
from kenzet.say.balance_words import AccentRow, BalanceView, accent_row, balance_view
from kenzet.store import inventory, swatches
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import FillDoc

balance = Blueprint("balance", __name__, url_prefix="/api/quilts/<quilt>")
WEIGHED: Table[tuple[str, int], Balance] = Table("quilts weighed", most=4)
MAPS: Table[tuple[str, int], bytes] = Table("density maps", most=4)


class BalanceQuery(m.Wire):
    """``reads`` is the ratio of densities from which two zones look different."""

    unit: Unit = "in"
    reads: Annotated[float, Field(ge=1.1, le=10)] = 2.0


class MapQuery(m.Wire):
    """``revision`` only makes the address differ between plans."""

    revision: int | None = None


@balance.get("/balance", responses={200: BalanceView})
def balanced(path: m.QuiltKey, query: BalanceQuery) -> Response:
    """All figures of the balance."""
    kept, laid = laid_quilt(path.quilt)
    with connection() as conn:
        own = inventory.things(conn, LOCAL_OWNER)
        book = [one.dated for one in swatches.listed(conn, LOCAL_OWNER)]
    found = _weighed(kept, laid)
    threads = {key: one for key, one in own.items() if isinstance(one, Thread) and one.state == "at hand"}
    route = routes().soon(kept, laid).route if found.plans else None
    ranked = threads_for(laid, found, threads)
    shrinkage = shrinkage_by_density(book, laid.quilt.kit)
    return answer(balance_view(laid, found, own, ranked, route, query.reads, query.unit, shrinkage))


class TryRequest(m.Reading):
    """A kind of fill, by name, to try in another zone too."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    zone: m.ZoneKey


class TryView(m.Wire):
    """Where that kind of fill would be then; ``at`` is the center of its places, mm. ``fill`` is what to set
    there."""

    row: AccentRow
    at: list[float]
    fill: FillDoc


@balance.post("/balance/try", responses={200: TryView})
def try_place(path: m.QuiltKey, body: TryRequest) -> Response:
    """A trial; nothing is changed."""
    kept, laid = laid_quilt(path.quilt)
    tried, fill = moved(laid, _weighed(kept, laid).plans, body.name, body.zone)
    every = accents(tried, plan_quilt(tried))
    one = next(each for each in every if each.label == body.name)
    at = [(one.off[0] + 0.5) * laid.top.width, (one.off[1] + 0.5) * laid.top.height]
    row = accent_row(laid, one, every, body.unit)
    return answer(TryView(row=row, at=[round(value, 1) for value in at], fill=fill.model_dump(mode="json")))


def _weighed(kept: Kept, laid: QuiltLayout) -> Balance:
    key = (kept.id, kept.revision)
    return laid.memo.get(WEIGHED, key) or laid.memo.put(WEIGHED, key, weigh(laid))


@balance.get("/density.png")
def density(path: m.QuiltKey, query: MapQuery) -> Response:
    """The density map as a picture."""
    kept, laid = laid_quilt(path.quilt)
    key = (kept.id, kept.revision)
    found = laid.memo.get(MAPS, key) or laid.memo.put(MAPS, key, density_picture(laid))
    return Response(found, mimetype="image/png")
