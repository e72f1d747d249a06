"""The scene in tones as a response body."""

from __future__ import annotations

import base64
from typing import Any

import numpy as np

from ....core.planning.tones.graduated import GraduatedEdge
from ....core.planning.tones.plan import TonesStep
from ....core.planning.tones.scene_layers import ToneLayer
from ....core.planning.tones.sky_ways import SkyWay
from ....core.units.lengths import format_duration
from ....core.units.markings import format_shutter
from ....operations.shots.tones import TonesView
from ..schemas import tones as out
from ..schemas.plan import ReasonOut
from ..schemas.shots import FilterUseOut

_EMPTY = out.TonesOut(
    ready=False,
    scene_key="",
    held_stops=0.0,
    response_to_stops=1.0,
    response_tones=[],
    frames=[],
    carrying=0,
    parts=[],
    histogram_from_ev=0.0,
    histogram_step_ev=1.0,
    histogram=[],
    shadow_ev=0.0,
    middle_ev=0.0,
    highlight_ev=0.0,
    shift_stops=0.0,
    sky_stops=0.0,
    land_stops=0.0,
    element_stops={},
    needed_graduated_stops=None,
    to_the_right_stops=None,
    compensation_to_the_right=None,
    monochrome=[],
    ways=[],
    graduated=None,
    polariser_on=False,
    polariser_low_stops=None,
    polariser_high_stops=None,
    separation_stops=None,
    separation_behind="",
    reasons=[],
)


def present_tones(seen: TonesView) -> out.TonesOut:
    """Return the picture in tones, or that it is not ready."""
    step = seen.step
    if step is None or seen.facts.body is None:
        return _EMPTY
    return out.TonesOut(
        ready=True,
        scene_key=step.lit.key,
        held_stops=step.held_stops,
        response_to_stops=float(step.response_stops[-1]),
        response_tones=step.response_tones.round(4).tolist(),
        frames=[
            out.FrameTonesOut(
                shutter_label=format_shutter(item.shutter_s),
                darkest_ev=item.darkest_ev,
                brightest_ev=item.brightest_ev,
                clipped=item.clipped,
                blocked=item.blocked,
            )
            for item in step.frames
        ],
        carrying=step.carrying,
        parts=[out.PartTonesOut.model_validate(item) for item in step.parts],
        histogram_from_ev=step.histogram_from_ev,
        histogram_step_ev=step.histogram_step_ev,
        histogram=list(step.histogram),
        shadow_ev=step.shadow_ev,
        middle_ev=step.middle_ev,
        highlight_ev=step.highlight_ev,
        shift_stops=step.shift_stops,
        sky_stops=step.corrections.sky,
        land_stops=step.corrections.land,
        element_stops={str(id_): stops for id_, stops in step.corrections.elements},
        needed_graduated_stops=seen.needed_graduated_stops,
        to_the_right_stops=seen.to_the_right_stops,
        compensation_to_the_right=seen.compensation_to_the_right,
        ways=[_way(item) for item in seen.ways],
        monochrome=[
            out.MonochromeOut(
                filter=item.filter,
                sky_stops=item.sky,
                land_stops=item.land,
                element_stops={str(id_): stops for id_, stops in item.elements},
            )
            for item in step.monochrome
        ],
        graduated=_graduated(step.graduated) if step.graduated else None,
        polariser_on=step.polariser_on,
        polariser_low_stops=step.polariser_low_stops,
        polariser_high_stops=step.polariser_high_stops,
        separation_stops=step.separation.stops if step.separation else None,
        separation_behind=step.separation.behind if step.separation else "",
        reasons=[ReasonOut.model_validate(item) for item in seen.reasons],
    )


def _way(way: SkyWay) -> out.SkyWayOut:
    used = [item for item in way.filters if item.on_lens or item.on_when_metered]
    return out.SkyWayOut(
        name=way.name,
        bracket=way.bracket,
        bracket_count=way.bracket_count,
        frames=way.frames,
        total_label=format_duration(way.total_s),
        filters=[
            FilterUseOut(
                filter_id=item.id, on_lens=item.on_lens, on_when_metered=item.on_when_metered, set_stops=item.set_stops
            )
            for item in used
        ],
        holds=way.holds,
        risk=way.risk,
        chosen=way.chosen,
    )


def present_scene(step: TonesStep) -> out.LitSceneOut:
    """Return the scene in its light."""
    scene, anchor = step.scene, step.scene.eye
    return out.LitSceneOut(
        scene_key=step.lit.key,
        layers=[_layer(item, anchor) for item in scene.layers],
        shadows=[(ring - anchor).round(4).tolist() for ring in scene.shadows],
        anchor=anchor.tolist(),
        mirror_level_m=scene.water.level_m if scene.water else None,
        mirrors=sorted(scene.mirrors),
        disc_altitude_deg=step.disc[0] if step.disc else None,
        disc_azimuth_deg=step.disc[1] if step.disc else None,
        reference_ev=step.reference_ev,
    )


def _layer(layer: ToneLayer, anchor: Any) -> out.ToneLayerOut:
    return out.ToneLayerOut(
        kind=layer.kind,
        element_id=layer.element_id,
        points=_packed(layer.points - anchor),
        triangles=_packed(layer.triangles, "<u4"),
        ev=_packed(layer.ev),
        shade_ev=_some(layer.shade_ev),
        mirror_ev=_some(layer.mirror_ev),
        polariser_stops=_some(layer.polariser_stops),
        mirror_polariser_stops=_some(layer.mirror_polariser_stops),
        grain_m=max(1e-6, layer.grain_m),
        grain_stops=layer.grain_stops,
    )


def _some(values: Any) -> str | None:
    return None if values is None else _packed(values)


def _packed(values: Any, kind: str = "<f4") -> str:
    return base64.b64encode(np.ascontiguousarray(values, dtype=kind).tobytes()).decode()


def _graduated(edge: GraduatedEdge) -> out.GraduatedOut:
    return out.GraduatedOut(
        names=" and ".join(edge.names),
        strength_stops=edge.strength_stops,
        at=edge.at,
        tilt_deg=edge.tilt_deg,
        on_skyline=edge.on_skyline,
        plate_width_mm=edge.plate_mm[0],
        plate_height_mm=edge.plate_mm[1],
        smear_deg=edge.smear_deg,
        table_from_mm=float(edge.table_mm[0]),
        table_step_mm=float(edge.table_mm[1] - edge.table_mm[0]),
        stops=edge.stops.round(4).tolist(),
    )
