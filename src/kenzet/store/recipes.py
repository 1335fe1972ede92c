"""Recipes, stored by owner and name."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from kenzet.core.advice.recipes import MOST_RECIPES, Recipe
from kenzet.core.errors import TooMany
from kenzet.store.pool import atomic
from kenzet.texts import tr


def listed(conn: Any, owner: int) -> list[Recipe]:
    """All recipes, by name."""
    with conn.cursor() as cursor:
        cursor.execute("SELECT name, fill FROM recipe WHERE owner_id = %s ORDER BY name", (owner,))
        rows = cursor.fetchall()
    conn.commit()
    return [Recipe.model_validate({"name": row["name"], "fill": json.loads(row["fill"])}) for row in rows]


def keep(conn: Any, owner: int, recipes: Sequence[Recipe]) -> None:
    """Store recipes; one with the same name is replaced. Raises TooMany."""
    with atomic(conn) as cursor:
        for recipe in recipes:
            fill = recipe.model_dump_json(include={"fill"})
            cursor.execute(
                "INSERT INTO recipe (owner_id, name, fill) VALUES (%s, %s, JSON_EXTRACT(%s, '$.fill'))"
                " ON DUPLICATE KEY UPDATE fill = VALUES(fill)",
                (owner, recipe.name, fill),
            )
        cursor.execute("SELECT COUNT(*) AS many FROM recipe WHERE owner_id = %s", (owner,))
        if cursor.fetchone()["many"] > MOST_RECIPES:
            raise TooMany(
                tr("At most {most_recipes} recipes can be kept.", most_recipes=MOST_RECIPES), "recipes"
            )


def forget(conn: Any, owner: int, name: str) -> None:
    """Delete a recipe, if it exists."""
    with atomic(conn) as cursor:
        cursor.execute("DELETE FROM recipe WHERE owner_id = %s AND name = %s", (owner, name))
