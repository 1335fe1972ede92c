"""The list of quilts: a card for each, with its picture, how far it is, and where one goes on."""

from __future__ import annotations

import io
import json
import zipfile
from xml.etree import ElementTree as ET

import pytest

from kenzet.store import quilts
from kenzet.web.state.cards import Card
from tests.tops import wished
from tests.web.conftest import Client

SVG = "{http://www.w3.org/2000/svg}"


def card(client):
    return next(one for one in client.raw.get("/api/home").json["quilts"] if one["id"] == client.quilt_id)


def test_a_card_tells_how_far_a_quilt_is_and_changes_with_it(client):
    before = card(client)
    assert before["zones"] >= before["filled"] > 0 and not before["sewn"] and before["changed"] > 0
    zone = client.get().json["zones"][0]["key"]
    client.change(1, "card-1", {"kind": "fill", "zone": zone, "fill": {"kind": "lines", "spacing": "1 in"}})
    client.change(2, "card-2", {"kind": "zone gone", "zone": zone})
    after = card(client)
    assert after["zones"] == before["zones"] - 1 and after["revision"] > before["revision"]
    undone = client.post("undo", version=3)
    assert undone.status_code == 200 and card(client)["zones"] == before["zones"]


@pytest.mark.parametrize(
    ("zones", "filled", "sewn", "station", "says"),
    [
        (0, 0, False, "top", "Make zones"),
        (3, 2, False, "fills", "Choose a fill for 1 zone"),
        (3, 0, True, "fills", "Choose a fill for 3 zones"),
        (3, 3, False, "marks", "Mark and sew"),
        (3, 3, True, "machine", "Go on sewing"),
    ],
)
def test_one_goes_on_where_something_is_left_to_do(zones, filled, sewn, station, says):
    assert Card(100.0, 100.0, zones, filled).next(sewn) == (station, says)


def test_the_picture_holds_every_fabric_and_the_planned_lines(client):
    view = client.get().json
    answer = client.get("/picture.svg")
    assert answer.mimetype == "image/svg+xml"
    root = ET.fromstring(answer.data)
    _, _, wide, high = map(float, root.get("viewBox").split())
    assert (wide, high) == pytest.approx((view["width"], view["height"]), abs=0.1)
    fills = {path.get("fill") for path in root.iter(f"{SVG}path")}
    used = {patch["fabric"] for part in view["parts"] for patch in part["patches"]}
    assert {view["fabrics"][key]["colour"] for key in used} <= fills
    assert sum(path.get("fill") == "none" for path in root.iter(f"{SVG}path")) == 1


def test_a_quilt_without_zones_has_a_picture_without_lines(app, conn):
    other = Client(app.test_client(), quilts.add(conn, quilts.LOCAL_OWNER, wished(block="12 in").quilt))
    root = ET.fromstring(other.get("/picture.svg").data)
    assert all(path.get("fill") != "none" for path in root.iter(f"{SVG}path"))
    assert card(other)["next"] == "top"


def test_a_quilt_that_cannot_be_read_does_not_hide_the_others(client, conn):
    with conn.cursor() as cursor:
        cursor.execute(
            "UPDATE revision SET document = JSON_SET(document, '$.fabrics', 7) WHERE quilt_id = %s",
            (client.quilt_id,),
        )
    conn.commit()
    answer = client.raw.get("/api/home")
    assert answer.status_code == 200 and card(client)["name"]
    assert (card(client)["zones"], card(client)["next"]) == (0, "top")
    kept = zipfile.ZipFile(io.BytesIO(client.raw.get("/api/files.zip").data))
    (mine,) = (name for name in kept.namelist() if client.quilt_id in name)
    assert mine.endswith("/plan-as-kept.json") and json.loads(kept.read(mine))["fabrics"] == 7
    assert client.get().status_code == 422
