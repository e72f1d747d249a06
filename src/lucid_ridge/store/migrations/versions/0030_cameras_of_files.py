"""Files say which camera took them, by which clock and with which focus, and can be put away."""

import sqlalchemy as sa
from alembic import op

revision = '0030'
down_revision = '0029'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('log_frame', sa.Column('utc_offset_min', sa.Integer(), nullable=True))
    op.add_column('log_frame', sa.Column('camera', sa.Text(), server_default='', nullable=False))
    op.add_column('log_frame', sa.Column('focus_m', sa.Float(), nullable=True))
    op.add_column('log_frame', sa.Column('removed_at_utc', sa.DateTime(timezone=True), nullable=True))


def downgrade():
    op.execute('DELETE FROM log_frame WHERE removed_at_utc IS NOT NULL')
    for name in ('removed_at_utc', 'focus_m', 'camera', 'utc_offset_min'):
        op.drop_column('log_frame', name)
