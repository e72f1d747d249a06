"""The scene in tones of every shot of the demo after its plan: in another light, with the camera turned, at another
exposure.

Run it with tools/bench.
"""

from __future__ import annotations

import os
from dataclasses import replace

from speed import median_ms, tones_reference
from sqlalchemy import create_engine, select
from sqlalchemy.orm import Session

from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.tones.plan import plan_tones
from lucid_ridge.core.planning.tones.scene_layers import (
    _shadow_on_ground,
    _sky_lit,
    _solid_at_eye,
    _solid_ev,
    _solid_lit,
    _veil,
    _water_ev_at_eye,
    scene_tones,
)
from lucid_ridge.core.planning.tones.scene_picture import scene_picture
from lucid_ridge.operations.shots.facts import shot_facts
from lucid_ridge.store.tables import Shot

GOAL_MS = 15


def main() -> None:
    with Session(create_engine(os.environ["LUCID_RIDGE_DATABASE_URL"])) as session:
        scenes = {shot.name: shot_facts(session, shot) for shot in session.scalars(select(Shot).order_by(Shot.id))}
    print(
        f"\n{f'the scene in tones (goal {GOAL_MS} ms)':42}{'new light':>11}{'turned':>8}{'exposure':>10}{'reference':>11}   [ms]"
    )
    for name, facts in scenes.items():
        plan = plan_shot(facts)
        if plan_tones(facts, plan) is None:
            continue
        times = []
        for moved in (False, True, None):
            turns = iter(range(1, 1000))

            def work(moved: bool | None = moved, turns=turns, facts=facts, plan=plan) -> object:
                if moved is not None:
                    scene_tones.cache_clear()
                    scene_picture.cache_clear()
                if moved is False:
                    # In another light nothing is as it was; a camera that turns sees the same things in the same light.
                    for kept in (
                        _sky_lit,
                        _solid_lit,
                        _veil,
                        _solid_at_eye,
                        _solid_ev,
                        _water_ev_at_eye,
                        _shadow_on_ground,
                    ):
                        kept.cache_clear()
                used = facts
                if moved:
                    used = replace(
                        facts,
                        frame=replace(
                            facts.frame, bearing_deg=((facts.frame.bearing_deg or 0.0) + 0.1 * next(turns)) % 360
                        ),
                    )
                return plan_tones(used, plan)

            times.append(median_ms(work, 9))
        reference = median_ms(tones_reference, 9)
        print(f"{name:42}{times[0]:11.1f}{times[1]:8.1f}{times[2]:10.1f}{reference:11.2f}")


if __name__ == "__main__":
    main()
