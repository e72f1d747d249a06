"""The light of viewpoints and shots: windows with their promise, alignments, seasons, readings, calendars."""

from __future__ import annotations

import math
from dataclasses import asdict, dataclass
from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy.orm import Session

from ...core.exposure.ev import ev100
from ...core.facts.settings import DEFAULT_CAMERA_HEIGHT_M
from ...core.facts.shot import ShotFacts
from ...core.light.alignment import Hit, SkyBody, Touch, Wanted, find_alignments, seen_element, touching_element
from ...core.light.day import LightDay
from ...core.planning.day.windows import WindowsOfDate, windows_of_date
from ...core.planning.frame.finder import place_in_frame
from ...core.planning.light.plan import day_of_light
from ...core.planning.plan.shot_plan import plan_shot
from ...core.spans.instants import local_day, zone_info
from ...core.weather.forecast import Forecast
from ...store.photographer import Photographer
from ...store.places import KeptForecast, Location, MeterReading
from ...store.shots import Shot
from ..accounts.promise_weights import weights_of
from ..places.belongings import add_belonging
from ..places.forecasts import state_of
from ..platform import rows
from ..platform.errors import Refused
from ..shots.facts import core_location, elements_of, ground_of, shot_facts


@dataclass(frozen=True)
class DayForShot:
    """The facts of a shot, its date, and the windows of that date."""

    facts: ShotFacts
    day: LightDay
    found: WindowsOfDate
    forecast: Forecast | None


def day_for_shot(session: Session, owner_id: int, shot_id: int, now_utc: datetime) -> DayForShot | None:
    """Return the windows of a shot's date; None without a place or date. Uses only the stored forecast."""
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None or facts.light.date_local is None:
        return None
    day = day_of_light(facts.location, facts.light.date_local)
    forecast = state_of(session.get(KeptForecast, shot.viewpoint.location_id)).forecast if shot.viewpoint else None
    weights = weights_of(session.get_one(Photographer, owner_id))
    return DayForShot(facts, day, windows_of_date(facts, day, sequence_s(facts), forecast, now_utc, weights), forecast)


def sequence_s(facts: ShotFacts) -> float:
    """Return how long a shot's frames take [s]; 0 while there are none."""
    return plan_shot(facts).sequence.total_s or 0.0


@dataclass(frozen=True)
class SkySearch:
    """A search for sun or moon: around bearing_deg ± tolerance_deg, or behind, upon or beside (by gap_deg) an element.

    Altitudes are apparent, of the centre. None: the default of Wanted.
    """

    body: SkyBody = SkyBody.SUN
    bearing_deg: float | None = None
    tolerance_deg: float | None = None
    element_id: int | None = None
    touch: Touch | None = None
    gap_deg: float | None = None
    low_deg: float | None = None
    high_deg: float | None = None
    sun_low_deg: float | None = None
    sun_high_deg: float | None = None
    fraction_low: float | None = None
    fraction_high: float | None = None


@dataclass(frozen=True)
class MeterSaid:
    """A meter reading: EV at ISO 100, or aperture, shutter and ISO."""

    ev100: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    note: str = ""


@dataclass(frozen=True)
class HitView:
    """A hit, and the body's position in the shot's frame; None without a camera, or behind it."""

    hit: Hit
    in_frame: tuple[float, float] | None


def alignments(
    session: Session,
    owner_id: int,
    viewpoint_id: int,
    start_local: date,
    days: int,
    search: SkySearch,
    shot_id: int | None = None,
) -> list[HitView]:
    """Return the hits of a search from a local date, for a bearing or (element_id) behind an element of the viewpoint.

    shot_id: the shot whose camera is used; without one, a camera at default height over the viewpoint. Raises
    InputError or Refused at the field for an impossible search.
    """
    point = rows.viewpoint(session, owner_id, viewpoint_id)
    here = core_location(point.location, point)
    start, _ = local_day(start_local, here.zone)
    shot = rows.owned(session, owner_id, Shot, shot_id) if shot_id is not None else None
    if shot is not None and shot.viewpoint_id != point.id:
        raise Refused("shot_id", "This shot is not taken from that viewpoint.")
    facts = (
        shot_facts(session, shot)
        if shot is not None
        else ShotFacts(elements=elements_of(point), ground=ground_of(point))
    )
    place = (here.latitude_deg, here.longitude_deg, here.elevation_m)
    hits = [
        hit
        for wanted in wanted_of(facts, search)
        for hit in find_alignments(*place, start, start + timedelta(days=days), wanted, here.skyline)
    ]
    seen = [HitView(hit, place_in_frame(facts, hit.azimuth_deg, hit.apparent_altitude_deg)) for hit in hits]
    return sorted(seen, key=lambda item: item.hit.best_utc)


def zone_of_shot(session: Session, owner_id: int, shot_id: int) -> str:
    """Return the IANA zone of a shot's place; UTC without one."""
    shot = rows.owned(session, owner_id, Shot, shot_id)
    return shot.viewpoint.location.zone if shot.viewpoint else "UTC"


def add_reading(
    session: Session, owner_id: int, location_id: int, day: date, clock: time, meter: MeterSaid
) -> MeterReading:
    """Store a meter reading taken at a local time: EV at ISO 100, or aperture, shutter and ISO. Raises Refused."""
    location = rows.owned(session, owner_id, Location, location_id)
    said, f_number, shutter, iso = meter.ev100, meter.f_number, meter.shutter_s, meter.iso
    if said is None:
        for name, value in (("f_number", f_number), ("shutter_s", shutter), ("iso", iso)):
            if value is None:
                raise Refused(
                    "ev100" if f_number is shutter is iso is None else name,
                    "Write the EV, or aperture, shutter and ISO together.",
                )
        assert f_number is not None and shutter is not None and iso is not None
        said = float(ev100(f_number, shutter, iso))
    moment = datetime.combine(day, clock, tzinfo=zone_info(location.zone)).astimezone(UTC)
    return add_belonging(
        session, owner_id, location_id, MeterReading, {"time_utc": moment, "ev100": said, "note": meter.note}
    )


def wanted_of(facts: ShotFacts, search: SkySearch) -> tuple[Wanted, ...]:
    """Return the wanted positions of the body, seen from the camera of these facts."""
    values = {name: value for name, value in asdict(search).items() if value is not None}
    element_id, touch, gap = (values.pop(name, None) for name in ("element_id", "touch", "gap_deg"))
    if element_id is None:
        if "bearing_deg" not in values or "tolerance_deg" not in values:
            raise Refused("bearing_deg", "Search around a bearing with a tolerance, or behind an element.")
        return (Wanted(**values),)
    element = facts.seen_from_camera.element(element_id)
    if element is None:
        raise Refused("element_id", "This element is not one of the viewpoint's.")
    body = values.pop("body")
    more = {
        name: value
        for name, value in values.items()
        if name in ("sun_low_deg", "sun_high_deg", "fraction_low", "fraction_high")
    }
    frame = facts.frame
    camera_m = frame.camera_height_m if frame.camera_height_m is not None else DEFAULT_CAMERA_HEIGHT_M
    eye = camera_m + float(facts.ground.height_m(frame.camera_east_m, frame.camera_north_m))
    turn = math.radians(element.bearing_deg)
    foot = (
        frame.camera_east_m + element.distance_m * math.sin(turn),
        frame.camera_north_m + element.distance_m * math.cos(turn),
    )
    base = element.base_m + float(facts.ground.height_m(*foot))
    seen = seen_element(element.bearing_deg, element.distance_m, element.width_m, element.height_m, base, eye)
    return touching_element(body, seen, touch or Touch.BEHIND, gap or 0.0, **more)
