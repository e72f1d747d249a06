"""A shot's plan as its response body."""

from __future__ import annotations

import math

from ....core.facts.shot import ShotFacts
from ....core.light.ephemeris import apparent_altitude_deg
from ....core.planning.exposure.camera_settings import CameraSetting
from ....core.planning.exposure.movers import Mover
from ....core.planning.exposure.plan import ExposureStep
from ....core.planning.exposure.water import WantedTime
from ....core.planning.light.plan import LightStep
from ....core.planning.place.plan import PlaceStep
from ....core.planning.plan.shot_plan import ShotPlan
from ....core.units.lengths import compass_point, format_distance
from ....core.units.markings import format_aperture, format_shutter
from ...platform.labels import labelled
from ..schemas import plan as out
from .depth import present_depth
from .frame import present_frame
from .sequence import present_sequence

_UM_PER_MM = 1000.0


def present_plan(facts: ShotFacts, plan: ShotPlan) -> out.PlanOut:
    """Return the plan with every figure labelled."""
    return out.PlanOut(
        verdicts=[out.VerdictOut.model_validate(verdict) for verdict in plan.verdicts],
        because=[out.ReasonOut.model_validate(reason) for reason in plan.because],
        place=_place(facts, plan.place),
        light=_light(facts, plan.light),
        frame=present_frame(facts, plan),
        depth=present_depth(plan.depth),
        exposure=_exposure(plan.exposure, plan.settings),
        sequence=present_sequence(facts, plan),
    )


def _place(facts: ShotFacts, step: PlaceStep) -> out.PlacePlanOut:
    arrival = step.arrival
    return out.PlacePlanOut(
        leave_home=facts.clock(arrival.leave_home_utc) if arrival and arrival.leave_home_utc else None,
        leave_car=facts.clock(arrival.leave_car_utc) if arrival else None,
        set_up=facts.clock(arrival.set_up_utc) if arrival else None,
        walk_min=arrival.walk_min if arrival else None,
        seen=[
            out.SeenOut(id=item.id, bearing_deg=item.bearing_deg, distance_label=format_distance(item.distance_m))
            for item in facts.seen_from_camera.elements
        ],
    )


def _apparent(altitude_deg: float | None) -> float | None:
    """Return a body's apparent altitude [degrees]; None if not known."""
    return None if altitude_deg is None else float(apparent_altitude_deg(altitude_deg))


def _spread(step: LightStep) -> str:
    """Return the range of the light, if known and not a single figure."""
    low, high = step.ev100_low, step.ev100_high
    return f"{low:.1f} to {high:.1f}" if low is not None and high is not None and high - low >= 0.05 else ""


def _light(facts: ShotFacts, step: LightStep) -> out.LightOut:
    window = None
    if step.window_start_utc and step.window_end_utc:
        window = f"{facts.clock(step.window_start_utc)} to {facts.clock(step.window_end_utc)}"
    return out.LightOut(
        band=step.band,
        window_end_utc=step.window_end_utc,
        window_label=window,
        sun_altitude_deg=_apparent(step.sun_altitude_deg),
        sun_azimuth_deg=step.sun_azimuth_deg,
        sun_compass=compass_point(step.sun_azimuth_deg) if step.sun_azimuth_deg is not None else None,
        direction=step.direction,
        ev100=step.ev100,
        ev_words=_spread(step),
        ev_source=step.ev_source,
        drift_stops_per_min=step.drift_stops_per_min,
        sun_hidden=step.sun_hidden,
        subject_lit=step.subject_lit,
        moon_altitude_deg=_apparent(step.moon_altitude_deg),
        moon_compass=compass_point(step.moon_azimuth_deg) if step.moon_azimuth_deg is not None else None,
        moon_words=step.moon_words,
        tide_m=step.tide_m,
        tide_rate_m_per_h=step.tide_rate_m_per_h,
    )


def _mover(item: Mover) -> out.MoverOut:
    return out.MoverOut(
        element_id=item.id,
        name=item.name,
        speed_label=f"{item.speed_mps:.2g} m/s",
        told=item.told,
        main=item.main,
        wish=item.wish,
        wishes=[
            out.MotionTimeOut(wish=wish, label=_wish_label(times), trade=item.trade_times.get(wish, ""))
            for wish, times in item.choices()
        ],
        look=item.look,
    )


def _exposure(step: ExposureStep, settings: tuple[CameraSetting, ...]) -> out.ExposureOut:
    shutter = step.shutter_s
    return out.ExposureOut(
        predicted=step.predicted,
        scene_ev100=step.scene_ev100,
        f_number=step.f_number,
        f_number_label=format_aperture(step.f_number) if step.f_number else None,
        iso=step.iso,
        ledger=[
            out.LedgerLineOut(
                kind=line.kind,
                label=line.label,
                detail=line.detail,
                stops=line.stops,
                shutter_s=line.shutter_s,
                shutter_label=format_shutter(line.shutter_s),
            )
            for line in (step.ledger.lines if step.ledger else ())
        ],
        ledger_stops=step.ledger.stops if step.ledger else None,
        shutter=labelled(shutter, format_shutter),
        wanted=labelled(step.wanted_s, format_shutter),
        proposals=[
            out.ProposalOut(
                filter_ids=list(item.filter_ids),
                filter_names=list(item.filter_names),
                f_number=item.f_number,
                f_number_label=format_aperture(item.f_number),
                iso=item.iso,
                shutter_s=item.shutter_s,
                shutter_label=format_shutter(item.shutter_s),
                error_stops=item.error_stops,
                changes=list(item.changes),
                set_stops=list(item.set_stops),
            )
            for item in step.proposals
        ],
        looks=[
            out.LookBandOut(
                name=band.name, from_s=band.from_s, to_s=band.to_s, label=_band_label(band.from_s, band.to_s)
            )
            for band in step.looks
        ],
        movers=[_mover(item) for item in step.movers],
        look=step.look,
        streak_share=step.streak_share,
        moving_element_id=step.moving_element_id,
        shadow_ev=step.shadow_ev,
        highlight_ev=step.highlight_ev,
        range_stops=step.range_stops,
        dynamic_range_stops=step.dynamic_range_stops,
        exposures=[
            out.ExposureFrameOut(
                shutter_s=item.shutter_s,
                shutter_label=format_shutter(item.shutter_s),
                offset_ev=item.offset_ev,
                darkest_ev=item.darkest_ev,
                brightest_ev=item.brightest_ev,
                look=item.look,
                iso=item.iso,
                bare=item.bare,
            )
            for item in step.exposures
        ],
        carrying=step.carrying,
        settings=[out.CameraSettingOut.model_validate(item) for item in settings],
        bracket_automatic=step.bracket_automatic,
        flash=out.FlashOut.model_validate(step.flash) if step.flash else None,
    )


def _wish_label(times: WantedTime | None) -> str:
    if times is None:
        return ""
    return (
        f"{format_shutter(times.from_s)} and longer"
        if math.isinf(times.to_s)
        else _band_label(times.from_s, times.to_s)
    )


def _band_label(from_s: float, to_s: float) -> str:
    if from_s <= 0:
        return f"{format_shutter(to_s)} or faster"
    return f"{format_shutter(from_s)} to {format_shutter(to_s)}"
