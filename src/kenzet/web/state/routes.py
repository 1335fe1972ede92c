"""Routes that are found, for as long as the quilt is planned so."""

from __future__ import annotations

import threading

from cachetools import LRUCache
from flask import current_app

from kenzet.core.errors import BadValue
from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.now import UnitWays, ways_of
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store.quilts import Kept

MOST = 8  # quilts


class Routes:
    """The ways through the last few quilts. A route that is looked for holds up no other quilt."""

    def __init__(self) -> None:
        self._ways: LRUCache[str, tuple[int, UnitWays]] = LRUCache(MOST)
        self._finding: dict[str, threading.Lock] = {}
        self._lock = threading.Lock()

    def ways(self, kept: Kept, laid: QuiltLayout) -> UnitWays:
        """Of the quilt as it is planned now. Raises BadValue where nothing is."""
        with self._lock:
            finding = self._finding.setdefault(kept.id, threading.Lock())
        with finding:
            found = self._known(kept)
            if found is None:
                found = _found(laid, quick=False)
                with self._lock:
                    self._ways[kept.id] = (kept.revision, found)
            return found

    def soon(self, kept: Kept, laid: QuiltLayout) -> UnitWays:
        """The same where they are found already, else quick ones. Raises BadValue where nothing is planned."""
        return self._known(kept) or _found(laid, quick=True)

    def _known(self, kept: Kept) -> UnitWays | None:
        with self._lock:
            revision, found = self._ways.get(kept.id, (None, None))
            return found if revision == kept.revision else None


def _found(laid: QuiltLayout, quick: bool) -> UnitWays:
    route = route_quilt(laid, quick)
    if not route.visits:
        raise BadValue("No zone has a line to sew yet. Choose a fill in Fills first.", "quilt")
    return ways_of(laid, route)


def routes() -> Routes:
    """The application's."""
    found: Routes = current_app.extensions["routes"]
    return found
