"""The fills that are here: every module of this folder that holds a ``Fill`` with a ``kind``.

A second fill of the same kind is an error at import.
"""

from __future__ import annotations

import importlib
import pkgutil
from typing import TYPE_CHECKING, Annotated, Any, Union

from pydantic import Field

from kenzet.core.fills.base import Fill


def _found() -> dict[str, type[Fill]]:
    kinds: dict[str, type[Fill]] = {}
    for module in sorted(info.name for info in pkgutil.iter_modules(__path__)):
        for value in vars(importlib.import_module(f"{__name__}.{module}")).values():
            if isinstance(value, type) and issubclass(value, Fill) and "kind" in value.model_fields:
                kind = str(value.model_fields["kind"].default)
                if kinds.setdefault(kind, value) is not value:
                    raise RuntimeError(f"two fills are of the kind {kind!r}")
    return dict(sorted(kinds.items(), key=lambda item: (item[1].order, item[0])))


FILLS: dict[str, type[Fill]] = _found()

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
    return model.model_validate(kept)


__all__ = ["FILLS", "AnyFill", "Fill", "default_fill", "kind_of"]
