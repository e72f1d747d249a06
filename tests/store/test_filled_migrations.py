"""Migrations over a notebook that is in use: what was kept in older words says the same in the new ones, there and
back.
"""

import json

from alembic import command
from sqlalchemy import create_engine, text

from lucid_ridge.core.facts.choices import GROUPS
from lucid_ridge.core.facts.declaring import facts_of
from lucid_ridge.store.database import alembic_config, migrate

SHOT = {"id": 1, "orientation": "upright", "pitch_deg": 3.0}
CHANGES = [
    {"table": "shot", "key": {"id": 1}, "before": {**SHOT, "orientation": "lengthwise"}, "after": SHOT},
    {"table": "body", "key": {"id": 1}, "before": None, "after": {"id": 1, "name": "Body", "held_stops": 11.0}},
    {"table": "framing", "key": {"id": 1}, "before": {"id": 1, "choices": {"orientation": "upright"}}, "after": None},
]


def _fill(engine):
    with engine.begin() as connection:
        run = lambda statement, **values: connection.execute(text(statement), values)  # noqa: E731
        run("insert into photographer (id, name, theme) values (1, 'One', 'graphite')")
        run(
            "insert into body (id, owner_id, name, sensor_width_mm, sensor_height_mm, pixels_wide, "
            "pixels_high, base_iso, max_iso, fastest_shutter_s,"
            " slowest_shutter_s, has_bulb, held_stops, bracket_frames, bracket_step_ev, write_s, dark_frame)"
            " values (1, 1, 'Body', 36, 24, 6000, 4000, 100, 6400, 0.001, 30, true, 10.5, 3, 2, 0.5, false)"
        )
        run(
            "insert into shot (id, owner_id, name, intent, orientation, pitch_deg, far_infinite, "
            "coc_criterion, print_width_mm, viewing_distance_mm,"
            " focus_school, depth_method, overlap, metered_through_lens, highlight_margin_ev, "
            "compensation_ev, follow_fading, bracket,"
            " bracket_step_ev, timer_s, settle_s) values (1, 1, 'Shot', '', 'upright', 3, false, 'handbook', "
            "600, 600, 'balanced', 'auto', 0.2,"
            " true, 0, 0, false, 'none', 2, 2, 5)"
        )
        choices = json.dumps({"orientation": "upright", "focal_mm": 24.0})
        run(
            "insert into framing (shot_id, name, made_at_utc, choices) values (1, 'Kept', now(), "
            "cast(:choices as jsonb))",
            choices=choices,
        )
        changes = json.dumps(CHANGES)
        run(
            "insert into journal_entry (owner_id, made_at_utc, scope, label, changes, undone)"
            " values (1, now(), 'shot:1', 'change orientation', cast(:changes as jsonb), false)",
            changes=changes,
        )


def _state(engine):
    with engine.connect() as connection:
        one = lambda statement: connection.execute(text(statement)).scalar_one()  # noqa: E731
        return (
            one("select orientation from shot"),
            one("select choices from framing"),
            one("select changes from journal_entry"),
        )


def test_older_words_become_the_new_ones_and_back(empty_database):
    config = alembic_config(empty_database)
    command.upgrade(config, "0005")
    engine = create_engine(empty_database)
    _fill(engine)
    before = _state(engine)
    migrate(empty_database)
    orientation, choices, changes = _state(engine)
    assert orientation == "portrait"
    assert choices == {"version": 1, "values": {"orientation": "portrait", "focal_mm": 24.0}}
    assert [changes[0][side]["orientation"] for side in ("before", "after")] == ["landscape", "portrait"]
    assert changes[1]["after"] == {"id": 1, "name": "Body", "dynamic_range_stops": 11.0}
    assert changes[2]["before"]["choices"] == {"version": 1, "values": {"orientation": "portrait"}}
    with engine.connect() as connection:
        assert connection.execute(text("select dynamic_range_stops from body")).scalar_one() == 10.5
    command.downgrade(config, "0005")
    assert _state(engine) == before
    engine.dispose()


def test_the_database_takes_a_shot_of_every_default(empty_database):
    """What a group leaves unsaid must be allowed by the checks that are made from the same declaration."""
    from lucid_ridge.store.database import make_engine, make_sessions
    from lucid_ridge.store.photographer import Photographer
    from lucid_ridge.store.shots import Shot

    migrate(empty_database)
    engine = make_engine(empty_database)
    with make_sessions(engine)() as session, session.begin():
        owner = Photographer(name="One")
        session.add(owner)
        session.flush()
        row = Shot(owner_id=owner.id, name="Shot")
        session.add(row)
        session.flush()
        session.expire_all()
        for group, kind in GROUPS.items():
            assert getattr(row, group) == kind(), group
            assert len(facts_of(kind)) > 1
    engine.dispose()
