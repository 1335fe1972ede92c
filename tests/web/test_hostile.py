"""Requests that were faults once: each is answered in our own words, and nothing is kept of it."""

from __future__ import annotations

import json

import pytest

ZONE = "star-background"
NESTED = '{"a":' * 30_000 + "1" + "}" * 30_000


def test_a_body_that_is_nested_without_end_is_refused(app, client):
    raw = app.test_client()
    for address in ("/api/quilts", f"/api/quilts/{client.quilt_id}/changes", "/api/recipes"):
        found = raw.post(address, data=NESTED, content_type="application/json")
        assert found.status_code in (400, 404, 405, 422)
    found = raw.post("/api/things/import", data=NESTED, content_type="application/octet-stream")
    assert found.status_code == 422


def test_an_address_longer_than_a_file_name_is_not_there(app):
    assert app.test_client().get("/" + "a" * 300).status_code == 404
    assert app.test_client().get("/api/" + "a" * 300).status_code == 404


def test_two_changes_of_one_key_in_a_request_are_refused(client):
    one = {"key": "same-key", "change": {"kind": "name", "name": "Once"}}
    found = client.post(
        "changes", version=1, changes=[one, {**one, "change": {"kind": "name", "name": "Twice"}}]
    )
    assert found.status_code == 422 and "key of its own" in found.json["detail"]


def test_keys_that_differ_in_case_are_two_changes(client):
    client.change(1, "Same-Key", {"kind": "name", "name": "Upper"})
    client.change(2, "same-key", {"kind": "name", "name": "Lower"})
    assert client.get("").json["name"] == "Lower"


@pytest.mark.parametrize(
    ("outline", "says"),
    [
        ([[0, 0, 1e9], [4, 0], [4, 4]], "bulges too far"),
        ([[0, 0], [4, 4], [4, 0], [0, 4]], "crosses itself"),
        ([[0, 0], [4, 0]], "three corners"),
        ([[0, 0], [2, 0], [4, 0]], "no area"),
        ([[0, 0], [40, 0], [4, 4]], "outside the block"),
        ([[0, 0], [1e300, 0], [4, 4]], "outside the block"),
    ],
)
def test_a_patch_that_is_no_cloth_is_not_kept(client, outline, says):
    art = {"kind": "drawn", "grid": [4, 4], "patches": {"a": {"outline": outline, "fabric": "cream"}}}
    block = {"name": "Poison", "width": "6 in", "height": "6 in", "art": art}
    found = client.post(
        "changes",
        version=1,
        changes=[{"key": "poison-1", "change": {"kind": "new block", "block": block}}],
    )
    assert found.status_code == 422, json.dumps(found.json)
    assert says in found.json["detail"] and "patches.a" in found.json["field"]


def test_patches_that_lie_on_one_another_are_refused(client):
    square = [[0, 0], [4, 0], [4, 4], [0, 4]]
    patches = {"a": {"outline": square, "fabric": "cream"}, "b": {"outline": square, "fabric": "cream"}}
    block = {
        "name": "Twice",
        "width": "6 in",
        "height": "6 in",
        "art": {"kind": "drawn", "grid": [4, 4], "patches": patches},
    }
    found = client.post(
        "changes",
        version=1,
        changes=[{"key": "poison-2", "change": {"kind": "new block", "block": block}}],
    )
    assert found.status_code == 422 and "lie on one another" in found.json["detail"]
