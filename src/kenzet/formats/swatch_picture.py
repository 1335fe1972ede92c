"""A swatch as a picture: its cloth in relief, lit from the upper left, with its thread."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image, ImageColor

from kenzet.core.logbook.swatch import Swatch, polylines, spread_out
from kenzet.core.numbers.measure import INCH
from kenzet.core.relief.cloth import batting_heights, lit
from kenzet.formats.relief_picture import with_thread

_PAPER = (250, 246, 238)
_WIDE = INCH / 30
_SMALLEST = 240  # pixels of the longer side, at least
_FINER = 2  # times as many while it is drawn: edges and stitches are smooth then


def swatch_picture(swatch: Swatch) -> bytes:
    """A JPEG; outside the swatch is paper."""
    rings = polylines(swatch.rings)
    every = np.concatenate(rings)
    longer = float(np.ptp(every, axis=0).max())
    spread = spread_out(rings, polylines(swatch.lines), min(_WIDE, longer / _SMALLEST) / _FINER)
    found = batting_heights(spread.held, spread.wide, swatch.batting)
    fabric = np.empty((*spread.cloth.shape, 3), dtype=np.uint8)
    fabric[:] = ImageColor.getrgb(swatch.fabric)[:3]
    fabric = with_thread(fabric, spread.sewn, swatch.thread.colour, spread.wide)
    shown = lit(fabric, found, spread.sewn, spread.wide, "upper left")
    shown[~spread.cloth] = _PAPER
    smooth = Image.fromarray(shown).reduce(_FINER)
    out = io.BytesIO()
    smooth.save(out, "JPEG", quality=90)
    return out.getvalue()
