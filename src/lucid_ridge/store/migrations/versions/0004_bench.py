"""The composition bench: lines, standing area, sloping ground, supports, crop placed freely, panorama, kept framings, backdrops."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0004'
down_revision = '0003'
branch_labels = None
depends_on = None

OLD = {
    ('element', 'shape'): ('block', 'boulder', 'post', 'posts', 'tree', 'ridge', 'water', 'flower'),
    ('shot', 'crop_aspect'): ('3:2', '4:3', '5:4', '1:1', '16:9', '65:24'),
    ('shot', 'guide'): ('thirds', 'golden', 'centre', 'none'),
}
NEW = {
    ('element', 'shape'): ('block', 'boulder', 'post', 'posts', 'tree', 'tower', 'ridge', 'skyline', 'water', 'shoreline', 'wall', 'path', 'stream', 'flower', 'insect'),
    ('shot', 'crop_aspect'): ('3:2', '4:3', '5:4', '1:1', '16:9', '65:24', 'free'),
    ('shot', 'guide'): ('thirds', 'golden', 'centre', 'diagonals', 'grid', 'none'),
}
COLUMNS = {
    'element': [sa.Column('course', postgresql.JSONB(astext_type=sa.Text()), server_default='[]', nullable=False)],
    'filter': [
        sa.Column('mount', sa.Text(), server_default='screw', nullable=False),
        sa.Column('thickness_mm', sa.Double(), server_default='5', nullable=False),
    ],
    'lens': [sa.Column(name, sa.Double(), nullable=True) for name in ('filter_thread_mm', 'pupil_depth_mm', 'front_mm', 'hood_mm', 'hood_clear_mm')],
    'photographer': [
        sa.Column('thumb_mm', sa.Double(), server_default='22', nullable=False),
        sa.Column('arm_mm', sa.Double(), server_default='630', nullable=False),
    ],
    'viewpoint': [
        sa.Column('standing', postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True),
        sa.Column('ground_slope_deg', sa.Double(), server_default='0', nullable=False),
        sa.Column('ground_down_bearing_deg', sa.Double(), server_default='0', nullable=False),
        sa.Column('ground_reach_m', sa.Double(), server_default='30', nullable=False),
    ],
    'shot': [
        sa.Column('support_id', sa.Integer(), nullable=True),
        sa.Column('roll_deg', sa.Double(), server_default='0', nullable=False),
        sa.Column('crop_ratio', sa.Double(), nullable=True),
        sa.Column('crop_x', sa.Double(), server_default='0.5', nullable=False),
        sa.Column('crop_y', sa.Double(), server_default='0.5', nullable=False),
        sa.Column('pano_across_deg', sa.Double(), nullable=True),
        sa.Column('pano_upwards_deg', sa.Double(), nullable=True),
        sa.Column('pano_overlap', sa.Double(), server_default='0.3333333333333333', nullable=False),
        sa.Column('pano_pivot_mm', sa.Double(), server_default='0', nullable=False),
        sa.Column('hood_on', sa.Boolean(), server_default='false', nullable=False),
    ],
}
RANGES = {
    'lens': {'filter_thread_mm': (10.0, 200.0), 'pupil_depth_mm': (0.0, 500.0), 'front_mm': (0.0, 500.0), 'hood_mm': (1.0, 300.0), 'hood_clear_mm': (10.0, 500.0)},
    'filter': {'thickness_mm': (0.5, 40.0)},
    'photographer': {'thumb_mm': (1.0, 100.0), 'arm_mm': (100.0, 1200.0)},
    'viewpoint': {'ground_slope_deg': (0.0, 45.0), 'ground_down_bearing_deg': (0.0, 360.0), 'ground_reach_m': (1.0, 1000.0)},
    'shot': {
        'roll_deg': (-45.0, 45.0), 'crop_ratio': (0.1, 10.0), 'crop_x': (0.0, 1.0), 'crop_y': (0.0, 1.0), 'pano_across_deg': (1.0, 360.0),
        'pano_upwards_deg': (1.0, 170.0), 'pano_overlap': (0.0, 0.89), 'pano_pivot_mm': (0.0, 1000.0),
    },
}


def upgrade() -> None:
    op.create_table('support',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('owner_id', sa.Integer(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('height_min_m', sa.Double(), nullable=False),
    sa.Column('height_max_m', sa.Double(), nullable=False),
    sa.Column('inverted_min_m', sa.Double(), nullable=True),
    sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_support_name_not_blank')),
    sa.CheckConstraint('height_min_m >= 0.0 AND height_min_m <= 20.0', name=op.f('ck_support_height_min_m_range')),
    sa.CheckConstraint('height_max_m >= 0.01 AND height_max_m <= 20.0', name=op.f('ck_support_height_max_m_range')),
    sa.CheckConstraint('height_min_m <= height_max_m', name=op.f('ck_support_height_min_m_upto_height_max_m')),
    sa.CheckConstraint('inverted_min_m >= 0.0 AND inverted_min_m <= 20.0', name=op.f('ck_support_inverted_min_m_range')),
    sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_support_owner_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_support'))
    )
    op.create_index(op.f('ix_support_owner_id'), 'support', ['owner_id'], unique=False)
    op.create_table('framing',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('shot_id', sa.Integer(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('made_at_utc', sa.DateTime(timezone=True), nullable=False),
    sa.Column('choices', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_framing_name_not_blank')),
    sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name=op.f('fk_framing_shot_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id', name=op.f('pk_framing'))
    )
    op.create_index(op.f('ix_framing_shot_id'), 'framing', ['shot_id'], unique=False)
    op.create_table('backdrop',
    sa.Column('shot_id', sa.Integer(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('pixels_wide', sa.Integer(), nullable=False),
    sa.Column('pixels_high', sa.Integer(), nullable=False),
    sa.Column('focal_mm', sa.Double(), nullable=False),
    sa.Column('focal_source', sa.Text(), nullable=False),
    sa.Column('sensor_width_mm', sa.Double(), nullable=False),
    sa.Column('sensor_height_mm', sa.Double(), nullable=False),
    sa.Column('bearing_deg', sa.Double(), nullable=False),
    sa.Column('pitch_deg', sa.Double(), nullable=False),
    sa.Column('opacity', sa.Double(), nullable=False),
    sa.Column('kept_at_utc', sa.DateTime(timezone=True), nullable=False),
    sa.Column('content', sa.LargeBinary(), nullable=False),
    sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_backdrop_name_not_blank')),
    sa.CheckConstraint('focal_mm >= 1.0 AND focal_mm <= 3000.0', name=op.f('ck_backdrop_focal_mm_range')),
    sa.CheckConstraint('sensor_width_mm >= 1.0 AND sensor_width_mm <= 400.0', name=op.f('ck_backdrop_sensor_width_mm_range')),
    sa.CheckConstraint('sensor_height_mm >= 1.0 AND sensor_height_mm <= 400.0', name=op.f('ck_backdrop_sensor_height_mm_range')),
    sa.CheckConstraint('bearing_deg >= 0.0 AND bearing_deg <= 360.0', name=op.f('ck_backdrop_bearing_deg_range')),
    sa.CheckConstraint('pitch_deg >= -90.0 AND pitch_deg <= 90.0', name=op.f('ck_backdrop_pitch_deg_range')),
    sa.CheckConstraint('opacity >= 0.05 AND opacity <= 1.0', name=op.f('ck_backdrop_opacity_range')),
    sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name=op.f('fk_backdrop_shot_id'), ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('shot_id', name=op.f('pk_backdrop'))
    )
    for table, columns in COLUMNS.items():
        for column in columns:
            op.add_column(table, column._copy())
    op.create_index(op.f('ix_shot_support_id'), 'shot', ['support_id'], unique=False)
    op.create_foreign_key(op.f('fk_shot_support_id'), 'shot', 'support', ['support_id'], ['id'], ondelete='SET NULL')
    for table, ranges in RANGES.items():
        for column, (low, high) in ranges.items():
            op.create_check_constraint(op.f(f'ck_{table}_{column}_range'), table, f'{column} >= {low!r} AND {column} <= {high!r}')
    op.create_check_constraint(op.f('ck_filter_mount_choice'), 'filter', "mount IN ('screw', 'plate')")
    _choices(NEW)


def downgrade() -> None:
    op.execute("delete from element where shape not in ('block', 'boulder', 'post', 'posts', 'tree', 'ridge', 'water', 'flower')")
    op.execute("update shot set crop_aspect = null where crop_aspect = 'free'")
    op.execute("update shot set guide = 'none' where guide in ('diagonals', 'grid')")
    _choices(OLD)
    op.drop_constraint(op.f('fk_shot_support_id'), 'shot', type_='foreignkey')
    for table, columns in COLUMNS.items():
        for column in columns:
            op.drop_column(table, column.name)
    for table in ('backdrop', 'framing', 'support'):
        op.drop_table(table)


def _choices(all_choices: dict[tuple[str, str], tuple[str, ...]]) -> None:
    for (table, column), choices in all_choices.items():
        name = op.f(f'ck_{table}_{column}_choice')
        op.drop_constraint(name, table, type_='check')
        op.create_check_constraint(name, table, f"{column} IN ({', '.join(repr(choice) for choice in choices)})")
