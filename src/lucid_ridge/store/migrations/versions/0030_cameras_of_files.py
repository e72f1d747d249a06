"""Files say which camera took them, by which clock and with which focus, and can be put away; what entries teach is kept."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0030'
down_revision = '0029'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('log_frame', sa.Column('utc_offset_min', sa.Integer(), nullable=True))
    op.add_column('log_frame', sa.Column('camera', sa.Text(), server_default='', nullable=False))
    op.add_column('log_frame', sa.Column('focus_m', sa.Float(), nullable=True))
    op.add_column('log_frame', sa.Column('removed_at_utc', sa.DateTime(timezone=True), nullable=True))
    op.create_table(
        'log_digest',
        sa.Column('entry_id', sa.Integer(), nullable=False),
        sa.Column('stamp', sa.Text(), nullable=False),
        sa.Column('content', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column('errors', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column('errors_count', sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(['entry_id'], ['log_entry.id'], name=op.f('fk_log_digest_entry_id_log_entry'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('entry_id', name=op.f('pk_log_digest')),
    )


def downgrade():
    op.drop_table('log_digest')
    op.execute('DELETE FROM log_frame WHERE removed_at_utc IS NOT NULL')
    for name in ('removed_at_utc', 'focus_m', 'camera', 'utc_offset_min'):
        op.drop_column('log_frame', name)
