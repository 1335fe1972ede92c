"""The quilter's own catalog of fills: saved by name, usable in any quilt, carried as a file."""

from __future__ import annotations

from flask import Response

from kenzet.core.advice.recipes import Recipe, RecipeBook, beside
from kenzet.core.fills import FILLS, kind_of
from kenzet.core.top.document import validated
from kenzet.store import recipes as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection
from kenzet.web.wire.recipes import BringRecipes, KeepRecipe, RecipeName, RecipesView, RecipeView

recipes = Blueprint("recipes", __name__, url_prefix="/api/recipes")


@recipes.get("", responses={200: RecipesView})
def show_recipes() -> Response:
    """All recipes."""
    return _all()


@recipes.post("", responses={200: RecipesView})
def keep_recipe(body: KeepRecipe) -> Response:
    """Save a recipe."""
    recipe = validated(Recipe, {"name": body.name.strip(), "fill": body.fill}, body.unit)
    with connection() as conn:
        store.keep(conn, LOCAL_OWNER, [recipe])
    return _all()


@recipes.delete("", responses={200: RecipesView})
def forget_recipe(query: RecipeName) -> Response:
    """Delete a recipe."""
    with connection() as conn:
        store.forget(conn, LOCAL_OWNER, query.name)
    return _all()


@recipes.post("/import", responses={200: RecipesView})
def bring_recipes(body: BringRecipes) -> Response:
    """Add the recipes of a file; if a name is taken by another fill, the new one gets a number."""
    book = validated(RecipeBook, body.book)
    with connection() as conn:
        own = {recipe.name: recipe for recipe in store.listed(conn, LOCAL_OWNER)}
        new: list[Recipe] = []
        for recipe in book.recipes:
            if own.get(recipe.name) == recipe:
                continue
            name = beside(recipe.name, {*own, *(each.name for each in new)})
            new.append(recipe.model_copy(update={"name": name}))
        store.keep(conn, LOCAL_OWNER, new)
    return _all()


def _all() -> Response:
    with connection() as conn:
        found = store.listed(conn, LOCAL_OWNER)
    views = [
        RecipeView(
            name=recipe.name,
            label=recipe.fill.label,
            spacing=recipe.fill.spacing.text,
            tile=FILLS[kind_of(recipe.fill)].tile,
            fill=recipe.fill.model_dump(mode="json"),
        )
        for recipe in found
    ]
    return answer(RecipesView(recipes=views))
