"""Machines that report what they sew."""

from __future__ import annotations

import threading
import time

from flask import current_app

from kenzet.core.sewing.heard import Heard

GONE_S = 15.0


class Machines:
    """The machines by quilt; messages are handled one at a time."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self._heard: dict[str, Heard] = {}

    def at(self, quilt: str) -> Heard:
        """The machine at a quilt."""
        return self._heard.setdefault(quilt, Heard())

    def present(self, quilt: str) -> Heard | None:
        """The machine, if it has sent something recently."""
        found = self._heard.get(quilt)
        return found if found and found.begun and time.time() - found.when < GONE_S else None


def machines() -> Machines:
    """The application's machines."""
    found: Machines = current_app.extensions["machines"]
    return found
