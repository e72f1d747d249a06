"""The bench of a close-up as a response body."""

from __future__ import annotations

from ....core.planning.focus.close_up import CloseUpStep
from ...platform.fields import finite_or_none
from ..schemas import close_up as out


def present_close_up(step: CloseUpStep) -> out.CloseUpOut:
    """Return the bench of a close-up."""
    behind = step.background
    return out.CloseUpOut(
        field_width_mm=step.field_mm[0],
        field_height_mm=step.field_mm[1],
        working_mm=step.working_mm,
        working_known=step.working_known,
        background_name=step.background_name,
        background_times=finite_or_none(behind.times),
        background_width_mm=finite_or_none(behind.width_mm),
        sketch=out.LightSketchOut.model_validate(step.sketch),
        drawn_mm=step.drawn_mm,
        drawn=[out.DrawnWayOut.model_validate(way) for way in step.drawn],
        background_blur_share=behind.blur_share,
        background_melts=behind.melts,
        setups=[
            out.CloseUpSetupOut(
                name=item.name,
                focal_mm=item.focal_mm,
                smallest=item.smallest,
                largest=item.largest,
                reached=item.reached,
                working_mm=item.working_mm if item.working_mm is not None else item.object_mm,
                cost_stops=item.cost_stops,
                background_deg=item.background_deg,
            )
            for item in step.setups
        ],
    )
