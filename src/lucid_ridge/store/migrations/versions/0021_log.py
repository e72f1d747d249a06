"""What happened: events of the field, the log with its frames, what it taught, and practice."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0021'
down_revision = '0020'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('field_card', sa.Column('run', postgresql.JSONB(), nullable=True))
    op.create_table('field_event',
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('id', sa.Text(), nullable=False),
        sa.Column('run_id', sa.Text(), nullable=False),
        sa.Column('card_id', sa.Integer(), nullable=True),
        sa.Column('device', sa.Text(), nullable=False),
        sa.Column('at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('received_at_utc', sa.DateTime(timezone=True), server_default=sa.text('now()'), nullable=False),
        sa.Column('kind', sa.Text(), nullable=False),
        sa.Column('frame', sa.Text(), nullable=True),
        sa.Column('count', sa.Integer(), nullable=False),
        sa.Column('value', sa.Double(), nullable=True),
        sa.Column('text', sa.Text(), nullable=False),
        sa.Column('refers', sa.Text(), nullable=True),
        sa.Column('f_number', sa.Double(), nullable=True),
        sa.Column('shutter_s', sa.Double(), nullable=True),
        sa.Column('iso', sa.Double(), nullable=True),
        sa.Column('image', sa.LargeBinary(), nullable=True),
        sa.CheckConstraint("kind IN ('began', 'taken', 'skipped', 'again', 'late', 'reading', 'filter missing', 'wind', 'stands at', 'note', 'photo', 'checked', 'packed', 'rating', 'waves', 'ended', 'undone')", name=op.f('ck_field_event_kind_choice')),
        sa.CheckConstraint('count >= 1 AND count <= 10000', name=op.f('ck_field_event_count_range')),
        sa.ForeignKeyConstraint(['card_id'], ['field_card.id'], name=op.f('fk_field_event_card_id'), ondelete='SET NULL'),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_field_event_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('owner_id', 'id', name=op.f('pk_field_event'))
    )
    op.create_index(op.f('ix_field_event_card_id'), 'field_event', ['card_id'], unique=False)
    op.create_index('ix_field_event_owner_run', 'field_event', ['owner_id', 'run_id'], unique=False)
    op.create_table('log_entry',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('shot_id', sa.Integer(), nullable=True),
        sa.Column('location_id', sa.Integer(), nullable=True),
        sa.Column('run_id', sa.Text(), nullable=True),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('place', sa.Text(), nullable=False),
        sa.Column('zone', sa.Text(), nullable=False),
        sa.Column('taken_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('subject', sa.Text(), nullable=False),
        sa.Column('lens', sa.Text(), nullable=False),
        sa.Column('light_kind', sa.Text(), nullable=False),
        sa.Column('look', sa.Text(), nullable=False),
        sa.Column('planned', postgresql.JSONB(), nullable=True),
        sa.Column('words', sa.Text(), nullable=False),
        sa.Column('outcome', sa.Text(), nullable=False),
        sa.Column('water_stars', sa.Integer(), nullable=True),
        sa.Column('sharpness_stars', sa.Integer(), nullable=True),
        sa.Column('light_stars', sa.Integer(), nullable=True),
        sa.Column('composition_stars', sa.Integer(), nullable=True),
        sa.Column('joy_stars', sa.Integer(), nullable=True),
        sa.Column('wind_mps', sa.Double(), nullable=True),
        sa.Column('cloud_share', sa.Double(), nullable=True),
        sa.Column('temperature_c', sa.Double(), nullable=True),
        sa.Column('water_m', sa.Double(), nullable=True),
        sa.Column('archived', sa.Boolean(), server_default='false', nullable=False),
        sa.Column('went_wrong', postgresql.JSONB(), nullable=False),
        sa.CheckConstraint("outcome IN ('open', 'keep', 'maybe', 'drop')", name=op.f('ck_log_entry_outcome_choice')),
        sa.CheckConstraint('cloud_share >= 0.0 AND cloud_share <= 1.0', name=op.f('ck_log_entry_cloud_share_range')),
        sa.CheckConstraint('composition_stars >= 1 AND composition_stars <= 5', name=op.f('ck_log_entry_composition_stars_range')),
        sa.CheckConstraint('joy_stars >= 1 AND joy_stars <= 5', name=op.f('ck_log_entry_joy_stars_range')),
        sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_log_entry_name_not_blank')),
        sa.CheckConstraint('light_stars >= 1 AND light_stars <= 5', name=op.f('ck_log_entry_light_stars_range')),
        sa.CheckConstraint('sharpness_stars >= 1 AND sharpness_stars <= 5', name=op.f('ck_log_entry_sharpness_stars_range')),
        sa.CheckConstraint('temperature_c >= -70.0 AND temperature_c <= 60.0', name=op.f('ck_log_entry_temperature_c_range')),
        sa.CheckConstraint('water_m >= -100.0 AND water_m <= 100.0', name=op.f('ck_log_entry_water_m_range')),
        sa.CheckConstraint('water_stars >= 1 AND water_stars <= 5', name=op.f('ck_log_entry_water_stars_range')),
        sa.CheckConstraint('wind_mps >= 0.0 AND wind_mps <= 90.0', name=op.f('ck_log_entry_wind_mps_range')),
        sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_log_entry_location_id'), ondelete='SET NULL'),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_log_entry_owner_id'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name=op.f('fk_log_entry_shot_id'), ondelete='SET NULL'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_log_entry')),
        sa.UniqueConstraint('owner_id', 'run_id', name=op.f('uq_log_entry_owner_id_run_id'))
    )
    op.create_index(op.f('ix_log_entry_location_id'), 'log_entry', ['location_id'], unique=False)
    op.create_index(op.f('ix_log_entry_owner_id'), 'log_entry', ['owner_id'], unique=False)
    op.create_index('ix_log_entry_owner_taken', 'log_entry', ['owner_id', 'taken_at_utc'], unique=False)
    op.create_index(op.f('ix_log_entry_shot_id'), 'log_entry', ['shot_id'], unique=False)
    op.create_table('log_frame',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('entry_id', sa.Integer(), nullable=True),
        sa.Column('planned_key', sa.Text(), nullable=True),
        sa.Column('matched', sa.Text(), nullable=False),
        sa.Column('taken_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('f_number', sa.Double(), nullable=True),
        sa.Column('shutter_s', sa.Double(), nullable=True),
        sa.Column('iso', sa.Double(), nullable=True),
        sa.Column('focal_mm', sa.Double(), nullable=True),
        sa.Column('expected_s', sa.Double(), nullable=True),
        sa.Column('filters', postgresql.JSONB(), nullable=False),
        sa.Column('filter_ids', postgresql.JSONB(), nullable=False),
        sa.Column('hold', sa.Text(), nullable=False),
        sa.Column('look', sa.Text(), nullable=False),
        sa.Column('streak_share', sa.Double(), nullable=True),
        sa.Column('streak_per_s', sa.Double(), nullable=True),
        sa.Column('group_kind', sa.Text(), nullable=False),
        sa.Column('group_number', sa.Integer(), nullable=False),
        sa.Column('file_name', sa.Text(), nullable=False),
        sa.Column('sha256', sa.Text(), nullable=True),
        sa.Column('pixels_wide', sa.Integer(), nullable=True),
        sa.Column('pixels_high', sa.Integer(), nullable=True),
        sa.Column('linear', sa.Boolean(), nullable=False),
        sa.Column('mean_linear', sa.Double(), nullable=True),
        sa.Column('spot_means', postgresql.JSONB(), nullable=False),
        sa.Column('clipped_red', sa.Double(), nullable=True),
        sa.Column('clipped_green', sa.Double(), nullable=True),
        sa.Column('clipped_blue', sa.Double(), nullable=True),
        sa.Column('blocked', sa.Double(), nullable=True),
        sa.Column('exposure_error_ev', sa.Double(), nullable=True),
        sa.Column('sharp_near', sa.Double(), nullable=True),
        sa.Column('sharp_subject', sa.Double(), nullable=True),
        sa.Column('sharp_far', sa.Double(), nullable=True),
        sa.Column('blur_px', sa.Double(), nullable=True),
        sa.Column('blur_kind', sa.Text(), nullable=False),
        sa.Column('sharp', sa.Boolean(), nullable=True),
        sa.Column('stars', sa.Integer(), nullable=True),
        sa.Column('over_limit_stops', sa.Double(), nullable=True),
        sa.Column('clock', sa.DateTime(), nullable=True),
        sa.Column('curation', sa.Text(), nullable=False),
        sa.Column('cells', postgresql.JSONB(), nullable=True),
        sa.Column('preview', sa.LargeBinary(), nullable=True),
        sa.CheckConstraint("curation IN ('open', 'keep', 'maybe', 'drop')", name=op.f('ck_log_frame_curation_choice')),
        sa.CheckConstraint('clipped_red >= 0.0 AND clipped_red <= 1.0', name=op.f('ck_log_frame_clipped_red_range')),
        sa.CheckConstraint('stars >= 1 AND stars <= 5', name=op.f('ck_log_frame_stars_range')),
        sa.ForeignKeyConstraint(['entry_id'], ['log_entry.id'], name=op.f('fk_log_frame_entry_id'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_log_frame_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_log_frame'))
    )
    op.create_index(op.f('ix_log_frame_entry_id'), 'log_frame', ['entry_id'], unique=False)
    op.create_index('uq_log_frame_owner_sha256', 'log_frame', ['owner_id', 'sha256'], unique=True, postgresql_where='sha256 IS NOT NULL')
    op.create_table('calibration',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('kind', sa.Text(), nullable=False),
        sa.Column('subject', sa.Text(), nullable=False),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('told', sa.Double(), nullable=False),
        sa.Column('value', sa.Double(), nullable=False),
        sa.Column('low', sa.Double(), nullable=False),
        sa.Column('high', sa.Double(), nullable=False),
        sa.Column('frames', sa.Integer(), nullable=False),
        sa.Column('state', sa.Text(), nullable=False),
        sa.Column('evidence', postgresql.JSONB(), nullable=False),
        sa.Column('found_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.CheckConstraint("kind IN ('filter cost', 'light offset', 'look band', 'hand held')", name=op.f('ck_calibration_kind_choice')),
        sa.CheckConstraint("state IN ('proposed', 'on', 'off', 'refused')", name=op.f('ck_calibration_state_choice')),
        sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_calibration_name_not_blank')),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_calibration_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_calibration')),
        sa.UniqueConstraint('owner_id', 'kind', 'subject', name=op.f('uq_calibration_owner_id_kind_subject'))
    )
    op.create_index(op.f('ix_calibration_owner_id'), 'calibration', ['owner_id'], unique=False)
    op.create_table('practice_score',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('exercise', sa.Text(), nullable=False),
        sa.Column('at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('score', sa.Double(), nullable=False),
        sa.Column('said', postgresql.JSONB(), nullable=False),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_practice_score_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_practice_score'))
    )
    op.create_index(op.f('ix_practice_score_owner_id'), 'practice_score', ['owner_id'], unique=False)


def downgrade():
    for name in ('practice_score', 'calibration', 'log_frame', 'log_entry', 'field_event'):
        op.drop_table(name)
    op.drop_column('field_card', 'run')
