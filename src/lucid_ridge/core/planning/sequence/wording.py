"""Sentences about the sequence: fitting it into the light, groups of frames, battery and card."""

from __future__ import annotations

from ...labels import label_of
from ...units.lengths import format_distance, format_duration
from ...units.markings import format_aperture, spoken_shutter
from ...units.spelling import LocalTime, percent
from ..verdicts import StepName
from ..wording import Catalogue, plural, stops

sentence = Catalogue("sequence", StepName.SEQUENCE)
groups = Catalogue("groups", StepName.SEQUENCE)
supplies = Catalogue("supplies", StepName.SEQUENCE)


@sentence
def step_missing(*, lacking: str) -> str:
    return f"The frames follow once the {lacking} is known."


@sentence
def too_many_frames(*, most: int) -> str:
    return f"The groups add up to more than {most} frames: take fewer."


@sentence
def every_group_muted() -> str:
    return "Every group is muted: there is nothing to take."


@sentence
def longer_than_a_week() -> str:
    return "The frames would take longer than a week: open the aperture, raise the ISO or take filters off."


@sentence
def no_time() -> str:
    return "Choose the time of the shot to compare the sequence with the light that is left."


@sentence
def dark_frames(*, added_s: float, from_s: float) -> str:
    return (
        f"The body's dark frames add {format_duration(added_s)}: one as long as each exposure of {from_s:g} s and more."
    )


@sentence
def faster_than_body(*, body: str, frames_per_s: float, most_per_s: float) -> str:
    return f"The {body} takes {most_per_s:g} frames a second at most, not {frames_per_s:g}."


@sentence
def buffer_full(
    *,
    group: str,
    frames: int,
    buffer_frames: int,
    frames_per_s: float,
    then_per_s: float,
    lasts_s: float,
    as_planned_s: float,
) -> str:
    return (
        f"{group.capitalize()}: the buffer holds {buffer_frames} of {frames} frames. After it is full "
        f"{then_per_s:.2g} a second follow instead of {frames_per_s:g}: {format_duration(lasts_s)} instead of "
        f"{format_duration(as_planned_s)}."
    )


@sentence
def trails(*, frames: int, shutter_s: float, lasts_s: float, arc_deg: float, frame_share: float) -> str:
    return (
        f"{frames} × {spoken_shutter(shutter_s)} draw star trails of {arc_deg:.1f}° around the pole in "
        f"{format_duration(lasts_s)}; the fastest stars cross {percent(frame_share)} of the frame's width."
    )


@sentence
def no_sky_in_frame() -> str:
    return "The frame sees no sky over the land: there are no trails to draw."


@sentence
def trails_dashed(*, gap_s: float, gap_pixels: float, dark_frames: bool) -> str:
    dark = (
        " The body's dark frames make it: switch them off and take a few with the cap on at the end."
        if dark_frames
        else " Take the frames by an interval timer with a gap of a second."
    )
    return (
        f"Between frames {format_duration(gap_s)} pass, {gap_pixels:.0f} pixels of a trail: the trails come out "
        f"dashed.{dark}"
    )


@sentence
def trails_joined(*, gap_s: float, gap_pixels: float) -> str:
    return f"Gaps of {gap_s:g} s are {gap_pixels:.1f} pixels of a trail: hardly seen."


@sentence
def dew(*, temperature_c: float, dew_point_c: float, minutes: int) -> str:
    return (
        f"{temperature_c:.0f} °C with the dew point at {dew_point_c:.0f} °C: over {minutes} min dew is likely on the "
        "front element. Take a lens heater or a hand warmer, and look at it between frames."
    )


@sentence
def own_filter_change(*, own_s: float, entered_s: float, changes: int) -> str:
    return (
        f"You take {own_s:.0f} s to change a filter (from {plural(changes, 'change')} in the log), not {entered_s:g} s."
    )


@sentence
def too_dark(*, first: int, last: int) -> str:
    which = f"frame {first}" if first == last else f"frames {first} to {last}"
    return (
        f"The light is gone before {which} can gather it: start earlier, open the aperture, raise the ISO "
        "or take a filter off."
    )


@sentence
def subject_moves_on(*, total_s: float, still_s: float) -> str:
    return (
        f"The sequence takes {format_duration(total_s)}, and the subject stays still for "
        f"{format_duration(still_s)}: take fewer frames, or come "
        "in the cool of the morning."
    )


@sentence
def subject_stays(*, still_s: float) -> str:
    return f"The subject stays still for {format_duration(still_s)}, long enough for the sequence."


@sentence
def light_does_not_end(*, total_s: float, light: str) -> str:
    return f"The sequence takes {format_duration(total_s)}; {label_of(light)} does not end that day."


@sentence
def fit(*, total_s: float, available_s: float, light: str, ends_at: LocalTime, close: bool) -> str:
    total, ends = format_duration(total_s), f"{label_of(light)} ends at {ends_at}"
    if total_s > available_s:
        over = format_duration(total_s - available_s)
        return f"The sequence takes {total} and runs {over} past the light: {ends}. Start earlier or take fewer frames."
    spare = format_duration(available_s - total_s)
    return (
        f"The sequence takes {total}, only {spare} before {ends}."
        if close
        else f"The sequence takes {total} and leaves {spare} before {ends}."
    )


@sentence
def light_changes(*, change_stops: float, followed: bool, first_s: float, last_s: float, advise: bool) -> str:
    way = "falls" if change_stops < 0 else "rises"
    text = f"The light {way} by {stops(abs(change_stops))} from the first frame to the last"
    if followed:
        return (
            f"{text}: each is open as long as its own light needs, {spoken_shutter(first_s)} to "
            f"{spoken_shutter(last_s)}."
        )
    return (
        f"{text}: switch on “follow the changing light”, so that each is open as long as it needs."
        if advise
        else f"{text}."
    )


def _group(group: str, text: str) -> str:
    return f"{group[:1].upper()}{group[1:]}: {text}."


@groups
def none_of_the_picture() -> str:
    return "No group is of the picture: a dark frame or a test frame alone does not make one."


@groups
def complete() -> str:
    return "The groups cover everything that depth and exposure ask for."


@groups
def focus_missing(*, times_limit: float) -> str:
    return (
        f"With these groups, what must be sharp is up to {times_limit:.1f} times too soft: take the focus "
        "positions that are left out."
    )


@groups
def exposure_missing(*, shutter_s: float, part: str) -> str:
    time = spoken_shutter(shutter_s)
    if part == "whole":
        return f"No group is as bright as the planned exposure, {time}."
    return f"No group holds the {part} that the exposure of {time} was planned for."


@groups
def look_missing(*, element: str, wanted: str) -> str:
    return f"No group shows {element} as you want it: {wanted}."


@groups
def freeze_missing(*, element: str, freezes_s: float) -> str:
    return f"No group freezes {element}, which must be sharp: {spoken_shutter(freezes_s)} at most."


@groups
def rows_missing(*, rows: tuple[int, ...]) -> str:
    return f"No group takes row{'s' if len(rows) > 1 else ''} {', '.join(str(row) for row in rows)} of the panorama."


@groups
def too_late(*, group: str, late_s: float) -> str:
    return _group(group, f"begins {format_duration(late_s)} too late, the frames before it take that long")


@groups
def in_time(*, group: str) -> str:
    return _group(group, "begins in time")


@groups
def no_shot_time(*, group: str) -> str:
    return _group(group, "choose the time of the shot, then the group can wait for its own")


@groups
def moment_does_not_come(*, group: str, moment: str) -> str:
    return _group(group, f"{moment} does not come on that day; the group follows the one before it")


@groups
def no_start(*, group: str) -> str:
    return _group(group, "enter what it waits for")


@groups
def no_such_row(*, group: str, row: int | None) -> str:
    return _group(group, f"the panorama has no row {row}")


@groups
def no_such_position(*, group: str, positions: int, number: int | None) -> str:
    verb = "is" if positions == 1 else "are"
    return _group(group, f"there {verb} {plural(positions, 'focus position')}, not {number}")


@groups
def no_focus_element(*, group: str) -> str:
    return _group(group, "choose what it is focused on")


@groups
def no_focus_distance(*, group: str) -> str:
    return _group(group, "enter the distance it is focused at")


@groups
def within_focal_length(*, group: str, distance_m: float) -> str:
    return _group(group, f"{format_distance(distance_m)} lies within the focal length")


@groups
def cannot_focus(*, group: str, lens: str, object_m: float, focus_m: float) -> str:
    where = f"{format_distance(object_m)}, which is {format_distance(focus_m)} from the sensor"
    return _group(group, f"the {lens} cannot be focused on {where}")


@groups
def no_time_of_its_own(*, group: str) -> str:
    return _group(group, "enter the exposure time of its frames")


@groups
def not_judged_with_flash(*, group: str) -> str:
    return _group(group, "its own exposure is computed for ambient light, not for the flash: meter a test frame")


@groups
def off_brightness(
    *, group: str, shutter_s: float, iso: float, over_stops: float, close_to_f_number: float | None
) -> str:
    way = "brighter" if over_stops > 0 else "darker"
    if over_stops > 0:
        close = f", close to {format_aperture(close_to_f_number)}" if close_to_f_number is not None else ""
        cure = f"take {stops(over_stops)} of neutral density{close}, or a shorter time"
    else:
        cure = "take a filter off, open the aperture or raise the ISO"
    return _group(
        group, f"{spoken_shutter(shutter_s)} at ISO {iso:g} is {stops(abs(over_stops))} {way} than the picture: {cure}"
    )


@groups
def no_such_time(*, group: str, shutter_s: float, body: str) -> str:
    return _group(group, f"{spoken_shutter(shutter_s)} cannot be taken with {body}")


@groups
def no_such_iso(*, group: str, iso: float, body: str, lowest: float, highest: float) -> str:
    return _group(group, f"ISO {iso:g} cannot be set on {body}: it has {lowest:g} to {highest:g}")


@supplies
def battery(*, share: float, batteries: int, left: float, log_readings: int | None, low: bool) -> str:
    cold = f", in the cold {percent(left)} of their capacity" if left < 0.95 else ""
    if log_readings is not None:
        cold = f", which have {percent(left)} of their capacity (from {plural(log_readings, 'reading')} in the log)"
    has = "battery" if batteries == 1 else f"{batteries} batteries"
    return f"The frames take {percent(share)} of the {has}{cold}{': take another one along' if low else ''}."


@supplies
def card(*, share: float) -> str:
    return f"The frames fill {percent(share)} of the card: take another one along."
