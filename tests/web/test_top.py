"""The top over the wire: what is shown, pointed at, cut, drawn, brought in; and what is refused."""

from __future__ import annotations

import io

import pytest
from PIL import Image

from tests.pictures import picture
from tests.tops import patterned


@pytest.fixture
def begun(client):
    """A new quilt of two by two blocks."""
    wish = {"name": "Tried", "columns": 2, "rows": 2, "block": "12"}
    home = client.raw.post("/api/quilts", json={"wish": wish, "unit": "in"}).json
    client.quilt_id = next(q["id"] for q in home["quilts"] if q["name"] == "Tried")
    return client


def made(client, *changes):
    for change in changes:
        version = client.get().json["version"]
        answer = client.change(version, f"change-key-{version}", change)
        assert answer.status_code == 200, answer.json


def test_the_top_is_shown_with_blocks_tiles_and_fabrics(client):
    view = client.get("/top", unit="mm").json
    assert (view["columns"], view["rows"], view["arrangement"]) == (3, 4, "straight rows")
    assert [b["laid"] for b in view["blocks"]] == [12]
    assert len(view["tiles"]) >= 30
    assert {"edge", "batting_overhang"} <= {field["name"] for field in view["fields"]}


def test_pointing_and_cutting(begun):
    made(
        begun,
        {"kind": "new block", "block": patterned("Nine-patch")},
        {"kind": "paint", "places": ["1-1"], "block": "nine-patch"},
    )
    refs = begun.post("hit-test", ref="1-1/r1c1", how="block").json["refs"]
    assert len(refs) == 9
    assert begun.post("hit-test", ref="1-1/moon").status_code == 404
    made(begun, {"kind": "zone", "refs": refs})
    zone = begun.get().json["zones"][0]["key"]
    cut = begun.post("cut", zone=zone, cut={"kind": "inset square", "inset": "3"}).json
    assert cut["names"] == ["Nine-patch, whole: frame", "Nine-patch, whole: middle square"]
    wrong = begun.post("cut", zone=zone, cut={"kind": "inset square", "inset": "6"})
    assert (wrong.status_code, wrong.json["field"]) == (422, "inset")
    points = begun.post("cut-points", zone=zone, edge=0, along="3").json
    assert points["measured"]["share"] in ([0.25, 1.0], [0.25, 0.0], [0.0, 0.25], [0.0, 0.75])
    far = begun.post("cut-points", zone=zone, edge=0, along="13")
    assert (far.status_code, far.json["field"]) == (422, "along")


def test_a_drawn_block_and_its_points(begun):
    made(begun, {"kind": "own block", "width": "8 in", "height": "8 in"})
    side = {"start": [0, 0], "end": [4, 4], "rise": "1/2"}
    made(begun, {"kind": "seams", "key": "my-block", "sides": [side, {"start": [1, 3], "end": [1, 3.5]}]})
    view = begun.get("/blocks/my-block/drawing", unit="in").json
    assert [(s["rise"], s["left"], s["open"]) for s in view["seams"]] == [
        ("1/2", True, False),
        ("", True, True),
    ]
    assert len(view["patches"]) == 2
    assert begun.get("/blocks/plain/drawing").status_code == 422


def test_a_drawing_is_read_and_weighed(begun):
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="6in" viewBox="0 0 6 6"><path d="M0 0H6V6H0ZM0 0L6 6"/></svg>'

    def read(data, kind="application/octet-stream", **query):
        return begun.raw.post("/api/read-drawing", data=data, content_type=kind, query_string=query)

    found = read(svg, name="reed.svg").json
    assert found["name"] == "Reed"
    made(begun, found["change"])
    assert [b["key"] for b in begun.get("/top").json["blocks"]] == ["plain", "reed"]
    assert read(svg, name="reed.png").json["field"] == "file"
    assert read(svg, name="reed.svg", width="x").json["field"] == "width"
    assert read(b"", name="reed.svg").status_code == 422
    assert read(b"x" * 10_000_001, name="reed.svg").json["field"] == "file"
    assert read(svg, kind="text/plain", name="reed.svg").status_code == 415


@pytest.mark.parametrize(
    ("wish", "field"),
    [
        ({"name": ""}, "wish.name"),
        ({"name": "x", "block": "1 mm"}, "wish.block"),
        ({"name": "x"}, "wish.block"),
        ({"name": "x", "columns": 0, "block": "12"}, "wish.columns"),
        ({"name": "x", "arrangement": "on point", "columns": 1, "rows": 2, "block": "12"}, "columns"),
    ],
)
def test_a_quilt_that_cannot_begin_says_at_which_field(client, wish, field):
    answer = client.raw.post("/api/quilts", json={"wish": wish, "unit": "in"})
    assert answer.status_code == 422
    assert answer.json["field"].endswith(field.split(".")[-1])


def test_a_photo_lies_under_the_quilt_straightened(client):
    def send(path, data):
        return client.raw.post(path, data=data, content_type="application/octet-stream")

    kept = send("/api/photos", picture(size=(80, 60))).json
    assert (kept["width"], kept["height"]) == (80, 60)
    assert client.raw.get(f"/api/photos/{kept['id']}").json == kept
    assert client.raw.get(f"/api/photos/{kept['id']}.jpg").mimetype == "image/jpeg"
    corners = [[0.1, 0.1], [0.9, 0.1], [0.9, 0.9], [0.1, 0.9]]
    made(client, {"kind": "ground", "ground": {"photo": kept["id"], "corners": corners}})
    ground = client.get().json["ground"]
    flat = client.raw.get(ground["url"])
    assert Image.open(io.BytesIO(flat.data)).size == (1576, 2000)  # 52 by 66
    wrong = client.change(
        2, "wrong-corners", {"kind": "ground", "ground": {"photo": kept["id"], "corners": corners[::-1]}}
    )
    assert (wrong.status_code, wrong.json["field"].endswith("ground.corners")) == (422, True)
    assert client.raw.get("/api/photos/aaaaaaaaaaaa").status_code == 404
    assert send("/api/photos", b"no picture").json["field"] == "file"
    assert send("/api/photos", b"x" * 25_000_001).status_code == 422
    assert send("/api/fabric-color", picture(size=(8, 8))).json["print"] == "busy"


def test_a_quilt_is_copied_put_away_deleted_and_brought_back(client):
    def names(home):
        return {q["name"]: q["put_away"] for q in home.json["quilts"] if q["name"].startswith("Own")}

    made(client, {"kind": "name", "name": "Own"})
    assert names(client.post("copy")) == {"Own": False, "Own 2": False}

    def state(to):
        return client.raw.put(f"/api/quilts/{client.quilt_id}/state", json={"state": to})

    assert names(state("put away"))["Own"] is True
    assert "Own" not in names(state("deleted"))
    assert client.get().status_code == 200  # it is kept, so that it can come back
    assert names(state("at hand"))["Own"] is False
    assert client.raw.put("/api/quilts/aaaaaaaaaaaa/state", json={"state": "deleted"}).status_code == 404
    assert state("burnt").status_code == 422


def test_a_plan_file_from_elsewhere_comes_without_its_photo(client):
    plan = client.get("/plan.json").json
    plan["ground"] = {"photo": "zzzzzzzzzzzz", "corners": [[0, 0], [1, 0], [1, 1], [0, 1]]}
    home = client.raw.post("/api/quilts", json={"plan": plan, "unit": "in"})
    assert home.status_code == 200
    client.quilt_id = home.json["quilts"][0]["id"]
    assert client.get().json["ground"] is None


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"kind": "own block", "width": "0 in", "height": "8 in"}, "width"),
        ({"kind": "own block", "width": "8 in", "height": "3/0"}, "height"),
        ({"kind": "block", "key": "star", "block": {}}, "name"),
        ({"kind": "numbers", "key": "star", "pattern": {"kind": "petal-ring", "length": "40 in"}}, "length"),
        ({"kind": "sashing", "sashing": {"width": "0", "fabric": "slate"}}, "width"),
        ({"kind": "borders", "borders": [{"width": "1", "fabric": "moon"}]}, "fabrics"),
        ({"kind": "ground", "ground": {"photo": "aaaaaaaaaaaa", "place": "9-9", "corners": [[0, 0], [1, 0], [1, 1], [0, 1]]}}, "place"),
        ({"kind": "no such thing"}, "change"),
    ],
)  # fmt: skip
def test_a_wrong_change_is_told_at_its_field_and_nothing_is_lost(client, change, field):
    answer = client.change(1, "wrong-change", change)
    assert answer.status_code in (404, 422)
    assert answer.json["field"].split(".")[-1] == field
    assert client.get().json["version"] == 1
