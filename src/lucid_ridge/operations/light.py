"""The light of viewpoints and shots: windows with their promise, alignments, seasons, readings, calendars."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy.orm import Session

from ..core.exposure.ev import ev100
from ..core.facts.settings import DEFAULT_CAMERA_HEIGHT_M
from ..core.facts.shot import ShotFacts
from ..core.light.alignment import Hit, SkyBody, Wanted, behind_element, find_alignments
from ..core.light.day import LightDay
from ..core.light.kinds import kind_named
from ..core.light.season import in_season, intersect, lasting
from ..core.light.windows import LightWindow, RuledOut, find_windows, wanted_spans
from ..core.planning.arrival import plan_arrival
from ..core.planning.light import day_of_light, shot_scene
from ..core.planning.way import cut_off_spans
from ..core.spans.instants import local_day, zone_info
from ..core.spans.intervals import Interval
from ..core.weather.forecast import Forecast
from ..core.weather.promise import DEFAULT_WEIGHTS, HEAVIEST, Look, Promise, rate_window
from ..formats.calendar import CalendarEntry, write_calendar
from ..store.photographer import Photographer
from ..store.places import KeptForecast, Location, MeterReading
from ..store.shots import Shot
from . import rows
from .belongings import add_belonging
from .errors import Refused
from .facts import core_location, elements_of, ground_of, shot_facts
from .forecasts import state_of

SEASON_DAYS = 365
_LEAST_S = 180.0


@dataclass(frozen=True)
class RatedWindow:
    """A window of light, what the forecast promises for it, and when to leave for it."""

    window: LightWindow
    promise: Promise | None
    leave_home_utc: datetime | None


@dataclass(frozen=True)
class DayForShot:
    """What a day holds for a shot. cut_off: spans in which the tide cuts the place off."""

    facts: ShotFacts
    day: LightDay
    windows: tuple[RatedWindow, ...]
    ruled_out: tuple[RuledOut, ...]
    forecast: Forecast | None
    cut_off: tuple[Interval, ...]


@dataclass(frozen=True)
class SeasonDay:
    """A local date on which a shot works, and when; notes: what the season brings then."""

    date_local: date
    spans: tuple[Interval, ...]
    notes: tuple[str, ...]


def day_for_shot(session: Session, owner_id: int, shot_id: int, now_utc: datetime) -> DayForShot | None:
    """Return the windows of a shot's date; None while it has no place or date. Only the forecast kept already is looked at."""
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None or facts.light.date_local is None:
        return None
    day = day_of_light(facts.location, facts.light.date_local)
    scene = shot_scene(facts, day.start_utc, day.end_utc)
    assert scene is not None
    windows, ruled_out = find_windows(scene, facts.light.wanted_light)
    forecast = state_of(session.get(KeptForecast, shot.viewpoint.location_id)).forecast if shot.viewpoint else None
    weights = weights_of(session.get_one(Photographer, owner_id))
    rated = tuple(
        RatedWindow(window, _promise(facts, window, forecast, weights, now_utc), _leave(facts, window.span)) for window in windows
    )
    cut_off = [span for hazard in facts.hazards for span in cut_off_spans(facts, hazard, day.start_utc, day.end_utc)]
    return DayForShot(facts, day, rated, tuple(ruled_out), forecast, _joined(cut_off))


def weights_of(owner: Photographer) -> dict[str, float]:
    """Return the weights of the promise in force: the photographer's where changed, else the model's."""
    return {**DEFAULT_WEIGHTS, **owner.promise_weights}


def set_weights(session: Session, owner_id: int, weights: Mapping[str, float]) -> Photographer:
    """Change weights of the promise; a weight as the model has it is not kept. Raises Refused for unknown factors."""
    owner = session.get_one(Photographer, owner_id)
    for name, weight in weights.items():
        if name not in DEFAULT_WEIGHTS:
            raise Refused("promise_weights", f"There is no factor “{name}”; they are {', '.join(DEFAULT_WEIGHTS)}.")
        if not 0 <= weight <= HEAVIEST:
            raise Refused("promise_weights", f"The weight of “{name}” must lie from 0 to {HEAVIEST:g}, not {weight:g}.")
    merged = {**owner.promise_weights, **weights}
    owner.promise_weights = {name: weight for name, weight in merged.items() if weight != DEFAULT_WEIGHTS[name]}
    session.flush()
    return owner


@dataclass(frozen=True)
class SkySearch:
    """Around bearing_deg ± tolerance_deg, or behind an element. Altitudes apparent, of the centre. None: as Wanted has it."""

    body: SkyBody = SkyBody.SUN
    bearing_deg: float | None = None
    tolerance_deg: float | None = None
    element_id: int | None = None
    low_deg: float | None = None
    high_deg: float | None = None
    sun_low_deg: float | None = None
    sun_high_deg: float | None = None
    fraction_low: float | None = None
    fraction_high: float | None = None


@dataclass(frozen=True)
class MeterSaid:
    """What a meter said: EV at ISO 100 itself, or aperture, shutter and ISO."""

    ev100: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    note: str = ""


def alignments(
    session: Session, owner_id: int, viewpoint_id: int, start_local: date, days: int, search: SkySearch, shot_id: int | None = None
) -> list[Hit]:
    """Return the hits of a search from a local date on, for a bearing or (element_id) behind an element of the viewpoint.

    shot_id: whose camera sees it; without one it is seen from the usual height over the viewpoint's mark. Raises InputError or Refused at the field for what cannot be searched.
    """
    point = rows.viewpoint(session, owner_id, viewpoint_id)
    here = core_location(point.location, point)
    start, _ = local_day(start_local, here.zone)
    shot = rows.owned(session, owner_id, Shot, shot_id) if shot_id is not None else None
    if shot is not None and shot.viewpoint_id != point.id:
        raise Refused("shot_id", "This shot is not taken from that viewpoint.")
    facts = shot_facts(session, shot) if shot is not None else ShotFacts(elements=elements_of(point), ground=ground_of(point))
    wanted = _wanted(facts, search)
    return find_alignments(
        here.latitude_deg, here.longitude_deg, here.elevation_m, start, start + timedelta(days=days), wanted, here.skyline
    )


def season(session: Session, owner_id: int, shot_id: int, start_local: date, search: SkySearch | None) -> list[SeasonDay]:
    """Return the days of the next twelve months on which a shot works: wanted light, water, and an alignment where one is searched.

    Raises Refused where the shot says nothing to look for.
    """
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None or shot.viewpoint is None:
        raise Refused("viewpoint_id", "A season needs a place: choose a viewpoint first.")
    start, _ = local_day(start_local, facts.location.zone)
    end = start + timedelta(days=SEASON_DAYS)
    scene = shot_scene(facts, start, end)
    assert scene is not None
    if facts.light.wanted_light is None and search is None:
        raise Refused("wanted_light", "Say which light the shot wants, or search for an alignment with it.")
    spans: list[Interval] | None = None
    if facts.light.wanted_light is not None:
        if kind_named(facts.light.wanted_light).needs_bearing and scene.bearing_deg is None:
            raise Refused("bearing_deg", "This light has a side: say where the camera looks first.")
        spans = wanted_spans(scene, facts.light.wanted_light)
    if search is not None:
        hits = find_alignments(
            scene.latitude_deg, scene.longitude_deg, scene.elevation_m, start, end, _wanted(facts, search), scene.skyline
        )
        aligned = [Interval(hit.start_utc, hit.end_utc, False, False) for hit in hits]
        spans = aligned if spans is None else intersect(spans, aligned)
    assert spans is not None
    return _by_day(facts, lasting(spans, 0.0 if search else _LEAST_S))


def zone_of_shot(session: Session, owner_id: int, shot_id: int) -> str:
    """Return the IANA zone of a shot's place, UTC while it has none."""
    shot = rows.owned(session, owner_id, Shot, shot_id)
    return shot.viewpoint.location.zone if shot.viewpoint else "UTC"


def add_reading(session: Session, owner_id: int, location_id: int, day: date, clock: time, meter: MeterSaid) -> MeterReading:
    """Keep a meter reading taken at a local clock time: EV at ISO 100 itself, or aperture, shutter and ISO. Raises Refused."""
    location = rows.owned(session, owner_id, Location, location_id)
    said, f_number, shutter, iso = meter.ev100, meter.f_number, meter.shutter_s, meter.iso
    if said is None:
        for name, value in (("f_number", f_number), ("shutter_s", shutter), ("iso", iso)):
            if value is None:
                raise Refused(
                    "ev100" if f_number is shutter is iso is None else name, "Write the EV, or aperture, shutter and ISO together."
                )
        assert f_number is not None and shutter is not None and iso is not None
        said = float(ev100(f_number, shutter, iso))
    moment = datetime.combine(day, clock, tzinfo=zone_info(location.zone)).astimezone(UTC)
    return add_belonging(session, owner_id, location_id, MeterReading, {"time_utc": moment, "ev100": said, "note": meter.note})


def calendar_file(
    session: Session, owner_id: int, shot_id: int, spans: Sequence[tuple[datetime, datetime, str]], now_utc: datetime
) -> bytes:
    """Return chosen windows (start, end, kind) of a shot as iCalendar, with an alarm for leaving home where the way is known."""
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None:
        raise Refused("viewpoint_id", "A calendar entry needs a place: choose a viewpoint first.")
    here = facts.location
    entries = []
    for start, end, kind in spans:
        if end <= start:
            raise Refused("windows", "A window must end after it starts.")
        arrival = plan_arrival(facts.approach, start) if facts.approach else None
        leave = arrival.leave_home_utc if arrival else None
        notes = [f"{kind} from {facts.clock(start)} to {facts.clock(end)}, {here.zone}."]
        if arrival:
            notes.append(
                f"{'Leave home by ' + facts.clock(leave) + ', start' if leave else 'Start'} walking by {facts.clock(arrival.leave_car_utc)}, set up from {facts.clock(arrival.set_up_utc)}."
            )
        if here.tide is not None:
            notes.append("Tides are simulated: never for navigation or safety.")
        entries.append(
            CalendarEntry(
                f"shot-{shot.id}-{start.strftime('%Y%m%dT%H%M')}@lucid-ridge",
                f"{shot.name}: {kind}",
                start,
                end,
                f"{here.name}, {facts.viewpoint_name}",
                here.latitude_deg,
                here.longitude_deg,
                "\n".join(notes),
                leave,
            )
        )
    return write_calendar(entries, now_utc)


def _wanted(facts: ShotFacts, search: SkySearch) -> Wanted:
    """Return where the body must stand, as the camera of these facts sees the element."""
    values = {name: value for name, value in asdict(search).items() if value is not None}
    element_id = values.pop("element_id", None)
    if element_id is None:
        if "bearing_deg" not in values or "tolerance_deg" not in values:
            raise Refused("bearing_deg", "Search around a bearing with a tolerance, or behind an element.")
        return Wanted(**values)
    element = facts.seen_from_camera.element(element_id)
    if element is None:
        raise Refused("element_id", "This element is not one of the viewpoint's.")
    body = values.pop("body")
    more = {name: value for name, value in values.items() if name in ("sun_low_deg", "sun_high_deg", "fraction_low", "fraction_high")}
    frame = facts.frame
    camera_m = frame.camera_height_m if frame.camera_height_m is not None else DEFAULT_CAMERA_HEIGHT_M
    eye = camera_m + float(facts.ground.height_m(frame.camera_east_m, frame.camera_north_m))
    turn = math.radians(element.bearing_deg)
    foot = (frame.camera_east_m + element.distance_m * math.sin(turn), frame.camera_north_m + element.distance_m * math.cos(turn))
    base = element.base_m + float(facts.ground.height_m(*foot))
    return behind_element(body, element.bearing_deg, element.distance_m, element.width_m, element.height_m, base, eye, **more)


def _promise(
    facts: ShotFacts, window: LightWindow, forecast: Forecast | None, weights: Mapping[str, float], now_utc: datetime
) -> Promise | None:
    if forecast is None:
        return None
    look = Look(
        still_water=any(item.shape == "water" and (item.speed_mps or 0) < 0.1 for item in facts.elements),
        leaves=any(item.shape in ("tree", "flower") for item in facts.elements),
        close_up=facts.close_up,
    )
    return rate_window(window.kind, window.span.start_utc, window.span.end_utc, forecast, now_utc, look, weights)


def _leave(facts: ShotFacts, span: Interval) -> datetime | None:
    return plan_arrival(facts.approach, span.start_utc).leave_home_utc if facts.approach else None


def _joined(spans: Sequence[Interval]) -> tuple[Interval, ...]:
    """Return spans in order, those that overlap made one."""
    result: list[Interval] = []
    for span in sorted(spans, key=lambda item: item.start_utc):
        if result and span.start_utc <= result[-1].end_utc:
            last = result.pop()
            span = Interval(last.start_utc, max(last.end_utc, span.end_utc), last.starts_before, span.ends_after)
        result.append(span)
    return tuple(result)


def _by_day(facts: ShotFacts, spans: Sequence[Interval]) -> list[SeasonDay]:
    days: dict[date, list[Interval]] = {}
    for span in spans:
        days.setdefault(span.start_utc.astimezone(facts.zone).date(), []).append(span)
    return [SeasonDay(day, tuple(found), _notes(facts, day)) for day, found in sorted(days.items())]


def _notes(facts: ShotFacts, day: date) -> tuple[str, ...]:
    moment = datetime(day.year, day.month, day.day, 12, tzinfo=facts.zone)
    return tuple(
        f"{item.kind}: {item.note}" if item.note else item.kind
        for item in facts.season_notes
        if in_season(moment, item.from_month, item.from_day, item.to_month, item.to_day)
    )
