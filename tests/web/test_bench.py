"""The ruler bench over the API."""

from __future__ import annotations

import pytest

from tests.web.test_api import ZONE, words

IN = 25.4


def test_the_bench_shows_the_zone_and_every_ruler_of_the_kit(client):
    view = client.post("bench", zone=ZONE).json
    assert (view["foot"], view["throat"], view["nudge"]) == (
        pytest.approx(6.35),
        "right",
        pytest.approx(IN / 16),
    )
    straight = next(ruler for ruler in view["rulers"] if ruler["key"] == "straight-ruler")["edges"][0]
    assert straight["needle"] == pytest.approx([-152.4, -6.35, 152.4, -6.35])
    assert [words(line["label"]) for line in straight["etched"][:3]] == ["edge", "1/4", "1/2"]
    kinds = [ref["kind"] for ref in view["references"]]
    assert kinds[0] == "seam" and "line" in kinds
    assert client.post("bench", zone=ZONE, unit="mm").json["nudge"] == 1
    assert client.post("bench", zone="nowhere").status_code == 404


def test_a_ruler_is_laid_for_a_line_and_the_line_is_kept(client):
    at = client.post("bench/lay", zone=ZONE, line=0).json
    assert (at["ruler"], at["edge"], at["fit"]) == ("straight-ruler", 0, None)
    place = client.post("bench", zone=ZONE).json["place"]
    wish = {
        "kind": "keep line",
        "zone": ZONE,
        "place": place,
        **{k: at[k] for k in ("ruler", "edge", "x", "y", "angle")},
    }
    same = client.change(client.get().json["version"], "keep-1", wish)
    assert same.status_code == 422 and "in the plan already" in same.json["detail"]
    kept = client.change(client.get().json["version"], "keep-2", {**wish, "angle": at["angle"] + 7})
    assert kept.status_code == 200
    view = client.post("bench", zone=ZONE).json
    assert [words(line["words"]) for line in view["hand"]] == ["to be marked"]
    assert view["references"][-1]["kind"] == "hand"
    marks = client.post("marks", zone=ZONE, layer=2).json
    assert [one["label"] for one in marks["layers"]] == ["the fill", "placed by hand"] and marks["layer"] == 2
    assert client.get(f"/zones/{ZONE}/sheet.svg", layer=2).status_code == 200
    assert client.post("preview", zone=ZONE, layer=2).json["fill"]["kind"] == "by hand"


@pytest.mark.parametrize(("line", "status"), [(10_000, 404), (0, 422)])
def test_a_line_that_no_ruler_does_is_refused(client, line, status):
    found = client.post(
        "bench/lay", zone=ZONE, line=line, ruler="arc-14-in-circle" if status == 422 else None
    )
    assert found.status_code == status


@pytest.mark.parametrize(
    ("chord", "rise", "says"),
    [("8", "1 1/4", "Radius 7 1/32"), ("6", "0", "straight ruler"), ("4", "3", "more than a half circle")],
)
def test_a_curve_is_told_its_radius(client, chord, rise, says):
    """A38, A97, A98."""
    found = client.post("curve", chord=chord, rise=rise).json
    assert says in words(found["words"])
    assert all(0 <= edge < 5 for edge in found["edges"]) and len(found["edges"]) == len(found["curves"])


@pytest.mark.parametrize(
    ("field", "text"), [("chord", "0"), ("chord", "far"), ("rise", "-1"), ("rise", "900 in")]
)
def test_a_curve_that_cannot_be_is_refused_at_its_field(client, field, text):
    found = client.post("curve", **{"chord": "8", "rise": "1", field: text})
    assert (found.status_code, found.json["field"]) == (422, field)
