"""Sentences about the light of the shot's time, and about light the photographer brings."""

from __future__ import annotations

from ...labels import label_of
from ...units.lengths import compass_point, format_distance, format_height
from ...units.markings import format_shutter, spoken_shutter
from ...units.spelling import LocalTime, percent
from ..verdicts import StepName
from ..wording import Catalogue, plural, stops

sentence = Catalogue("light", StepName.LIGHT)
flash_sentence = Catalogue("flash", StepName.EXPOSURE)

_NO_SUN = {
    "always_above": "The sun stays above the horizon all day: there is no sunset.",
    "always_below": "The sun stays below the horizon all day: there is no sunrise.",
}


SOLAR_FILTER = (
    "Never look at it without eclipse glasses, nor point a camera or a long lens at it without a solar filter on the "
    "front: a neutral density filter is not a solar filter."
)


def span(kind: str, start: LocalTime | None, end: LocalTime | None) -> str:
    """Return how long a kind of light lasts; start or end is None where it goes on for days."""
    kind = label_of(kind)
    if start is None and end is None:
        return f"{kind} lasts all day and does not end"
    if end is None:
        return f"{kind} lasts from {start} and does not end that day"
    return f"{kind} lasts until {end}" if start is None else f"{kind} lasts from {start} to {end}"


@sentence
def no_place() -> str:
    return "Light needs a place."


@sentence
def no_date() -> str:
    return "Choose a date to see the light of that day."


@sentence
def no_time() -> str:
    return "Choose the time of the shot on the fall of light."


@sentence
def time_outside_date() -> str:
    return "The time of the shot lies outside its date: choose it again."


@sentence
def no_sunrise_or_sunset(*, cause: str) -> str:
    return _NO_SUN[cause]


@sentence
def sun(
    *,
    at: LocalTime,
    altitude_deg: float,
    azimuth_deg: float,
    direction: str | None,
    from_view_deg: float | None,
    kind: str,
    start: LocalTime | None,
    end: LocalTime | None,
) -> str:
    from_view = (
        f", {direction} light at {from_view_deg:.0f}° from the view" if direction and from_view_deg is not None else ""
    )
    where = (
        f"{abs(altitude_deg):.1f}° {'above' if altitude_deg >= 0 else 'below'} the horizon in the "
        f"{compass_point(azimuth_deg)}"
    )
    return f"At {at} the sun is {where}{from_view}; {span(kind, start, end)}."


@sentence
def sun_eclipsed(*, at: LocalTime, covered_share: float) -> str:
    if covered_share < 0.005:
        return f"You want an eclipse of the sun. {SOLAR_FILTER}"
    return f"At {at} the moon covers {percent(covered_share)} of the sun. {SOLAR_FILTER}"


@sentence
def moon_eclipsed(*, at: LocalTime, magnitude: float, lost_stops: float) -> str:
    deep = "all of it" if magnitude >= 1 else f"{percent(magnitude)} of its diameter"
    return (
        f"At {at} the moon stands in the Earth's shadow with {deep}: its light is about {stops(lost_stops)} weaker, "
        "give or take three in totality. Meter as it happens."
    )


@sentence
def cloud(*, oktas: float, at: LocalTime, ev100: float, ev100_low: float, ev100_high: float) -> str:
    spread = f" ({ev100_low:.1f} to {ev100_high:.1f} with this cloud)" if ev100_high - ev100_low >= 0.05 else ""
    sky = (
        "overcast"
        if round(oktas) == 8
        else "clear"
        if round(oktas) == 0
        else "partly cloudy"
        if oktas < 5.5
        else "mostly cloudy"
    )
    return f"The forecast for {at} is {sky} ({oktas:.0f}/8): EV {ev100:.1f}{spread}."


@sentence
def by_the_log(*, difference_stops: float, sessions: int) -> str:
    way = "brighter" if difference_stops > 0 else "darker"
    return (
        f"Here the light was {stops(abs(difference_stops))} {way} than predicted (from "
        f"{plural(sessions, 'session')}); the prediction follows that."
    )


@sentence
def metered(*, difference_stops: float) -> str:
    way = "darker" if difference_stops < 0 else "brighter"
    return f"Metered, {stops(abs(difference_stops))} {way} than a clear sky; the plan follows the reading."


@sentence
def changing(*, stops_per_min: float) -> str:
    way = "falls" if stops_per_min < 0 else "rises"
    return f"The light {way} by {stops(abs(stops_per_min), 2)} a minute, a stop in {1 / abs(stops_per_min):.0f} min."


@sentence
def sun_behind_land(*, shows_at: LocalTime | None) -> str:
    when = f"The sun comes out at {shows_at}." if shows_at else "The sun does not come out again that day."
    return f"The land hides the sun from this viewpoint, which lies in shade. {when}"


@sentence
def sun_leaves(*, at: LocalTime, before_sunset_min: float) -> str:
    return f"The sun leaves this place at {at}, {before_sunset_min:.0f} min before sunset."


@sentence
def subject_in_other_light(*, subject: str, lit: bool) -> str:
    return (
        f"The sun is on {subject} while the viewpoint lies in shade."
        if lit
        else f"The land keeps the sun off {subject}."
    )


@sentence
def tide(
    *,
    place: str,
    source: str,
    at: LocalTime,
    height_m: float,
    element: str | None,
    rate_m_per_h: float,
    wanted_low_m: float | None,
    wanted_high_m: float | None,
) -> str:
    way = "rising" if rate_m_per_h > 0.05 else "falling" if rate_m_per_h < -0.05 else "slack"
    water = f"{format_height(height_m)} of water at {element}" if element else format_height(height_m)
    text = f"The tide of {place} ({source}) gives {water} at {at}, {way}."
    low, high = (None if depth is None else format_height(depth) for depth in (wanted_low_m, wanted_high_m))
    if low is None and high is None:
        return text
    return f"{text} You want {f'{low} to {high}' if low and high else f'at least {low}' if low else f'at most {high}'}."


@sentence
def tide_not_known() -> str:
    return "The height of the tide at that time is not known: the place needs a tide that covers it."


@sentence
def needs_bearing(*, wanted: str) -> str:
    return f"{label_of(wanted).capitalize()} is directional: enter where the camera looks."


@sentence
def wanted_light(*, wanted: str, start: LocalTime | None, end: LocalTime | None) -> str:
    return f"You have the light you want: {span(wanted, start, end)}."


@sentence
def not_in_window(
    *, wanted: str, at: LocalTime, over: bool | None, start: LocalTime | None, end: LocalTime | None
) -> str:
    if over is None:
        return f"You want {label_of(wanted)}; at {at} there is none, nor within a day of it."
    when = span("it", start, end).removeprefix("it ")
    return f"You want {label_of(wanted)}; at {at} {'it is over' if over else 'it has not begun'}: the nearest {when}."


@flash_sentence
def faster_than_sync(*, body: str, shutter_s: float, sync_s: float) -> str:
    return (
        f"At {spoken_shutter(shutter_s)} the flash reaches only a part of the frame: the {body} synchronises from "
        f"{spoken_shutter(sync_s)} on."
    )


@flash_sentence
def flash_sync_not_known(*, body: str, shutter_s: float) -> str:
    return (
        f"Whether the {body} synchronises a flash at {spoken_shutter(shutter_s)} is not known: most reach 1/160 to "
        "1/250 s. Enter it with the body."
    )


@flash_sentence
def no_flash_distance(*, flash: str) -> str:
    return f"Enter how far {flash} is from the subject: its power follows."


@flash_sentence
def ambient_too_bright(*, over_stops: float, shutter_s: float) -> str:
    return (
        f"Ambient light alone is {stops(over_stops)} too bright at {format_shutter(shutter_s)}: stop down, "
        "lower the ISO or shorten the shutter."
    )


@flash_sentence
def too_weak(*, flash: str, distance_m: float, times_full_power: float) -> str:
    return (
        f"{flash} at {format_distance(distance_m)} would need {times_full_power:.1f} times its full power: "
        "bring it nearer, open up or raise the ISO."
    )


@flash_sentence
def power(
    *,
    flash: str,
    distance_m: float,
    setting: str,
    spare_stops: float,
    recycle_s: float,
    stack_limit: float | None,
    by_hand: bool,
    too_strong: bool,
) -> str:
    rests = f", {stops(spare_stops)} to spare" if spare_stops >= 0.05 else ""
    ready = f"after {recycle_s:.1f} s" if recycle_s >= 0.05 else "at once"
    text = f"{flash} at {format_distance(distance_m)}: {setting}{rests}, ready again {ready}."
    if stack_limit is not None:
        text += f" For a stack {'by hand ' if by_hand else ''}it keeps up at 1/{round(1 / stack_limit)} power or less."
    if too_strong:
        text += " It cannot give so little: move it away, diffuse it or stop down."
    return text


@flash_sentence
def ambient(*, below_stops: float, shutter_s: float, alone: bool) -> str:
    under = f"Ambient light is {stops(below_stops)} below the flash at {format_shutter(shutter_s)}"
    if alone:
        return f"{under}: only the flash shows, and its burst stops motion."
    if below_stops >= 0.3:
        return f"{under}: both show, and what moves is doubled."
    return f"At {format_shutter(shutter_s)} ambient light is enough by itself; the flash only fills."


@flash_sentence
def led(*, lamp: str, distance_m: float, ev100: float, over_ambient_stops: float, adds_stops: float) -> str:
    way = "over" if over_ambient_stops > 0 else "under"
    return (
        f"{lamp} at {format_distance(distance_m)} gives EV {ev100:.1f}, {stops(abs(over_ambient_stops))} "
        f"{way} ambient light: "
        f"together {stops(adds_stops)} more; meter with it on."
    )
