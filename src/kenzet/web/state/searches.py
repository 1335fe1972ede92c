"""Longer searches for shorter routes: one at a time, in its own thread."""

from __future__ import annotations

import threading
import time

from flask import current_app

from kenzet.core.errors import BadValue
from kenzet.core.route.local_search import LocalSearch
from kenzet.texts import tr

_PATIENCE_S = 20.0


class _Search:
    """A running search; it ends when nobody has asked about it for a while."""

    def __init__(self, quilt: str, revision: int, number: int, found: LocalSearch) -> None:
        self.quilt, self.revision, self.number, self.found = quilt, revision, number, found
        self.stopped = False
        self.asked = time.monotonic()
        self.thread = threading.Thread(target=found.run, args=(self._over,), daemon=True)
        self.thread.start()

    def _over(self) -> bool:
        return self.stopped or time.monotonic() - self.asked > _PATIENCE_S


class Searches:
    """One search at a time, as it uses a whole processor. The result of the last one stays until the next begins."""

    def __init__(self) -> None:
        self._last: _Search | None = None
        self._lock = threading.Lock()

    def begin(self, quilt: str, revision: int, number: int, found: LocalSearch) -> None:
        """Ends the search before. Raises BadValue if that belongs to another quilt and is still running."""
        with self._lock:
            last = self._last
            if last and last.thread.is_alive() and last.quilt != quilt and not last.stopped:
                raise BadValue(
                    tr("Kenzet is searching for another quilt’s route. Stop that search first."), "quilt"
                )
            if last:
                last.stopped = True
            self._last = _Search(quilt, revision, number, found)

    def of(self, quilt: str, revision: int, number: int) -> LocalSearch | None:
        """The search for this revision; one for another revision is stopped."""
        with self._lock:
            last = self._last
            if last is None or (last.quilt, last.number) != (quilt, number):
                return None
            last.asked = time.monotonic()
            last.stopped |= last.revision != revision
            return last.found if last.revision == revision else None

    def stop(self, quilt: str, number: int) -> None:
        """Ends it soon; its results can still be used."""
        with self._lock:
            last = self._last
            if last and (last.quilt, last.number) == (quilt, number):
                last.stopped = True
                last.thread.join(timeout=5)


def searches() -> Searches:
    """The application's searches."""
    found: Searches = current_app.extensions["searches"]
    return found
