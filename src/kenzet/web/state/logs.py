"""The logs of the last few quilts, kept up to date with the database."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from typing import Any

from cachetools import LRUCache
from flask import current_app

from kenzet.core.sewing.log import Event, Log
from kenzet.store import sewing as store

MOST = 8  # quilts


class Logs:
    """Each log is read once; later only new events are read."""

    def __init__(self) -> None:
        self._logs: LRUCache[str, tuple[Log, int]] = LRUCache(MOST)
        self._lock = threading.Lock()

    def log(self, conn: Any, quilt: str) -> Log:
        """The log with all events so far; a returned log is never changed."""
        with self._lock:
            log, seq = self._logs.get(quilt) or (Log(), 0)
            news = list(store.after(conn, quilt, seq))
            if news:
                log = log.copy()  # another request may be reading the one that was given out
                for number, event in news:
                    log.take(event)
                    seq = number
                self._logs[quilt] = (log, seq)
            return log

    def keep(self, conn: Any, quilt: str, events: Sequence[Event]) -> int:
        """Stores events; returns how many are known then."""
        if events:
            store.append(conn, quilt, events)
        return len(self.log(conn, quilt))


def logs() -> Logs:
    """The application's logs."""
    found: Logs = current_app.extensions["logs"]
    return found
