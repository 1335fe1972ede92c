"""All tolerances, in mm unless said otherwise, and the few questions that need them."""

from __future__ import annotations

SNAP = 1e-3
"""A corner nearer to a line than this lies on the line: more than a computed spacing can be rounded by."""

LEAST_STRETCH = 0.02
"""A stretch shorter than this is a touch at a corner, not a line to sew."""

SAME_PLACE = 1e-3
"""Two points nearer than this are one point."""

SAME_ANGLE = 1e-6
"""Two directions that differ by less than this sine are one direction."""

LEAST_RING_AREA = 0.5
"""An echo that encloses less (mm²) has shrunk to a point or a line."""

CURVE_ERROR = 0.02
"""How far a drawn polyline may stray from its arc; 0.005 in is 0.127 mm."""
