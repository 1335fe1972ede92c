"""The command line reads a plan file and prints everything computed from it, without a database."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest

from kenzet.cli import main
from kenzet.formats import plan_file
from tests.conftest import DEMO

PRACTICE = DEMO.parent / "practice-cloth.json"
SCHEMA = Path(__file__).resolve().parent.parent / "docs" / "plan.schema.json"


@pytest.fixture
def printed(capsys):
    assert main(["plan", str(DEMO)]) == 0
    return json.loads(capsys.readouterr().out)


def test_the_whole_plan_is_printed(printed, laid):
    assert printed["quilt"] == "Harbour Lights"
    assert printed["size_mm"] == [1320.8, 1676.4]
    zone = printed["zones"]["star-background"]
    drawing = zone["drawings"][0]
    assert drawing["sum"]["etched"] == "1/2 in"
    assert len(drawing["placings"]) == 12
    assert zone["lines_in_quilt"] == 12 * len(drawing["lines"])
    line = drawing["lines"][0]
    assert {"family", "piece", "line", "points", "length_mm", "marked", "laid"} <= set(line)
    assert drawing["stitched_mm"] == pytest.approx(sum(x["length_mm"] for x in drawing["lines"]), abs=0.01)
    assert any(edge["edge"] == "top edge" and edge["ticks"] for edge in drawing["ticks"])
    assert printed["zones"]["border"] == {"name": "Border", "open": True}
    assert printed["totals"]["lines"] == sum(z.get("lines_in_quilt", 0) for z in printed["zones"].values())


def test_the_schema_in_the_docs_is_fresh_and_the_demo_keeps_it():
    assert SCHEMA.read_bytes() == plan_file.schema(), "run tools/schema"
    jsonschema.validate(json.loads(DEMO.read_bytes()), json.loads(SCHEMA.read_bytes()))


def test_the_schema_is_printed(capsys):
    assert main(["schema"]) == 0
    assert "kenzet.plan" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("content", "says"),
    [(None, "No such file"), ("{", "not JSON"), ('{"format": "x"}', "format: This is not a quilt plan")],
)
def test_what_is_wrong_is_one_sentence(tmp_path, capsys, content, says):
    file = tmp_path / "plan.json"
    if content is not None:
        file.write_text(content)
    assert main(["plan", str(file)]) == 1
    said = capsys.readouterr().err
    assert says in said
    assert said.count("\n") == 1


def test_a_quilt_is_sewn_only_where_a_kenzet_answers(capsys):
    assert main(["sew", "Harbour Lights", "--at", "http://127.0.0.1:9", "--pace", "0"]) == 1
    assert "no Kenzet answers at http://127.0.0.1:9" in capsys.readouterr().err
    assert main(["sew", "Harbour Lights", "--stitch", "0"]) == 1
    assert "longer than 0.3 mm" in capsys.readouterr().err


def told_steps(capfd, *more):
    assert main(["steps", str(PRACTICE), *more]) == 0
    return [json.loads(line) for line in capfd.readouterr().out.splitlines()]


def test_the_steps_are_those_of_the_plan_and_tell_the_same_placements(capfd):
    steps = told_steps(capfd)
    assert main(["plan", str(PRACTICE)]) == 0
    plan = json.loads(capfd.readouterr().out)
    lines = {
        f"{key}.{drawing['layer']}.{drawing['word']}": drawing["lines"]
        for key, zone in plan["zones"].items()
        for drawing in zone.get("drawings", ())
    }
    sewn = [step for step in steps if step["event"] == "sewn"]
    assert [step["step"] for step in sewn] == list(range(1, len(sewn) + 1))
    for step in sewn:
        its = {**step["placement"], "on": step["placement"]["on"].replace("last", "line")}
        assert its == lines[step["drawing"]][step["line"]]["placement"]
        assert set((its["reference"]["line"] is not None and [its["reference"]["line"]]) or ()) <= set(
            step["sewn_there"]
        )
        assert step["text"] and step["points"]
    many = sum(len(some) for some in lines.values())
    assert len({(step["drawing"], step["line"]) for step in sewn}) == many == len(sewn)


def test_after_mishaps_no_line_is_laid_on_one_that_is_not_there(capfd):
    steps = told_steps(capfd, "--skip", "3", "--break", "6:40%", "--unpick", "10", "--skip", "24")
    kinds = [step["event"] for step in steps]
    assert (
        kinds.count("skipped") == 2
        and kinds.count("broke") == kinds.count("unpicked") == kinds.count("taken up") == 1
    )
    for step in steps:
        on = step.get("placement")
        if on and on["on"] in ("line", "last", "angle"):
            assert on["reference"]["line"] in step["sewn_there"]
    sewn = {(step["drawing"], step["line"]) for step in steps if step["event"] == "sewn"}
    assert len(sewn) == len({(s["drawing"], s["line"]) for s in told_steps(capfd) if s["event"] == "sewn"})


@pytest.mark.parametrize("share", ["x:40%", "0:40%", "3:0%", "3:150%"])
def test_a_break_that_cannot_be_is_refused(capsys, share):
    with pytest.raises(SystemExit):
        main(["steps", str(PRACTICE), "--break", share])
    assert "line" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("option", "number"), [("--skip", "0"), ("--skip", "-3"), ("--unpick", "999"), ("--break", "999:40%")]
)
def test_a_line_that_will_not_come_is_refused(capsys, option, number):
    assert main(["steps", str(PRACTICE), f"{option}={number}"]) == 1
    assert "there is no line" in capsys.readouterr().err


def test_a_quilt_in_which_nothing_is_planned_has_no_steps(tmp_path, capfd):
    plan = json.loads(PRACTICE.read_text())
    for zone in plan["zones"].values():
        zone.update(fill=None, apart=[], by_hand=[], over=None)
    (tmp_path / "open.json").write_text(json.dumps(plan))
    assert main(["steps", str(tmp_path / "open.json")]) == 0
    assert capfd.readouterr().out == ""


def test_a_photograph_is_measured_without_the_app(tmp_path, capfd):
    """Taken with corner cards, by the stand-in of a camera; what is measured is what was sewn."""
    out = tmp_path / "block.jpg"
    errors = "bias=1.0,offset=0.1,tilt=0.1,wobble=0.05"
    assert main(["photograph", str(PRACTICE), str(out), "--block", "1-1", "--cards", "--errors", errors]) == 0
    truth = json.loads((tmp_path / "block.truth.json").read_text())
    assert main(["measure", str(out), str(PRACTICE), "--block", "1-1"]) == 0
    told = json.loads(capfd.readouterr().out)
    true = {(one["drawing"], one["line"], one["side"]): one["offset"] for one in truth["sides"]}
    seen = [one for one in told["sides"] if one["seen"]]
    assert len(seen) > 10 and told["seen"] == len(seen)
    assert all(abs(one["offset"] - true[one["drawing"], one["line"], one["side"]]) < 0.4 for one in seen)
    clicked = " ".join(f"{x},{y}" for x, y in truth["clicked"])
    assert main(["measure", str(out), str(PRACTICE), "--block", "1-1", "--corners", clicked]) == 0
    assert json.loads(capfd.readouterr().out)["seen"] > 10


@pytest.mark.parametrize("out", ["quilt.jpg", "quilt.json", "./quilt.json"])
def test_a_photograph_leaves_the_plan_as_it_is(tmp_path, capfd, monkeypatch, out):
    """The truth has a name of its own, and a picture by the plan's name is refused."""
    monkeypatch.chdir(tmp_path)
    plan = tmp_path / "quilt.json"
    plan.write_bytes(PRACTICE.read_bytes())
    taken = main(["photograph", "quilt.json", out, "--block", "1-1"]) == 0
    assert plan.read_bytes() == PRACTICE.read_bytes()
    assert taken == (out == "quilt.jpg") == (tmp_path / "quilt.truth.json").exists()
    assert taken or "is the plan itself" in capfd.readouterr().err


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["--errors", "offset=wide"], "offset=0.6"),
        (["--errors", "speed=3"], "known are bias"),
        (["--errors", "offset=50"], "up to 20 mm"),
        (["--thread", "grey"], "six hexadecimal digits"),
        (["--bend", "3"], "bends by at most"),
        (["--contrast", "2"], "contrast"),
    ],
)
def test_what_a_camera_cannot_be_told(tmp_path, capfd, arguments, says):
    assert main(["photograph", str(PRACTICE), str(tmp_path / "x.jpg"), "--block", "1-1", *arguments]) == 1
    assert says in capfd.readouterr().err


@pytest.mark.parametrize("corners", ["1,2 3,4", "a,b c,d e,f g,h", "1,2 3,4 5,6 7,nan"])
def test_corners_that_are_not_four_points(tmp_path, capfd, corners):
    (tmp_path / "x.jpg").write_bytes(b"no picture")
    assert (
        main(["measure", str(tmp_path / "x.jpg"), str(PRACTICE), "--block", "1-1", "--corners", corners]) == 1
    )
    assert "four corners" in capfd.readouterr().err
