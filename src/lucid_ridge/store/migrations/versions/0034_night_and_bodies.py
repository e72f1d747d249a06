"""Kinds of light of the night, more facts of bodies, and simulated weather as a preference; where water flows to; when and where the
range was read.
"""

import sqlalchemy as sa
from alembic import op

revision = '0034'
down_revision = '0033'
branch_labels = None
depends_on = None

_KINDS = ('low_side_light', 'low_back_light', 'low_front_light', 'open_shade', 'glow', 'blue_hour', 'moonlight', 'dark_sky')
_NIGHT = ('galactic_core', 'crescent_moon', 'half_moon', 'full_moon', 'lunar_eclipse', 'solar_eclipse')
_LAST = ('mist',)
_BODY = {
    'extended_iso_min': (sa.Float(), '>= 1.0', '<= 10000000.0'),
    'extended_iso_max': (sa.Float(), '>= 1.0', '<= 10000000.0'),
    'stabiliser_stops': (sa.Float(), '>= 0.0', '<= 12.0'),
    'flash_sync_s': (sa.Float(), '> 0.0', '<= 60.0'),
    'burst_per_s': (sa.Float(), '>= 0.2', '<= 240.0'),
    'buffer_frames': (sa.Integer(), '>= 1', '<= 100000'),
}


def upgrade():
    _wanted(*_KINDS, *_NIGHT, *_LAST)
    op.add_column('body', sa.Column('dark_frame_from_s', sa.Float(), nullable=False, server_default='1'))
    _checked('dark_frame_from_s', '>= 0.0', '<= 3600.0')
    op.add_column('shot', sa.Column('range_read_at_utc', sa.DateTime(timezone=True), nullable=True))
    op.execute('UPDATE shot SET range_read_at_utc = metered_at_utc')
    op.add_column('shot', sa.Column('read_at_viewpoint_id', sa.Integer(), nullable=True))
    op.execute('UPDATE shot SET read_at_viewpoint_id = viewpoint_id')
    op.create_foreign_key(
        op.f('fk_shot_read_at_viewpoint_id_viewpoint'), 'shot', 'viewpoint', ['read_at_viewpoint_id'], ['id'], ondelete='SET NULL'
    )
    op.create_index(op.f('ix_shot_read_at_viewpoint_id'), 'shot', ['read_at_viewpoint_id'])
    op.add_column('element', sa.Column('flow_bearing_deg', sa.Float(), nullable=True))
    op.create_check_constraint(
        op.f('ck_element_flow_bearing_deg_range'), 'element', 'flow_bearing_deg >= 0.0 AND flow_bearing_deg <= 360.0'
    )
    op.add_column('photographer', sa.Column('simulated_weather', sa.Boolean(), nullable=False, server_default='false'))
    # What a notebook has used so far it keeps.
    op.execute('UPDATE photographer SET simulated_weather = true')
    for name, (kind, low, high) in _BODY.items():
        op.add_column('body', sa.Column(name, kind, nullable=True))
        _checked(name, low, high)


def downgrade():
    op.drop_column('photographer', 'simulated_weather')
    op.drop_column('element', 'flow_bearing_deg')
    op.drop_column('shot', 'read_at_viewpoint_id')
    op.drop_column('shot', 'range_read_at_utc')
    for name in (*_BODY, 'dark_frame_from_s'):
        op.drop_constraint(op.f(f'ck_body_{name}_range'), 'body', type_='check')
        op.drop_column('body', name)
    listed = ', '.join(f"'{kind}'" for kind in _NIGHT)
    op.execute(f'UPDATE shot SET wanted_light = NULL WHERE wanted_light IN ({listed})')
    _wanted(*_KINDS, *_LAST)


def _wanted(*kinds):
    op.drop_constraint(op.f('ck_shot_wanted_light_choice'), 'shot', type_='check')
    listed = ', '.join(f"'{kind}'" for kind in kinds)
    op.create_check_constraint(op.f('ck_shot_wanted_light_choice'), 'shot', f'wanted_light IN ({listed})')


def _checked(name, low, high):
    op.create_check_constraint(op.f(f'ck_body_{name}_range'), 'body', f'{name} {low} AND {name} {high}')
