"""Draws every fill on six shapes of zone, as a page to be looked at; run through tools/contact-sheet."""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

from kenzet.core.advice.suited_fills import candidates, shows
from kenzet.core.errors import KenzetError
from kenzet.core.fills import FILLS, Fill
from kenzet.core.geom.region import Region
from kenzet.core.plan.drawing import Drawing
from tests.browser.conftest import FLAGS
from tests.shapes import box, drawn, inches, petal

SHAPES: dict[str, Region] = {
    "square": inches(box(0, 0, 8, 8)),
    "triangle": inches([(0, 0), (8, 0), (0, 8)]),
    "petal": petal(8, 1.6),
    "diamond": inches([(0, 2.5), (4, 0), (8, 2.5), (4, 5)]),
    "border strip": inches(box(0, 0, 16, 4)),
    "background with a hole": inches(box(0, 0, 9, 9), box(3, 3, 3, 3)),
}
_PAGE = """<body style="margin:0;background:#fffcf6;font:12px sans-serif;color:#1e2733"><table style="border-collapse:collapse">{}</table></body>"""


def drawing_of(kind: str, region: Region) -> tuple[Fill, Drawing] | str:
    """The fill at settings that show something, or what it says instead."""
    said = "nothing fits"
    for fill in candidates(kind):
        try:
            found = drawn(fill, region)
        except KenzetError as error:
            said = error.message
            continue
        if shows(found):
            return fill, found
    return said


def cell(kind: str, region: Region) -> str:
    """One picture as SVG."""
    left, low, right, high = region.bounds
    pad = (right - left) * 0.02
    wide, tall = right - left + 2 * pad, high - low + 2 * pad
    outline = "".join(
        _path(ring.coords, closed=True) for p in region.area.geoms for ring in (p.exterior, *p.interiors)
    )
    found = drawing_of(kind, region)
    if isinstance(found, str):
        return f'<td style="padding:4px;width:205px;color:#a8392c;vertical-align:top">{found}</td>'
    fill, drawing = found
    lines = "".join(_path(ends.reshape(2, 2)) for ends in drawing.stretches.ends)
    lines += "".join(_path(trace.polyline) for trace in (*drawing.traces, *drawing.hints))
    svg = (
        f'<svg width="205" height="150" viewBox="0 0 {wide} {tall}" fill="none">'
        f'<g transform="matrix(1 0 0 -1 {pad - left} {low + tall - pad})" stroke-width="{wide / 220}">'
        f'<path d="{outline}" fill="#efe9dc" fill-rule="evenodd" stroke="#6e685a"/><path d="{lines}" stroke="#2b3a67"/></g></svg>'
    )
    return f'<td style="padding:4px">{svg}<br>{fill.spacing.text}, {drawing.lines} lines</td>'


def _path(points, closed: bool = False) -> str:
    text = "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in points)
    return text + "Z" if closed else text


def main(folder: Path) -> None:
    """One PNG a handful of fills into ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    kinds = list(FILLS)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1400, "height": 900})
        for number, first in enumerate(range(0, len(kinds), 5), 1):
            rows = "".join(
                f'<tr><th style="width:90px">{FILLS[kind].label}</th>'
                + "".join(cell(kind, r) for r in SHAPES.values())
                + "</tr>"
                for kind in kinds[first : first + 5]
            )
            page.set_content(_PAGE.format(rows))
            page.screenshot(path=str(folder / f"fills-{number}.png"), full_page=True)
        browser.close()
    print(f"contact sheets of {len(kinds)} fills in {folder}")


if __name__ == "__main__":
    main(Path(sys.argv[1] if len(sys.argv) > 1 else "var/contact-sheet"))
