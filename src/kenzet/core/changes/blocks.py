"""Changes of blocks: new ones, their sizes and fabrics, their measurements."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from kenzet.core.changes.base import Change
from kenzet.core.changes.fabrics import remade_block
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.params import free, key_for
from kenzet.core.top.blocks import Block, Drawn, Key, Measured, Name, Patterned
from kenzet.core.top.document import Quilt, reserved
from kenzet.core.top.patterns import AnyPattern
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.tidy import remade
from kenzet.core.top.zone import BORDER, SASHING, TOP, PatchRef, Place
from kenzet.texts import tr


def block_of(quilt: Quilt, key: str) -> Block:
    """The block with that key. Raises Unknown."""
    if key not in quilt.blocks:
        raise Unknown(tr("There is no block called {key} in this plan.", key=key), "block")
    return quilt.blocks[key]


def with_block(quilt: Quilt, key: str, block: Block) -> Quilt:
    """The quilt with a block added or replaced."""
    return remade(quilt, blocks={**quilt.blocks, key: block})


class AddBlock(Change):
    """A new block, available for the arrangement."""

    kind: Literal["new block"] = "new block"
    block: Block

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """A number is added to the name if it is taken."""
        quilt = laid.quilt
        name = free(self.block.name, [block.name for block in quilt.blocks.values()], " ")
        key = key_for(
            name, [*quilt.blocks, *[k for k in ("sashing", "side", "corner", "top") if reserved(k)]], "block"
        )
        key = f"block-{key}" if reserved(key) else key
        return with_block(quilt, key, remade_block(self.block, name=name)), tr("new block {name}", name=name)


class SetBlock(Change):
    """A block with another design, size or name."""

    kind: Literal["block"] = "block"
    key: Key
    block: Block

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Zones keep those of their patches that still exist."""
        block_of(laid.quilt, self.key)
        return with_block(laid.quilt, self.key, self.block), tr("block {name}", name=self.block.name)


class SetPattern(Change):
    """A block's pattern with other numbers; new roles take the quilt's fabrics in turn."""

    kind: Literal["numbers"] = "numbers"
    key: Key
    pattern: AnyPattern

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a block without a pattern, or if the numbers do not fit its size."""
        block = block_of(laid.quilt, self.key)
        if not isinstance(block.art, Patterned):
            raise BadValue(tr("{name} is drawn by hand.", name=block.name), "pattern")
        self.pattern.check(float(block.width.mm), float(block.height.mm))
        cloths = list(laid.quilt.fabrics)
        fabrics = {role: cloths[k % len(cloths)] for k, role in enumerate(self.pattern.roles())}
        keys = {piece.key for piece in self.pattern.draw(float(block.width.mm), float(block.height.mm))}
        kept = {key: cloth for key, cloth in block.art.recoloured.items() if key in keys}
        art = Patterned(pattern=self.pattern, fabrics={**fabrics, **block.art.fabrics}, recoloured=kept)
        return with_block(laid.quilt, self.key, remade_block(block, art=art)), tr(
            "block {name}", name=block.name
        )


class CopyBlock(Change):
    """A duplicate of a block, to give it other fabrics."""

    kind: Literal["copy block"] = "copy block"
    key: Key
    name: Name | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Zones are not duplicated."""
        block = block_of(laid.quilt, self.key)
        return AddBlock(block=remade_block(block, name=self.name or block.name)).apply(laid)


class RemoveBlock(Change):
    """A block that is not used in the quilt is deleted with its zones."""

    kind: Literal["block gone"] = "block gone"
    key: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue while the block is used."""
        quilt, block = laid.quilt, block_of(laid.quilt, self.key)
        if quilt.places_of(self.key):
            raise BadValue(
                tr("{name} is still in the quilt. Put another block in its place first.", name=block.name),
                "key",
            )
        return remade(quilt, blocks={k: b for k, b in quilt.blocks.items() if k != self.key}), tr(
            "{name} deleted", name=block.name
        )


class Recolour(Change):
    """Other fabrics for a block: for whole ``roles``, or for single ``patches``."""

    kind: Literal["recolour"] = "recolour"
    key: Key
    roles: dict[str, Key] = Field({})
    patches: dict[Key, Key] = Field({})

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Patches with a fabric of their own lose it if their role gets a new one."""
        block = block_of(laid.quilt, self.key)
        for patch in self.patches:
            if patch not in block.fabric_of:
                raise Unknown(
                    tr("{name} has no patch called {patch}.", name=block.name, patch=patch), "patches"
                )
        art: Patterned | Drawn
        if isinstance(block.art, Patterned):
            apart = {k: f for k, f in block.art.recoloured.items() if block.role_of(k) not in self.roles}
            fabrics = {**block.art.fabrics, **self.roles}
            art = block.art.model_copy(update={"fabrics": fabrics, "recoloured": {**apart, **self.patches}})
        else:
            own = block.art.patches
            new = {k: own[k].model_copy(update={"fabric": f}) for k, f in self.patches.items()}
            art = block.art.model_copy(update={"patches": {**own, **new}})
        return with_block(laid.quilt, self.key, remade_block(block, art=art)), tr(
            "{name}: fabrics", name=block.name
        )


class SetMeasured(Change):
    """The measurements of a finished block: for all blocks of its kind, or for the one at ``place``; None resets
    to the nominal size."""

    kind: Literal["measured"] = "measured"
    key: Key
    place: Place | None = None
    measured: Measured | None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Patches and fills are computed from the measurements."""
        quilt, block = laid.quilt, block_of(laid.quilt, self.key)
        if self.place is None:
            return with_block(quilt, self.key, remade_block(block, measured=self.measured)), tr(
                "{name}: measured", name=block.name
            )
        if quilt.parts_at.get(self.place) != self.key:
            raise Unknown(tr("{name} is not at {place}.", name=block.name, place=self.place), "place")
        rows = tuple(
            tuple(
                cell.model_copy(update={"measured": self.measured}) if f"{r}-{c}" == self.place else cell
                for c, cell in enumerate(row, 1)
            )
            for r, row in enumerate(quilt.layout.rows, 1)
        )
        layout = quilt.layout.model_copy(update={"rows": rows})
        return remade(quilt, layout=layout), tr(
            "{name} at {place}: measured", name=block.name, place=self.place
        )


class Cloth(Change):
    """The patch ``ref`` (place/patch) gets ``fabric``, in every block of its kind; with ``alike``, all patches of its
    role.

    Sashing changes as a whole, so do all cornerstones, and all sides of a border.
    """

    kind: Literal["cloth"] = "cloth"
    ref: PatchRef
    fabric: Key
    alike: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a patch that does not exist."""
        quilt = laid.quilt
        place, _, patch = self.ref.partition("/")
        part = quilt.parts_at.get(place, "")
        if not quilt.has_patch(TOP, self.ref):
            raise Unknown(tr("There is no patch {ref} in this top.", ref=self.ref), "ref")
        if part in quilt.blocks:
            return self._in_block(laid, part, patch)
        return self._outside(quilt, part, patch), tr("fabrics")

    def _in_block(self, laid: QuiltLayout, key: str, patch: str) -> tuple[Quilt, str]:
        block = laid.quilt.blocks[key]
        if not self.alike:
            return Recolour(key=key, patches={patch: self.fabric}).apply(laid)
        if isinstance(block.art, Patterned):
            return Recolour(key=key, roles={block.role_of(patch): self.fabric}).apply(laid)
        same = [name for name, cloth in block.fabric_of.items() if cloth == block.fabric_of[patch]]
        return Recolour(key=key, patches=dict.fromkeys(same, self.fabric)).apply(laid)

    def _outside(self, quilt: Quilt, part: str, patch: str) -> Quilt:
        layout = quilt.layout
        if part == SASHING and layout.sashing:
            what = "cornerstones" if patch.startswith("stone") else "fabric"
            sashing = layout.sashing.model_copy(update={what: self.fabric})
            return remade(quilt, layout=layout.model_copy(update={"sashing": sashing}))
        if part.startswith(BORDER):
            number = int(part.removeprefix(BORDER)) - 1
            what = "corner_fabric" if patch.startswith("corner") else "fabric"
            borders = list(quilt.borders)
            borders[number] = borders[number].model_copy(update={what: self.fabric})
            return remade(quilt, borders=tuple(borders))
        return remade(quilt, layout=layout.model_copy(update={"triangles": self.fabric}))
