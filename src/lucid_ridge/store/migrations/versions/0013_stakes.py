"""Opening hours and permits, visits by day, a tide of one's own, hours of the forecast changed by hand, plan B."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0013'
down_revision = '0012'
branch_labels = None
depends_on = None

KINDS = ('open', 'closed', 'permit')
DAYS = ('every day', 'Monday to Friday', 'Saturday and Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday')
MEASURES = ('low cloud', 'cloud', 'wind', 'gusts', 'rain', 'fog')


def listed(choices):
    return ', '.join(f"'{choice}'" for choice in choices)


def upgrade():
    op.create_table('opening',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('location_id', sa.Integer(), nullable=False),
        sa.Column('kind', sa.Text(), nullable=False),
        sa.Column('note', sa.Text(), nullable=False),
        sa.Column('from_clock', sa.Time(), nullable=True),
        sa.Column('to_clock', sa.Time(), nullable=True),
        sa.Column('days', sa.Text(), nullable=False),
        sa.Column('first_date', sa.Date(), nullable=True),
        sa.Column('last_date', sa.Date(), nullable=True),
        sa.Column('every_year', sa.Boolean(), nullable=False),
        sa.CheckConstraint(f'kind IN ({listed(KINDS)})', name=op.f('ck_opening_kind_choice')),
        sa.CheckConstraint(f'days IN ({listed(DAYS)})', name=op.f('ck_opening_days_choice')),
        sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_opening_location_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_opening')),
    )
    op.create_index(op.f('ix_opening_location_id'), 'opening', ['location_id'], unique=False)
    op.create_table('scouting',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('viewpoint_id', sa.Integer(), nullable=False),
        sa.Column('visited_on', sa.Date(), nullable=False),
        sa.Column('note', sa.Text(), nullable=False),
        sa.Column('bring', sa.Text(), nullable=False),
        sa.Column('angles', postgresql.JSONB(none_as_null=True), nullable=False),
        sa.ForeignKeyConstraint(['viewpoint_id'], ['viewpoint.id'], name=op.f('fk_scouting_viewpoint_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_scouting')),
    )
    op.create_index(op.f('ix_scouting_viewpoint_id'), 'scouting', ['viewpoint_id'], unique=False)
    op.create_table('scouting_photo',
        sa.Column('scouting_id', sa.Integer(), nullable=False),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('kept_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('content', sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(['scouting_id'], ['scouting.id'], name=op.f('fk_scouting_photo_scouting_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('scouting_id', name=op.f('pk_scouting_photo')),
    )
    op.add_column('location', sa.Column('own_tide', postgresql.JSONB(none_as_null=True), nullable=True))
    op.add_column('kept_forecast', sa.Column('edits', postgresql.JSONB(), server_default='{}', nullable=False))
    op.add_column('shot_summary', sa.Column('sequence_s', sa.Double(), nullable=True))
    op.add_column('shot', sa.Column('plan_b_shot_id', sa.Integer(), nullable=True))
    op.add_column('shot', sa.Column('plan_b_location_id', sa.Integer(), nullable=True))
    op.add_column('shot', sa.Column('plan_b_measure', sa.Text(), nullable=True))
    op.add_column('shot', sa.Column('plan_b_over', sa.Double(), nullable=True))
    op.add_column('shot', sa.Column('plan_b_clock', sa.Time(), nullable=True))
    op.create_foreign_key(op.f('fk_shot_plan_b_shot_id'), 'shot', 'shot', ['plan_b_shot_id'], ['id'], ondelete='SET NULL')
    op.create_foreign_key(op.f('fk_shot_plan_b_location_id'), 'shot', 'location', ['plan_b_location_id'], ['id'], ondelete='SET NULL')
    op.create_check_constraint(op.f('ck_shot_plan_b_measure_choice'), 'shot', f'plan_b_measure IN ({listed(MEASURES)})')
    op.create_check_constraint(op.f('ck_shot_plan_b_over_range'), 'shot', 'plan_b_over >= 0.0 AND plan_b_over <= 100.0')


def downgrade():
    for name in ('plan_b_clock', 'plan_b_over', 'plan_b_measure', 'plan_b_location_id', 'plan_b_shot_id'):
        op.drop_column('shot', name)
    op.drop_column('shot_summary', 'sequence_s')
    op.drop_column('kept_forecast', 'edits')
    op.drop_column('location', 'own_tide')
    op.drop_table('scouting_photo')
    op.drop_table('scouting')
    op.drop_table('opening')
