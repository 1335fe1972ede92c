"""Routes, valid as long as the plan: in memory, and the last of each quilt on disk, so that the first step at the
machine does not wait for a search made yesterday."""

from __future__ import annotations

import hashlib
import pickle
import threading
from contextlib import suppress
from functools import cache
from pathlib import Path

from cachetools import LRUCache
from flask import current_app

import kenzet
from kenzet.core.errors import BadValue
from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.now import PlaceRoutes, place_routes
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store.quilts import Kept
from kenzet.texts import tr

MOST = 8  # quilts


class Routes:
    """The routes of the last few quilts. A search does not block other quilts. ``folder`` keeps the last route of
    each between starts; None keeps none."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder
        self._ways: LRUCache[str, tuple[int, PlaceRoutes]] = LRUCache(MOST)
        self._finding: dict[str, threading.Lock] = {}
        self._lock = threading.Lock()

    def ways(self, kept: Kept, laid: QuiltLayout) -> PlaceRoutes:
        """The routes of the present plan. Raises BadValue if nothing is planned."""
        with self._lock:
            finding = self._finding.setdefault(kept.id, threading.Lock())
        with finding:
            found = self._known(kept)
            if found is None:
                found = self._read(kept)
                if found is None:
                    found = _found(laid, quick=False)
                    self._write(kept, found)
                with self._lock:
                    self._ways[kept.id] = (kept.revision, found)
            return found

    def soon(self, kept: Kept, laid: QuiltLayout) -> PlaceRoutes:
        """The same if they are known already, else quick ones. Raises BadValue if nothing is planned."""
        return self._known(kept) or _found(laid, quick=True)

    def _file(self, kept: Kept) -> Path | None:
        return self._folder and self._folder / f"{kept.id}.route"

    def _read(self, kept: Kept) -> PlaceRoutes | None:
        """A route saved before this start, if plan and program are the same. Only files that ``_write`` left in
        the data folder are read."""
        file = self._file(kept)
        try:
            data = file.read_bytes() if file else b""
            head = _head(kept)
            return PlaceRoutes(*pickle.loads(data[len(head) :])) if data.startswith(head) else None
        except Exception:  # damaged, or of another time: it is looked for again
            return None

    def _write(self, kept: Kept, found: PlaceRoutes) -> None:
        file = self._file(kept)
        if file is None:
            return
        part = file.with_suffix(f".{threading.get_ident()}")
        with suppress(OSError):  # it only saves time
            file.parent.mkdir(parents=True, exist_ok=True)
            part.write_bytes(_head(kept) + pickle.dumps((found.route, found.costs), protocol=5))
            part.replace(file)

    def _known(self, kept: Kept) -> PlaceRoutes | None:
        with self._lock:
            revision, found = self._ways.get(kept.id, (None, None))
            return found if revision == kept.revision else None


@cache
def _program() -> str:
    """A hash that changes whenever the program does."""
    told = hashlib.blake2b(digest_size=12)
    package = Path(kenzet.__file__).parent
    for file in sorted(package.rglob("*.py")):
        told.update(f"{file.relative_to(package)} {file.stat().st_size} {file.stat().st_mtime_ns}".encode())
    return told.hexdigest()


def _head(kept: Kept) -> bytes:
    return f"kenzet route {_program()} {kept.id} {kept.revision}\n".encode()


def _found(laid: QuiltLayout, quick: bool) -> PlaceRoutes:
    route = route_quilt(laid, quick)
    if not route.visits:
        raise BadValue(tr("No zone has a line to sew yet. Choose a fill in Fills first."), "quilt")
    return place_routes(laid, route)


def routes() -> Routes:
    """The application's routes."""
    found: Routes = current_app.extensions["routes"]
    return found
