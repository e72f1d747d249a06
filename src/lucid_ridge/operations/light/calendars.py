"""Windows of light as calendar entries, with the way there."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.light.kinds import kind_label
from ...core.planning.way.closures import usable_part
from ...core.planning.way.plan import plan_way, way_words
from ...core.planning.weather.reasons import way_cautions
from ...core.spans.intervals import Interval
from ...formats.calendar import CalendarEntry, write_calendar
from ...store.shots import Shot
from ..platform import rows
from ..platform.errors import Refused
from ..shots.facts import shot_facts
from .days import sequence_s

Span = tuple[datetime, datetime, str]


def calendar_file(session: Session, owner_id: int, shot_id: int, spans: Sequence[Span], now_utc: datetime) -> bytes:
    """Return windows (start, end, kind) of a shot as iCalendar, with an alarm for leaving home if the way is known.

    An entry lasts from the first start with an open way to the end of the last frames. Closures, darkness and weather
    are listed as on the page.
    """
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None:
        raise Refused("viewpoint_id", "A calendar entry needs a place: choose a viewpoint first.")
    lasts_s = sequence_s(facts)
    return write_calendar([_entry(shot, facts, span, lasts_s) for span in spans], now_utc)


def _entry(shot: Shot, facts: ShotFacts, span: Span, lasts_s: float) -> CalendarEntry:
    start, end, kind = span[0], span[1], kind_label(span[2])
    here = facts.location
    if end <= start:
        raise Refused("windows", "A window must end after it starts.")
    assert here is not None
    # Times are written relative to the day of the window, which may not be the shot's.
    facts = facts.choosing(date_local=start.astimezone(facts.zone).date())
    window = Interval(start, end, False, False)
    usable = usable_part(facts, window, lasts_s)
    way = plan_way(facts, lasts_s, (usable.span or window).start_utc)
    assert way is not None
    notes = [f"{kind} from {facts.clock(start)} to {facts.clock(end)}, {here.zone}."]
    notes += usable.words
    goes = facts.approach is not None and usable.span is not None
    if goes:
        notes.append(way_words(facts, way))
    notes += [reason.text for reason in way_cautions(facts, way)]
    if here.tide is not None:
        notes.append(f"Tide of {here.tide.name} ({here.tide.told}): never for navigation or safety.")
    if usable.span is not None:
        start, end = (
            usable.span.start_utc,
            end if usable.short else min(end, usable.span.end_utc + timedelta(seconds=lasts_s)),
        )
    warning = "No way there: " if usable.span is None else "Tide not known: " if usable.unknown else ""
    return CalendarEntry(
        uid=f"shot-{shot.id}-{start.strftime('%Y%m%dT%H%M')}@lucid-ridge",
        title=f"{warning}{shot.name}: {kind}",
        start_utc=start,
        end_utc=end,
        place=f"{here.name}, {facts.viewpoint_name}",
        latitude_deg=here.latitude_deg,
        longitude_deg=here.longitude_deg,
        notes="\n".join(notes),
        leave_utc=way.arrival.leave_home_utc if goes else None,
    )
