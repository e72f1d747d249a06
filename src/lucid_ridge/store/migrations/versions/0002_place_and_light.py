"""Viewpoints with positions and skylines, access, hazards, seasons, tracks, readings, elevation grids, forecasts, wanted light."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0002'
down_revision = '0001'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table('hazard',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('note', sa.Text(), nullable=False),
    sa.Column('cut_off_m', sa.Double(), nullable=True),
    sa.Column('from_month', sa.Integer(), nullable=True),
    sa.Column('to_month', sa.Integer(), nullable=True),
    sa.CheckConstraint("kind IN ('edge', 'tide', 'swell', 'slippery rock', 'loose rock', 'river', 'bog', 'avalanche', 'remoteness', 'heat', 'cold')", name=op.f('ck_hazard_kind_choice')),
    sa.CheckConstraint('cut_off_m >= -100.0 AND cut_off_m <= 100.0', name=op.f('ck_hazard_cut_off_m_range')),
    sa.CheckConstraint('from_month >= 1 AND from_month <= 12', name=op.f('ck_hazard_from_month_range')),
    sa.CheckConstraint('to_month >= 1 AND to_month <= 12', name=op.f('ck_hazard_to_month_range')),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_hazard_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_hazard'))
    )
    op.create_index(op.f('ix_hazard_location_id'), 'hazard', ['location_id'], unique=False)
    op.create_table('kept_forecast',
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('source', sa.Text(), nullable=False),
    sa.Column('simulated', sa.Boolean(), nullable=False),
    sa.Column('fetched_at_utc', sa.DateTime(timezone=True), nullable=True),
    sa.Column('tried_at_utc', sa.DateTime(timezone=True), nullable=False),
    sa.Column('problem', sa.Text(), nullable=False),
    sa.Column('content', postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_kept_forecast_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('location_id', name=op.f('pk_kept_forecast'))
    )
    op.create_table('location_grid',
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('north_deg', sa.Double(), nullable=False),
    sa.Column('west_deg', sa.Double(), nullable=False),
    sa.Column('step_lat_deg', sa.Double(), nullable=False),
    sa.Column('step_lon_deg', sa.Double(), nullable=False),
    sa.Column('rows', sa.Integer(), nullable=False),
    sa.Column('columns', sa.Integer(), nullable=False),
    sa.Column('number_kind', sa.Text(), nullable=False),
    sa.Column('heights', sa.LargeBinary(), nullable=False),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_location_grid_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('location_id', name=op.f('pk_location_grid'))
    )
    op.create_table('meter_reading',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('time_utc', sa.DateTime(timezone=True), nullable=False),
    sa.Column('ev100', sa.Double(), nullable=False),
    sa.Column('note', sa.Text(), nullable=False),
    sa.CheckConstraint('ev100 >= -15.0 AND ev100 <= 25.0', name=op.f('ck_meter_reading_ev100_range')),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_meter_reading_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_meter_reading'))
    )
    op.create_index(op.f('ix_meter_reading_location_id'), 'meter_reading', ['location_id'], unique=False)
    op.create_table('season_note',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('kind', sa.Text(), nullable=False),
    sa.Column('note', sa.Text(), nullable=False),
    sa.Column('from_month', sa.Integer(), nullable=False),
    sa.Column('from_day', sa.Integer(), nullable=False),
    sa.Column('to_month', sa.Integer(), nullable=False),
    sa.Column('to_day', sa.Integer(), nullable=False),
    sa.CheckConstraint("kind IN ('leaf colour', 'flowering', 'river flow', 'snow', 'ice', 'crowds', 'other')", name=op.f('ck_season_note_kind_choice')),
    sa.CheckConstraint('from_day >= 1 AND from_day <= 31', name=op.f('ck_season_note_from_day_range')),
    sa.CheckConstraint('from_month >= 1 AND from_month <= 12', name=op.f('ck_season_note_from_month_range')),
    sa.CheckConstraint('to_day >= 1 AND to_day <= 31', name=op.f('ck_season_note_to_day_range')),
    sa.CheckConstraint('to_month >= 1 AND to_month <= 12', name=op.f('ck_season_note_to_month_range')),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_season_note_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_season_note'))
    )
    op.create_index(op.f('ix_season_note_location_id'), 'season_note', ['location_id'], unique=False)
    op.create_table('walk_track',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('location_id', sa.Integer(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('points', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('length_m', sa.Double(), nullable=False),
    sa.Column('ascent_m', sa.Double(), nullable=False),
    sa.Column('descent_m', sa.Double(), nullable=False),
    sa.Column('naismith_h', sa.Double(), nullable=False),
    sa.Column('tobler_h', sa.Double(), nullable=True),
    sa.CheckConstraint('ascent_m >= 0.0 AND ascent_m <= 1000000.0', name=op.f('ck_walk_track_ascent_m_range')),
    sa.CheckConstraint('descent_m >= 0.0 AND descent_m <= 1000000.0', name=op.f('ck_walk_track_descent_m_range')),
    sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_walk_track_name_not_blank')),
    sa.CheckConstraint('length_m >= 0.0 AND length_m <= 10000000.0', name=op.f('ck_walk_track_length_m_range')),
    sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_walk_track_location_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_walk_track'))
    )
    op.create_index(op.f('ix_walk_track_location_id'), 'walk_track', ['location_id'], unique=False)
    op.add_column('element', sa.Column('bed_m', sa.Double(), nullable=True))
    op.add_column('element', sa.Column('skyline', postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True))
    op.add_column('location', sa.Column('access_notes', sa.Text(), server_default='', nullable=False))
    op.add_column('location', sa.Column('access_checked_on', sa.Date(), nullable=True))
    op.add_column('location', sa.Column('access_source', sa.Text(), server_default='', nullable=False))
    op.add_column('location', sa.Column('drive_min', sa.Double(), nullable=True))
    op.add_column('location', sa.Column('walk_m', sa.Double(), nullable=True))
    op.add_column('location', sa.Column('walk_ascent_m', sa.Double(), nullable=True))
    op.add_column('location', sa.Column('walk_terrain', sa.Text(), server_default='path', nullable=False))
    op.add_column('location', sa.Column('plan_b', sa.Text(), server_default='', nullable=False))
    op.add_column('location', sa.Column('tide_place', sa.Text(), nullable=True))
    op.add_column('photographer', sa.Column('set_up_min', sa.Double(), server_default='20', nullable=False))
    op.add_column('photographer', sa.Column('reserve_min', sa.Double(), server_default='15', nullable=False))
    op.add_column('photographer', sa.Column('promise_weights', postgresql.JSONB(astext_type=sa.Text()), server_default='{}', nullable=False))
    op.add_column('shot', sa.Column('window_end_utc', sa.DateTime(timezone=True), nullable=True))
    op.add_column('shot', sa.Column('wanted_light', sa.Text(), nullable=True))
    op.add_column('shot', sa.Column('water_low_m', sa.Double(), nullable=True))
    op.add_column('shot', sa.Column('water_high_m', sa.Double(), nullable=True))
    op.add_column('shot', sa.Column('water_element_id', sa.Integer(), nullable=True))
    op.create_foreign_key(op.f('fk_shot_water_element_id'), 'shot', 'element', ['water_element_id'], ['id'], ondelete='SET NULL')
    op.add_column('viewpoint', sa.Column('latitude_deg', sa.Double(), nullable=True))
    op.add_column('viewpoint', sa.Column('longitude_deg', sa.Double(), nullable=True))
    op.add_column('viewpoint', sa.Column('elevation_m', sa.Double(), nullable=True))
    op.add_column('viewpoint', sa.Column('skyline', postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True))
    op.add_column('viewpoint', sa.Column('skyline_source', sa.Text(), server_default='', nullable=False))
    op.create_check_constraint(op.f('ck_location_drive_min_range'), 'location', 'drive_min >= 0.0 AND drive_min <= 10000.0')
    op.create_check_constraint(op.f('ck_location_walk_ascent_m_range'), 'location', 'walk_ascent_m >= 0.0 AND walk_ascent_m <= 9000.0')
    op.create_check_constraint(op.f('ck_location_walk_m_range'), 'location', 'walk_m >= 0.0 AND walk_m <= 200000.0')
    op.create_check_constraint(op.f('ck_location_walk_terrain_choice'), 'location', "walk_terrain IN ('path', 'rough', 'boulders', 'bog', 'sand', 'snow')")
    op.create_check_constraint(op.f('ck_viewpoint_elevation_m_range'), 'viewpoint', 'elevation_m >= -500.0 AND elevation_m <= 9000.0')
    op.create_check_constraint(op.f('ck_viewpoint_latitude_deg_range'), 'viewpoint', 'latitude_deg >= -90.0 AND latitude_deg <= 90.0')
    op.create_check_constraint(op.f('ck_viewpoint_longitude_deg_range'), 'viewpoint', 'longitude_deg >= -180.0 AND longitude_deg <= 180.0')
    op.create_check_constraint(op.f('ck_element_bed_m_range'), 'element', 'bed_m >= -100.0 AND bed_m <= 100.0')
    op.create_check_constraint(op.f('ck_shot_wanted_light_choice'), 'shot', "wanted_light IN ('low side light', 'low back light', 'low front light', 'open shade', 'glow', 'blue hour', 'moonlight', 'dark sky')")
    op.create_check_constraint(op.f('ck_shot_water_high_m_range'), 'shot', 'water_high_m >= -100.0 AND water_high_m <= 100.0')
    op.create_check_constraint(op.f('ck_shot_water_low_m_range'), 'shot', 'water_low_m >= -100.0 AND water_low_m <= 100.0')
    op.create_check_constraint(op.f('ck_photographer_reserve_min_range'), 'photographer', 'reserve_min >= 0.0 AND reserve_min <= 600.0')
    op.create_check_constraint(op.f('ck_photographer_set_up_min_range'), 'photographer', 'set_up_min >= 0.0 AND set_up_min <= 600.0')


def downgrade() -> None:
    op.drop_constraint(op.f('ck_location_drive_min_range'), 'location', type_='check')
    op.drop_constraint(op.f('ck_location_walk_ascent_m_range'), 'location', type_='check')
    op.drop_constraint(op.f('ck_location_walk_m_range'), 'location', type_='check')
    op.drop_constraint(op.f('ck_location_walk_terrain_choice'), 'location', type_='check')
    op.drop_constraint(op.f('ck_viewpoint_elevation_m_range'), 'viewpoint', type_='check')
    op.drop_constraint(op.f('ck_viewpoint_latitude_deg_range'), 'viewpoint', type_='check')
    op.drop_constraint(op.f('ck_viewpoint_longitude_deg_range'), 'viewpoint', type_='check')
    op.drop_constraint(op.f('ck_element_bed_m_range'), 'element', type_='check')
    op.drop_constraint(op.f('ck_shot_wanted_light_choice'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_water_high_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_water_low_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_photographer_reserve_min_range'), 'photographer', type_='check')
    op.drop_constraint(op.f('ck_photographer_set_up_min_range'), 'photographer', type_='check')
    op.drop_column('viewpoint', 'skyline_source')
    op.drop_column('viewpoint', 'skyline')
    op.drop_column('viewpoint', 'elevation_m')
    op.drop_column('viewpoint', 'longitude_deg')
    op.drop_column('viewpoint', 'latitude_deg')
    op.drop_constraint(op.f('fk_shot_water_element_id'), 'shot', type_='foreignkey')
    op.drop_column('shot', 'water_element_id')
    op.drop_column('shot', 'water_high_m')
    op.drop_column('shot', 'water_low_m')
    op.drop_column('shot', 'wanted_light')
    op.drop_column('shot', 'window_end_utc')
    op.drop_column('photographer', 'promise_weights')
    op.drop_column('photographer', 'reserve_min')
    op.drop_column('photographer', 'set_up_min')
    op.drop_column('location', 'tide_place')
    op.drop_column('location', 'plan_b')
    op.drop_column('location', 'walk_terrain')
    op.drop_column('location', 'walk_ascent_m')
    op.drop_column('location', 'walk_m')
    op.drop_column('location', 'drive_min')
    op.drop_column('location', 'access_source')
    op.drop_column('location', 'access_checked_on')
    op.drop_column('location', 'access_notes')
    op.drop_column('element', 'skyline')
    op.drop_column('element', 'bed_m')
    op.drop_index(op.f('ix_walk_track_location_id'), table_name='walk_track')
    op.drop_table('walk_track')
    op.drop_index(op.f('ix_season_note_location_id'), table_name='season_note')
    op.drop_table('season_note')
    op.drop_index(op.f('ix_meter_reading_location_id'), table_name='meter_reading')
    op.drop_table('meter_reading')
    op.drop_table('location_grid')
    op.drop_table('kept_forecast')
    op.drop_index(op.f('ix_hazard_location_id'), table_name='hazard')
    op.drop_table('hazard')
