"""Keys that are shown as they are stored. A key is for files and never changes; its word on the screen may.

Where a key is shown, it is looked up like any text: ``tr(quilt.use)``. Each is listed here once, so that the
catalog has it.
"""

from __future__ import annotations

from kenzet.texts import tr

SHOWN = frozenset(
    (
        # what a quilt is for
        tr("bed"), tr("lap"), tr("baby"), tr("wall"), tr("runner"), tr("garment or bag"), tr("practice piece"),
        # how firmly it is stitched, and how a thread shows
        tr("open"), tr("loose"), tr("soft"), tr("firm"), tr("stiff"), tr("hides"), tr("blends"), tr("shows"),
        tr("even"), tr("fairly even"), tr("uneven"), tr("yes"), tr("no"),
        # fabrics, borders, settings
        tr("light"), tr("medium"), tr("dark"), tr("calm"), tr("busy"),
        tr("on point"), tr("strips"), tr("medallion"), tr("mitred"), tr("sides through"), tr("top and bottom through"), tr("corner squares"),
        # tools and supplies
        tr("at hand"), tr("lent"), tr("missing"), tr("broken"),
        tr("walking foot"), tr("ruler foot"), tr("low"), tr("high"),
        tr("pen that washes out"), tr("pen that fades"), tr("chalk"), tr("powder"), tr("pencil"), tr("crease"), tr("heat pen"),
        tr("water"), tr("time"), tr("an iron"), tr("brushing"), tr("inside"), tr("outside"),
        tr("shows well"), tr("is faint"), tr("is hardly seen"),
        # places
        tr("left"), tr("right"), tr("top"), tr("bottom"), tr("up"), tr("down"),
        tr("upper left"), tr("upper right"), tr("lower left"), tr("lower right"),
        # what is marked
        tr("nothing"), tr("first lines"), tr("anchors"), tr("ticks"), tr("dots"), tr("all lines"), tr("half"), tr("tape"), tr("stencil"), tr("fill signs"),
        tr("what is best"),
        # how sure a figure is
        tr("sure"), tr("fairly sure"), tr("little to go by yet"),
        # fits
        tr("fits"), tr("can be nudged"), tr("will not do"),
        tr("line on the center"), tr("gap on the center"), tr("same side"), tr("opposite side"),
        # themes of settings
        tr("Shape"), tr("Direction"), tr("Position"), tr("Rows"), tr("Small pieces"), tr("Order"), tr("Threads"), tr("Travelling"), tr("Limits"),
        # roles in pieced blocks
        tr("light squares"), tr("dark squares"), tr("light logs"), tr("dark logs"), tr("inner chain"), tr("other diamonds"),
    )
)  # fmt: skip
