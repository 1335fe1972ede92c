"""The last few revisions of quilts, laid out. Revisions never change, so nothing here becomes stale."""

from __future__ import annotations

import threading

from cachetools import LRUCache
from flask import current_app

from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store.quilts import Kept

MOST = 16  # revisions


class Layouts:
    """Layouts by quilt and revision; another revision of the same quilt shares its top and its memo."""

    def __init__(self) -> None:
        self._kept: LRUCache[tuple[str, int], QuiltLayout] = LRUCache(MOST)
        self._lock = threading.Lock()

    def of(self, kept: Kept) -> QuiltLayout:
        """The layout of a revision."""
        key = (kept.id, kept.revision)
        with self._lock:
            found = self._kept.get(key)
            if found is None:
                kin = next((laid for (quilt, _), laid in self._kept.items() if quilt == kept.id), None)
                found = self._kept[key] = kin.with_quilt(kept.quilt) if kin else QuiltLayout(kept.quilt)
            return found


def layouts() -> Layouts:
    """The application's layouts."""
    found: Layouts = current_app.extensions["layouts"]
    return found
