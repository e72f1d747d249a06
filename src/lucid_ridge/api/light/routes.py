"""The light of days and years: windows, forecast, outlook, alignments, carpet, season, calendar."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response, current_app

from ...formats.text import LARGEST_BYTES
from ...operations.light import calendars, carpets, seasons
from ...operations.light import days as operations
from ...operations.notebook.kept_outlooks import answer_which_place
from ...operations.places import forecasts
from ...operations.platform import rows
from ...operations.shots.facts import core_location, readings_of
from ...store.places import Location
from ..platform.context import changes_nothing, context
from ..platform.files import answers_with, file_response, sent_file, takes_file
from ..platform.shared_schemas import FileQuery
from .present.light import present_light_day
from .present.outlook import outlook_content, present_answer
from .present.shot_day import present_forecast, present_hours, present_shot_day
from .present.year import present_carpet, present_hits, present_season
from .schemas import light as schemas
from .schemas.outlook import OutlookOut, OutlookQuery

light = APIBlueprint("light", __name__, url_prefix="/api")


@light.get("/viewpoints/<int:viewpoint_id>/light")
@light.input(schemas.LightQuery, location="query")
@light.output(schemas.LightDayOut)
def day_of_light(viewpoint_id: int, query_data: schemas.LightQuery) -> Any:
    """A local day's events, bands and light at a viewpoint, with its skyline, moon and tide."""
    here = context()
    point = rows.viewpoint(here.session, here.owner_id, viewpoint_id)
    return present_light_day(core_location(point.location, point), query_data.date_local, readings_of(point.location))


@light.get("/shots/<int:shot_id>/day")
@light.output(schemas.ShotDayOut)
def shot_day(shot_id: int) -> Any:
    """The date of a shot: ranked windows with reasons and promise. Calls no service."""
    here = context()
    return present_shot_day(operations.day_for_shot(here.session, here.owner_id, shot_id, datetime.now(UTC)))


@light.get("/locations/<int:location_id>/forecast")
@light.output(schemas.ForecastOut)
def forecast(location_id: int) -> Any:
    """The state of a location's forecast; the service is called if it is outdated."""
    here = context()
    now, service = datetime.now(UTC), current_app.extensions["forecast_url"]
    simulated = current_app.extensions["forecast_simulated"]
    question = forecasts.question_for(here.session, here.owner_id, location_id, service, now, simulated)
    if question is not None:
        # The service may be slow, so no transaction stays open meanwhile.
        here.session.rollback()
        forecasts.keep_answer(here.session, here.owner_id, question, forecasts.ask(question, service, now), now)
    state = forecasts.kept_state(here.session, here.owner_id, location_id)
    return present_forecast(state, now, none_set_up=simulated or service is None)


@light.post("/locations/<int:location_id>/forecast")
@light.input(FileQuery, location="query")
@light.output(schemas.ForecastOut, status_code=201)
@takes_file(LARGEST_BYTES)
def import_forecast(location_id: int, query_data: FileQuery) -> Any:
    """Import an hourly forecast from a CSV or JSON file; it stays until it is dropped."""
    here = context()
    now = datetime.now(UTC)
    state = forecasts.import_forecast(here.session, here.owner_id, location_id, query_data.file_name, sent_file(), now)
    return present_forecast(state, now)


@light.delete("/locations/<int:location_id>/forecast")
@light.output({}, status_code=204)
def drop_forecast(location_id: int) -> Any:
    """Delete the stored forecast, so that the service is called again."""
    here = context()
    forecasts.drop_forecast(here.session, here.owner_id, location_id)
    return ""


@light.get("/locations/<int:location_id>/forecast/hours")
@light.input(schemas.HoursQuery, location="query")
@light.output(schemas.HoursOut)
def forecast_hours(location_id: int, query_data: schemas.HoursQuery) -> Any:
    """The forecast hours of a local date, with edits by hand."""
    here = context()
    zone = rows.owned(here.session, here.owner_id, Location, location_id).zone
    return present_hours(forecasts.kept_state(here.session, here.owner_id, location_id), query_data.date_local, zone)


@light.patch("/locations/<int:location_id>/forecast/hours")
@light.input(schemas.HourPatch, location="json")
@light.output(schemas.ForecastOut)
def edit_forecast_hour(location_id: int, json_data: Any) -> Any:
    """Edit figures of an hour of the forecast by hand."""
    here = context()
    figures = json_data.model_dump(exclude_unset=True, exclude={"time_utc"})
    return present_forecast(
        forecasts.edit_hour(here.session, here.owner_id, location_id, json_data.time_utc, figures), datetime.now(UTC)
    )


@light.delete("/locations/<int:location_id>/forecast/hours")
@light.output(schemas.ForecastOut)
def drop_forecast_edits(location_id: int) -> Any:
    """Remove all edits by hand from a location's forecast."""
    here = context()
    return present_forecast(forecasts.drop_edits(here.session, here.owner_id, location_id), datetime.now(UTC))


@light.get("/viewpoints/<int:viewpoint_id>/alignments")
@light.input(schemas.AlignmentQuery, location="query")
@light.output(schemas.AlignmentsOut)
def alignments(viewpoint_id: int, query_data: schemas.AlignmentQuery) -> Any:
    """When sun or moon stands around a bearing, or behind an element as a shot's camera sees it, over a year or
    more.
    """
    here = context()
    start, search = query_data.from_date, _search(query_data)
    hits = operations.alignments(
        here.session, here.owner_id, viewpoint_id, start, query_data.days, search, query_data.shot_id
    )
    zone = rows.viewpoint(here.session, here.owner_id, viewpoint_id).location.zone
    return present_hits(hits, start, zone, search.body)


@light.get("/viewpoints/<int:viewpoint_id>/carpet")
@light.input(schemas.CarpetQuery, location="query")
@light.output(schemas.CarpetOut)
def carpet(viewpoint_id: int, query_data: schemas.CarpetQuery) -> Any:
    """A year of light, day by time of day."""
    here = context()
    return present_carpet(carpets.year_carpet(here.session, here.owner_id, viewpoint_id, query_data.from_date))


@light.get("/outlook")
@light.input(OutlookQuery, location="query")
@light.output(OutlookOut)
def outlook(query_data: OutlookQuery) -> Any:
    """Every shot's best window over one or more days, ranked, and why others are left out.

    Calls no service. For a large notebook a job computes it.
    """
    here = context()
    found = answer_which_place(
        here.session, here.owner_id, query_data.from_date, query_data.days, datetime.now(UTC), outlook_content
    )
    return present_answer(found, query_data.from_date, query_data.days)


@light.get("/shots/<int:shot_id>/season")
@light.input(schemas.SeasonQuery, location="query")
@light.output(schemas.SeasonOut)
def season(shot_id: int, query_data: schemas.SeasonQuery) -> Any:
    """The days of the next twelve months on which the shot works: wanted light, water, alignment and season
    together.
    """
    here = context()
    start, search = query_data.from_date, _search(query_data) if query_data.with_alignment else None
    found = seasons.season(here.session, here.owner_id, shot_id, start, search)
    return present_season(found, start, operations.zone_of_shot(here.session, here.owner_id, shot_id))


@light.post("/shots/<int:shot_id>/calendar")
@light.input(schemas.CalendarIn, location="json")
@answers_with("text/calendar; charset=utf-8")
@changes_nothing
def calendar(shot_id: int, json_data: schemas.CalendarIn) -> Response:
    """Chosen windows as an iCalendar file, with alarms for leaving home."""
    here = context()
    spans = [(item.start_utc, item.end_utc, item.kind) for item in json_data.windows]
    content = calendars.calendar_file(here.session, here.owner_id, shot_id, spans, datetime.now(UTC))
    return file_response(content, "text/calendar; charset=utf-8", "windows-of-light.ics")


def _search(query: schemas.SearchQuery) -> operations.SkySearch:
    return operations.SkySearch(**{name: getattr(query, name) for name in schemas.SearchQuery.model_fields})
