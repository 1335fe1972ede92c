"""The changes a person can make to a quilt: every module here that holds a ``Change`` with a ``kind``."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field

from kenzet.core.changes.base import Change, applied
from kenzet.core.params import kinds_in

CHANGES: dict[str, type[Change]] = kinds_in(__name__, __path__, Change)

if TYPE_CHECKING:
    AnyChange = Change
else:
    AnyChange = Annotated[Union[tuple(CHANGES.values())], Field(discriminator="kind")]  # noqa: UP007

__all__ = ["CHANGES", "AnyChange", "Change", "applied"]
