"""Margins of the tide and the horizon of a place; nights of an outing, hours of a rest, and cards made for an outing."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0028'
down_revision = '0027'
branch_labels = None
depends_on = None

_KINDS = ('low side light', 'low back light', 'low front light', 'open shade', 'glow', 'blue hour', 'moonlight', 'dark sky')
_CHECKS = {
    'location': {
        'tide_margin_m_range': 'tide_margin_m >= 0.0 AND tide_margin_m <= 10.0',
        'tide_margin_min_range': 'tide_margin_min >= 0.0 AND tide_margin_min <= 360.0',
        'horizon_choice': "horizon IN ('as typed', 'sea', 'lower land')",
        'horizon_drop_m_range': 'horizon_drop_m >= 0.0 AND horizon_drop_m <= 9000.0',
    },
    'outing': {
        'nights_choice': "nights IN ('home', 'base', 'out')",
        'night_h_range': 'night_h >= 0.0 AND night_h <= 14.0',
        'base_evening_min_range': 'base_evening_min >= 0.0 AND base_evening_min <= 1440.0',
        'base_morning_min_range': 'base_morning_min >= 0.0 AND base_morning_min <= 1440.0',
    },
}


def upgrade():
    op.add_column('location', sa.Column('tide_margin_m', sa.Double(), server_default='0.3', nullable=False))
    op.add_column('location', sa.Column('tide_margin_min', sa.Double(), server_default='30', nullable=False))
    op.add_column('location', sa.Column('horizon', sa.Text(), server_default='as typed', nullable=False))
    op.add_column('location', sa.Column('horizon_drop_m', sa.Double(), nullable=True))
    op.add_column('outing', sa.Column('nights', sa.Text(), server_default='home', nullable=False))
    op.add_column('outing', sa.Column('night_h', sa.Double(), server_default='6', nullable=False))
    op.add_column('outing', sa.Column('base_name', sa.Text(), server_default='', nullable=False))
    op.add_column('outing', sa.Column('base_evening_min', sa.Double(), server_default='20', nullable=False))
    op.add_column('outing', sa.Column('base_morning_min', sa.Double(), server_default='20', nullable=False))
    op.add_column('outing_stop', sa.Column('before_clock', sa.Time(), nullable=True))
    op.add_column('field_card', sa.Column('outing_id', sa.Integer(), nullable=True))
    op.add_column('field_card', sa.Column('begins_utc', sa.DateTime(timezone=True), nullable=True))
    op.create_foreign_key(op.f('fk_field_card_outing_id'), 'field_card', 'outing', ['outing_id'], ['id'], ondelete='SET NULL')
    op.create_index(op.f('ix_field_card_outing_id'), 'field_card', ['outing_id'])
    op.create_table(
        'kept_outlook',
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('from_date', sa.Date(), nullable=False),
        sa.Column('days', sa.Integer(), nullable=False),
        sa.Column('revision', sa.BigInteger(), nullable=False),
        sa.Column('made_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('content', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_kept_outlook_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('owner_id', name=op.f('pk_kept_outlook')),
    )
    _light_wanted(*_KINDS, 'mist')
    for table, checks in _CHECKS.items():
        for name, condition in checks.items():
            op.create_check_constraint(op.f(f'ck_{table}_{name}'), table, condition)


def _light_wanted(*kinds):
    op.drop_constraint(op.f('ck_shot_wanted_light_choice'), 'shot')
    said = ', '.join(f"'{kind}'" for kind in kinds)
    op.create_check_constraint(op.f('ck_shot_wanted_light_choice'), 'shot', f'wanted_light IN ({said})')


def downgrade():
    op.execute("update shot set wanted_light = null where wanted_light = 'mist'")
    _light_wanted(*_KINDS)
    op.drop_table('kept_outlook')
    op.drop_column('field_card', 'begins_utc')
    op.drop_column('field_card', 'outing_id')
    op.drop_column('outing_stop', 'before_clock')
    for name in ('base_morning_min', 'base_evening_min', 'base_name', 'night_h', 'nights'):
        op.drop_column('outing', name)
    for name in ('horizon_drop_m', 'horizon', 'tide_margin_min', 'tide_margin_m'):
        op.drop_column('location', name)
