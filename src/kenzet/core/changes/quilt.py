"""Changes of the quilt as a whole."""

from __future__ import annotations

from typing import Literal

from kenzet.core.changes.base import Change
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length
from kenzet.core.top.blocks import Key, Name
from kenzet.core.top.document import Basted, Layered, Quilt, Use
from kenzet.core.top.ground import Ground
from kenzet.core.top.line_ends import LineEnds
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Stitching
from kenzet.core.top.tidy import remade
from kenzet.texts import tr


class SetKit(Change):
    """The foot, the ruler, the batting and the marking step."""

    kind: Literal["kit"] = "kit"
    kit: Kit

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Replaces the whole kit."""
        return laid.quilt.model_copy(update={"kit": self.kit}), tr("kit")


class Rename(Change):
    """The quilt's name."""

    kind: Literal["name"] = "name"
    name: Name

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Changes nothing else."""
        return laid.quilt.model_copy(update={"name": self.name}), tr("name")


class SetQuilt(Change):
    """The quilt's use, where lines end at its edge, and the batting and backing beyond the edge."""

    kind: Literal["quilt"] = "quilt"
    use: Use
    line_ends: LineEnds = "finished edge"
    edge: Length
    batting_overhang: Length
    backing_overhang: Length
    backing: Key | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue at a length that is out of range."""
        wanted = ("use", "line_ends", "edge", "batting_overhang", "backing_overhang", "backing")
        return remade(laid.quilt, **{name: getattr(self, name) for name in wanted}), tr("the quilt")


class SetLayers(Change):
    """When the top is layered, and how the layers are basted."""

    kind: Literal["layers"] = "layers"
    layered: Layered
    basted: Basted

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The plan does not change."""
        return remade(laid.quilt, layered=self.layered, basted=self.basted), tr("how it is layered")


class SetStitching(Change):
    """The cost of thread cuts and travel, and the sewing order."""

    kind: Literal["stitching"] = "stitching"
    stitching: Stitching

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Replaces all settings; no line changes."""
        return remade(laid.quilt, stitching=self.stitching), tr("how it is sewn")


class SetGround(Change):
    """A photograph of the top or of a block to show under the plan; None removes it."""

    kind: Literal["ground"] = "ground"
    ground: Ground | None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a place that does not exist."""
        if self.ground:
            laid.frame_of(self.ground.place)
        return remade(laid.quilt, ground=self.ground), tr("photo") if self.ground else tr("photo removed")
