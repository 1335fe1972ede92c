"""Every tolerance, with its unit. What a person may set (the spread of her hands, what she allows) is no tolerance and lies
with its parameter.
"""

from __future__ import annotations

# of numbers

ROUNDING = 1e-9
"""No unit: what a count, a ratio, a sine or a bulge may be off by because floats are rounded."""

EQUAL = 1e-6
"""mm, radians, or a share: two that differ by less are equal."""

DIVISOR = 1e-12
"""The least that anything is divided by."""

SMALLEST = 1e-300
"""The same where the numerator may be as small."""

NEARLY_WHOLE = 1e-4
"""No unit: a number this near to a whole one is meant to be whole."""

# of places and lengths, mm

SNAP = 1e-3
"""mm: a corner nearer to a line than this lies on the line; more than a computed spacing can be rounded by."""

SAME_PLACE = 1e-3
"""mm: two points nearer than this are one point."""

ON_EDGE = 0.01
"""mm: an end nearer to an edge or a seam than this lies on it."""

STOP_ERROR = 0.05
"""mm: a stop, or a ruler's edge, nearer to an edge than this lies on it."""

VISIBLE = 0.1
"""mm: what is less nobody sees, lays or sews."""

LEAST_STRETCH = 0.02
"""mm: a stretch shorter than this is a touch at a corner, not a line to sew."""

SAME_PHASE = 1e-4
"""mm: lines of one pitch that are shifted by less are the same lines."""

GAP_ERROR = 0.01
"""mm: how far the place of the widest gap may be off."""

# of shapes

CURVE_ERROR = 0.02
"""mm: how far a drawn polyline may stray from its arc; 0.005 in is 0.127 mm."""

CROSSED_CURVE_ERROR = 0.005
"""mm: how far a drawn arc strays while seams are crossed."""

SCATTERED_CURVE_ERROR = 0.01
"""mm: how far an arc may lie from the smooth curve of a scattered line."""

CIRCLE_ERROR = 0.005
"""mm: how far a widest circle's radius may be off."""

ON_LINE = 3e-4
"""mm: a node nearer to the straight line through its neighbours is no corner."""

NODE_GRID = 1e-4
"""mm: lines and outlines are brought onto this grid before they are cut into cells or crossed."""

NETWORK_GRID = 1e-3
"""mm: the same for what one travels along."""

FACE_GRID = 0.01
"""mm: the same where the faces of a network are looked for."""

SAME_AREA = 0.01
"""mm²: outlines whose areas differ by more are not compared."""

LEAST_RING_AREA = 0.5
"""mm²: an echo that encloses less has shrunk to a point or a line."""

LEAST_PIECE_AREA = 1e-3
"""mm²: a piece that is less is a crumb of rounding."""

LEAST_APPLIQUE = 1e-3
"""Square units of the grid that a block is drawn on: less is a crumb."""

NOTHING_CUT = 1e-6
"""Share of an area: what loses no more than that is whole."""

ALIKE_SHARE = 1e-4
"""Share of area and outline: pieces that differ by less are alike."""

ALIKE_HALVES = 0.01
"""Share of its area: a zone that differs by less from its mirror image has two halves that are alike."""

SAME_SIDE = 1e-3
"""Share: sides of a patch that differ by less are equal."""

CUT_BEYOND = 1e-4
"""Share of its length: a cut reaches this far beyond its ends, so that it surely divides."""

CREST = 0.02
"""Share of its depth: so much of a wave's top counts as its crest."""

# of directions

SAME_ANGLE = 1e-6
"""Sine: two directions that differ by less are one direction."""

SAME_DEGREES = 1e-4
"""Degrees: the same."""

LEAST_CROSSING = 0.05
"""Sine: an edge that meets a line at less is not crossed by it."""

LEAST_ALONG = 0.1
"""Cosine: rows that turn farther away do not run along."""

STRAIGHT_ON = 1e-4
"""Sine: an outline that turns by less goes straight on."""

LEAST_TURN = 1e-4
"""Radians: a side that turns by less is straight."""

LEAST_STEP = 1e-3
"""Radians: an arc is not drawn in smaller steps."""

FLAT = 1e-5
"""No unit, twice the area of three points by the square of their distance: flatter ones lie on a line."""

STEEPEST = 1e-4
"""Cosine: a curve is never taken to be steeper."""

# of routes

SAME_COST = 1e-3
"""mm: ways whose prices differ by less are as good."""

NO_WORSE = 0.01
"""mm of price: a way that is dearer by less than this is not worse."""

COST_LEEWAY = 0.01
"""Share of the best: so much dearer a way may be and still be looked at."""

AT_BOUND = 1e-4
"""Share of the best: a way this near to the lower bound is the shortest."""

FRACTIONAL = 1e-4
"""No unit: a variable of the program that is farther from a whole number is fractional."""

PROGRAM_GAP = 1e-4
"""Share of the best: where the program stops searching for the optimum."""

PROGRAM_GAP_QUICK = 3e-3
"""The same where it may look only a few times."""

SAME_LONG = 0.01
"""Share of a length: ways through a texture that differ by less are as long."""

TOLD_SHARE = 1e-3
"""Share of the best: a gain that is less is told as none."""

SAME_CELL = 0.01
"""Share of a cell's area: cells that differ by less are as large."""

# of patches, in units of their block's grid

OUTSIDE = 0.01
"""Grid units that a corner may lie outside its block."""

LEAST_PATCH = 1e-6
"""Square grid units: a patch with less has no area."""

CROSSED = 0.01
"""Share of an area that may be lost where an outline touches itself, or that may lie on a neighbour."""

# of pictures

NUDGE = 1e-3
"""mm, or a share: the step by which a slope is found."""
