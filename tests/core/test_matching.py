"""Which file is which frame: gaps, extras, clocks set wrong, and what is asked rather than guessed."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from lucid_ridge.core.taken.frames import Expected, Shown
from lucid_ridge.core.taken.grouping import GroupKind, groups_of
from lucid_ridge.core.taken.matching import match

DAWN = datetime(2026, 6, 1, 3, 40, tzinfo=UTC)


def planned(times_s, shutters_s, within_s=20.0, **more):
    return [
        Expected(
            f"0.{at}.0.0", DAWN + timedelta(seconds=time), within_s, 11.0, shutter, 100.0, 24.0, ticked=True, **more
        )
        for at, (time, shutter) in enumerate(zip(times_s, shutters_s, strict=True))
    ]


def taken(frames, offset_s=0.0, rng=None, leave=()):
    """Return files of frames whose camera's clock is off, as cameras write them."""
    stray = (lambda: rng.normal(0, 4)) if rng is not None else (lambda: 0.0)
    return [
        Shown(
            frame.key,
            (frame.at_utc + timedelta(seconds=stray() - offset_s)).replace(tzinfo=None),
            frame.f_number,
            frame.shutter_s,
            frame.iso,
            frame.focal_mm,
        )
        for at, frame in enumerate(frames)
        if at not in leave
    ]


def named(found, files, frames):
    return {files[item.file].name: frames[item.frame].key for item in found.matches}


@pytest.mark.parametrize("hours", [0, 1, -5.5, 13, -13])
def test_clocks_that_are_hours_off_are_found(hours):
    frames = planned([0, 40, 95, 170, 400, 455, 700], [1 / 60, 1 / 15, 1 / 4, 1 / 60, 1 / 60, 2, 30])
    files = taken(frames, hours * 3600 + 17, np.random.default_rng(3))
    found = match(files, frames)
    assert found.offset_s == pytest.approx(hours * 3600 + 17, abs=8)
    assert found.sure_offset
    assert named(found, files, frames) == {frame.key: frame.key for frame in frames}
    assert all(item.sure for item in found.matches)


def test_gaps_and_extras_leave_the_others_where_they_are():
    frames = planned([0, 60, 120, 180, 240], [1 / 8] * 5)
    files = taken(frames, leave=(2,))
    files.insert(1, Shown("extra", files[0].clock + timedelta(seconds=30), 11.0, 1 / 500, 100.0, 24.0))
    found = match(files, frames, offset_s=0.0)
    assert "extra" not in named(found, files, frames)
    assert named(found, files, frames) == {f"0.{at}.0.0": f"0.{at}.0.0" for at in (0, 1, 3, 4)}
    assert found.missing == (2,)
    assert found.extra == (1,)


def test_what_could_be_either_is_asked():
    # Two frames of the same settings a second apart, one file between them.
    frames = planned([0, 20], [1 / 8, 1 / 8])
    files = [Shown("one", (DAWN + timedelta(seconds=10)).replace(tzinfo=None), 11.0, 1 / 8, 100.0, 24.0)]
    found = match(files, frames, offset_s=0.0)
    assert len(found.matches) == 1
    assert not found.matches[0].sure


def test_files_that_say_nothing_are_matched_by_their_times():
    frames = planned([0, 100, 200], [1 / 8, 1 / 2, 2])
    files = [Shown(frame.key, frame.at_utc.replace(tzinfo=None)) for frame in frames]
    assert named(match(files, frames, offset_s=0.0), files, frames) == {frame.key: frame.key for frame in frames}


def test_other_settings_are_never_forced_upon_a_frame():
    frames = planned([0], [1 / 8])
    files = [Shown("odd", DAWN.replace(tzinfo=None), 2.8, 1 / 4000, 6400.0, 200.0)]
    found = match(files, frames, offset_s=0.0)
    assert found.matches == ()
    assert (found.extra, found.missing) == ((0,), (0,))


def test_nothing_to_match():
    assert match([], []).matches == ()
    assert match([], planned([0], [1])).missing == (0,)


def test_many_seasons_none_silently_wrong():
    rng = np.random.default_rng(11)
    right = wrong = asked = total = 0
    for _ in range(40):
        count = int(rng.integers(4, 24))
        times = np.cumsum(rng.uniform(12, 90, count))
        shutters = [float(rng.choice([1 / 60, 1 / 15, 1 / 4, 2.0])) for _ in range(count)]
        frames = planned(times, shutters, within_s=6.0)
        gone = tuple(int(item) for item in np.flatnonzero(rng.random(count) < 0.08))
        offset = float(rng.uniform(-13, 13) * 3600)
        files = taken(frames, offset, rng, gone)
        found = match(files, frames)
        for item in found.matches:
            good = files[item.file].name == frames[item.frame].key
            right += good
            wrong += not good and item.sure
            asked += not good and not item.sure
        total += len(files)
    assert right / total >= 0.98
    assert wrong == 0


def file(seconds, shutter=1 / 60, **more):
    return Shown(
        str(seconds),
        datetime(2026, 6, 1, 5) + timedelta(seconds=seconds),
        **({"f_number": 8.0, "iso": 100.0, "focal_mm": 35.0} | more),
        shutter_s=shutter,
    )


def test_bursts_brackets_and_series_are_told_apart():
    burst = [file(at * 0.125, 1 / 250) for at in range(6)]
    bracket = [file(100 + at, shutter) for at, shutter in enumerate([1 / 250, 1 / 60, 1 / 15])]
    again = [file(104 + at, shutter) for at, shutter in enumerate([1 / 250, 1 / 60, 1 / 15])]
    stack = [file(300 + 8 * at) for at in range(4)]
    single = [file(900, 30.0)]
    found = groups_of([*burst, *bracket, *again, *stack, *single])
    assert [(group.kind, len(group.files)) for group in found] == [
        (GroupKind.BURST, 6),
        (GroupKind.BRACKET, 3),
        (GroupKind.BRACKET, 3),
        (GroupKind.SERIES, 4),
        (GroupKind.SINGLE, 1),
    ]
    assert groups_of([]) == ()


def test_exposures_minutes_apart_are_no_bracket():
    apart = [file(150 * at, shutter=shutter) for at, shutter in enumerate((64.0, 128.0, 32.0))]
    assert all(group.kind != GroupKind.BRACKET for group in groups_of(apart))
    # Long exposures with a dark frame after each still are one.
    dark = [file(0, shutter=15.0), file(33, shutter=30.0), file(96, shutter=60.0)]
    assert [group.kind for group in groups_of(dark)] == [GroupKind.BRACKET]
