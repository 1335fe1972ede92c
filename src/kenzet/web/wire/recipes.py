"""Models of the recipes."""

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
    """All recipes, by name."""

    recipes: list[RecipeView]


class KeepRecipe(m.Reading):
    """A fill to save under a name; one of that name is replaced."""

    name: str
    fill: FillDoc


class RecipeName(m.Wire):
    """Identifies a recipe."""

    name: str


class BringRecipes(m.Wire):
    """A file of recipes."""

    book: dict[str, Any]
