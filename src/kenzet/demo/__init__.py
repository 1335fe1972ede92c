"""Demo quilts, as plan files, and a few swatches; our own invention."""

from __future__ import annotations

from importlib import resources

from kenzet.core.logbook.swatch import KeptSwatch, SwatchFound, swatch_of
from kenzet.core.top.document import Quilt, validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats import plan_file


def demo_quilts() -> list[Quilt]:
    """All demo quilts, by file name."""
    files = sorted(resources.files("kenzet.demo").iterdir(), key=lambda file: file.name)
    return [plan_file.load(file.read_bytes()) for file in files if file.name.endswith(".json")]


_FOUND: dict[str, dict[str, str]] = {
    "straight-lines": {"name": "Lines 1/2 in apart", "felt": "soft", "high": "3/64 in", "again": "yes", "notes": "Lay the ruler on the seam first: by eye the third line leaned."},
    "nine-patch-whole-middle-eight-si": {"name": "Echoes inward", "felt": "soft", "high": "1/16 in", "again": "no", "notes": "Too many turns for a small shape."},
    "two-triangles-background": {"name": "Grid on the slant", "felt": "firm", "pieced": "8 1/8 in", "washed": "yes", "before": "8 in", "after": "7 3/4 in", "again": "yes"},
}  # fmt: skip
"""Observations about zones of the practice cloth."""


def demo_swatches() -> list[KeptSwatch]:
    """Zones of the practice cloth as swatches, the newest last."""
    cloth = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.use == "practice piece"))
    return [
        KeptSwatch(swatch=swatch_of(cloth, zone), found=validated(SwatchFound, found))
        for zone, found in _FOUND.items()
    ]
