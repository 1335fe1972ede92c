import numpy as np
import pytest

from kenzet.core.errors import BadValue
from kenzet.core.inspect.measure import measured
from tests.photographed import LAID, block_at, errors_of, photographed


@pytest.fixture(scope="module")
def star():
    photo, truth = photographed(block_at(0, "1-1", False), seed=21, bend=-0.02, missing=4)
    return photo, truth, measured(photo, np.array(truth["clicked"]), LAID[0], "1-1")


def test_contrasting_thread_is_measured_within_a_third_of_a_mm(star):
    _, truth, found = star
    errors, phantoms = errors_of(found.findings, truth)
    assert len(errors) > 110
    assert np.quantile(errors, 0.95) < 0.3 and np.mean(np.array(errors) > 1) < 0.01
    assert phantoms <= 1


def test_the_bend_of_the_lens_comes_out_of_the_seams(star):
    assert star[2].view.bend == pytest.approx(-0.02, abs=0.006)


def test_clicks_that_are_a_mm_out_are_set_right_by_the_seams():
    photo, truth = photographed(block_at(0, "1-1", False), seed=22, clicks=1.0)
    found = measured(photo, np.array(truth["clicked"]), LAID[0], "1-1")
    corners = found.view.to_photo(np.array([[0, 304.8], [304.8, 304.8], [304.8, 0], [0, 0]]))
    scale = np.hypot(*(corners[1] - corners[0])) / 304.8
    out = np.abs(corners - np.array(truth["corners"])) / scale
    assert out.max() < 0.5 < (np.abs(np.array(truth["clicked"]) - np.array(truth["corners"])) / scale).max()


def test_matching_thread_on_a_busy_print_is_unseen_rather_than_guessed():
    photo, truth = photographed(block_at(0, "1-1", True), seed=23, contrast=0.05)
    found = measured(photo, np.array(truth["clicked"]), LAID[0], "1-1")
    errors, _ = errors_of(found.findings, truth)
    assert len(errors) < len(found.findings) / 4
    assert sum(error > 1 for error in errors) <= 1
    assert all(one.truth == "unseen" for one in found.report.judged if one.finding.unseen)


def test_a_drift_comes_out_as_a_drift():
    photo, truth = photographed(block_at(0, "1-1", False), seed=24, offset=0.1, tilt=0.1, drift=0.1)
    found = measured(photo, np.array(truth["clicked"]), LAID[0], "1-1")
    sets = [one for one in found.report.sets if one.zone == "star-background"]
    assert len(sets) == 2
    for one in sets:
        assert one.per_line == pytest.approx(0.1, abs=0.02)
        assert one.drift == pytest.approx(0.1 * 20, abs=0.5)
        assert one.spacing == pytest.approx(one.planned + 0.1, abs=0.03)


@pytest.mark.parametrize(("quilt", "place"), [(1, "2-1"), (2, "1-1")])
def test_another_block_is_refused(star, quilt, place):
    """Of one fabric without a seam, it may be any cloth on which nothing is seen."""
    photo, truth, _ = star
    with pytest.raises(
        BadValue, match="does not show this block" if quilt == 1 else r"Too few|does not show"
    ):
        measured(photo, np.array(truth["clicked"]), LAID[quilt], place)


@pytest.mark.parametrize("light", [0.6, 1.4])
def test_a_right_picture_in_uneven_light_is_measured(light):
    """One side of the block is up to five times as light as the other, and the thread nearly matches."""
    photo, truth = photographed(block_at(1, "1-2"), seed=3000, light=light, contrast=0.05)
    found = measured(photo, np.array(truth["clicked"]), LAID[1], "1-2")
    errors, phantoms = errors_of(found.findings, truth)
    assert errors and np.median(errors) < 0.3 and phantoms == 0


def test_a_picture_that_is_turned_says_so():
    photo, truth = photographed(block_at(2, "1-1", False), seed=25)
    clicked = np.array(truth["clicked"])
    with pytest.raises(BadValue, match="turned by a quarter"):
        measured(photo, np.roll(clicked, 1, axis=0), LAID[2], "1-1")


def test_a_picture_without_stitches_is_refused(star):
    photo, truth, _ = star
    grey = np.full_like(photo, 150)
    with pytest.raises(BadValue, match=r"Too few stitches|does not show"):
        measured(grey, np.array(truth["clicked"]), LAID[0], "1-1")


@pytest.mark.parametrize(
    ("corners", "says"),
    [
        ([[0, 0], [100, 100], [100, 0], [0, 100]], "order"),
        ([[0, 0], [90, 0], [90, 90], [0, 90]], "too small"),
    ],
)
def test_corners_that_cannot_be(star, corners, says):
    with pytest.raises(BadValue, match=says):
        measured(star[0], np.array(corners, float), LAID[0], "1-1")


def test_where_nothing_is_planned_nothing_is_measured(star):
    with pytest.raises(BadValue, match="Nothing is planned"):
        measured(star[0], np.array(star[1]["clicked"]), LAID[1], "1-1")
