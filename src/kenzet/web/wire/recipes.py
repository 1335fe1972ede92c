"""The book of recipes."""

from __future__ import annotations

from typing import Any

from kenzet.web.wire import base as m
from kenzet.web.wire.docs import FillDoc


class RecipeView(m.Wire):
    """A recipe with the tile and the name of its fill."""

    name: str
    label: str
    spacing: str
    tile: str
    fill: FillDoc


class RecipesView(m.Wire):
    """The catalogue, by name."""

    recipes: list[RecipeView]


class KeepRecipe(m.Reading):
    """A fill to keep under a name; one of that name is replaced."""

    name: str
    fill: FillDoc


class RecipeName(m.Wire):
    """Which one."""

    name: str


class BringRecipes(m.Wire):
    """What a file of recipes holds."""

    book: dict[str, Any]
