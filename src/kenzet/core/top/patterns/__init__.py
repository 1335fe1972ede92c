"""The built-in block patterns: every module of this folder that holds a ``Pattern`` with a ``kind``.

A second pattern of the same kind is an error at import.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Union

from pydantic import Field

from kenzet.core.params import kinds_in
from kenzet.core.top.patterns.base import Pattern, Piece

PATTERNS: dict[str, type[Pattern]] = kinds_in(__name__, __path__, Pattern)

if TYPE_CHECKING:
    AnyPattern = Pattern
else:
    AnyPattern = Annotated[Union[tuple(PATTERNS.values())], Field(discriminator="kind")]  # noqa: UP007


def offers() -> list[tuple[str, Pattern]]:
    """The tiles of the chooser in order: a name and the pattern with its initial numbers."""
    return [
        (name, model.model_validate(numbers))
        for model in PATTERNS.values()
        for name, numbers in (model.offers or {model.label: {}}).items()
    ]


def kind_of(pattern: Pattern) -> str:
    """The key under which ``pattern`` is registered."""
    found: Any = pattern.model_dump(include={"kind"})["kind"]
    return str(found)


__all__ = ["PATTERNS", "AnyPattern", "Pattern", "Piece", "kind_of", "offers"]
