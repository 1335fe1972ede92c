"""Parts of the quilt document in requests and answers: described with their kinds, limits and defaults, and read
in the unit of the person who typed them."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import GetJsonSchemaHandler, TypeAdapter
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema

from kenzet.core.changes import AnyChange
from kenzet.core.changes.new_quilt import NewQuilt
from kenzet.core.fills import AnyFill
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things import AnyThing
from kenzet.core.top.blocks import Block, Measured
from kenzet.core.top.patterns import AnyPattern
from kenzet.core.top.stitching import Stitching
from kenzet.core.top.zone import Cut


class Published:
    """Tells the API's description that a plain dictionary is a ``kind``."""

    def __init__(self, kind: Any) -> None:
        self._adapter = TypeAdapter(kind)

    def __get_pydantic_json_schema__(self, _: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return handler(self._adapter.core_schema)


ChangeDoc = Annotated[dict[str, Any], Published(AnyChange)]
FillDoc = Annotated[dict[str, Any], Published(AnyFill)]
ThingDoc = Annotated[dict[str, Any], Published(AnyThing)]
KitDoc = Annotated[dict[str, Any], Published(Kit)]
PatternDoc = Annotated[dict[str, Any], Published(AnyPattern)]
BlockDoc = Annotated[dict[str, Any], Published(Block)]
MeasuredDoc = Annotated[dict[str, Any], Published(Measured)]
StitchingDoc = Annotated[dict[str, Any], Published(Stitching)]
CutDoc = Annotated[dict[str, Any], Published(Cut)]
WishDoc = Annotated[dict[str, Any], Published(NewQuilt)]
