"""A simulated season: shots planned, taken by a simulated camera with planted errors, read and sorted, so that the log
has lessons. Everything in it is invented.
"""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from datetime import UTC, datetime, timedelta

import numpy as np
from sqlalchemy.orm import Session

from ..core.exposure.motion import LOOKS, LookName
from ..core.facts.choices import IN_HAND, Hold
from ..core.facts.frame_groups import FrameGroup, FrameOrder, GroupExposure, GroupFilters, Role
from ..core.facts.log import Outcome
from ..core.facts.shot import ShotFacts
from ..core.field.cameras import FrameOrder as CameraOrder
from ..core.field.changes import metered_ev100, reading_at, with_reading
from ..core.field.events import EventKind, FieldEvent
from ..core.field.recorded import recorded_plan
from ..core.field.run_sheet import frame_key
from ..core.light.events import sun_events
from ..core.planning.light.changing_light import changing_light
from ..core.planning.light.plan import plan_light
from ..core.planning.light.promise import promise_of_light
from ..core.planning.plan.shot_plan import ShotPlan, plan_shot
from ..core.planning.way.arrival import walk_minutes
from ..core.spans.instants import local_day
from ..core.weather.forecast import Forecast, ForecastHour
from ..core.weather.promise import DEFAULT_WEIGHTS
from ..operations.log.entries import log_run
from ..operations.log.field_events import SentEvent, take_in
from ..operations.log.files import examine, read_in
from ..operations.log.matching import sort_in
from ..operations.shots.cards import plan_picture
from ..operations.shots.facts import shot_facts
from ..standins.camera import Errors, SimulatedCamera
from ..standins.camera_scene import scene_rasters
from ..standins.forecast import simulated_forecast
from ..store.log import LogEntry, LogFrame
from ..store.shots import Shot

# Spread of a day's light around the prediction, and of a meter around the light [stops].
_DAY_STRAYS, _METER_STRAYS = 0.12, 0.04
# Streaks of these shares of the short side can be followed by eye from end to end.
_READABLE = (0.01, 0.6)


@dataclass(frozen=True)
class Planted:
    """What is wrong in this season's world.

    filter_stops: what filters really take, by id; place_stops: by how much places are brighter than predicted, by id;
    taste_stops: how much longer streaks please than usual; hold_stops: how much longer a hand holds still than half
    the time at the rule; clock_s: of the camera, ahead. water_factor: how many times as fast as written all water is;
    walk_factor, set_up_factor, change_factor: how many times as long as planned walking in, setting up and changing a
    filter take.
    """

    filter_stops: Mapping[int, float] = field(default_factory=dict)
    place_stops: Mapping[int, float] = field(default_factory=dict)
    taste_stops: float = 0.0
    hold_stops: float = 1 / 1.2
    clock_s: float = 0.0
    water_factor: float = 1.0
    walk_factor: float = 1.0
    set_up_factor: float = 1.0
    change_factor: float = 1.0


@dataclass(frozen=True)
class TimeOut:
    """One field session of a season: its shot, its day relative to the first, and its conditions.

    by_hand: shutter times tried hand-held; shutters_s: tried on moving water.
    """

    shot: Shot
    days_before: int
    event: str = "sunrise"
    minutes: float = 30.0
    metered: bool = True
    shutters_s: Sequence[float] = ()
    by_hand: Sequence[float] = ()
    wanted_look: LookName | None = None


@dataclass(frozen=True)
class Lived:
    """The true course of a field session: the entry's id, and for each file name its planned frame, None for an
    extra.
    """

    entry_id: int
    files: dict[str, str | None]


def demo_times_out(shots: Mapping[str, Shot]) -> list[TimeOut]:
    """Return the field sessions of the demo's season: a year from which the log can learn."""
    posts, sill, riggs, steppe = (
        shots[name]
        for name in ("Posts at the ebb", "Brown water over the sill", "Layered riggs", "Towers from the steppe")
    )
    outs = []
    for number, days in enumerate((310, 222, 129, 43)):
        tried = [2.0 ** (step - number / 4) for step in (-5, -3.5, -2, -0.5)]
        outs += [
            TimeOut(posts, days + 9, "sunset", -24.0 + 3 * number),
            TimeOut(sill, days + 6, "sunrise", 70.0, shutters_s=tried, wanted_look=LookName.TEXTURED),
            TimeOut(riggs, days + 3, "sunset", -15.0 - number, by_hand=[2.0**-step for step in (4, 5, 6, 7)]),
            TimeOut(steppe, days, "sunrise", 12.0 + 3 * number, metered=False),
        ]
    return outs


def live(
    session: Session,
    owner_id: int,
    outs: Sequence[TimeOut],
    planted: Planted,
    today: datetime,
    seed: int,
    points: int = 240,
) -> list[Lived]:
    """Simulate field sessions in order: plan, take, tick, read back, sort and rate each.

    points: of the longer side of the files.
    """
    return [
        _live_one(session, owner_id, out, planted, today, (seed, number), points) for number, out in enumerate(outs)
    ]


def _live_one(
    session: Session, owner_id: int, out: TimeOut, planted: Planted, today: datetime, seed: tuple[int, int], points: int
) -> Lived:
    rng = np.random.default_rng(seed)
    facts = _as_planned(session, out, planted, today, rng)
    actual = _as_it_was(facts, out, planted, rng)
    plan = plan_shot(facts)
    assert plan.sequence.frames and facts.light.time_utc is not None, out.shot.name
    run_id = str(uuid.UUID(bytes=rng.bytes(16), version=4))
    promise = _promise(facts, plan, out.days_before)
    row = _entry(session, owner_id, out, facts, plan, run_id, promise)
    files, truth = _take(facts, actual, plan, planted, rng, points)
    events = _way_in(facts, planted, run_id, rng)
    events += [_event(run_id, EventKind.TAKEN, moment, rng, key) for key, moment in truth.ticks]
    take_in(session, owner_id, [SentEvent(event) for event in events])
    log_run(session, owner_id, run_id)
    for name, content in files:
        read_in(session, owner_id, examine(name, content))
    sort_in(session, owner_id)
    _rate(session, row, planted, promise, rng)
    session.flush()
    return Lived(row.id, truth.files)


def _way_in(facts: ShotFacts, planted: Planted, run_id: str, rng: np.random.Generator) -> list[FieldEvent]:
    """Return how one came to the place, as it was noted: out on foot, there, set up, and ready for the first frame."""
    start, approach = facts.light.time_utc, facts.approach
    assert start is not None and approach is not None
    ready = start - timedelta(minutes=float(rng.uniform(0.5, 3.0)))
    arrived = ready - timedelta(minutes=approach.set_up_min * planted.set_up_factor * float(rng.lognormal(0.0, 0.10)))
    set_out = arrived - timedelta(
        minutes=(walk_minutes(approach) or 0.0) * planted.walk_factor * float(rng.lognormal(0.0, 0.06))
    )
    kinds = (EventKind.SET_OUT, EventKind.ARRIVED, EventKind.READY, EventKind.BEGAN)
    return [
        _event(run_id, kind, moment, rng) for kind, moment in zip(kinds, (set_out, arrived, ready, start), strict=True)
    ]


def _promise(facts: ShotFacts, plan: ShotPlan, days_before: int) -> float | None:
    """Return the promise for the light by a simulated forecast of the day before [0 to 100]."""
    here, start = facts.location, facts.light.time_utc
    assert here is not None and start is not None
    told = simulated_forecast(here.latitude_deg, here.longitude_deg, here.zone, start - timedelta(days=1), hours=72)
    hours = tuple(
        ForecastHour(
            time_utc=datetime.fromisoformat(item["time"]).astimezone(UTC),
            **{name: item[name] for name in item if name != "time"},
        )
        for item in told["hours"]
    )
    forecast = Forecast(datetime.fromisoformat(told["issued"]), hours)
    return promise_of_light(replace(facts, forecast=forecast), plan.light, DEFAULT_WEIGHTS)


def _as_planned(
    session: Session, out: TimeOut, planted: Planted, today: datetime, rng: np.random.Generator
) -> ShotFacts:
    """Return the facts of a shot as it was planned for that day."""
    facts = shot_facts(session, out.shot)
    assert facts.location is not None
    day = (today - timedelta(days=out.days_before)).date()
    start, end = local_day(day, facts.location.zone)
    sun = sun_events(facts.location.latitude_deg, facts.location.longitude_deg, facts.location.elevation_m, start, end)
    moment = next(event.time_utc for event in sun if event.kind == out.event) + timedelta(minutes=out.minutes)
    facts = facts.choosing(
        date_local=day,
        time_utc=moment.replace(microsecond=0),
        window_end_utc=None,
        water_low_m=None,
        water_high_m=None,
        follow_fading=False,
        metered_f_number=None,
        metered_shutter_s=None,
        metered_iso=None,
        wanted_shutter_s=None,
        highlight_ev=None,
        shadow_ev=None,
        frame_order=FrameOrder.PINNED,
    )
    facts = replace(
        facts,
        readings=(),
        forecast=None,
        spots=(),
        filters=tuple(replace(item, on_when_metered=False) for item in facts.filters),
    )
    if out.metered:
        light = plan_light(facts).ev100
        assert light is not None
        facts = _read(facts, light + _place(out, planted) + float(rng.normal(0, _DAY_STRAYS)))
    return _with_frames(facts, out)


def _place(out: TimeOut, planted: Planted) -> float:
    viewpoint = out.shot.viewpoint
    return planted.place_stops.get(viewpoint.location_id, 0.0) if viewpoint is not None else 0.0


def _read(facts: ShotFacts, scene_ev100: float) -> ShotFacts:
    """Return the facts with the light read by a hand meter."""
    reading = reading_at(facts, scene_ev100)
    assert reading is not None
    return with_reading(facts, replace(reading, through_lens=False))


def _with_frames(facts: ShotFacts, out: TimeOut) -> ShotFacts:
    """Return the facts with the groups of frames of a field session: first a test without filters if there are any,
    then the trials.
    """
    groups = []
    if any(item.on_lens and not item.kind.graduates for item in facts.filters):
        groups.append(FrameGroup(Role.TEST, exposure=GroupExposure.CARRYING, filters=GroupFilters.BARE))
    tried = out.by_hand or out.shutters_s
    groups += [FrameGroup(exposure=GroupExposure.OWN, shutter_s=time) for time in tried] or [FrameGroup()]
    facts = replace(facts, frame_groups=tuple(groups))
    if out.by_hand:
        facts = facts.choosing(hold=Hold.HAND, pano_across_deg=None, pano_upwards_deg=None)
    if out.wanted_look is not None:
        facts = facts.choosing(wanted_look=out.wanted_look)
    return facts


def _as_it_was(facts: ShotFacts, out: TimeOut, planted: Planted, rng: np.random.Generator) -> ShotFacts:
    """Return the facts with the true light: the reading without the meter's error, or the prediction without the
    errors of place and day.
    """
    metered = metered_ev100(facts)
    light = metered if metered is not None else plan_light(facts).ev100
    assert light is not None
    strays = float(rng.normal(0, _METER_STRAYS if out.metered else _DAY_STRAYS))
    return _read(facts, light + strays + (0.0 if out.metered else _place(out, planted)))


@dataclass
class _Truth:
    ticks: list[tuple[str, datetime]] = field(default_factory=list)
    files: dict[str, str | None] = field(default_factory=dict)


def _take(
    facts: ShotFacts, actual: ShotFacts, plan: ShotPlan, planted: Planted, rng: np.random.Generator, points: int
) -> tuple[list[tuple[str, bytes]], _Truth]:
    body, start = facts.body, facts.light.time_utc
    assert body is not None and start is not None and plan.frame.focal_mm is not None
    seed = int(rng.integers(2**31))
    actual_plan, light = plan_shot(actual), changing_light(actual)
    rasters = scene_rasters(actual, actual_plan, points, seed)
    assert rasters is not None
    bare = rasters[0]
    errors = Errors(dict(planted.filter_stops), planted.clock_s, stops=0.03, water_factor=planted.water_factor)
    camera = SimulatedCamera(
        body, bare, {item.id: item.stops for item in facts.filters}, seed, errors, hold_stops=planted.hold_stops
    )
    polarisers = {item.id for item in facts.filters if item.kind.polarises}
    truth, files, late = _Truth(), [], float(rng.uniform(20, 90))
    for number, frame in enumerate(plan.sequence.frames):
        # Hands are slower than plans, and sometimes a frame is taken that nobody planned.
        late += float(rng.uniform(4, 12)) + (planted.change_factor - 1) * frame.around.change_s * float(
            rng.lognormal(0.0, 0.1)
        )
        opens = start + timedelta(seconds=frame.start_s + late)
        raster = rasters[bool(frame.filter_ids & polarisers)]
        camera.scene, camera.busy_until = raster, None
        camera.light_stops = (
            light.mean_gain_stops((opens - start).total_seconds(), frame.shutter_s) if light is not None else 0.0
        )
        order = CameraOrder(
            f_number=frame.f_number,
            shutter_s=frame.shutter_s,
            iso=frame.iso,
            focal_mm=plan.frame.focal_mm,
            focus_m=frame.object_distance_m,
            filter_ids=frame.filter_ids,
            held=facts.frame.hold in IN_HAND,
            key=frame_key(frame),
        )
        for file in camera.take(order, opens):
            name = f"{start:%m%d}{seed % 997:03d}{number:02d}{file.name}"
            files.append((name, file.content))
            truth.files[name] = frame_key(frame)
        truth.ticks.append(
            (frame_key(frame), opens + timedelta(seconds=frame.shutter_s + float(rng.uniform(1.0, 4.0))))
        )
    if rng.random() < 0.3:
        extra = replace(order, shutter_s=1 / 500, iso=max(body.base_iso, 400.0), f_number=5.6, key=None)
        camera.busy_until = None
        for file in camera.take(extra, opens + timedelta(minutes=3)):
            files.append((f"x{seed % 997:03d}{file.name}", file.content))
            truth.files[files[-1][0]] = None
    return files, truth


def _event(
    run_id: str, kind: EventKind, moment: datetime, rng: np.random.Generator, frame: str | None = None
) -> FieldEvent:
    return FieldEvent(
        str(uuid.UUID(bytes=rng.bytes(16), version=4)), run_id, "demo", moment.astimezone(UTC), kind, frame
    )


def _entry(
    session: Session, owner_id: int, out: TimeOut, facts: ShotFacts, plan: ShotPlan, run_id: str, promise: float | None
) -> LogEntry:
    """Make the entry with the plan as it was kept; the shot in the notebook is planned for another day by now."""
    record = asdict(recorded_plan(facts, plan, promise)) | {"picture": plan_picture(facts, plan)}
    viewpoint = out.shot.viewpoint
    assert viewpoint is not None and facts.light.time_utc is not None
    row = LogEntry(
        owner_id=owner_id,
        run_id=run_id,
        shot_id=out.shot.id,
        location_id=viewpoint.location_id,
        name=out.shot.name,
        place=viewpoint.location.name,
        zone=viewpoint.location.zone,
        taken_at_utc=facts.light.time_utc,
        planned=record,
        subject=record["subject"],
        lens=record["lens"],
        light_kind=record["light_kind"],
        look=record["look"],
        water_m=record["water_m"],
    )
    session.add(row)
    session.flush()
    return row


def _rate(session: Session, row: LogEntry, planted: Planted, promise: float | None, rng: np.random.Generator) -> None:
    """Measure streaks with a hand's error, rate movers by the planted taste, keep sharp frames, and note the
    conditions.
    """
    session.expire(row, ["frames"])
    wanted = (row.planned or {}).get("wanted_look", "")
    band = next((look for look in LOOKS if look.name == wanted), None)
    frames: list[LogFrame] = [frame for frame in row.frames if frame.sha256 is not None]
    for frame in frames:
        if band is not None and frame.streak_share is not None:
            low, high = band.low_share * 2**planted.taste_stops, band.high_share * 2**planted.taste_stops
            drawn = frame.streak_share * planted.water_factor
            frame.stars = int(rng.integers(4, 6)) if low <= drawn <= high else int(rng.integers(1, 4))
            if _READABLE[0] <= drawn <= _READABLE[1] and frame.pixels_wide and frame.pixels_high:
                seen = drawn * float(rng.lognormal(0.0, 0.08))
                across = min(0.98, seen * min(frame.pixels_wide, frame.pixels_high) / frame.pixels_wide)
                frame.streak_line, frame.seen_share = [0.5 - across / 2, 0.7, 0.5 + across / 2, 0.7], seen
        frame.curation = Outcome.KEEP if frame.sharp is not False and (frame.stars or 4) >= 4 else Outcome.DROP
    kept = sum(frame.curation == Outcome.KEEP for frame in frames)
    row.outcome = Outcome.KEEP if kept >= max(1, len(frames) / 2) else Outcome.MAYBE if kept else Outcome.DROP
    # Forecasts are right on the whole, and wrong on many a day.
    came = float(np.clip((50.0 if promise is None else promise) + rng.normal(0, 18), 0, 100))
    row.light_stars, row.joy_stars = round(1 + 4 * came / 100), int(rng.integers(3, 6))
