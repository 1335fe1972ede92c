"""The last few plans, laid out. A plan never changes, so nothing here becomes stale."""

from __future__ import annotations

import threading

from cachetools import LRUCache
from flask import current_app

from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store.quilts import Kept
from kenzet.web.state.contents import plan_hash

MOST = 16  # plans


class Layouts:
    """Layouts by the content of the plan; another revision of the same quilt shares its top and its memo."""

    def __init__(self) -> None:
        self._kept: LRUCache[tuple[str, str], QuiltLayout] = LRUCache(MOST)
        self._last: LRUCache[str, tuple[str, str]] = LRUCache(MOST)
        """The plan of each quilt that was asked for last."""
        self._lock = threading.Lock()

    def of(self, kept: Kept) -> QuiltLayout:
        """The layout of a revision."""
        key = (plan_hash(kept), kept.quilt.name)
        with self._lock:
            found = self._kept.get(key)
            if found is None:
                kin = self._kept.get(self._last.get(kept.id, key))
                found = self._kept[key] = kin.with_quilt(kept.quilt) if kin else QuiltLayout(kept.quilt)
            self._last[kept.id] = key
            return found


def layouts() -> Layouts:
    """The application's layouts."""
    found: Layouts = current_app.extensions["layouts"]
    return found
