"""The whole plan of a shot: seven steps, their verdicts, and the reasons worst first."""

from __future__ import annotations

from dataclasses import dataclass

from ...facts.shot import ShotFacts
from ..exposure.camera_settings import CameraSetting, camera_settings
from ..exposure.plan import ExposureStep, plan_exposure
from ..exposure.reading_in_force import reading_in_force, reading_reasons
from ..focus.plan import DepthStep, plan_depth
from ..frame.plan import FrameStep, plan_frame
from ..light.plan import LightStep, in_its_weather, plan_light
from ..place.plan import PlaceStep, plan_place
from ..reasons import Reason, worst_first
from ..sequence.plan import SequenceStep, plan_sequence
from ..verdicts import Verdict
from .field_card import FieldStep, plan_field


@dataclass(frozen=True, kw_only=True)
class ShotPlan:
    place: PlaceStep
    light: LightStep
    frame: FrameStep
    depth: DepthStep
    exposure: ExposureStep
    sequence: SequenceStep
    field: FieldStep
    settings: tuple[CameraSetting, ...] = ()

    @property
    def verdicts(self) -> tuple[Verdict, ...]:
        """The seven verdicts in the order of the ridge line."""
        return tuple(step.verdict for step in self._steps)

    @property
    def because(self) -> tuple[Reason, ...]:
        """All reasons, worst first."""
        return worst_first([reason for step in self._steps for reason in step.reasons])

    @property
    def _steps(
        self,
    ) -> tuple[PlaceStep | LightStep | FrameStep | DepthStep | ExposureStep | SequenceStep | FieldStep, ...]:
        return (self.place, self.light, self.frame, self.depth, self.exposure, self.sequence, self.field)


def plan_shot(facts: ShotFacts) -> ShotPlan:
    """Return the plan of a shot. A shot with missing facts is valid: the steps that lack something say what."""
    of_reading = reading_reasons(facts)
    facts = reading_in_force(facts)
    seen = facts.seen_from_camera
    light, depth = plan_light(facts), plan_depth(facts)
    frame = plan_frame(facts, depth, light)
    exposure = plan_exposure(seen, light, depth, of_reading)
    aims = frame.panorama.plan.aims if frame.panorama and frame.panorama.plan else ()
    sequence = plan_sequence(seen, light, depth, exposure, aims)
    # The way back begins when the last frame is taken.
    lasts_s = sequence.total_s or 0.0
    place, light = plan_place(facts, lasts_s), in_its_weather(light, facts, lasts_s)
    return ShotPlan(
        place=place,
        light=light,
        frame=frame,
        depth=depth,
        exposure=exposure,
        sequence=sequence,
        field=plan_field(facts, sequence),
        settings=camera_settings(seen, depth, exposure, len(aims)),
    )
