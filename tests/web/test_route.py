"""The route over the API."""

from __future__ import annotations

import io
import math
import re
from itertools import pairwise

import pytest
import svgelements
from pypdf import PdfReader

from kenzet.demo import demo_quilts
from kenzet.store import quilts
from tests.web.conftest import Client
from tests.web.test_api import fill_change, words


def rows(view):
    return {words(row["label"]): words(row["words"]) for row in view["rows"]}


def test_every_place_comes_once_in_her_order(client):
    view = client.post("route").json
    places = [visit["place"] for visit in view["visits"]]
    assert len(places) == len(set(places)) == 13
    assert places[0] in ("2-2", "3-2") and view["here"] is None  # centre outward
    assert rows(view)["Lines"] == "4,977 in"
    assert int(rows(view)["Thread cuts on the way"]) >= sum(visit["stop"] for visit in view["visits"])
    from_below = {**view["doc"], "order": "from the bottom"}
    client.change(1, "stitch-1", {"kind": "stitching", "stitching": from_below})
    view = client.post("route").json
    assert [visit["place"] for visit in view["visits"]][:6] == ["4-1", "4-2", "4-3", "3-3", "3-2", "3-1"]


def test_the_way_through_a_block_hangs_together_and_sews_all_of_it(client):
    here = client.post("route", number=1).json["here"]
    legs = here["legs"]
    assert legs[0]["begins"] and here["sentence"].startswith("Begin ")
    for before, leg in pairwise(legs):
        if not leg["begins"]:
            assert math.dist(before["points"][-2:], leg["points"][:2]) < 0.11
    sewn = sum(leg["length"] for leg in legs if leg["sews"])
    assert f"{sewn / 25.4:,.0f} in" == rows(here)["Lines"]
    travelled = sum(leg["length"] for leg in legs if not leg["sews"])
    assert rows(here)["Travelling"].startswith(f"{travelled / 25.4:,.0f} in")
    assert "ditch" in " ".join(words(leg["words"]) for leg in legs if not leg["sews"])
    again = client.post("route", number=2, unit="mm").json["here"]
    lines, others = (sorted(leg["length"] for leg in some if leg["sews"]) for some in (legs, again["legs"]))
    assert others == pytest.approx(lines, abs=0.01)
    assert sum(leg["length"] for leg in again["legs"]) == pytest.approx(sewn + travelled, abs=0.1)
    assert client.post("route", number=99).json["here"] is None


def test_the_way_is_a_drawing_at_true_size_with_every_line_numbered(client):
    legs = client.post("route", number=1).json["here"]["legs"]
    answer = client.get("/route.svg", number=1)
    drawing = svgelements.SVG.parse(io.BytesIO(answer.data), ppi=25.4)
    assert drawing.width == pytest.approx(12 * 25.4 + 12, abs=0.01)
    sewn = sum(leg["sews"] for leg in legs)
    texts = [text.text for text in drawing.elements() if isinstance(text, svgelements.Text)]
    assert texts == [str(k) for k in range(1, sewn + 1)]
    paths = [path for path in drawing.elements() if isinstance(path, svgelements.Path)]
    lines = [path.length() for path in paths if path.stroke == "#2b3a67"][::2]
    assert sum(lines) == pytest.approx(sum(leg["length"] for leg in legs if leg["sews"]), rel=1e-3)
    assert client.get("/route.svg", number=99).status_code == 404


def test_what_stops_are_worth_changes_the_route(client):
    view = client.post("route", number=2).json
    dear = rows(view["here"])
    client.change(1, "stitch-2", {"kind": "stitching", "stitching": {**view["doc"], "stops": 0}})
    cheap = rows(client.post("route", number=1).json["here"])
    assert dear["Thread cuts on the way"] == "none" and int(cheap["Thread cuts on the way"]) > 5
    assert int(cheap["Travelling"].split(" ")[0]) < int(dear["Travelling"].split(" ")[0])
    refused = client.change(2, "stitch-3", {"kind": "stitching", "stitching": {**view["doc"], "stops": 11}})
    assert refused.status_code == 422 and "stops" in refused.json["field"]


def test_with_nothing_planned_there_is_no_route(app):
    raw = app.test_client()
    new = raw.post(
        "/api/quilts", json={"wish": {"name": "Bare", "columns": 2, "rows": 2, "block": "6 in"}}
    ).json["quilts"][0]
    refused = raw.post(f"/api/quilts/{new['id']}/route", json={})
    assert (refused.status_code, "Choose a fill" in refused.json["detail"]) == (422, True)
    raw.put(f"/api/quilts/{new['id']}/state", json={"state": "deleted"})


def test_bobbins_are_changed_where_the_thread_ends_anyway_or_on_the_way(client):
    told = rows(client.post("route").json)
    before, on_the_way = told["A full bobbin lasts"].split("; ")
    changes = [
        int(number)
        for some in (before.removeprefix("before "), on_the_way.removeprefix("in "))
        for number in some.split(", ")
    ]
    assert int(told["Bobbins"]) - 1 <= len(changes) <= int(told["Bobbins"]) + 1
    assert set(changes) <= set(range(2, 14))


def test_a_larger_bobbin_of_hers_is_changed_less_often(client):
    before = rows(client.post("route").json)
    left = client.post("sewing").json["bobbin"]["left"]
    kit = client.get("/kit").json["kit"]
    assert left == pytest.approx(2500 * 25.4, abs=0.1)
    kit["bobbin"]["holds"] = "5000 in"
    client.change(1, "kit-001", {"kind": "kit", "kit": kit})
    after = rows(client.post("route").json)
    assert int(after["Bobbins"]) == pytest.approx(int(before["Bobbins"]) / 2, abs=1)
    assert len(after["A full bobbin lasts"].split(", ")) < len(before["A full bobbin lasts"].split(", "))
    assert client.post("sewing").json["bobbin"]["left"] == pytest.approx(5000 * 25.4, abs=0.1)


def test_the_hands_rest_when_she_says(client):
    doc = client.post("route").json["doc"]
    assert client.post("sewing").json["rest"] == 25 * 60
    client.change(1, "stitch-4", {"kind": "stitching", "stitching": {**doc, "rest": 10}})
    assert client.post("sewing").json["rest"] == 600
    refused = client.change(2, "stitch-5", {"kind": "stitching", "stitching": {**doc, "rest": 1}})
    assert refused.status_code == 422 and "rest" in refused.json["field"]


def test_what_a_pinned_end_costs_and_what_would_end_there(app, conn):
    cloth = next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler cloth"))
    client = Client(app.test_client(), quilts.add(conn, quilts.LOCAL_OWNER, cloth))

    def look(part=None):
        for number in range(1, 4):
            here = client.post("route", number=number).json["here"]
            if here["part"] == part or (not part and here["name"] == "Plain"):
                return number, here["part"]
        raise AssertionError("it is not in the order")

    number, part = look()
    assert client.post("route/pin-options", number=number).json == {"costs": [], "offers": []}
    doc = client.post("route").json["doc"]
    pins = {part: {"start": "lower left", "end": "upper left"}}
    client.change(1, "pins-001", {"kind": "stitching", "stitching": {**doc, "pins": pins}})
    number, _ = look(part)
    told = client.post("route/pin-options", number=number).json
    assert "adds 9 in of travel" in words(told["costs"])
    said = [words(offer["words"]) for offer in told["offers"]]
    assert any(
        "16 lines in place of 15, 15/32 in apart" in one and "each line is marked" in one for one in said
    )
    taken = {
        "kind": "fill",
        "zone": told["offers"][0]["zone"],
        "place": None,
        "fill": told["offers"][0]["fill"],
    }
    client.change(2, "fill-001", taken)
    number, _ = look(part)
    assert client.post("route/pin-options", number=number).json == {"costs": [], "offers": []}
    assert client.post("route/pin-options", number=99).json["offers"] == []


def test_the_order_and_the_ways_are_on_the_job_sheet(client):
    stops = rows(client.post("route").json)["Thread cuts on the way"]
    pages = [page.extract_text() for page in PdfReader(io.BytesIO(client.get("/job.pdf").data)).pages]
    order, star, sashing = pages[-3:]
    assert "Sewing order" in order and f"Thread cuts on the way: {stops}" in order
    assert "Numbers 1 to 12 of the order" in star and "Begin " in star
    assert "Number 13 of the order" in sashing
    numbers = [int(word) for word in star.split() if word.isdigit()]
    assert set(range(13, 120)) <= set(numbers)


def test_pinned_corners_and_avoided_seams_are_kept_and_told(client):
    view = client.post("route", number=1).json
    here = view["here"]
    travel = next(leg for leg in here["legs"] if leg["kind"] == "ditch")
    x, y = travel["spot"]
    avoided = [{"part": here["part"], "x": x, "y": y, "how": "never"}]
    pins = {here["part"]: {"start": "upper right", "end": None}}
    client.change(
        1, "stitch-4", {"kind": "stitching", "stitching": {**view["doc"], "avoided": avoided, "pins": pins}}
    )
    again = client.post("route", number=1).json["here"]
    assert (again["start"], again["end"], again["fault"]) == ("upper right", "", "")
    assert again["sentence"].startswith("Begin at the upper right")
    assert [one["how"] for one in again["avoided"]] == ["never"]
    assert all(leg["spot"] != travel["spot"] for leg in again["legs"] if not leg["sews"])
    refused = client.change(
        2,
        "stitch-5",
        {"kind": "stitching", "stitching": {**view["doc"], "pins": {"star": {"start": "left"}}}},
    )
    assert refused.status_code == 422 and "pins" in refused.json["field"]


def test_a_zone_can_be_sewn_before_all_else(client):
    view = client.post("route", number=1).json
    assert {one["turn"] for one in view["here"]["turns"]} == {""}
    anchor = view["here"]["turns"][0]
    told = {**view["doc"], "turns": {anchor["zone"]: "first"}}
    client.change(1, "stitch-1", {"kind": "stitching", "stitching": told})
    after = client.post("route", number=1).json
    assert len(after["visits"]) == len(view["visits"]) + 12
    assert after["here"]["turns"] == [{**anchor, "turn": "first"}]
    assert f"Sewn everywhere before everything else: {anchor['name']}." in [
        note["words"][0] for note in after["notes"]
    ]


def test_thread_to_have_is_top_and_bobbin_with_a_tenth_to_spare(client):
    figures = rows(client.post("route").json)
    top, all_of = (
        int(figures[name].split()[0].replace(",", ""))
        for name in ("Top thread (bobbin the same)", "Thread to buy (incl. 10 % spare)")
    )
    assert 2.2 * (top - 1) <= all_of <= 2.2 * top + 1


def test_a_quick_way_is_answered_until_the_shorter_one_is_found(client):
    client.change(1, "own-route-1", fill_change("27/32 in"))  # a plan for which no test has found a route yet
    quick = client.post("route", quick=True, number=1).json
    assert quick["quick"] and quick["here"]["legs"]
    short = client.post("route", number=1).json
    assert not short["quick"]
    assert rows(quick)["Lines"] == rows(short)["Lines"]
    assert client.post("route", quick=True, number=1).json == short


def test_a_way_may_begin_at_the_first_whole_cell_as_long_as_there_is_one(client):
    view = client.post("route", number=1).json
    here = view["here"]
    assert re.match(r"Cells: \d+ whole, \d+ cut at the edge\. The first whole one is at the ", here["cells"])
    pins = {"pins": {here["part"]: {"start": "first whole cell", "end": None}}}
    client.change(1, "stitch-6", {"kind": "stitching", "stitching": {**view["doc"], **pins}})
    there = client.post("route", number=1).json["here"]
    assert (there["start"], there["fault"]) == ("first whole cell", "")
    fills = {zone["key"]: zone["fill"] for zone in client.get().json["zones"]}
    grid = next(one["zone"] for one in here["turns"] if fills[one["zone"]] == "Grid")
    client.change(2, "stitch-7", {"kind": "fill", "zone": grid, "fill": {"kind": "lines", "spacing": "1 in"}})
    gone = client.post("route", number=1).json["here"]
    assert (gone["cells"], gone["fault"]) == ("", "No whole cell is left here.")


def test_her_pace_changes_the_minutes_and_a_wrong_one_is_refused_at_its_field(client):
    view = client.post("route", quick=True).json
    assert [field["text"] for field in view["paces"]][:5] == ["45", "30", "60", "70", "25"]
    before = rows(view)
    pace = {**view["doc"]["pace"], "straight": "90 in"}
    client.change(1, "stitch-8", {"kind": "stitching", "stitching": {**view["doc"], "pace": pace}})
    quicker = rows(client.post("route", quick=True).json)
    assert quicker["Sewing time, about"] != before["Sewing time, about"]
    assert quicker["Lines"] == before["Lines"]
    wrong = {**view["doc"], "pace": {**pace, "straight": "0"}}
    refused = client.change(2, "stitch-9", {"kind": "stitching", "stitching": wrong})
    assert refused.status_code == 422 and refused.json["field"].endswith("pace.straight")
    assert "between 1 in and 400 in" in refused.json["detail"]
