"""What is learnt beside pictures: ways, setting up, filters, batteries; and streaks measured on pictures."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0022'
down_revision = '0021'
branch_labels = None
depends_on = None

EVENTS = ('began', 'taken', 'skipped', 'again', 'late', 'reading', 'filter missing', 'wind', 'stands at', 'note', 'photo', 'checked', 'packed', 'rating', 'waves', 'ended', 'undone')
MORE_EVENTS = ('began', 'set out', 'arrived', 'ready', *EVENTS[1:15], 'battery', *EVENTS[15:])
KINDS = ('filter cost', 'light offset', 'look band', 'hand held')
MORE_KINDS = (*KINDS, 'water speed', 'set-up time', 'walking time', 'filter change', 'series by hand', 'battery')


def _choices(table, values):
    op.drop_constraint(op.f(f'ck_{table}_kind_choice'), table, type_='check')
    listed = ', '.join(f"'{item}'" for item in values)
    op.create_check_constraint(op.f(f'ck_{table}_kind_choice'), table, f'kind IN ({listed})')


def upgrade():
    _choices('field_event', MORE_EVENTS)
    _choices('calibration', MORE_KINDS)
    op.add_column('log_frame', sa.Column('streak_line', postgresql.JSONB(), nullable=True))
    op.add_column('log_frame', sa.Column('seen_share', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_log_frame_seen_share_range'), 'log_frame', 'seen_share >= 0.0 AND seen_share <= 100.0')


def downgrade():
    op.drop_constraint(op.f('ck_log_frame_seen_share_range'), 'log_frame', type_='check')
    op.drop_column('log_frame', 'seen_share')
    op.drop_column('log_frame', 'streak_line')
    op.execute("DELETE FROM calibration WHERE kind NOT IN ('filter cost', 'light offset', 'look band', 'hand held')")
    op.execute("DELETE FROM field_event WHERE kind IN ('set out', 'arrived', 'ready', 'battery')")
    _choices('calibration', KINDS)
    _choices('field_event', EVENTS)
