"""What the list of quilts shows of each, computed once for each revision."""

from __future__ import annotations

import threading
from dataclasses import dataclass
from typing import Any, Literal

from cachetools import LRUCache
from flask import current_app

from kenzet import texts
from kenzet.core.errors import KenzetError
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store import quilts as store
from kenzet.store.quilts import LOCAL_OWNER, Listed
from kenzet.texts import tr

Station = Literal["top", "fills", "marks", "machine"]
_MOST = 400


@dataclass(frozen=True, slots=True)
class Card:
    """``width`` by ``height`` mm; of ``zones`` so many are ``filled``, or left unquilted on purpose."""

    width: float
    height: float
    zones: int
    filled: int

    def next(self, sewn: bool) -> tuple[Station, str]:
        """The station to continue at, and what to do there."""
        if not self.zones:
            return "top", tr("Make zones")
        if self.filled < self.zones:
            left = self.zones - self.filled
            return "fills", texts.counted(
                left, "Choose a fill for {count} zone", "Choose a fill for {count} zones"
            )
        return ("machine", tr("Go on sewing")) if sewn else ("marks", tr("Mark and sew"))


UNREAD = Card(0.0, 0.0, 0, 0)
"""For a quilt that cannot be read; opening it says why."""


class Cards:
    """Cards by quilt and revision."""

    def __init__(self) -> None:
        self._kept: LRUCache[tuple[str, int], Card] = LRUCache(_MOST)
        self._lock = threading.Lock()

    def of(self, conn: Any, one: Listed) -> Card:
        """The card of a quilt as it is now."""
        key = (one.id, one.revision)
        with self._lock:
            found = self._kept.get(key)
        if found is None:
            try:
                quilt = store.load(conn, LOCAL_OWNER, one.id).quilt
                top = QuiltLayout(quilt).top
            except (KenzetError, ValueError):  # one that cannot be read must not hide the others
                return UNREAD
            filled = sum(
                zone.left_open or zone.fill is not None or bool(zone.by_hand) for zone in quilt.zones.values()
            )
            found = Card(top.width, top.height, len(quilt.zones), filled)
            with self._lock:
                self._kept[key] = found
        return found


def cards() -> Cards:
    """The application's cards."""
    found: Cards = current_app.extensions["cards"]
    return found
