"""Recipes: fills saved under a name, for any zone of any quilt."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.fills import AnyFill
from kenzet.core.params import Frozen
from kenzet.core.top.blocks import Name

MOST_RECIPES = 500


class Recipe(Frozen):
    """A fill with its settings under ``name``."""

    name: Name
    fill: AnyFill


class RecipeBook(Frozen):
    """A file of recipes, to carry them from one Kenzet to another."""

    format: Literal["kenzet.recipes"] = "kenzet.recipes"
    version: Literal[1] = 1
    recipes: Annotated[tuple[Recipe, ...], Field(max_length=MOST_RECIPES)]


def beside(name: str, taken: set[str]) -> str:
    """``name``, or ``name`` with a number added if it is taken.

    >>> beside("Ripple", {"Ripple", "Ripple 2"}), beside("Ripple", set())
    ('Ripple 3', 'Ripple')
    """
    number, found = 2, name
    while found in taken:
        found = f"{name[:70]} {number}"
        number += 1
    return found
