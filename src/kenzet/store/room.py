"""Room on the disk while the app runs: nothing is written that would fill it, for a database on a full disk stands still."""

from __future__ import annotations

import shutil
from pathlib import Path

from kenzet.core.errors import Unavailable
from kenzet.texts import tr

LEAST = 150 * 1024 * 1024
"""Bytes: the largest photograph, twice over, and what the database writes beside it."""
_watched: list[Path] = []


def watch(folder: Path) -> None:
    """From now on its disk is looked at before each write."""
    _watched[:] = [folder]


def check() -> None:
    """Raises Unavailable, naming the disk and what is needed, where there is too little room to write anything."""
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
