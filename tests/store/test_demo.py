"""The demo: complete, relative to its day, and never loaded over a notebook that holds something."""

from datetime import date, timedelta

from sqlalchemy import select

from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.demo.load import load_demo
from lucid_ridge.operations.shots.facts import shot_facts
from lucid_ridge.store.database import make_engine, make_sessions
from lucid_ridge.store.shots import Shot
from lucid_ridge.store.tables import is_empty


def test_the_demo_loads_on_a_leap_day_too(migrated_database):
    day = date(2028, 2, 29)
    engine = make_engine(migrated_database)
    with make_sessions(engine)() as session:
        assert is_empty(session)
        load_demo(session, day)
        assert not is_empty(session)
        shots = session.scalars(select(Shot)).all()
        dated = [shot for shot in shots if shot.light.date_local]
        assert len(dated) == 10
        assert all(
            day < shot.light.date_local <= day + timedelta(days=367) or shot.light.date_local == day for shot in dated
        )
        for shot in dated:
            facts = shot_facts(session, shot)
            assert facts.light.time_utc.astimezone(facts.zone).date() == facts.light.date_local, shot.name
            marks = {verdict.step: verdict.mark for verdict in plan_shot(shot_facts(session, shot)).verdicts}
            assert "unsaid" not in {
                marks[step] for step in ("place", "light", "frame", "depth", "exposure", "sequence")
            }, shot.name
            assert marks["depth"] in ("holds", "tight"), shot.name
            # The bench is shown at its best: nothing that must be sharp is out of the frame, nobody stands where one
            # cannot.
            assert marks["frame"] in ("holds", "tight"), (
                shot.name,
                plan_shot(shot_facts(session, shot)).frame.verdict.text,
            )
            for item in facts.elements:
                if item.id in facts.sharp_element_ids:
                    assert item.shape != "water" or item.speed_mps >= 1, (shot.name, item.name)
    engine.dispose()
