"""Every tolerance, with its unit. What the quilter can set (the spread of hands, the accepted error) is not a
tolerance and is defined with its parameter."""

from __future__ import annotations

# of numbers

ROUNDING = 1e-9
"""No unit: the error of a count, ratio, sine or bulge from rounding floats."""

EQUAL = 1e-6
"""mm, radians, or a share: a smaller difference counts as equal."""

DIVISOR = 1e-12
"""The smallest divisor used."""

SMALLEST = 1e-300
"""The same where the numerator may be as small."""

NEARLY_WHOLE = 1e-4
"""No unit: a number this close to a whole number is taken as whole."""

# of places and lengths, mm

SNAP = 1e-3
"""mm: a corner closer to a line than this lies on the line; larger than the rounding of a computed spacing."""

SAME_PLACE = 1e-3
"""mm: two points closer than this are one point."""

ON_EDGE = 0.01
"""mm: an end closer to an edge or a seam than this lies on it."""

STOP_ERROR = 0.05
"""mm: a stop, or a ruler's edge, closer to an edge than this lies on it."""

VISIBLE = 0.1
"""mm: smaller differences are invisible and cannot be placed or sewn."""

LEAST_STRETCH = 0.02
"""mm: a shorter stretch is a touch at a corner, not a line to sew."""

SAME_PHASE = 1e-4
"""mm: lines of one pitch shifted by less are the same lines."""

GAP_ERROR = 0.01
"""mm: the error of the place of the widest gap."""

# of shapes

CURVE_ERROR = 0.02
"""mm: how far a drawn polyline may deviate from its arc; 0.005 in is 0.127 mm."""

CROSSED_CURVE_ERROR = 0.005
"""mm: how far a drawn arc may deviate while crossings of seams are computed."""

SCATTERED_CURVE_ERROR = 0.01
"""mm: how far an arc may deviate from the smooth curve of a random line."""

CIRCLE_ERROR = 0.005
"""mm: the error of the radius of a widest circle."""

ON_LINE = 3e-4
"""mm: a node closer to the straight line through its neighbors is no corner."""

NODE_GRID = 1e-4
"""mm: lines and outlines are rounded to this grid before they are cut into cells or crossed."""

NETWORK_GRID = 1e-3
"""mm: the same for the edges to travel along."""

FACE_GRID = 0.01
"""mm: the same for the faces of a network."""

SAME_AREA = 0.01
"""mm²: outlines whose areas differ by more cannot be equal."""

LEAST_RING_AREA = 0.5
"""mm²: an echo that encloses less has shrunk to a point or a line."""

LEAST_PIECE_AREA = 1e-3
"""mm²: a smaller piece is a rounding artifact."""

LEAST_APPLIQUE = 1e-3
"""Square units of the grid of a block: a smaller appliqué is a rounding artifact."""

NOTHING_CUT = 1e-6
"""Share of an area: if no more than this is lost, nothing was cut."""

ALIKE_SHARE = 1e-4
"""Share of area and outline: pieces that differ by less are equal."""

ALIKE_HALVES = 0.01
"""Share of its area: a zone that differs by less from its mirror image is symmetric."""

SAME_SIDE = 1e-3
"""Share: sides of a patch that differ by less are equal."""

CUT_BEYOND = 1e-4
"""Share of its length: a cut is extended this far beyond its ends, so that it divides reliably."""

CREST = 0.02
"""Share of its depth: this much of a wave's top counts as its crest."""

# of directions

SAME_ANGLE = 1e-6
"""Sine: two directions that differ by less are equal."""

SAME_DEGREES = 1e-4
"""Degrees: the same."""

LEAST_CROSSING = 0.05
"""Sine: an edge that meets a line at a smaller angle is not crossed by it."""

LEAST_ALONG = 0.1
"""Cosine: rows with a greater angle to it do not run along."""

STRAIGHT_ON = 1e-4
"""Sine: an outline that turns by less is straight."""

LEAST_TURN = 1e-4
"""Radians: a side that turns by less is straight."""

LEAST_STEP = 1e-3
"""Radians: the smallest step in which an arc is drawn."""

FLAT = 1e-5
"""No unit, twice the area of three points divided by the square of their distance: flatter ones lie on a line."""

STEEPEST = 1e-4
"""Cosine: the steepest slope assumed for a curve."""

# of routes

SAME_COST = 1e-3
"""mm: routes whose costs differ by less are equally good."""

NO_WORSE = 0.01
"""mm of cost: a route that costs more by less than this is not worse."""

COST_LEEWAY = 0.01
"""Share of the best: routes that cost this much more are still considered."""

AT_BOUND = 1e-4
"""Share of the best: a route this close to the lower bound is shortest."""

FRACTIONAL = 1e-4
"""No unit: a variable of the program that is farther from a whole number is fractional."""

PROGRAM_GAP = 1e-4
"""Share of the best: the gap at which the program stops."""

PROGRAM_GAP_QUICK = 3e-3
"""The same with only a few callbacks."""

SAME_LONG = 0.01
"""Share of a length: paths through a texture that differ by less are equally long."""

TOLD_SHARE = 1e-3
"""Share of the best: a smaller gain is reported as none."""

SAME_CELL = 0.01
"""Share of a cell's area: cells that differ by less are equally large."""

# of patches, in units of their block's grid

OUTSIDE = 0.01
"""Grid units: how far a corner may be outside its block."""

LEAST_PATCH = 1e-6
"""Square grid units: a smaller patch has no area."""

CROSSED = 0.01
"""Share of an area that may be lost where an outline touches itself, or that may overlap a neighbor."""

# of pictures

NUDGE = 1e-3
"""mm, or a share: the step for computing a derivative."""
