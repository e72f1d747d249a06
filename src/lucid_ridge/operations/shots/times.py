"""Keeps date, time and window of a shot consistent when one of them is edited."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta

from ...core.errors import InputError
from ...core.facts.choices import ExposureChoices, LightChoices
from ...core.spans.instants import local_day, unix_seconds, zone_info
from .checks import refusal
from .edits import ShotEdit

_METER, _RANGE = ("metered_f_number", "metered_shutter_s", "metered_iso"), ("highlight_ev", "shadow_ev")


def timed(
    light: LightChoices, edit: ShotEdit, before: LightChoices, zone_before: str | None, zone: str | None
) -> LightChoices:
    """Return the light choices with date, time and window fitted to each other.

    A new date or place keeps the local time; a new time sets the date. A window ends after the shot's time, within a
    day; a new date or a later time clears an older end. Raises Refused at the value that is impossible.
    """
    light = _with_time(light, edit, before, zone_before, zone)
    if light.date_local is None:
        light = replace(light, time_utc=None)
    elif "date_local" in edit.light:
        try:
            local_day(light.date_local, zone or "UTC")
        except InputError as error:
            raise refusal("date_local", error.message) from error
    return _with_window(light, edit, before)


def _with_time(
    light: LightChoices, edit: ShotEdit, before: LightChoices, zone_before: str | None, zone: str | None
) -> LightChoices:
    if edit.clock_local is not None:
        if zone is None or light.date_local is None:
            raise refusal("clock_local", "A clock time needs a viewpoint and a date first.")
        return replace(light, time_utc=_at(light.date_local, edit.clock_local, zone))
    if "time_utc" in edit.light and light.time_utc is not None:
        if zone is None:
            raise refusal("time_utc", "A time needs a viewpoint first: its zone says what the clock shows.")
        try:
            unix_seconds(light.time_utc)
        except InputError as error:
            raise refusal("time_utc", error.message) from error
        return replace(light, date_local=light.time_utc.astimezone(zone_info(zone)).date())
    if before.time_utc is not None and light.time_utc is not None and light.date_local is not None and zone is not None:
        shown = before.time_utc.astimezone(zone_info(zone_before or zone)).time()
        if "date_local" in edit.light or zone != zone_before:
            return replace(light, time_utc=_at(light.date_local, shown, zone))
    return light


def stamped(exposure: ExposureChoices, edit: ShotEdit, before: LightChoices, light: LightChoices) -> ExposureChoices:
    """Return the exposure choices with the times of their readings: what the edit says, else the shot's time for what
    it enters; otherwise they stay as they were.

    Meter, and highlight, shadow and spots, have a time each; a time that is said for the meter counts for both.
    """
    as_it_was = exposure.metered_at_utc or before.time_utc or light.time_utc
    meter = light.time_utc if entered(edit, _METER) else as_it_was
    span = exposure.range_read_at_utc
    if span is None and meter != as_it_was:
        # Until now it was read with the meter; from here on it has a time of its own.
        span = as_it_was
    if entered(edit, _RANGE) or edit.spots is not None:
        span = light.time_utc
    if "metered_at_utc" in edit.exposure:
        meter, span = exposure.metered_at_utc, None
    if "range_read_at_utc" in edit.exposure:
        span = exposure.range_read_at_utc
    return replace(exposure, metered_at_utc=meter, range_read_at_utc=span)


def reads_light(edit: ShotEdit) -> bool:
    """Return whether an edit enters a reading, or says when it was taken: here, then."""
    return entered(edit, (*_METER, *_RANGE, "metered_at_utc")) or edit.spots is not None


def entered(edit: ShotEdit, names: tuple[str, ...]) -> bool:
    """Return whether an edit enters one of some values of exposure."""
    return any(name in edit.exposure for name in names)


def _with_window(light: LightChoices, edit: ShotEdit, before: LightChoices) -> LightChoices:
    end = light.window_end_utc
    if end is None:
        return light
    fits = light.time_utc is not None and timedelta(0) < end - light.time_utc <= timedelta(days=1)
    if "window_end_utc" in edit.light and not fits:
        raise refusal("window_end_utc", "A window ends after the time of the shot, within a day of it.")
    old = "window_end_utc" not in edit.light and before.time_utc is not None and "date_local" in edit.light
    return replace(light, window_end_utc=None) if old or not fits else light


def _at(day: date, clock: time, zone: str) -> datetime:
    """Return the instant of a local time: the first of two when clocks go back, one hour later when clocks go
    forward.
    """
    return datetime.combine(day, clock, tzinfo=zone_info(zone)).astimezone(UTC)
