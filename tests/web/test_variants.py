"""The gallery, pinned variants, meeting features and recipes over the API."""

from __future__ import annotations

import pytest

IN = {"unit": "in"}


def post(client, path, body, status=200):
    answer = client.post(path, **body)
    assert answer.status_code == status, answer.text
    return answer.json


def recipe(client, path, body, status=200):
    answer = client.raw.post(f"/api/recipes{path}", json=body)
    assert answer.status_code == status, answer.text
    return answer.json


@pytest.fixture
def empty(client):
    for one in client.raw.get("/api/recipes").json["recipes"]:
        client.raw.delete("/api/recipes", query_string={"name": one["name"]})
    return client


def test_the_gallery_is_drawn_in_the_zone(client):
    found = post(client, "gallery", {"zone": "star-centre", **IN})
    assert found["rings"]
    for card in found["cards"]:
        assert card["drawing"]["lines"] or card["drawing"]["paths"] or card["drawing"]["hints"]
        assert [row["label"][0] for row in card["said"]] == ["Spacing", "Density", "To mark", "To sew"]
    kinds = [card["kind"] for card in found["cards"]]
    assert "halved triangle" not in kinds
    assert len(kinds) == len(set(kinds))


def test_a_card_can_be_taken_as_it_is_shown(client):
    found = post(client, "gallery", {"zone": "star-points", **IN})
    for card in found["cards"]:
        view = post(client, "preview", {"zone": "star-points", "fill": card["fill"], **IN})
        assert view["fill"] == card["fill"]


def test_pins_are_kept_compared_and_at_most_three(client):
    pins = [{"kind": "lines", "spacing": "1/2 in"}, {"kind": "echo"}, {"kind": "lines", "spacing": "1/2 in"}]
    change = {"kind": "pins", "zone": "star-centre", "pins": pins}
    assert client.change(1, "pin-it", change).status_code == 200
    four = {**change, "pins": [{"kind": kind} for kind in ("lines", "echo", "grid", "fan")]}
    assert client.change(2, "pin-four", four).status_code == 422
    found = post(client, "variants", {"zone": "star-centre", **IN})
    assert [card["label"] for card in found["cards"]] == ["Lines", "Echo"], "the same one is pinned once"
    rows = {row["label"]: row for row in found["table"]}
    assert set(rows) >= {
        "Spacing",
        "Lines",
        "Lines to mark",
        "Widest gap",
        "Density",
        "Sewn",
        "Thread cuts, about",
    }
    assert all(len(row["cells"]) == 2 and row["against"][0] == "" for row in rows.values())
    assert rows["Spacing"]["against"][1] == "\u221250 %"
    assert post(client, "preview", {"zone": "star-centre", **IN})["pins"][1]["kind"] == "echo"


def test_features_can_be_met(client):
    asked = {"zone": "star-centre", "fill": {"kind": "lines", "spacing": "0.7 in", "angle": 0}, **IN}
    view = post(client, "preview", asked)
    assert view["can_meet"]
    corners = [k for k, f in enumerate(view["features"]) if f["name"].endswith("corner")]
    found = post(client, "spacing-fits", {**asked, "features": [corners[0], corners[-1]]})
    assert found["ways"][0]["exact"]
    laid = post(
        client,
        "preview",
        {**asked, "fill": {**asked["fill"], **found["ways"][0]["values"]}},
    )
    assert laid["fill"]["origin"] == "point"
    refused = post(client, "spacing-fits", {**asked, "features": [0, 9999]}, 422)
    assert refused["field"] == "features"


def test_a_step_along_the_edge_is_typed_and_told_as_such(client):
    asked = {"zone": "star-centre", "fill": {"kind": "lines", "spacing": "1 in", "angle": 30}, **IN}
    view = post(client, "preview", {**asked, "along_edge": "1"})
    assert view["fill"]["spacing"] in ("1/2 in", "0.866025404 in")
    typed = [row for row in view["rows"] if row["typed"]]
    assert [row["label"][0] for row in typed] == ["Step along the edge, at 30°"]
    assert view["step"]["text"] == "1"
    other = post(client, "preview", {**asked, "fill": {**view["fill"], "spacing": "3/4 in"}})
    assert not any(row["typed"] for row in other["rows"])
    for text in ("", "soon", "-1", "900 in"):
        assert post(client, "preview", {**asked, "along_edge": text}, 422)["field"] == "along_edge"
    level = {**asked, "fill": {"kind": "lines", "angle": 0}, "along_edge": "1"}
    assert "at an angle" in post(client, "preview", level, 422)["detail"]


def test_recipes_are_kept_replaced_taken_away_and_carried(empty):
    kept = recipe(empty, "", {"name": " Ripple ", "fill": {"kind": "waves", "spacing": "1/2"}, **IN})
    assert [(r["name"], r["label"], r["spacing"]) for r in kept["recipes"]] == [("Ripple", "Waves", "1/2 in")]
    kept = recipe(empty, "", {"name": "Ripple", "fill": {"kind": "echo"}, **IN})
    assert [r["label"] for r in kept["recipes"]] == ["Echo"]
    book = empty.raw.get("/api/recipes/book.json").json
    assert book["format"] == "kenzet.recipes"
    other = {**book, "recipes": [*book["recipes"], {"name": "Ripple", "fill": {"kind": "fan"}}]}
    kept = recipe(empty, "/import", {"book": other})
    assert [(r["name"], r["label"]) for r in kept["recipes"]] == [("Ripple", "Echo"), ("Ripple 2", "Fan")]
    kept = empty.raw.delete("/api/recipes", query_string={"name": "Ripple"}).json
    assert [r["name"] for r in kept["recipes"]] == ["Ripple 2"]


@pytest.mark.parametrize("body", [
    {"name": "", "fill": {"kind": "echo"}},
    {"name": "Odd", "fill": {"kind": "echo", "spacing": "0 in"}},
    {"name": "Odd", "fill": {}},
])  # fmt: skip
def test_a_wrong_recipe_is_refused_with_a_sentence(empty, body):
    told = recipe(empty, "", {**body, **IN}, 422)
    assert told["detail"].endswith(".") and told["field"]
    assert empty.raw.get("/api/recipes").json["recipes"] == []


def test_a_file_that_is_no_book_of_recipes_is_refused(empty):
    assert recipe(empty, "/import", {"book": {"format": "something else", "recipes": []}}, 422)["field"]
