"""Outings with their stops."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0019'
down_revision = '0018'
branch_labels = None
depends_on = None


def upgrade():
    op.create_table(
        'outing',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('date_local', sa.Date(), nullable=False),
        sa.Column('days', sa.Integer(), nullable=False),
        sa.Column('leave_clock', sa.Time(), nullable=True),
        sa.Column('back_clock', sa.Time(), nullable=True),
        sa.Column('most_walk_m', sa.Double(), nullable=True),
        sa.Column('stop_order', sa.Text(), nullable=False),
        sa.Column('late_min', sa.Double(), nullable=False),
        sa.Column('contact', sa.Text(), nullable=False),
        sa.Column('note', sa.Text(), nullable=False),
        sa.Column('packed', postgresql.JSONB(), nullable=False),
        sa.Column('own_items', postgresql.JSONB(), nullable=False),
        sa.CheckConstraint("length(btrim(name)) > 0", name=op.f('ck_outing_name_not_blank')),
        sa.CheckConstraint('days >= 1 AND days <= 5', name=op.f('ck_outing_days_range')),
        sa.CheckConstraint('most_walk_m >= 100.0 AND most_walk_m <= 200000.0', name=op.f('ck_outing_most_walk_m_range')),
        sa.CheckConstraint("stop_order IN ('chosen', 'pinned')", name=op.f('ck_outing_stop_order_choice')),
        sa.CheckConstraint('late_min >= 0.0 AND late_min <= 1440.0', name=op.f('ck_outing_late_min_range')),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_outing_owner_id_photographer'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_outing')),
    )
    op.create_index(op.f('ix_outing_owner_id'), 'outing', ['owner_id'])
    op.create_table(
        'outing_stop',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('outing_id', sa.Integer(), nullable=False),
        sa.Column('position', sa.Integer(), nullable=False),
        sa.Column('shot_id', sa.Integer(), nullable=True),
        sa.Column('location_id', sa.Integer(), nullable=True),
        sa.Column('kind', sa.Text(), nullable=False),
        sa.Column('note', sa.Text(), nullable=False),
        sa.Column('minutes', sa.Double(), nullable=True),
        sa.Column('leg_min', sa.Double(), nullable=True),
        sa.Column('worth', sa.Double(), nullable=False),
        sa.Column('after_clock', sa.Time(), nullable=True),
        sa.Column('done', sa.Boolean(), nullable=False),
        sa.CheckConstraint("kind IN ('shot', 'scouting', 'rest')", name=op.f('ck_outing_stop_kind_choice')),
        sa.CheckConstraint('minutes >= 0.0 AND minutes <= 1440.0', name=op.f('ck_outing_stop_minutes_range')),
        sa.CheckConstraint('leg_min >= 0.0 AND leg_min <= 1440.0', name=op.f('ck_outing_stop_leg_min_range')),
        sa.CheckConstraint('worth >= 0.0 AND worth <= 10.0', name=op.f('ck_outing_stop_worth_range')),
        sa.ForeignKeyConstraint(['outing_id'], ['outing.id'], name=op.f('fk_outing_stop_outing_id_outing'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name=op.f('fk_outing_stop_shot_id_shot'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['location_id'], ['location.id'], name=op.f('fk_outing_stop_location_id_location'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_outing_stop')),
    )
    for name in ('outing_id', 'shot_id', 'location_id'):
        op.create_index(op.f(f'ix_outing_stop_{name}'), 'outing_stop', [name])


def downgrade():
    op.drop_table('outing_stop')
    op.drop_table('outing')
