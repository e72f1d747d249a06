"""The ranking of places as a response body."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from typing import Any

from ....core.facts.shot import ShotFacts
from ....core.labels import label_of
from ....core.planning.day.outlook import Chance
from ....core.planning.light.sought import SoughtBy
from ....core.planning.verdicts import Mark
from ....core.planning.way.plan import way_words
from ....core.units.lengths import format_duration
from ....core.units.spelling import format_clock, format_day
from ....operations.notebook.kept_outlooks import Answer
from ....operations.notebook.outlooks import Outlook, Prospect
from ..schemas import outlook as out
from ..schemas.light import CautionOut
from .shot_day import present_promise


def present_outlook(found: Outlook, first: date, days: int) -> out.OutlookOut:
    """Return prospects with lanes counted from the first day's midnight, and why others are left out."""
    shots = sum(1 for item in (*found.best, *found.fallen) if item.shot_id is not None)
    places = len(found.best) + len(found.fallen) - shots
    words = f"{shots} shot{'s' if shots != 1 else ''}" + (
        f" and {places} location{'s' if places != 1 else ''} without shots" if places else ""
    )
    if found.without_place:
        words += f"; {found.without_place} without a place left out"
    return out.OutlookOut(
        best=[_prospect(item, item.chance, first) for item in found.best if item.chance],
        fallen=[
            out.FallenOut(
                shot_id=item.shot_id,
                location_id=item.location_id,
                name=item.name,
                place=_place(item),
                reason=item.why_not,
            )
            for item in found.fallen
        ],
        words=f"{words}.",
        without_forecast=_bare(found.without_forecast),
        without_drive=_bare(found.without_drive),
        without_tide=[
            out.TidelessOut(
                location_id=number, name=name, known_words=f"{known} of {days} days" if known else "none of these days"
            )
            for number, name, known in found.without_tide
        ],
        days=_days(first, days),
        pending=None,
    )


def outlook_content(found: Outlook, first: date, days: int) -> dict[str, Any]:
    """Return the response body as it is kept."""
    return present_outlook(found, first, days).model_dump(mode="json")


def present_answer(answer: Answer, first: date, days: int) -> out.OutlookOut:
    """Return a stored answer, with the job that recomputes it."""
    job = answer.job
    pending = out.OutlookJobOut(job_id=job.id, progress=job.progress) if job is not None else None
    if answer.content is None:
        bare: dict[str, list[Any]] = {
            name: [] for name in ("best", "fallen", "without_forecast", "without_drive", "without_tide")
        }
        return out.OutlookOut(**bare, words="", days=_days(first, days), pending=pending)
    return out.OutlookOut.model_validate({**answer.content, "pending": pending})


def _days(first: date, count: int) -> list[str]:
    return [format_day(first + timedelta(days=number), weekday=True, year=False) for number in range(count)]


def _bare(named: tuple[tuple[int, str], ...]) -> list[out.BareOut]:
    return [out.BareOut(location_id=number, name=name) for number, name in named]


def _prospect(item: Prospect, chance: Chance, first: date) -> out.ProspectOut:
    facts = item.facts
    start = datetime.combine(first, time(), tzinfo=facts.zone)

    def hours(moment: datetime) -> float:
        return (moment - start) / timedelta(hours=1)

    lane = [
        out.LaneLegOut(
            name=leg.name, from_h=hours(leg.span.start_utc), to_h=hours(leg.span.end_utc), dark=leg.dark,
            words=f"{leg.name}, {facts.clock(leg.span.start_utc)} to {facts.clock(leg.span.end_utc)}",
        )
        for leg in chance.legs
    ]  # fmt: skip
    take = chance.take
    light = f"{label_of(chance.kind)}, {facts.clock(take.start_utc)} to {facts.clock(take.end_utc)}"
    lane.append(
        out.LaneLegOut(name="light", from_h=hours(take.start_utc), to_h=hours(take.end_utc), words=light, dark=False)
    )
    home = chance.way.arrival.leave_home_utc
    local = chance.span.start_utc.astimezone(facts.zone)
    return out.ProspectOut(
        shot_id=item.shot_id,
        location_id=item.location_id,
        name=item.name,
        place=_place(item),
        kind=chance.kind,
        mark=Mark(chance.mark),
        wanted=item.sought.by is SoughtBy.WANTED and item.shot_id is not None,
        sought_words=item.sought.words if item.shot_id is not None else "",
        travel=item.travel,
        drive_known=home is not None,
        date_local=local.date(),
        date_words=format_day(local.date(), weekday=True, year=False),
        start_utc=take.start_utc,
        end_utc=take.end_utc,
        span_words=f"{format_clock(local)}–{facts.clock(take.end_utc)}",
        leave_words=f"leave home {facts.clock(home)}"
        if home
        else f"set out {facts.clock(chance.way.walk_in.start_utc)}",
        way_words=way_words(facts, chance.way),
        drive_words=_drive(facts, chance),
        lane=lane,
        promise=present_promise(chance.promise) if chance.promise else None,
        cautions=[
            CautionOut(code=reason.code, severity=reason.severity, text=reason.text) for reason in chance.cautions
        ],
        notes=[words for words in (*chance.said, chance.moon, *chance.season) if words],
        access_checked=item.access_checked,
    )


def _place(item: Prospect) -> str:
    here = item.facts.location
    return "no shot planned here" if item.shot_id is None else here.name if here else ""


def _drive(facts: ShotFacts, chance: Chance) -> str:
    drive = facts.approach.drive_min if facts.approach else None
    parts = [
        f"{format_duration(60 * round(minutes))} {word}"
        for minutes, word in ((drive, "drive"), (chance.way.arrival.walk_min, "walk"))
        if minutes
    ]
    return ", ".join(parts) or "way not known"
