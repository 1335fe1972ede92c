"""The top as laid out and edited."""

from __future__ import annotations

from typing import Any, Literal

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length, Unit, in_words
from kenzet.core.params import Choice, Form, forms
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.arrangement import OnPoint, StraightRows
from kenzet.core.top.blocks import Block, Patterned
from kenzet.core.top.document import Quilt, write
from kenzet.core.top.patterns import Pattern, offers
from kenzet.core.top.pick import How
from kenzet.core.top.spread import sizes
from kenzet.say import words as w
from kenzet.say.top_words import square_warning
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.docs import BlockDoc, CutDoc, MeasuredDoc, PatternDoc

_TILE = 100.0  # mm: the size at which a tile is drawn


_WIDTH, _HEIGHT = Form("length", tr("Finished width")), Form("length", tr("Finished height"))


ENDS = (
    Choice("finished edge", tr("at the finished edge")),
    Choice("off the edge", tr("off the edge")),
    Choice("inside", tr("inside it")),
)
EDGE_HELP = tr("The binding begins at the finished edge. The raw edge is 1/4 in outside it.")
_LENGTHS = {
    "line_ends": Form("choice", tr("At the quilt’s edge lines end"), EDGE_HELP, choices=ENDS),
    "edge": Form("length", tr("by"), EDGE_HELP, only_with=("line_ends", ("off the edge", "inside"))),
    "batting_overhang": Form("length", tr("Batting beyond the top")),
    "backing_overhang": Form("length", tr("Backing beyond the top")),
}


class RoleView(m.Wire):
    """The role of some patches of a block, and their fabric."""

    role: str
    fabric: str


class BlockView(m.Wire):
    """A block for the arrangement: its picture, its numbers, its fabrics; ``doc`` is its document."""

    key: str
    name: str
    size: w.Words
    what: str
    laid: int
    width: float
    height: float
    patches: list[m.PatchView]
    fields: list[w.FieldView]
    roles: list[RoleView]
    measured: w.Words
    warning: w.Words
    doc: BlockDoc


class CellView(m.Wire):
    """A place, its block and its measurements."""

    place: str
    block: str
    turns: int
    mirrored: bool
    measured: MeasuredDoc | None
    warning: w.Words


class FabricView(m.Wire):
    """A fabric and how many times it is used."""

    key: str
    name: str
    colour: str
    print: Literal["calm", "busy"]
    tone: str
    used: int


class TileView(m.Wire):
    """A block of the chooser; its patches have roles in place of fabrics."""

    name: str
    help: str
    pattern: PatternDoc
    roles: list[str]
    patches: list[m.PatchView]


class TopView(m.Wire):
    """Everything on the Top station; ``doc`` has layout and borders as in the document."""

    arrangement: Literal["straight rows", "on point"]
    columns: int
    rows: int
    use: str
    cells: list[CellView]
    fields: list[w.FieldView]
    widths: list[w.FieldView]
    heights: list[w.FieldView]
    sash_width: w.FieldView | None
    border_widths: list[w.FieldView]
    blocks: list[BlockView]
    fabrics: list[FabricView]
    tiles: list[TileView]
    doc: dict[str, Any]


class PickRequest(m.Wire):
    """A click on ``ref`` (place/patch)."""

    ref: str
    how: How = "patch"


class PickView(m.Wire):
    """The selected patches, as place/patch."""

    refs: list[str]


class CutRequest(m.Reading):
    """A cut to try on a zone; nothing is stored."""

    zone: m.ZoneKey
    cut: CutDoc
    alike: bool = True


class CutView(m.Wire):
    """The result of a cut: names of the zones, and the outlines of all pieces in the part."""

    names: list[str]
    part: str
    rings: list[list[float]]


class PointsRequest(m.Reading):
    """Asks for the points of a zone between which it can be cut; with ``edge`` for one more, ``along`` from its
    first corner."""

    zone: m.ZoneKey
    edge: m.Number | None = None
    along: str = ""


class PointView(m.Wire):
    """A point: in the part, mm, and as shares of the part's size."""

    at: list[float]
    share: list[float]
    name: str


class PointsView(m.Wire):
    """The points where a cut may begin and end; ``measured`` is the one asked for."""

    points: list[PointView]
    edges: list[m.Spot]
    measured: PointView | None


def along_edge(region: Region, number: int, along: str, unit: Unit) -> tuple[float, float]:
    """The point of an edge at a typed distance from its datum corner. Raises BadValue at ``along``, Unknown."""
    if number >= len(region.edges):
        raise Unknown(
            tr(
                "This zone has {edges} edges; there is no number {number}.",
                edges=len(region.edges),
                number=number + 1,
            ),
            "edge",
        )
    edge = region.edges[number]
    try:
        length = Length.parse(along, unit)
    except BadValue as error:
        raise BadValue(error.message, "along") from error
    if not 0 <= float(length.mm) <= edge.length + EQUAL:
        raise BadValue(
            tr(
                "That edge is {length} long; {length2} lies beyond it.",
                length=in_words(edge.length, unit),
                length2=length.text,
            ),
            "along",
        )
    return edge.at(float(length.mm))


def top_of(quilt: Quilt, unit: Unit) -> TopView:
    """Everything on the Top station."""
    layout, doc = quilt.layout, write(quilt)
    used = list(quilt.fabrics_used())
    return TopView(
        arrangement=layout.kind,
        columns=len(layout.rows[0]),
        rows=(len(layout.rows) + 1) // 2 if isinstance(layout, OnPoint) else len(layout.rows),
        use=quilt.use,
        cells=[
            CellView(
                place=place,
                block=cell.block,
                turns=cell.turns,
                mirrored=cell.mirrored,
                measured=cell.measured and cell.measured.model_dump(mode="json"),
                warning=square_warning(cell.measured, unit),
            )
            for place, cell in layout.places()
        ],
        fields=[
            w.field(name, form, getattr(quilt, name), unit, name != "edge" or quilt.line_ends != "finished edge")
            for name, form in _LENGTHS.items()
        ],
        **_sizes(quilt, unit),
        sash_width=layout.sashing
        and w.field("sash", Form("length", tr("Width of the sashes")), layout.sashing.width, unit),
        border_widths=[
            w.field(f"border-{n}", Form("length", tr("Width")), border.width, unit)
            for n, border in enumerate(quilt.borders, 1)
        ],
        blocks=[_block(quilt, key, block, unit) for key, block in quilt.blocks.items()],
        fabrics=[
            FabricView(key=key, name=f.name, colour=f.colour, print=f.print, tone=f.tone, used=used.count(key))
            for key, f in quilt.fabrics.items()
        ],
        tiles=tiles(),
        doc={name: doc[name] for name in ("layout", "borders", "use", "line_ends", "edge", "batting_overhang", "backing_overhang", "backing")},
    )  # fmt: skip


def _sizes(quilt: Quilt, unit: Unit) -> dict[str, list[w.FieldView]]:
    """Fields for widths of columns and heights of rows; none for layouts on point."""
    layout = quilt.layout
    if not isinstance(layout, StraightRows):
        return {"widths": [], "heights": []}
    wide, high = sizes(layout, quilt.blocks)
    found = {}
    for name, own, given, what in (
        ("widths", wide, layout.widths, tr("Column")),
        ("heights", high, layout.heights, tr("Row")),
    ):
        found[name] = [
            w.field(
                f"{name}.{k}",
                Form("length", f"{what} {k + 1}", empty=in_words(size, unit)),
                given[k] if given else None,
                unit,
            )
            for k, size in enumerate(own)
        ]
    return found


def _block(quilt: Quilt, key: str, block: Block, unit: Unit) -> BlockView:
    art = block.art
    width, height = (float(size) for size in block.size)
    fields = [
        w.field("width", _WIDTH, block.width, unit),
        w.field("height", _HEIGHT, block.height, unit),
    ]
    roles: list[RoleView] = []
    if isinstance(art, Patterned):
        fields += [
            w.field(f"pattern.{name}", form, getattr(art.pattern, name), unit)
            for name, form in forms(type(art.pattern)).items()
        ]
        roles = [RoleView(role=role, fabric=art.fabrics[role]) for role in art.pattern.roles()]
    measured: w.Words = []
    if block.measured:
        wide, high = block.measured.width, block.measured.height
        measured = w.told(
            "measures {mm} × {mm2}", mm=w.shown(wide.mm, unit, bare=True), mm2=w.shown(high.mm, unit)
        )
    return BlockView(
        key=key,
        name=block.name,
        size=w.by(block.width, block.height, unit),
        what=art.pattern.label if isinstance(art, Patterned) else tr("Your own"),
        laid=len(quilt.places_of(key)),
        width=width,
        height=height,
        patches=drawn.block_patches(key, block, width, height),
        fields=fields,
        roles=roles,
        measured=measured,
        warning=square_warning(block.measured, unit),
        doc=block.model_dump(mode="json"),
    )


def tiles() -> list[TileView]:
    """The blocks that are offered."""
    return [_tile(name, pattern) for name, pattern in offers()]


def _tile(name: str, pattern: Pattern) -> TileView:
    roles = list(pattern.roles())
    size = Length.of(int(_TILE), "mm")
    tile = Block(
        name=name,
        width=size,
        height=size,
        art=Patterned(pattern=pattern, fabrics={role: f"role-{k}" for k, role in enumerate(roles)}),
    )
    return TileView(
        name=name,
        help=pattern.help,
        pattern=pattern.model_dump(mode="json"),
        roles=roles,
        patches=drawn.block_patches("tile", tile, _TILE, _TILE),
    )
