"""What a request has at hand: a connection, and quilts that are laid out already."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from flask import current_app

from kenzet.core.plan import LaidQuilt
from kenzet.store import quilts
from kenzet.store.quilts import LOCAL_OWNER, Kept


class LaidQuilts:
    """The last few revisions laid out. Revisions never change, so nothing kept here grows stale."""

    def __init__(self, most: int = 16) -> None:
        self._kept: dict[tuple[str, int], LaidQuilt] = {}
        self._most = most
        self._lock = threading.Lock()

    def get(self, kept: Kept) -> LaidQuilt:
        """The revision laid out; another revision of the same quilt lends its top where it can."""
        key = (kept.id, kept.revision)
        with self._lock:
            found = self._kept.pop(key, None)
            if found is None:
                kin = next((laid for (quilt, _), laid in self._kept.items() if quilt == kept.id), None)
                found = kin.with_quilt(kept.quilt) if kin else LaidQuilt(kept.quilt)
            self._kept[key] = found
            while len(self._kept) > self._most:
                del self._kept[next(iter(self._kept))]
            return found


@contextmanager
def connection() -> Iterator[Any]:
    """A database connection for this request."""
    with current_app.extensions["pool"].connection() as conn:
        yield conn


def laid_quilt(quilt_id: str) -> tuple[Kept, LaidQuilt]:
    """The quilt as it is kept now. Raises Unknown."""
    with connection() as conn:
        kept = quilts.load(conn, LOCAL_OWNER, quilt_id)
    return kept, current_app.extensions["laid"].get(kept)
