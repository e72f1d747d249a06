"""Migrations and the constraints they leave in the database."""

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.runtime.migration import MigrationContext
from sqlalchemy import create_engine, inspect, text
from sqlalchemy.exc import IntegrityError

from lucid_ridge.operations.platform.invalidation import BELONGS
from lucid_ridge.store.base import Journaled
from lucid_ridge.store.database import alembic_config, migrate
from lucid_ridge.store.tables import Base


def test_migrations_lead_to_the_models_and_back(empty_database):
    migrate(empty_database)
    engine = create_engine(empty_database)
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert set(inspect(connection).get_table_names()) == {*Base.metadata.tables, "alembic_version"}
    migrate(empty_database)  # twice is once
    command.downgrade(alembic_config(empty_database), "base")
    with engine.connect() as connection:
        assert inspect(connection).get_table_names() == ["alembic_version"]
    engine.dispose()


def test_constraints_in_the_database_match_the_models(empty_database):
    migrate(empty_database)
    engine = create_engine(empty_database)
    with engine.connect() as connection:
        found = {name for (name,) in connection.execute(text("select conname from pg_constraint where contype = 'c'"))}
    engine.dispose()
    wanted = {
        constraint.name
        for table in Base.metadata.tables.values()
        for constraint in table.constraints
        if str(constraint.name).startswith("ck_")
    }
    assert wanted <= found
    assert len(wanted) > 60


@pytest.mark.parametrize(
    "statement",
    [
        "update location set latitude_deg = 91",
        "update location set latitude_deg = 'NaN'",
        "update location set name = '  '",
        "update shot set f_number = 'Infinity'",
        "update shot set near_m = 0",
        "update shot set orientation = 'tilted'",
        "update shot set wanted_look = 'dreamy'",
        "update lens set focal_max_mm = focal_min_mm - 1",
        "update body set max_iso = 1",
        "update filter set kind = 'magic'",
        "update element set distance_m = -1",
        "update photographer set theme = 'mauve'",
        "update photographer set arm_mm = 20",
        "update element set shape = 'castle'",
        "update viewpoint set ground_slope_deg = 80",
        "update support set height_max_m = height_min_m - 0.1",
        "update filter set mount = 'glue'",
        "update shot set roll_deg = 50",
        "update shot set pano_across_deg = 400",
        "update shot set crop_aspect = '7:3'",
        "update shot set crop_x = 1.5",
        "update framing set name = ' '",
        "insert into backdrop (shot_id, name, pixels_wide, pixels_high, focal_mm, focal_source, "
        "sensor_width_mm, sensor_height_mm, bearing_deg, pitch_deg, opacity, kept_at_utc, content) values (1, "
        "'x', 1, 1, 0, '', 36, 24, 0, 0, 0.5, now(), '')",
        "insert into shot_filter (shot_id, filter_id, on_lens, on_when_metered) values (1, 999999, true, false)",
    ],
)
def test_the_database_itself_refuses(demo_engine, statement):
    with demo_engine.connect() as connection, pytest.raises(IntegrityError):
        connection.execute(text(statement))


def test_every_top_level_table_has_an_owner():
    owned = {
        "photographer",
        "viewpoint",
        "element",
        "shot_sharp_element",
        "shot_filter",
        "shot_accessory",
        "field_card",
        "hazard",
        "opening",
        "scouting",
        "scouting_photo",
        "season_note",
        "walk_track",
        "meter_reading",
        "location_grid",
        "kept_forecast",
        "framing",
        "backdrop",
        "notebook",
        "shot_summary",
        "outing_stop",
        "log_digest",
        # Of an account, which has one; links and the record of tries may be of nobody yet.
        "sign_in",
        "pass",
        "sign_in_event",
        "share_card",
    }
    for name, table in Base.metadata.tables.items():
        assert name in owned or "owner_id" in table.c, name


def test_of_every_table_it_is_known_whether_plans_depend_on_it():
    """A table that is forgotten here would leave the notebook's list out of date."""
    without = {"framing", "walk_track", "outing", "outing_stop", "log_entry", "log_frame"}
    journaled = {mapper.local_table.name for mapper in Base.registry.mappers if issubclass(mapper.class_, Journaled)}
    assert set(BELONGS) == journaled - without
