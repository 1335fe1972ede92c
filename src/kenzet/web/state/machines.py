"""Machines that tell what they sew, as long as they are heard."""

from __future__ import annotations

import threading
import time

from flask import current_app

from kenzet.core.sewing.heard import Heard

GONE_S = 15.0


class Machines:
    """The machines that are heard, by quilt; one message at a time."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self._heard: dict[str, Heard] = {}

    def at(self, quilt: str) -> Heard:
        """The machine at a quilt."""
        return self._heard.setdefault(quilt, Heard())

    def present(self, quilt: str) -> Heard | None:
        """The machine that has been heard just now."""
        found = self._heard.get(quilt)
        return found if found and found.begun and time.time() - found.when < GONE_S else None


def machines() -> Machines:
    """The application's."""
    found: Machines = current_app.extensions["machines"]
    return found
