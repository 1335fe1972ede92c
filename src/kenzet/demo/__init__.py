"""Demo quilts, as plan files; our own invention."""

from __future__ import annotations

from importlib import resources

from kenzet.core.top.document import Quilt
from kenzet.formats import plan_file


def demo_quilts() -> list[Quilt]:
    """All demo quilts, by file name."""
    files = sorted(resources.files("kenzet.demo").iterdir(), key=lambda file: file.name)
    return [plan_file.load(file.read_bytes()) for file in files if file.name.endswith(".json")]
