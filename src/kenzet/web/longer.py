"""A longer search for shorter ways: begun, looked at, stopped; what it finds is hers to take."""

from __future__ import annotations

import threading
import time

from flask import Response, current_app
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Unit, long_figure
from kenzet.core.route.local_search import Kind, Longer
from kenzet.core.route.quilt import costs_of
from kenzet.core.tolerances import TOLD_SHARE
from kenzet.web import models as m
from kenzet.web.at_hand import answer, laid_quilt
from kenzet.web.route import RouteRequest
from kenzet.web.sewing import logs

longer = APIBlueprint("longer", __name__, url_prefix="/api/quilts/<quilt>/route")

_PATIENCE_S = 20.0


class LongerQuery(m.Reading):
    """How the search that was begun for the ``number``-th place (0 for all) gets on."""

    number: m.Number = 0


class LongerView(m.Wire):
    """``state`` is ``idle`` where none was begun or the plan has changed since. ``words`` say what is found, ``share`` how near that is to
    what no way is shorter than, 0 to 1. ``ways`` are the shorter ways, to be put to those that are kept with the quilt.
    """

    state: str
    doing: str
    words: list[m.Words]
    share: float
    ways: dict[str, list[int]]


class _Search:
    """One that runs; it ends where nobody has asked for it for a while."""

    def __init__(self, quilt: str, revision: int, number: int, found: Longer) -> None:
        self.quilt, self.revision, self.number, self.found = quilt, revision, number, found
        self.stopped = False
        self.asked = time.monotonic()
        self.thread = threading.Thread(target=found.run, args=(self._over,), daemon=True)
        self.thread.start()

    def _over(self) -> bool:
        return self.stopped or time.monotonic() - self.asked > _PATIENCE_S


class Searches:
    """One at a time: it takes a processor for itself. What the last one found stays until the next is begun."""

    def __init__(self) -> None:
        self._last: _Search | None = None
        self._lock = threading.Lock()

    def begin(self, quilt: str, revision: int, number: int, found: Longer) -> None:
        """Ends the one before. Raises BadValue where that belongs to another quilt and still looks."""
        with self._lock:
            last = self._last
            if last and last.thread.is_alive() and last.quilt != quilt and not last.stopped:
                raise BadValue(
                    "A longer search is under way for another quilt. Stop that one first.", "quilt"
                )
            if last:
                last.stopped = True
            self._last = _Search(quilt, revision, number, found)

    def of(self, quilt: str, revision: int, number: int) -> Longer | None:
        """That of this revision; one for another revision is stopped."""
        with self._lock:
            last = self._last
            if last is None or (last.quilt, last.number) != (quilt, number):
                return None
            last.asked = time.monotonic()
            last.stopped |= last.revision != revision
            return last.found if last.revision == revision else None

    def stop(self, quilt: str, number: int) -> None:
        """Ends it soon; what it found can still be taken."""
        with self._lock:
            last = self._last
            if last and (last.quilt, last.number) == (quilt, number):
                last.stopped = True
                last.thread.join(timeout=5)


def _searches() -> Searches:
    found: Searches = current_app.extensions["searches"]
    return found


@longer.post("/longer", responses={200: LongerView})
def begin(path: m.QuiltPath, body: RouteRequest) -> Response:
    """For what is sewn at the ``number``-th place of the order, for all where that is 0."""
    kept, laid = laid_quilt(path.quilt)
    route = logs().ways(kept, laid).route
    if body.number > len(route.visits):
        raise BadValue("Nothing is sewn there any more.", "number")
    found = Longer(route, costs_of(laid.quilt.stitching), body.number)
    if not found.kinds:
        raise BadValue(
            "There are too many lines here to look longer.",
            "number",
        )
    _searches().begin(path.quilt, kept.revision, body.number, found)
    return answer(_view(found, body.unit))


@longer.get("/longer", responses={200: LongerView})
def look(path: m.QuiltPath, query: LongerQuery) -> Response:
    """How far it is."""
    kept, _ = laid_quilt(path.quilt)
    return answer(_view(_searches().of(path.quilt, kept.revision, query.number), query.unit))


@longer.post("/longer/stop", responses={200: LongerView})
def stop(path: m.QuiltPath, body: LongerQuery) -> Response:
    """Ends it; the best so far is told."""
    kept, _ = laid_quilt(path.quilt)
    _searches().stop(path.quilt, body.number)
    return answer(_view(_searches().of(path.quilt, kept.revision, body.number), body.unit))


def _view(found: Longer | None, unit: Unit) -> LongerView:
    if found is None:
        return LongerView(state="idle", doing="", words=[], share=0.0, ways={})
    at, left, gained = found.at, found.left, found.gained
    words: list[m.Words] = [_kind_words(kind, unit) for kind in found.kinds if kind.better]
    if words:
        words.append([f"Weighed as you mind stops and sewing over lines, {_percent(gained)} better."])
    many = len(found.kinds) + len(found.skipped) > 1
    if left < TOLD_SHARE:
        words.append(["Of all these none can be shorter." if many else "No way is shorter than this."])
    elif at or found.done:
        words.append([f"At most {_percent(left)} more can be saved; it need not be."])
    if found.done and not found.ways and left >= TOLD_SHARE:
        words.insert(0, ["No shorter way was found."])
    if found.skipped:
        names = ", ".join(dict.fromkeys(one.unit.part.name for one in found.skipped))
        words.append([f"{names}: too many lines to look at longer."])
    return LongerView(
        state="done" if found.done else "looking",
        doing=f"{at.one.unit.part.name} …" if at else "",
        words=words,
        share=1 - min(left, 1.0),
        ways={word: list(edges) for word, edges in found.ways.items()},
    )


def _percent(share: float) -> str:
    return f"{100 * share:.1f}\N{NO-BREAK SPACE}%"


def _kind_words(kind: Kind, unit: Unit) -> m.Words:
    """How much is travelled by the way found, and was before."""
    net = kind.one.network
    was, now = (sum(float(net.lengths[k]) for k in edges) for edges in (kind.one.travel.edges, kind.edges))
    return [
        f"{kind.one.unit.part.name}: ",
        long_figure(now, unit),
        " to travel, before ",
        long_figure(was, unit),
        ".",
    ]
