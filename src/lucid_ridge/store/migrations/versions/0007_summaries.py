"""What the notebook shows of a shot, kept."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0007'
down_revision = '0006'
branch_labels = None
depends_on = None


def upgrade():
    op.create_table(
        'shot_summary',
        sa.Column('shot_id', sa.Integer(), nullable=False),
        sa.Column('touched_revision', sa.BigInteger(), server_default='0', nullable=False),
        sa.Column('made_revision', sa.BigInteger(), server_default='-1', nullable=False),
        sa.Column('version', sa.Text(), server_default='', nullable=False),
        sa.Column('verdicts', postgresql.JSONB(), server_default='[]', nullable=False),
        sa.Column('thumb', postgresql.JSONB(), nullable=True),
        sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name='fk_shot_summary_shot_id', ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('shot_id', name='pk_shot_summary'),
    )


def downgrade():
    op.drop_table('shot_summary')
