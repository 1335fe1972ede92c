"""Changes of the fabrics."""

from __future__ import annotations

from typing import Literal

from kenzet.core.changes.base import Change
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.params import key_for
from kenzet.core.top.arrangement import OnPoint
from kenzet.core.top.blocks import Block, Drawn, Fabric, Key, Patterned
from kenzet.core.top.document import Quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.tidy import remade
from kenzet.texts import tr


class SetFabric(Change):
    """Changes a fabric, or adds one if no ``key`` is given."""

    kind: Literal["fabric"] = "fabric"
    key: Key | None = None
    fabric: Fabric

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a key that does not exist."""
        quilt = laid.quilt
        if self.key and self.key not in quilt.fabrics:
            raise Unknown(tr("There is no fabric called {key} in this plan.", key=self.key), "key")
        key = self.key or key_for(self.fabric.name, quilt.fabrics, "fabric")
        return remade(quilt, fabrics={**quilt.fabrics, key: self.fabric}), tr(
            "fabric {name}", name=self.fabric.name
        )


class RemoveFabric(Change):
    """Deletes a fabric; everything made of it gets ``instead``."""

    kind: Literal["fabric gone"] = "fabric gone"
    key: Key
    instead: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for either key, BadValue if both are the same."""
        quilt = laid.quilt
        for key in (self.key, self.instead):
            if key not in quilt.fabrics:
                raise Unknown(tr("There is no fabric called {key} in this plan.", key=key), "key")
        if self.key == self.instead:
            raise BadValue(tr("Choose another fabric to take its place."), "instead")
        fabrics = {key: fabric for key, fabric in quilt.fabrics.items() if key != self.key}
        return replaced(quilt, self.key, self.instead, fabrics), tr(
            "{name} deleted", name=quilt.fabrics[self.key].name
        )


def replaced(quilt: Quilt, old: str, new: str, fabrics: dict[str, Fabric]) -> Quilt:
    """``quilt`` with fabric ``new`` in place of ``old`` everywhere, and with ``fabrics`` as its fabrics."""

    def other(key: str | None) -> str | None:
        return new if key == old else key

    blocks = {key: _recloth(block, old, new) for key, block in quilt.blocks.items()}
    borders = tuple(
        b.model_copy(update={"fabric": other(b.fabric), "corner_fabric": other(b.corner_fabric)})
        for b in quilt.borders
    )
    layout = quilt.layout
    if layout.sashing:
        own = layout.sashing
        cloth = {"fabric": other(own.fabric), "cornerstones": other(own.cornerstones)}
        layout = layout.model_copy(update={"sashing": own.model_copy(update=cloth)})
    if isinstance(layout, OnPoint):
        layout = layout.model_copy(update={"triangles": other(layout.triangles)})
    return remade(
        quilt, fabrics=fabrics, blocks=blocks, borders=borders, layout=layout, backing=other(quilt.backing)
    )


def _recloth(block: Block, old: str, new: str) -> Block:
    art: Patterned | Drawn
    if isinstance(block.art, Patterned):
        swap = {
            name: {key: new if value == old else value for key, value in getattr(block.art, name).items()}
            for name in ("fabrics", "recoloured")
        }
        art = block.art.model_copy(update=swap)
    else:
        patches = {
            key: patch.model_copy(update={"fabric": new}) if patch.fabric == old else patch
            for key, patch in block.art.patches.items()
        }
        art = block.art.model_copy(update={"patches": patches})
    return remade_block(block, art=art)


def remade_block(block: Block, **update: object) -> Block:
    """A block with the values of ``update``, validated again; no cached values are taken over."""
    return Block(**({name: getattr(block, name) for name in Block.model_fields} | update))
