"""Files against the plan: each view of a panorama, each focus position, brackets as sets, settings, and sharpness by
the photographer's own limit.
"""

import math

import numpy as np
import pytest

from lucid_ridge.core.planning.verdicts import FAILS, HOLDS, TIGHT, UNSAID
from lucid_ridge.core.taken.cells import Cells, look_at
from lucid_ridge.core.taken.judged import CameraSettings, JudgedFrame, JudgedGroup, numbered
from lucid_ridge.core.taken.judging import findings
from lucid_ridge.core.taken.places import Place
from lucid_ridge.core.taken.setting_findings import exposure_change_stops
from lucid_ridge.core.taken.sharpness import FILE_SIGMA_PX, disc_px, limit_sigma_px

PLAN = CameraSettings(11.0, 1 / 60, 100.0, 35.0, 4.0)
ROCK = Place("Rock", 0.5, 0.5, 4.0, "subject")


def cells(sigma_px=1.0, long_px=2400, at=None):
    """Return cells with one blur everywhere; at: another one where the rock stands."""
    blurs = [sigma_px] * 96
    if at is not None:
        blurs[4 * 12 + 6] = at
    return Cells(12, 8, (0.2,) * 864, (0.0,) * 864, tuple(blurs), (math.nan,) * 96, long_px)


def frame(number, group=0, place=0, exposure=0, sigma_px=1.0, clipped=0.0, **more):
    said = {"planned": PLAN, "taken": PLAN, "error_ev": 0.0, "moved": False} | more
    error, moved, of = said.pop("error_ev"), said.pop("moved"), said.pop("cells", None)
    return JudgedFrame(
        number=number,
        group=group,
        place=place,
        exposure=exposure,
        cells=of or cells(sigma_px),
        clipped_share=clipped,
        clipped_channel="red",
        error_ev=error,
        moved=moved,
        file_name=f"F{number}.JPG",
        **said,
    )


WHOLE = JudgedGroup()


def said(frames, group=WHOLE, spots=(), missing=(), circle_share=None):
    return {
        item.text: item.severity
        for item in findings(spots, frames, {0: group, 1: JudgedGroup()}, missing, circle_share)
    }


def test_a_soft_first_and_a_blown_fifth_frame_of_a_panorama_are_found():
    views = [frame(n, place=n, sigma_px=6.0 if n == 1 else 1.0, clipped=0.06 if n == 5 else 0.0) for n in range(1, 7)]
    found = said(views, JudgedGroup(stitched=True), [ROCK])
    (soft,) = [text for text, mark in found.items() if mark == FAILS and "sharp" in text]
    assert soft.startswith("Frame 1: nothing is sharp")
    assert found["Frame 5: red clips in 6.0\u202f% of the picture."] == FAILS
    # Which of them shows the rock is not known, so the rock is neither sharp nor soft.
    assert not any("Rock" in text for text in found)
    assert UNSAID in found.values()


def test_a_whole_panorama_is_sharp_only_when_every_view_is():
    assert (
        said([frame(n, place=n) for n in range(1, 4)], JudgedGroup(stitched=True))[
            "All 3 views of the panorama are sharp."
        ]
        == HOLDS
    )
    moved = said([frame(n, place=n, moved=n == 2) for n in range(1, 4)], JudgedGroup(stitched=True))
    assert not any(text.startswith("All 3") for text in moved)
    assert moved["Frame 2 moved as a whole: the camera shook or was bumped."] == FAILS


def test_of_a_stacked_panorama_each_view_needs_one_sharp_frame():
    group = JudgedGroup(stitched=True, aims=((0, 1), (2, 3)))
    near_soft = [frame(1, place=0, sigma_px=6.0), frame(2, place=1), frame(3, place=2), frame(4, place=3, sigma_px=6.0)]
    assert said(near_soft, group)["All 2 views of the panorama are sharp."] == HOLDS
    found = said([frame(1, place=0, sigma_px=6.0), frame(2, place=1, sigma_px=7.0), *near_soft[2:]], group)
    assert any(text.startswith("Frames 1 and 2: nothing is sharp") for text in found)


def test_a_bracket_is_judged_as_a_set():
    bracket = [
        frame(1, exposure=0, clipped=0.001),
        frame(2, exposure=1, clipped=0.08),
        frame(3, exposure=2, clipped=0.3),
    ]
    assert not any("clips" in text for text in said(bracket))
    blown = [frame(n, exposure=n, clipped=0.05 * n) for n in (1, 2, 3)]
    assert said(blown)["Frame 1: red clips in 5.0\u202f% of the picture even in the frame that holds most."] == FAILS


def test_the_highlights_of_one_group_do_not_excuse_those_of_another():
    found = said([frame(1, group=0, clipped=0.0), frame(2, group=1, clipped=0.05)])
    assert found["Frame 2: red clips in 5.0\u202f% of the picture."] == FAILS


def test_what_the_plan_gives_up_may_clip():
    assert not any("clips" in text for text in said([frame(1, clipped=0.10, planned_clipped=0.10)]))
    found = said([frame(1, clipped=0.15, planned_clipped=0.10)])
    assert found["Frame 1: red clips in 15.0\u202f% of the picture (10.0\u202f% planned)."] == FAILS


def test_a_focus_position_with_nothing_sharp_is_a_gap_in_the_stack():
    stack = [frame(1, place=0, cells=cells(5.0, at=1.0)), frame(2, place=1, sigma_px=5.0), frame(3, place=2)]
    found = said(stack, JudgedGroup(stacked=True), [ROCK])
    assert any(text.startswith("Frame 2") and "gap" in text and mark == TIGHT for text, mark in found.items())
    assert any(text.startswith("Rock: sharp") for text in found)


def test_of_a_frame_taken_again_and_again_the_best_counts():
    twice = [frame(1, moved=True), frame(2)]
    assert not any("moved" in text for text in said(twice, JudgedGroup(best=True)))
    assert any("moved" in text for text in said(twice))
    assert any("moved" in text for text in said([frame(1, moved=True), frame(2, moved=True)], JudgedGroup(best=True)))


@pytest.mark.parametrize(
    ("taken", "text", "mark"),
    [
        (
            CameraSettings(11, 1 / 60, 800, 35, 4.0),
            "Frames 1 to 3: ISO 800 instead of ISO 100, 3.0 stops more exposure.",
            FAILS,
        ),
        (
            CameraSettings(8, 1 / 60, 100, 35, 4.0),
            "Frames 1 to 3: f/8 instead of f/11, 0.9 stops more exposure.",
            TIGHT,
        ),
        (CameraSettings(11, 1 / 60, 100, 24, 4.0), "Frames 1 to 3: 24 mm instead of 35 mm.", FAILS),
        (
            CameraSettings(8, 1 / 125, 100, 35, 4.0),
            "Frames 1 to 3: f/8 instead of f/11, 1/125 instead of 1/60, the exposure about the same.",
            TIGHT,
        ),
        (CameraSettings(11, 1 / 60, 100, 35, 1.2), "Frames 1 to 3: focused at 1.20 m instead of 4.00 m.", TIGHT),
    ],
)
def test_other_settings_are_found(taken, text, mark):
    found = said([frame(n, taken=taken) for n in (1, 2, 3)])
    assert found[text] == mark
    assert "The settings are as planned." not in found


def test_one_open_frame_of_six_is_found():
    found = said(
        [frame(n, place=n, taken=CameraSettings(5.6, 1 / 60, 100, 35) if n == 4 else PLAN) for n in range(1, 7)]
    )
    # f/5.6 for f/11 is two stops on the marked scale (1.95 by the numbers).
    assert found["Frame 4: f/5.6 instead of f/11, 1.9 stops more exposure."] == FAILS


def test_round_figures_of_cameras_and_unsaid_settings_are_as_planned():
    found = said([frame(1, taken=CameraSettings(11, 1 / 64, 100, 35.3, 4.3)), frame(2, taken=CameraSettings())])
    assert found["The settings are as planned."] == HOLDS
    assert exposure_change_stops(PLAN, CameraSettings(11.0, 1 / 60, None)) is None
    # One stop each: twice the time, half the area, twice the ISO.
    assert exposure_change_stops(PLAN, CameraSettings(11 * math.sqrt(2), 1 / 30, 200)) == pytest.approx(1.0)


def test_one_frame_in_other_light_is_found():
    found = said([frame(n, place=n, error_ev=-1.2 if n == 5 else 0.0) for n in range(1, 7)])
    assert found["Frame 5 had 1.2 stops less light than the others."] == FAILS
    assert found["The light was as planned, within a tenth of a stop."] == HOLDS


def test_frames_are_named_as_one_says_them():
    assert [numbered(item) for item in ([3], [1, 2], [1, 2, 3], [1, 2, 3, 5], [2, 5, 6])] == [
        "Frame 3", "Frames 1 and 2", "Frames 1 to 3", "Frames 1 to 3 and 5", "Frames 2, 5 and 6",
    ]  # fmt: skip


def test_the_limit_is_the_photographers_own():
    # 30 µm on a sensor 36 mm long and 8,256 points: 6.9 points across.
    circle = 0.030 / 36
    assert circle * 8256 == pytest.approx(6.88, abs=0.01)
    limit = limit_sigma_px(circle, 8256)
    assert disc_px(limit) == pytest.approx(circle * 8256)
    # A disc's variance along an axis is a sixteenth of its diameter squared (integral of x² over a disc).
    x = np.linspace(-1, 1, 2001)
    assert (x**2 * np.sqrt(1 - x**2)).sum() / np.sqrt(1 - x**2).sum() == pytest.approx(1 / 4, rel=1e-3)
    assert limit == pytest.approx(math.hypot(FILE_SIGMA_PX, 6.88 / 4), rel=1e-3)
    assert disc_px(0.5) == 0.0
    frames = [frame(1, cells=cells(limit * 1.05, 8256))]
    assert any(text.startswith("Rock: soft") for text in said(frames, spots=[ROCK], circle_share=circle))
    # The same file is sharp enough for who prints small.
    assert "Rock: sharp." in said(frames, spots=[ROCK], circle_share=circle * 2)


class Stored:
    """A picture as fine as its file."""

    def __init__(self, grey):
        self.grey, self.high, self.wide = grey, *grey.shape

    def patch(self, x, y, size_px):
        half = size_px // 2
        row, column = (
            max(half, min(side - half, round(share * side))) for share, side in ((y, self.high), (x, self.wide))
        )
        return self.grey[row - half : row + half, column - half : column + half]


@pytest.mark.parametrize("sigma_px", [0.8, 1.6, 2.4, 8.0])
def test_blur_is_measured_in_points_of_the_file(sigma_px):
    scipy = pytest.importorskip("scipy.ndimage")
    grey = scipy.gaussian_filter(np.random.default_rng(5).random((1600, 2400)), sigma_px)
    grey = 0.5 + 0.2 * (grey - grey.mean()) / grey.std()
    coarse = grey.reshape(400, 4, 600, 4).mean(axis=(1, 3))
    seen = look_at(np.repeat(coarse[..., None], 3, axis=2), Stored(grey))
    assert seen.cells.long_px == 2400
    assert np.nanmedian(seen.cells.sigma_px) == pytest.approx(sigma_px, rel=0.25)


def test_frames_whose_words_agree_share_a_finding():
    # 1/125 and a time 0.06 stops longer are written alike, and both expose within a third of a stop of the plan.
    taken = [CameraSettings(8.0, seconds, 100.0, 35.0, 4.0) for seconds in (1 / 128, 2**0.06 / 128)]
    (text,) = [text for text in said([frame(n, taken=taken[n - 1]) for n in (1, 2)]) if "instead" in text]
    assert text.startswith("Frames 1 and 2: f/8 instead of f/11")
    assert text.endswith("the exposure about the same.")
    # A share that rounds to nothing was planned in one of two frames: they read differently.
    blown = [frame(1, clipped=0.06, planned_clipped=0.0002), frame(2, place=1, clipped=0.06)]
    assert len([text for text in said(blown) if "clips" in text]) == 2
