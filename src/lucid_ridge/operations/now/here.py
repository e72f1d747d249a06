"""Where the photographer stands: a viewpoint of theirs, or bare coordinates."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from ...core.facts.place import Location as KnownLocation
from ...core.facts.shot import ShotFacts
from ...core.ground.geodesy import distance_m
from ...store.places import Location, Viewpoint
from ..places.forecasts import forecast_of, hours_around
from ..places.locations import propose_zone
from ..platform import rows
from ..platform.errors import refused_at
from ..shots.facts import viewpoint_facts

# So near to a viewpoint one sees its skyline and its tide [m].
_AT_M = 300.0


def facts_at_viewpoint(session: Session, owner_id: int, viewpoint_id: int, now_utc: datetime) -> ShotFacts:
    """Return the facts of a viewpoint, with today's forecast where one is kept. Raises Refused for one that is not
    there.
    """
    with refused_at("viewpoint_id"):
        point = rows.viewpoint(session, owner_id, viewpoint_id)
    return _with_forecast(session, owner_id, point, now_utc)


def facts_at_position(
    session: Session, owner_id: int, latitude_deg: float, longitude_deg: float, now_utc: datetime
) -> ShotFacts:
    """Return the facts of the nearest viewpoint within 300 m, else of bare coordinates at sea level.

    Raises InputError for an impossible position.
    """
    near = _nearest(session, owner_id, latitude_deg, longitude_deg)
    if near is not None:
        return _with_forecast(session, owner_id, near, now_utc)
    zone = propose_zone(latitude_deg, longitude_deg)
    return ShotFacts(location=KnownLocation("", latitude_deg, longitude_deg, 0.0, zone))


def _with_forecast(session: Session, owner_id: int, point: Viewpoint, now_utc: datetime) -> ShotFacts:
    facts = viewpoint_facts(session, point, owner_id)
    forecast = hours_around(forecast_of(point.location.forecast), now_utc.astimezone(facts.zone).date())
    return replace(facts, forecast=forecast)


def _nearest(session: Session, owner_id: int, latitude_deg: float, longitude_deg: float) -> Viewpoint | None:
    own = select(Viewpoint).join(Location).where(Location.owner_id == owner_id)
    away = [
        (
            float(
                distance_m(
                    latitude_deg,
                    longitude_deg,
                    point.location.latitude_deg if point.latitude_deg is None else point.latitude_deg,
                    point.location.longitude_deg if point.longitude_deg is None else point.longitude_deg,
                )
            ),
            point.id,
            point,
        )
        for point in session.scalars(own.options(joinedload(Viewpoint.location))).unique()
    ]
    nearest = min(away, default=None, key=lambda item: item[:2])
    return nearest[2] if nearest is not None and nearest[0] <= _AT_M else None
