"""Long work is rows."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0010'
down_revision = '0009'
branch_labels = None
depends_on = None


def upgrade():
    op.create_table(
        'job',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('kind', sa.Text(), nullable=False),
        sa.Column('label', sa.Text(), nullable=False),
        sa.Column('subject', sa.Text(), nullable=False),
        sa.Column('arguments', postgresql.JSONB(), server_default='{}', nullable=False),
        sa.Column('state', sa.Text(), server_default='waiting', nullable=False),
        sa.Column('progress', sa.Float(), server_default='0', nullable=False),
        sa.Column('message', sa.Text(), server_default='', nullable=False),
        sa.Column('stop_wanted', sa.Boolean(), server_default='false', nullable=False),
        sa.Column('tries', sa.Integer(), server_default='0', nullable=False),
        sa.Column('asked_at_utc', sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column('ended_at_utc', sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint('progress >= 0.0 AND progress <= 1.0', name='progress_range'),
        sa.CheckConstraint("state IN ('waiting', 'running', 'done', 'failed', 'stopped')", name='state_choice'),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name='fk_job_owner_id', ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name='pk_job'),
    )
    op.create_index(
        'uq_job_owner_subject_open', 'job', ['owner_id', 'subject'], unique=True,
        postgresql_where=sa.text("state IN ('waiting', 'running') AND NOT stop_wanted"),
    )
    op.create_index('ix_job_open', 'job', ['id'], postgresql_where=sa.text("state IN ('waiting', 'running')"))


def downgrade():
    op.drop_table('job')
