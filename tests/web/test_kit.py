"""Tools and supplies, and the kit of a quilt, over the API."""

from __future__ import annotations

import json

import pytest

from tests.web.test_api import ZONE, words


@pytest.fixture
def things(app, conn):
    """The first tools and supplies; what a test adds is deleted again."""
    raw = app.test_client()

    def keys():
        return {one["key"]: one for group in raw.get("/api/things").json["groups"] for one in group["things"]}

    first = keys()
    yield raw
    for key in keys().keys() - first:
        raw.delete(f"/api/things/{key}")
    for key, one in first.items():
        if keys().get(key, {}).get("thing") != one["thing"]:
            raw.post("/api/things", json={"key": key, "thing": one["thing"]})


def found(raw, key):
    groups = raw.get("/api/things").json["groups"]
    return next((one for group in groups for one in group["things"] if one["key"] == key), None)


def bring(raw, data):
    return raw.post("/api/things/import", data=data, content_type="application/octet-stream")


def test_there_are_first_tools_in_every_group(things):
    groups = things.get("/api/things").json["groups"]
    assert [group["label"] for group in groups] == [
        "Machine and feet", "Rulers and templates", "For marking", "Threads and batting",
    ]  # fmt: skip
    assert all(group["things"] and group["kinds"] for group in groups)
    assert words(found(things, "straight-ruler")["text"]) == "12 in × 2 1/2 in"


def test_a_ruler_is_put_in_changed_and_taken_out(things):
    new = {"kind": "straight ruler", "name": "Short one", "length": "6", "etched": "1/8, 3/8"}
    tried = things.post("/api/things", json={"thing": new, "keep": False}).json
    assert found(things, tried["key"]) is None
    kept = things.post("/api/things", json={"thing": new}).json
    assert (kept["key"], kept["thing"]["length"]) == ("short-one", "6 in")
    assert kept["edges"][0]["lines"] == pytest.approx([0, 3.175, 9.525])
    lent = things.post(
        "/api/things", json={"key": kept["key"], "thing": {**kept["thing"], "state": "lent"}}
    ).json
    assert (lent["key"], lent["state"]) == ("short-one", "lent")
    things.delete("/api/things/short-one")
    assert found(things, "short-one") is None


@pytest.mark.parametrize(
    ("thing", "field"),
    [
        ({"kind": "straight ruler", "length": "0"}, "thing.length"),
        ({"kind": "arc", "outside": None}, "thing.outside"),
        ({"kind": "sword"}, "thing"),
        ({"kind": "tape", "colour": "red"}, "thing.colour"),
    ],
)
def test_a_thing_that_cannot_be_is_refused_at_its_field(things, thing, field):
    refused = things.post("/api/things", json={"thing": thing})
    assert (refused.status_code, refused.json["field"]) == (422, field)


def test_a_strip_tells_r_and_the_old_one_goes_into_the_history(things):
    strip = {"span": "2.04", "lines": 9}
    tried = things.post("/api/things/ruler-foot/strip", json=strip).json
    assert tried["thing"]["offset"] == "0.255 in"
    assert found(things, "ruler-foot")["thing"]["offset"] == "1/4 in"
    kept = things.post("/api/things/ruler-foot/strip", json={**strip, "keep": True}).json
    assert words(kept["history"][0]["words"]) == "1/4 in"
    typed = {**kept["thing"], "history": [], "name": "Round foot"}
    again = things.post("/api/things", json={"key": "ruler-foot", "thing": typed}).json
    assert (again["name"], len(again["history"])) == ("Round foot", 1)  # a record is not typed over
    for body, field in (
        ({"span": "2 miles"}, "span"),
        ({"span": "30"}, "span"),
        ({"span": "2", "lines": 1}, "lines"),
    ):
        refused = things.post("/api/things/ruler-foot/strip", json=body)
        assert (refused.status_code, refused.json["field"]) == (422, field)
    assert things.post("/api/things/wave/strip", json=strip).status_code == 404


@pytest.mark.parametrize("kind", ["json", "csv"])
def test_tools_and_supplies_go_out_as_a_file_and_comes_back_without_doubling(things, kind):
    file = things.get(f"/api/things/kit.{kind}").data
    before = things.get("/api/things").json
    assert bring(things, file).json == before
    things.delete("/api/things/wave")
    back = bring(things, file).json
    assert {one["name"] for group in back["groups"] for one in group["things"]} >= {"Wave", "Tape"}


@pytest.mark.parametrize(
    ("data", "field"),
    [(b"{", "file"), (b"\x00\x01", "file"), (b'{"things": [{"kind": "ufo"}]}', "things.0"), (b"", "file")],
)
def test_a_file_of_something_else_is_refused(things, data, field):
    refused = bring(things, data)
    assert (refused.status_code, refused.json["field"]) == (422, field)


def test_a_quilt_is_told_where_it_is_behind_and_takes_over(things, client):
    assert not any(client.get("/kit").json[what] for what in ("changed", "new", "away"))
    things.post("/api/things/ruler-foot/strip", json={"span": "48 mm", "lines": 9, "keep": True})
    eighths = {"kind": "straight ruler", "name": "Fine scale", "etched": "eighths"}
    things.post("/api/things", json={"thing": eighths})
    view = client.get("/kit").json
    assert (view["changed"], view["new"], view["away"]) == (["Ruler foot"], ["Fine scale"], [])
    assert view["kit"]["foot"]["offset"] == "1/4 in"  # the quilt keeps its own until she says so
    taken = client.change_kit(1, "kit-01", "mm", take_over=True).json["views"]["kit"]
    assert taken["kit"]["foot"]["offset"] == "6 mm"
    fine = next(ruler for ruler in taken["rulers"] if ruler["name"] == "Fine scale")
    assert words(fine["makes"][1]["words"]) == "9.18 mm"
    assert not any(client.get("/kit").json[what] for what in ("changed", "new", "away"))
    total = client.post("preview", zone=ZONE, unit="mm", fill={"kind": "lines", "spacing": "10"}).json
    assert (total["sum"]["kind"], words(total["sum"]["offers"][0]["words"])) == (
        "none",
        "3.18 mark → 9.18 mm",
    )
    assert any("too close" in words(known["words"]) for known in total["known"])


def test_another_foot_other_numbers_and_what_does_not_fit(things, client):
    things.post("/api/things", json={"thing": {"kind": "ruler foot", "name": "Big", "offset": "0.9 in"}})
    refused = client.change_kit(1, "kit-01", picks={"foot": "big"})
    assert (refused.status_code, refused.json["field"]) == (422, "kit.foot.offset")
    refused = client.change_kit(1, "kit-02", picks={"foot": "wave"})
    assert (refused.status_code, refused.json["field"]) == (422, "kit.foot")
    refused = client.change_kit(1, "kit-03", values={"marking_step": "5 in"})
    assert (refused.status_code, refused.json["field"]) == (422, "kit.marking_step")
    walking = client.change_kit(1, "kit-04", sew_with="walking foot").json
    assert walking["views"]["kit"]["sew_with"] == "walking foot"
    told = client.post("preview", zone=ZONE, fill={"kind": "lines", "spacing": "3/8"}).json["sum"]
    assert (told["kind"], words(told["sentence"])[:24]) == ("gauge", "Let the foot's left toe ")


def test_a_ruler_that_is_too_thin_is_gated_with_its_reason(things, client):
    ruler = found(things, "straight-ruler")["thing"]
    thin = {**ruler, "thickness": "3 mm"}
    assert things.post("/api/things", json={"key": "straight-ruler", "thing": thin}).status_code == 200
    view = client.change_kit(1, "kit-01", take_over=True).json["views"]["kit"]
    assert "slide under the foot" in next(r["fault"] for r in view["rulers"] if r["key"] == "straight-ruler")
    plan = client.post("preview", zone=ZONE, fill={"kind": "lines", "spacing": "3/4 in"}).json
    assert plan["sum"] is None or "safe with this foot" in words(plan["sum"]["sentence"])
    assert json.dumps(plan)  # every line is drawn now


@pytest.mark.parametrize("etched", ["", " ", [], [""], ", ,"])
def test_a_ruler_without_an_etched_line_is_refused_and_the_others_still_open(things, etched):
    """Kept once, it could never be read again, nor anything beside it."""
    ruler = found(things, "straight-ruler")["thing"]
    answer = things.post("/api/things", json={"key": "straight-ruler", "thing": {**ruler, "etched": etched}})
    assert answer.status_code == 422 and answer.json["field"].endswith("etched")
    assert things.get("/api/things").status_code == 200
    assert found(things, "straight-ruler")["thing"] == ruler
