"""At the machine over the API: what to do next, and what is told of it."""

from __future__ import annotations

import time

import pytest

from tests.web.test_api import fill_change, words


def told(number, kind, **more):
    return {"id": f"event-{number:05}", "kind": kind, "when": 1000.0 + 20 * number, **more}


def done(number, step, place):
    kind = {"begin": "begun", "go": "gone", "line": "sewn"}[step["kind"]]
    return told(number, kind, place=place, at=step["at"], sewn=step["sewn"], length_mm=step["length_mm"])


def sew(client, many, first=1):
    """The first ``many`` steps that are told; the view after them."""
    here = client.post("sewing").json["here"]
    events = [done(first + k, step, here["place"]) for k, step in enumerate(here["steps"][:many])]
    assert client.post("sewing/events", events=events).json["refused"] == []
    return client.post("sewing").json


def test_the_first_steps_say_what_to_lay_how_far_and_where_to_go_then(client):
    view = client.post("sewing").json
    here = view["here"]
    begin, line, *more = here["steps"]
    assert (here["where"], here["many"]) == ("Eight-point star 1 of 12, row 3, block 2", 119)
    assert begin["kind"] == "begin" and words(begin["lay"]).startswith("Begin ")
    assert line["number"] == 1 and "needle down" in words(line["sew"])
    said = "Put the 1/2 mark on the line you just sewed."
    laid = next(step for step in more if step["sum"] and words(step["lay"]) == said)
    terms = [words(term["words"]) for term in laid["sum"]["terms"]]
    assert (terms, words(laid["sum"]["total"]["words"])) == (["1/2", "1/4"], "3/4")
    assert any("along the ditch" in words(step["then"]) for step in more)
    assert len(here["steps"]) == 60 and len(here["coming"]) >= 119 - 59
    assert (view["share"], view["untouched"], view["many"]) == (0, 13, 1452)
    assert {row["name"]: row["words"] for row in view["zones"]}["Sashing"] == "24 lines in one place"


def test_what_is_told_is_counted_once_and_the_next_line_follows(client):
    here = client.post("sewing").json["here"]
    events = [done(k, step, here["place"]) for k, step in enumerate(here["steps"][:8])]
    assert client.post("sewing/events", events=events).json == {"count": 8, "refused": []}
    assert client.post("sewing/events", events=events[2:]).json["count"] == 8
    assert client.get("/machine").json == {"count": 8, "last": "event-00007", "machine": None}
    view = client.post("sewing").json
    assert view["here"]["steps"][0]["number"] == 8 and view["here"]["left"] == 112
    assert view["last"][0] == "event-00007"
    assert words(view["here"]["recent"][0]["words"]).startswith("Star ")
    full = view["bobbin"]["left"]
    client.post("sewing/events", events=[told(9, "bobbin")])
    assert client.post("sewing").json["bobbin"]["left"] > full
    client.post("sewing/events", events=[told(10, "undone", target="event-00007")])
    assert client.post("sewing").json["here"]["steps"][0]["number"] == 7


def test_a_broken_thread_a_skipped_and_an_unpicked_line(client):
    here = sew(client, 6)["here"]
    place, step = here["place"], here["steps"][0]
    first = step["sewn"][0]
    half = {**first, "ends": (first["begins"] + first["ends"]) / 2} if not first["reversed"] else {
        **first, "begins": (first["begins"] + first["ends"]) / 2
    }  # fmt: skip
    client.post(
        "sewing/events",
        events=[told(20, "broke", place=place, at=step["start"], sewn=[half] if first["ends"] > 1 else [])],
    )
    view = client.post("sewing").json
    assert view["here"]["steps"][0]["kind"] == "begin"
    assert "where the sewing ends" in words(view["here"]["steps"][0]["lay"])
    assert view["here"]["steps"][1]["number"] == step["number"]
    view = sew(client, 2, 30)
    last = view["here"]["recent"][0]
    skip = view["here"]["steps"][0]
    client.post(
        "sewing/events",
        events=[
            told(40, "skipped", place=place, taken_out=skip["sewn"]),
            told(41, "unpicked", place=place, at=last["at"], taken_out=last["sewn"]),
        ],
    )
    view = client.post("sewing").json
    numbers = [one["number"] for one in view["here"]["steps"]]
    assert skip["number"] not in numbers and view["skipped"] == 1
    assert view["here"]["steps"][1]["sewn"][0]["line"] == last["sewn"][0]["line"]
    assert view["places"][0]["words"].endswith("1 skipped")
    client.post("sewing/events", events=[told(42, "taken up")])
    view = client.post("sewing").json
    assert view["skipped"] == 0 and skip["number"] in [one["number"] for one in view["here"]["steps"]]


def test_another_place_is_gone_to_when_she_chooses_it(client):
    assert client.post("sewing", place="1-1").json["here"]["place"] == "1-1"
    view = client.post("sewing", place="1-1").json
    step = view["here"]["steps"][0]
    client.post("sewing/events", events=[done(1, step, "1-1")])
    assert client.post("sewing").json["here"]["place"] == "1-1"
    assert client.post("sewing", place="nowhere").json["here"] is not None


def test_lines_sewn_to_an_earlier_plan_are_told_of_and_come_back_with_it(client):
    first = client.post("sewing").json["here"]["steps"][1]["sewn"][0]["drawing"].split(".")[0]
    sew(client, 20)
    changed = client.change(1, "respace-1", fill_change("1 1/4 in", first))
    assert changed.status_code == 200
    view = client.post("sewing").json
    assert "sewn with an earlier plan" in view["notes"][0]
    client.post("undo", version=changed.json["version"])
    view = client.post("sewing").json
    assert view["notes"] == [] and view["here"]["left"] == 119 - 19


@pytest.mark.parametrize(
    ("event", "why"),
    [
        ({"kind": "sewn", "place": "2-2"}, "must name the line"),
        ({"kind": "begun", "place": "9-9"}, "no longer in the quilt"),
        ({"kind": "undone"}, "must name the event"),
    ],
)
def test_an_event_that_cannot_be_is_refused_alone(client, event, why):
    good = done(2, client.post("sewing").json["here"]["steps"][0], "3-2")
    answer = client.post("sewing/events", events=[{**told(1, ""), **event}, good]).json
    assert answer["count"] == 1 and why in answer["refused"][0]["why"]


def test_a_line_that_is_not_there_is_refused_and_a_wrong_form_too(client):
    here = client.post("sewing").json["here"]
    step = here["steps"][1]
    for change in ({"line": 4000}, {"ends": 99999.0}):
        sewn = [{**step["sewn"][0], **change}]
        answer = client.post("sewing/events", events=[told(1, "sewn", place=here["place"], sewn=sewn)]).json
        assert answer["count"] == 0 and "no such line" in answer["refused"][0]["why"]
    for wrong in (
        {"id": "x"},
        {"kind": "knitted"},
        {"at": [1.0]},
        {"length_mm": -1},
        {"sewn": [{**step["sewn"][0], "ends": 0.0}]},
    ):
        answer = client.post("sewing/events", events=[{**told(1, "sewn", place="3-2"), **wrong}])
        assert answer.status_code == 422, wrong
    assert client.get("/machine").json["count"] == 0


def test_a_clock_that_is_ahead_is_set_right(client):
    here = client.post("sewing").json["here"]
    ahead = {**done(1, here["steps"][0], here["place"]), "when": time.time() + 86400}
    client.post("sewing/events", events=[ahead])
    later = {**done(2, here["steps"][1], here["place"]), "when": time.time() + 86460}
    client.post("sewing/events", events=[later])
    assert client.post("sewing").json["today"] < 5


def test_nothing_planned_is_said(app):
    raw = app.test_client()
    new = raw.post(
        "/api/quilts", json={"wish": {"name": "Bare", "columns": 2, "rows": 2, "block": "6 in"}}
    ).json["quilts"][0]
    refused = raw.post(f"/api/quilts/{new['id']}/sewing", json={})
    assert (refused.status_code, "Choose a fill" in refused.json["detail"]) == (422, True)
    raw.put(f"/api/quilts/{new['id']}/state", json={"state": "deleted"})


def test_what_was_sewn_is_kept_though_its_fill_was_taken_away_meanwhile(client):
    here = client.post("sewing").json["here"]
    events = [done(k, step, here["place"]) for k, step in enumerate(here["steps"][:4])]
    version = 1
    for zone in ("star-background", "star-points", "star-centre", "sashing"):
        gone = client.change(version, f"open-{zone}", {"kind": "fill", "zone": zone, "fill": None})
        version = gone.json["version"]
    assert client.post("sewing").status_code == 422  # nothing is planned
    answer = client.post("sewing/events", events=events[1:]).json
    assert answer == {"count": 3, "refused": []}
    for _ in range(4):
        version = client.post("undo", version=version).json["version"]
    assert client.post("sewing").json["here"]["left"] == 119 - 3


def test_a_texture_is_filled_freehand_without_a_ruler(client):
    fill = {"kind": "texture", "spacing": "1/2 in", "texture": "pebbles"}
    client.change(1, "fill-1", {"kind": "fill", "zone": "sashing", "fill": fill})
    route = client.post("route", quick=True, number=13).json
    (leg,) = [leg for leg in route["here"]["legs"] if leg["sews"]]
    assert leg["freehand"] and leg["ruler"] == leg["hands"] == []
    assert words(leg["words"]).startswith("Sashing: pebbles, freehand, about ")
    view = client.post("sewing", place="sashing").json
    step = next(step for step in view["here"]["steps"] if step["kind"] == "line")
    assert step["freehand"] and step["sum"] is None and step["ruler"] == []
    said = words(step["lay"])
    assert said == "Put the ruler aside. Quilt freehand: pebbles, 1/2 in large."
    assert "round each pebble" in words(step["then"])
    before = {row["name"]: row["words"] for row in view["zones"]}["Sashing"]
    assert before == "1 line in one place"
    events = [done(k, one, "sashing") for k, one in enumerate(view["here"]["steps"])]
    assert client.post("sewing/events", events=events).json["refused"] == []
    assert "Sashing" not in {row["name"] for row in client.post("sewing").json["zones"]}


def test_a_log_that_was_given_out_stays_as_it_was_while_others_tell_and_look(client, conn):
    """At the machine one request read the log while another told of a line: an error where the two met."""
    sew(client, 4)
    kept = client.raw.application.extensions["logs"]
    log = kept.log(conn, client.quilt_id)
    before = [(place, key) for place, its in log.sewn.covered.items() for key in its]
    assert before
    log.sewn.of("a place that nobody sewed")
    sew(client, 9, first=5)
    assert [(place, key) for place, its in log.sewn.covered.items() for key in its] == before
    later = kept.log(conn, client.quilt_id)
    assert len(later) > len(log)
    assert sum(len(list(its)) for its in later.sewn.covered.values()) > len(before)
