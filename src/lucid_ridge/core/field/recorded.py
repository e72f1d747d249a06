"""What of a plan is kept for the log, in plain figures: what each frame was expected to record, where sharpness is
looked at, and how things move.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from ..exposure.bracketing import MID_GREY_OF_SATURATION
from ..facts.choices import IN_HAND
from ..facts.frame_groups import BESIDE_THE_PICTURE, Together
from ..facts.place import Approach
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.exposure.movers import Mover
from ..planning.focus.holding import slowest_by_hand_s
from ..planning.light.calibration import light_taught
from ..planning.light.changing_light import changing_light
from ..planning.light.sun_side import axis_from_sun_deg
from ..planning.plan.shot_plan import ShotPlan
from ..planning.sequence.blend_sheet import blend_sheet
from ..planning.sequence.timeline import Frame
from ..planning.tones.plan import TonesStep, plan_tones
from ..planning.way.arrival import walk_minutes
from ..taken.judged import CameraSettings, JudgedGroup
from ..taken.pixels import CLIPPED_FROM
from ..taken.places import Place
from .recorded_light import RecordedLight, record_light
from .run_sheet import frame_key

Floats = NDArray[np.float64]
_POINTS = 96


@dataclass(frozen=True, kw_only=True)
class RecordedFrame:
    """number: as which it is taken, from 1.

    expected: linear light place by place (of the whole picture where there are none), 1 at saturation; None where the
    picture cannot be predicted. clipped_share: of the picture that the plan lets clip; None likewise. stops_on_lens:
    in the plan. change_s: time for changing filters before it, None where it was not recorded. waits: for a moment of
    its own.
    """

    number: int
    f_number: float
    iso: float
    shutter_s: float
    focus_m: float
    filter_ids: tuple[int, ...]
    filters: tuple[str, ...]
    stops_on_lens: float
    expected: tuple[float, ...] | None
    look: str
    streak_share: float | None
    start_s: float
    change_s: float | None = None
    waits: bool = False
    clipped_share: float | None = None


@dataclass(frozen=True)
class RecordedGroup:
    """A group as it is put together later. frames: keys; steps: what to do with which sets of them."""

    name: str
    role: str
    frames: tuple[str, ...]
    steps: tuple[tuple[str, tuple[tuple[str, ...], ...]], ...]


@dataclass(frozen=True, kw_only=True)
class RecordedPlan:
    """scene_ev100: that the plan uses.

    water_band: shares of the short side between which the wanted look lies, None without one. hand_limit_s: by the
    rule, whatever the log taught; None on something that stands. light_offset_stops, speed_stops: what the log had
    taught by then and the plan used; walk_min, set_up_min, filter_change_s, hit_rate: by the rule or as said,
    whatever the log taught. moving_id: the element that moves. series: whether it is focused place by place in the
    hand. battery_counted: frames by the maker's count that the sequence takes at 20 °C. circle_share: the circle of
    confusion in the sensor's long side. light_stops: RecordedLight.stops. picture: the finder as a data URL; card_id:
    of the field card it was read from.

    The defaults are the record of an entry that was not planned.
    """

    frames: Mapping[str, RecordedFrame] = field(default_factory=dict)
    places: tuple[Place, ...] = ()
    scene_ev100: float | None = None
    predicted: bool = False
    focal_mm: float | None = None
    lens: str = ""
    subject: str = ""
    light_kind: str = ""
    look: str = ""
    wanted_look: str = ""
    hold: str = ""
    hand_limit_s: float | None = None
    drift_stops_per_min: float = 0.0
    light_stops: tuple[float, ...] = ()
    wind_mps: float | None = None
    cloud_share: float | None = None
    temperature_c: float | None = None
    water_m: float | None = None
    streak_per_s: float | None = None
    light_offset_stops: float = 0.0
    start_utc: str | None = None
    groups: tuple[RecordedGroup, ...] = ()
    together: str | None = None
    promise: float | None = None
    from_sun_deg: float | None = None
    moving_id: int | None = None
    speed_stops: float = 0.0
    walk_min: float | None = None
    set_up_min: float | None = None
    filter_change_s: float | None = None
    hit_rate: float | None = None
    series: bool = False
    battery_frames: int | None = None
    battery_counted: float | None = None
    circle_share: float | None = None
    picture: str | None = None
    card_id: int | None = None

    @property
    def starts_utc(self) -> datetime | None:
        return datetime.fromisoformat(self.start_utc) if self.start_utc else None

    @property
    def light(self) -> RecordedLight:
        """How the light was predicted to change."""
        return RecordedLight(self.light_stops, self.drift_stops_per_min)

    @property
    def numbers(self) -> dict[str, int]:
        """The number of each frame by its key, in the order of taking."""
        return dict(sorted(((key, frame.number) for key, frame in self.frames.items()), key=lambda item: item[1]))

    def settings_of(self, key: str) -> CameraSettings:
        """Return the settings of a planned frame."""
        frame = self.frames[key]
        return CameraSettings(frame.f_number, frame.shutter_s, frame.iso, self.focal_mm, frame.focus_m)

    def judged_groups(self) -> dict[int, JudgedGroup]:
        """Return how the groups become pictures, by group number."""
        judged = {int(key.split(".")[0]): JudgedGroup() for key in self.frames}
        for group in self.groups:
            steps = dict(group.steps)
            stitched = str(Together.STITCH) in steps
            stacks = steps.get(str(Together.STACK), ())
            aims = tuple(tuple(sorted({int(key.split(".")[1]) for key in keys})) for keys in stacks) if stitched else ()
            judged[int(group.frames[0].split(".")[0])] = JudgedGroup(
                group.name,
                stitched,
                bool(stacks) and not stitched,
                str(Together.BEST) in steps,
                group.role in BESIDE_THE_PICTURE,
                aims,
            )
        return judged


def recorded_plan(facts: ShotFacts, plan: ShotPlan, promise: float | None = None) -> RecordedPlan:
    """Return the record of a plan that has frames. promise: of the forecast for its light, 0 to 100."""
    settings = settings_of(facts)
    assert settings is not None
    tones = plan_tones(facts, plan, _POINTS)
    places = places_of(facts, tones) if tones is not None else ()
    moving = next((item for item in plan.exposure.movers if item.main), None)
    hour, by_log = facts.hour, light_taught(facts)
    frames = {frame_key(frame): _frame(facts, plan, frame, tones, places) for frame in plan.sequence.frames}
    bare = replace(facts, taught=replace(facts.taught, hand_shift=None, boat_shift=None))
    groups, together = _groups(plan)
    moving_id, speed_stops = _moving(moving)
    walk_min, set_up_min = _way(facts.approach)
    battery_frames, battery_counted = _battery(facts, plan)
    body = facts.body
    return RecordedPlan(
        frames=frames,
        places=places,
        scene_ev100=plan.exposure.scene_ev100,
        predicted=plan.exposure.predicted,
        focal_mm=plan.frame.focal_mm,
        lens=facts.lens.name if facts.lens else "",
        subject=facts.subject.name if facts.subject else "",
        light_kind=plan.light.band or "",
        look=plan.exposure.look or "",
        wanted_look=str(facts.exposure.wanted_look or ""),
        hold=str(facts.frame.hold),
        hand_limit_s=slowest_by_hand_s(bare, settings, plan.depth.imaging),
        drift_stops_per_min=plan.light.drift_stops_per_min or 0.0,
        light_stops=record_light(changing_light(facts)),
        wind_mps=hour.wind_mps if hour else None,
        cloud_share=hour.cover if hour else None,
        temperature_c=hour.temperature_c if hour else None,
        water_m=plan.light.tide_m,
        streak_per_s=moving.streak_share(1.0) if moving is not None else None,
        light_offset_stops=by_log.value if by_log is not None else 0.0,
        start_utc=facts.light.time_utc.isoformat() if facts.light.time_utc is not None else None,
        groups=groups,
        together=together,
        promise=promise,
        from_sun_deg=axis_from_sun_deg(facts),
        moving_id=moving_id,
        speed_stops=speed_stops,
        walk_min=walk_min,
        set_up_min=set_up_min,
        filter_change_s=facts.sequence.filter_change_s,
        hit_rate=facts.depth.hit_rate,
        series=facts.frame.hold in IN_HAND and len(plan.depth.positions) > 1,
        battery_frames=battery_frames,
        battery_counted=battery_counted,
        circle_share=settings.coc_mm / max(body.sensor_width_mm, body.sensor_height_mm) if body is not None else None,
    )


def _moving(moving: Mover | None) -> tuple[int | None, float]:
    element = moving.element if moving is not None else None
    return (
        (None, 0.0)
        if element is None
        else (element.id, element.taught_speed.value if element.taught_speed is not None else 0.0)
    )


def _way(approach: Approach | None) -> tuple[float | None, float | None]:
    return (
        (None, None) if approach is None else (walk_minutes(replace(approach, taught_walk=None)), approach.set_up_min)
    )


def _battery(facts: ShotFacts, plan: ShotPlan) -> tuple[int | None, float | None]:
    supplies, body = plan.sequence.supplies, facts.body
    if supplies is None or supplies.battery_share is None or body is None or body.battery_frames is None:
        return None, None
    return body.battery_frames, supplies.battery_share * body.battery_frames * body.batteries * supplies.cold


def _groups(plan: ShotPlan) -> tuple[tuple[RecordedGroup, ...], str | None]:
    """Return which frames belong together, and how what they became is put together."""
    sheet = blend_sheet(plan.sequence)
    keys = {frame.number: frame_key(frame) for frame in plan.sequence.frames}
    rows = tuple(
        RecordedGroup(
            row.group.called,
            str(row.group.role),
            tuple(keys[number] for number in row.frames),
            tuple(
                (str(step.how), tuple(tuple(keys[number] for number in numbers) for numbers in step.sets))
                for step in row.steps
            ),
        )
        for row in sheet.rows
    )
    return rows, sheet.last


def places_of(facts: ShotFacts, tones: TonesStep) -> tuple[Place, ...]:
    """Return the positions in the frame of the subject and of everything that must be sharp: for each, the point
    nearest to its middle.
    """
    marks = tones.picture.marks
    wanted = [
        (at, item)
        for at, item in enumerate(facts.elements)
        if item.id in facts.sharp_element_ids or item == facts.subject
    ]
    found = []
    for at, item in wanted:
        rows, columns = np.nonzero(marks == at)
        if len(rows) < 4:
            continue
        middle = int(np.argmin(np.square(rows - np.median(rows)) + np.square(columns - np.median(columns))))
        found.append(
            (item, float((columns[middle] + 0.5) / marks.shape[1]), float((rows[middle] + 0.5) / marks.shape[0]))
        )
    found.sort(key=lambda one: one[0].distance_m)
    return tuple(
        Place(
            item.name,
            x,
            y,
            item.distance_m,
            "subject" if item == facts.subject else "near" if at == 0 else "far" if at == len(found) - 1 else "",
            bool(item.moves_mps),
        )
        for at, (item, x, y) in enumerate(found)
    )


def _frame(
    facts: ShotFacts, plan: ShotPlan, frame: Frame, tones: TonesStep | None, places: tuple[Place, ...]
) -> RecordedFrame:
    on_lens = [item for item in facts.filters if item.id in frame.filter_ids]
    stops = sum(item.even_stops for item in on_lens)
    moving = next((item for item in plan.exposure.movers if item.main), None)
    light = (
        light_recorded(tones, frame, stops, _gain_stops(facts, frame))
        if tones is not None and frame.aim is None
        else None
    )
    return RecordedFrame(
        number=frame.number,
        f_number=frame.f_number,
        iso=frame.iso,
        shutter_s=frame.shutter_s,
        focus_m=frame.object_distance_m,
        filter_ids=tuple(sorted(frame.filter_ids)),
        filters=frame.filters,
        stops_on_lens=stops,
        expected=light_at(light, places) if light is not None else None,
        look=frame.look or "",
        streak_share=moving.streak_share(frame.shutter_s) if moving is not None else None,
        start_s=frame.start_s,
        change_s=frame.around.change_s,
        waits=frame.around.waits_until_s is not None,
        clipped_share=float((light >= CLIPPED_FROM).mean()) if light is not None else None,
    )


def _gain_stops(facts: ShotFacts, frame: Frame) -> float:
    light = changing_light(facts)
    return light.mean_gain_stops(frame.start_s, frame.shutter_s) if light is not None else 0.0


def light_recorded(tones: TonesStep, frame: Frame, stops_on_lens: float, gain_stops: float = 0.0) -> Floats:
    """Return the linear light that a frame should record (high, wide), 1 at saturation.

    gain_stops: by how much the light is stronger while the shutter is open than at the shot's time.
    """
    settings_ev = math.log2(frame.f_number**2 / frame.shutter_s * 100 / frame.iso) + stops_on_lens - gain_stops
    return np.asarray(np.minimum(1.0, np.exp2(tones.seen_ev - settings_ev) * MID_GREY_OF_SATURATION))


def light_at(light: Floats, places: tuple[Place, ...]) -> tuple[float, ...]:
    """Return the light of a picture place by place, as the mean of all where it is looked at nowhere."""
    if not places:
        return (float(light.mean()),)
    high, wide = light.shape
    rows = [min(high - 1, int(place.y * high)) for place in places]
    columns = [min(wide - 1, int(place.x * wide)) for place in places]
    return tuple(float(item) for item in light[rows, columns])
