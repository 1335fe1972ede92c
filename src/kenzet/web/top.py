"""The top as it is laid out and edited: arrangement, blocks, borders, fabrics, and what she points at."""

from __future__ import annotations

from typing import Any, Literal

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.changes.zoning import pieces_of
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length, Unit, in_words
from kenzet.core.params import Form, Frozen, forms
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.arrangement import OnPoint, StraightRows
from kenzet.core.top.blocks import DIAGONALS_MAY_DIFFER, Block, Measured, Patterned
from kenzet.core.top.cutting import cloth_of, cut_up, points_of, share_of
from kenzet.core.top.document import Quilt, validated, write
from kenzet.core.top.patterns import Pattern, offers
from kenzet.core.top.pick import How, picked
from kenzet.core.top.spread import sizes
from kenzet.core.top.zone import Cut
from kenzet.web import models as m
from kenzet.web import show, spots
from kenzet.web.at_hand import answer, laid_quilt

top = APIBlueprint("top", __name__, url_prefix="/api/quilts/<quilt>")

_TILE = 100.0  # mm: the size at which a tile is drawn
_WIDTH, _HEIGHT = Form("length", "Finished width"), Form("length", "Finished height")
_LENGTHS = {
    "edge": Form("length", "No line nearer to the edge than", "The allowance that binding or joining takes."),
    "batting_overhang": Form("length", "Batting beyond the top"),
    "backing_overhang": Form("length", "Backing beyond the top"),
}


class RoleView(m.Wire):
    """What some patches of a block are, and their fabric."""

    role: str
    fabric: str


class BlockView(m.Wire):
    """A block that can be painted: its picture, its numbers, its fabrics; ``doc`` is the document's block."""

    key: str
    name: str
    size: m.Words
    what: str
    laid: int
    width: float
    height: float
    patches: list[m.PatchView]
    fields: list[m.FieldView]
    roles: list[RoleView]
    measured: m.Words
    warning: m.Words
    doc: dict[str, Any]


class CellView(m.Wire):
    """A place, what lies there and what was measured there."""

    place: str
    block: str
    turns: int
    mirrored: bool
    measured: dict[str, Any] | None
    warning: m.Words


class FabricView(m.Wire):
    """A fabric and how many things are made of it."""

    key: str
    name: str
    colour: str
    print: Literal["calm", "busy"]
    tone: str
    used: int


class TileView(m.Wire):
    """A block of the chooser; roles in patches stand where fabrics would."""

    name: str
    help: str
    pattern: dict[str, Any]
    roles: list[str]
    patches: list[m.PatchView]


class TopView(m.Wire):
    """Everything that the Top station edits; ``doc`` holds layout and borders as the document does."""

    arrangement: Literal["straight rows", "on point"]
    columns: int
    rows: int
    use: str
    cells: list[CellView]
    fields: list[m.FieldView]
    widths: list[m.FieldView]
    heights: list[m.FieldView]
    sash_width: m.FieldView | None
    border_widths: list[m.FieldView]
    blocks: list[BlockView]
    fabrics: list[FabricView]
    tiles: list[TileView]
    doc: dict[str, Any]


class PickRequest(m.Wire):
    """She points at ``ref`` (place/patch)."""

    ref: str
    how: How = "patch"


class PickView(m.Wire):
    """The patches that are meant, as place/patch."""

    refs: list[str]


class CutRequest(m.Reading):
    """A cut that is tried on a zone; nothing is kept."""

    zone: m.ZoneKey
    cut: dict[str, Any]
    alike: bool = True


class CutView(m.Wire):
    """What a cut would leave: names of the zones, and the outlines of all pieces in the part."""

    names: list[str]
    part: str
    rings: list[list[float]]


class PointsRequest(m.Reading):
    """The points of a zone between which it can be cut; with ``edge`` one more, ``along`` from its first corner."""

    zone: m.ZoneKey
    edge: m.Number | None = None
    along: str = ""


class PointView(m.Wire):
    """A point: in the part, mm, and in shares of the part's size."""

    at: list[float]
    share: list[float]
    name: str


class PointsView(m.Wire):
    """Where a cut may begin and end; ``measured`` is the one that was asked for."""

    points: list[PointView]
    edges: list[m.Spot]
    measured: PointView | None


class _OneCut(Frozen):
    cut: Cut


@top.get("/top", responses={200: TopView})
def top_view(path: m.QuiltPath, query: m.Reading) -> Response:
    """The top as it is laid out."""
    _, laid = laid_quilt(path.quilt)
    return answer(_view(laid.quilt, query.unit))


@top.post("/pick", responses={200: PickView})
def pick(path: m.QuiltPath, body: PickRequest) -> Response:
    """What is meant when she points at a patch."""
    _, laid = laid_quilt(path.quilt)
    return answer(PickView(refs=picked(laid, body.ref, body.how)))


@top.post("/cut", responses={200: CutView})
def cut(path: m.QuiltPath, body: CutRequest) -> Response:
    """What a cut would leave; nothing is kept."""
    _, laid = laid_quilt(path.quilt)
    wanted = validated(_OneCut, {"cut": body.cut}, body.unit).cut
    zone = laid.zone(body.zone)
    names = [name for name, _ in pieces_of(laid, zone, wanted, body.alike)]
    part = laid.parts(zone.part)[0]
    pieces, _ = cut_up(part, cloth_of(part, zone), wanted)
    return answer(CutView(names=names, part=part.key, rings=show.rings(pieces)))


@top.post("/cut-points", responses={200: PointsView})
def cut_points(path: m.QuiltPath, body: PointsRequest) -> Response:
    """Where a line may begin and end in a zone."""
    _, laid = laid_quilt(path.quilt)
    zone = laid.zone(body.zone)
    part = laid.parts(zone.part)[0]
    cloth = cloth_of(part, zone)
    region = Region(cloth.area, cloth.soft)
    points = [
        PointView(at=list(at), share=list(share_of(part, at)), name=name)
        for name, at in points_of(part, cloth, zone.patches)
    ]
    measured = None
    if body.edge is not None:
        at = _along(region, body.edge, body.along, body.unit)
        measured = PointView(at=list(at), share=list(share_of(part, at)), name="measured")
    return answer(PointsView(points=points, edges=spots.edges(region), measured=measured))


def _along(region: Region, number: int, along: str, unit: Unit) -> tuple[float, float]:
    """The point of an edge at a typed distance from its datum corner. Raises BadValue at ``along``, Unknown."""
    if number >= len(region.edges):
        raise Unknown(f"This zone has {len(region.edges)} edges; there is no number {number + 1}.", "edge")
    edge = region.edges[number]
    try:
        length = Length.parse(along, unit)
    except BadValue as error:
        raise BadValue(error.message, "along") from error
    if not 0 <= float(length.mm) <= edge.length + EQUAL:
        raise BadValue(
            f"That edge is {in_words(edge.length, unit)} long; {length.text} lies beyond it.", "along"
        )
    return edge.at(float(length.mm))


def _view(quilt: Quilt, unit: Unit) -> TopView:
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
                warning=_warning(cell.measured, unit),
            )
            for place, cell in layout.places()
        ],
        fields=[show.field(name, form, getattr(quilt, name), unit) for name, form in _LENGTHS.items()],
        **_sizes(quilt, unit),
        sash_width=layout.sashing
        and show.field("sash", Form("length", "Width of the sashes"), layout.sashing.width, unit),
        border_widths=[
            show.field(f"border-{n}", Form("length", "Width"), border.width, unit)
            for n, border in enumerate(quilt.borders, 1)
        ],
        blocks=[_block(quilt, key, block, unit) for key, block in quilt.blocks.items()],
        fabrics=[
            FabricView(key=key, name=f.name, colour=f.colour, print=f.print, tone=f.tone, used=used.count(key))
            for key, f in quilt.fabrics.items()
        ],
        tiles=[_tile(name, pattern) for name, pattern in offers()],
        doc={name: doc[name] for name in ("layout", "borders", "use", "edge", "batting_overhang", "backing_overhang", "backing")},
    )  # fmt: skip


def _sizes(quilt: Quilt, unit: Unit) -> dict[str, list[m.FieldView]]:
    """Fields for widths of columns and heights of rows; on point there are none."""
    layout = quilt.layout
    if not isinstance(layout, StraightRows):
        return {"widths": [], "heights": []}
    wide, high = sizes(layout, quilt.blocks)
    found = {}
    for name, own, given, what in (
        ("widths", wide, layout.widths, "Column"),
        ("heights", high, layout.heights, "Row"),
    ):
        found[name] = [
            show.field(
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
        show.field("width", _WIDTH, block.width, unit),
        show.field("height", _HEIGHT, block.height, unit),
    ]
    roles: list[RoleView] = []
    if isinstance(art, Patterned):
        fields += [
            show.field(f"pattern.{name}", form, getattr(art.pattern, name), unit)
            for name, form in forms(type(art.pattern)).items()
        ]
        roles = [RoleView(role=role, fabric=art.fabrics[role]) for role in art.pattern.roles()]
    measured: m.Words = []
    if block.measured:
        w, h = block.measured.width, block.measured.height
        measured = ["measures ", show.shown(w.mm, unit, bare=True), " × ", show.shown(h.mm, unit)]
    return BlockView(
        key=key,
        name=block.name,
        size=show.by(block.width, block.height, unit),
        what=art.pattern.label if isinstance(art, Patterned) else "Your own",
        laid=len(quilt.places_of(key)),
        width=width,
        height=height,
        patches=show.block_patches(key, block, width, height),
        fields=fields,
        roles=roles,
        measured=measured,
        warning=_warning(block.measured, unit),
        doc=block.model_dump(mode="json"),
    )


def _warning(measured: Measured | None, unit: Unit) -> m.Words:
    """Told where the diagonals differ by more than they may."""
    if measured is None or measured.diagonals_differ <= DIAGONALS_MAY_DIFFER:
        return []
    lean = measured.out_of_square
    return [
        "The diagonals differ by ",
        show.shown(measured.diagonals_differ, unit, about=True),
        ": the block is out of square, its top leans about ",
        show.shown(abs(lean), unit, about=True),
        f" to the {'right' if lean > 0 else 'left'}. Block it square, or count its lines from one seam only.",
    ]


def _tile(name: str, pattern: Pattern) -> TileView:
    roles = list(pattern.roles())
    size = Length.of(int(_TILE), "mm")
    drawn = Block(
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
        patches=show.block_patches("tile", drawn, _TILE, _TILE),
    )
