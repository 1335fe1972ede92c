"""The balance of a quilt: how firm, how high, what is seen first, which thread; and the map of it."""

from __future__ import annotations

from typing import Annotated

from flask import Response
from pydantic import Field

from kenzet.core.balance.weigh import Balance, threads_for, weigh
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import Unit
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.density_picture import density_picture
from kenzet.say.balance_words import BalanceView, balance_view
from kenzet.store import cupboard
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m

balance = Blueprint("balance", __name__, url_prefix="/api/quilts/<quilt>")
WEIGHED: Table[tuple[str, int], Balance] = Table("quilts weighed", most=4)
MAPS: Table[tuple[str, int], bytes] = Table("density maps", most=4)


class BalanceQuery(m.Wire):
    """``reads`` is how many times as dense one of two zones is where they look different."""

    unit: Unit = "in"
    reads: Annotated[float, Field(ge=1.1, le=10)] = 2.0


class MapQuery(m.Wire):
    """``revision`` only makes the address another where the plan is another."""

    revision: int | None = None


@balance.get("/balance", responses={200: BalanceView})
def balanced(path: m.QuiltKey, query: BalanceQuery) -> Response:
    """Everything that is said of it."""
    kept, laid = laid_quilt(path.quilt)
    with connection() as conn:
        own = cupboard.things(conn, LOCAL_OWNER)
    found = _weighed(kept, laid)
    threads = {key: one for key, one in own.items() if isinstance(one, Thread) and one.state == "at hand"}
    route = routes().soon(kept, laid).route if found.plans else None
    ranked = threads_for(laid, found, threads)
    return answer(balance_view(laid, found, own, ranked, route, query.reads, query.unit))


def _weighed(kept: Kept, laid: QuiltLayout) -> Balance:
    key = (kept.id, kept.revision)
    return laid.memo.get(WEIGHED, key) or laid.memo.put(WEIGHED, key, weigh(laid))


@balance.get("/density.png")
def density(path: m.QuiltKey, query: MapQuery) -> Response:
    """The map of how firmly it is stitched."""
    kept, laid = laid_quilt(path.quilt)
    key = (kept.id, kept.revision)
    found = laid.memo.get(MAPS, key) or laid.memo.put(MAPS, key, density_picture(laid))
    return Response(found, mimetype="image/png")
