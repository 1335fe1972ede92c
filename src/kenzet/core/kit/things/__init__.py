"""The kinds of tools and supplies: every module of this folder that holds a ``Thing`` with a ``kind``."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field

from kenzet.core.kit.things.base import Edged, Thing
from kenzet.core.params import kinds_in

THINGS: dict[str, type[Thing]] = kinds_in(__name__, __path__, Thing)

_TOOLS = tuple(model for model in THINGS.values() if model.group == "marking")
_EDGED = tuple(model for model in THINGS.values() if issubclass(model, Edged))

if TYPE_CHECKING:
    AnyThing = Thing
    AnyEdged = Edged
    AnyTool = Thing
else:
    AnyEdged = Annotated[Union[_EDGED], Field(discriminator="kind")]  # noqa: UP007
    AnyTool = Annotated[Union[_TOOLS], Field(discriminator="kind")]  # noqa: UP007
    AnyThing = Annotated[Union[tuple(THINGS.values())], Field(discriminator="kind")]  # noqa: UP007

__all__ = ["THINGS", "AnyEdged", "AnyThing", "AnyTool", "Edged", "Thing"]
