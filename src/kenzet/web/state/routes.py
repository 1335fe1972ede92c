"""Routes, by the content of the plan: in memory, and the last ones on disk, so that the first step at the machine
does not wait for a search made yesterday, and a copy of a quilt has its route at once."""

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
from kenzet.web.state.contents import plan_hash

MOST, MOST_FILES = 8, 24
_ENDING = ".route"


class Routes:
    """The routes of the last few plans. A search does not block that of another plan. ``folder`` keeps the last
    routes between starts; None keeps none."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder
        self._ways: LRUCache[str, PlaceRoutes] = LRUCache(MOST)
        self._finding: LRUCache[str, threading.Lock] = LRUCache(16 * MOST)
        self._lock = threading.Lock()

    def ways(self, kept: Kept, laid: QuiltLayout) -> PlaceRoutes:
        """The routes of the present plan. Raises BadValue if nothing is planned."""
        plan = plan_hash(kept)
        with self._lock:
            finding = self._finding.setdefault(plan, threading.Lock())
        with finding:
            found = self._known(plan)
            if found is None:
                found = self._read(plan)
                if found is None:
                    found = _found(laid, quick=False)
                    self._write(plan, found)
                with self._lock:
                    self._ways[plan] = found
            return found

    def soon(self, kept: Kept, laid: QuiltLayout) -> PlaceRoutes:
        """The same if they are known already, else quick ones. Raises BadValue if nothing is planned."""
        return self._known(plan_hash(kept)) or _found(laid, quick=True)

    def _file(self, plan: str) -> Path | None:
        return self._folder and self._folder / f"{plan}{_ENDING}"

    def _read(self, plan: str) -> PlaceRoutes | None:
        """A route saved before this start, if plan and program are the same. Only files that ``_write`` left in
        the data folder are read."""
        file = self._file(plan)
        try:
            data = file.read_bytes() if file else b""
            head = _head(plan)
            return PlaceRoutes(*pickle.loads(data[len(head) :])) if data.startswith(head) else None
        except Exception:  # damaged, or of another time: it is looked for again
            return None

    def _write(self, plan: str, found: PlaceRoutes) -> None:
        file = self._file(plan)
        if file is None:
            return
        part = file.with_suffix(f".{threading.get_ident()}")
        with suppress(OSError):  # it only saves time
            file.parent.mkdir(parents=True, exist_ok=True)
            part.write_bytes(_head(plan) + pickle.dumps((found.route, found.costs), protocol=5))
            part.replace(file)
            every = sorted(file.parent.glob(f"*{_ENDING}"), key=lambda one: one.stat().st_mtime)
            for old in every[:-MOST_FILES]:
                old.unlink(missing_ok=True)

    def _known(self, plan: str) -> PlaceRoutes | None:
        with self._lock:
            return self._ways.get(plan)


@cache
def _program() -> str:
    """A hash that changes whenever the program does."""
    told = hashlib.blake2b(digest_size=12)
    package = Path(kenzet.__file__).parent
    for file in sorted(package.rglob("*.py")):
        told.update(f"{file.relative_to(package)} {file.stat().st_size} {file.stat().st_mtime_ns}".encode())
    return told.hexdigest()


def _head(plan: str) -> bytes:
    return f"kenzet route {_program()} {plan}\n".encode()


def _found(laid: QuiltLayout, quick: bool) -> PlaceRoutes:
    route = route_quilt(laid, quick)
    if not route.visits:
        raise BadValue(tr("No zone has a line to sew yet. Choose a fill in Fills first."), "quilt")
    return place_routes(laid, route)


def routes() -> Routes:
    """The application's routes."""
    found: Routes = current_app.extensions["routes"]
    return found
