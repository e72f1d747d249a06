"""The ground at the frame's edge as something that must be sharp."""

import sqlalchemy as sa
from alembic import op
revision = '0014'
down_revision = '0013'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('shot', sa.Column('ground_sharp', sa.Boolean(), server_default=sa.false(), nullable=False))
    op.alter_column('shot', 'ground_sharp', server_default=None)


def downgrade():
    op.drop_column('shot', 'ground_sharp')
