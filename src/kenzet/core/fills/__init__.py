"""The fills that can be chosen: every module of this folder that holds an offered ``Fill`` with a ``kind``.

A second fill of the same kind is an error at import.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Union

from pydantic import Field, ValidationError

from kenzet.core.fills.base import Fill
from kenzet.core.params import kinds_in

FILLS: dict[str, type[Fill]] = {
    kind: model for kind, model in kinds_in(__name__, __path__, Fill).items() if model.offered
}

if TYPE_CHECKING:
    AnyFill = Fill
else:
    AnyFill = Annotated[Union[tuple(FILLS.values())], Field(discriminator="kind")]  # noqa: UP007


def kind_of(fill: Fill) -> str:
    """The key under which ``fill`` is registered."""
    return str(fill.model_dump(include={"kind"})["kind"])


def default_fill(kind: str, given: dict[str, Any] | None = None) -> Fill:
    """A fill of ``kind`` with its defaults, taking over what fits from ``given`` (another fill's values)."""
    model = FILLS[kind]
    kept = {k: v for k, v in (given or {}).items() if k in model.model_fields and k != "kind"}
    before = FILLS.get(str((given or {}).get("kind", kind)))
    if before is not model and not (model.lends_spacing and before and before.lends_spacing):
        kept.pop("spacing", None)
    while True:
        try:
            return model.model_validate(kept)
        except ValidationError as refused:
            wrong = {str(error["loc"][0]) for error in refused.errors() if error["loc"]} & set(kept)
            # what is wrong as a whole is most often a spacing that does not suit
            for name in wrong or ({"spacing"} & set(kept)) or set(kept):
                del kept[name]


__all__ = ["FILLS", "AnyFill", "Fill", "default_fill", "kind_of"]
