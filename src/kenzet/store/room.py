"""Free disk space while the app runs: nothing is written that could fill the disk, as a database on a full disk
stops."""

from __future__ import annotations

import shutil
from pathlib import Path

from kenzet.core.errors import Unavailable
from kenzet.texts import tr

LEAST = 150 * 1024 * 1024
"""Bytes: twice the largest photograph, and what the database writes with it."""
_watched: list[Path] = []


def watch(folder: Path) -> None:
    """Check the disk of ``folder`` before each write from now on."""
    _watched[:] = [folder]


def check() -> None:
    """Raises Unavailable, naming the disk and the space needed, if there is too little space to write."""
    for folder in _watched:
        free = shutil.disk_usage(folder).free
        if free < LEAST:
            raise Unavailable(
                tr(
                    "The disk under {folder} has {free} MB free; {least} MB are needed to keep anything. Nothing was changed. Make room, then try again.",
                    folder=folder,
                    free=free // 1024**2,
                    least=LEAST // 1024**2,
                )
            )
