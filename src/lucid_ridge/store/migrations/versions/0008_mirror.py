"""How long one waits after the mirror has gone up."""

import sqlalchemy as sa
from alembic import op
revision = '0008'
down_revision = '0007'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('shot', sa.Column('mirror_s', sa.Double(), server_default='0', nullable=False))
    op.create_check_constraint('mirror_s_range', 'shot', 'mirror_s >= 0.0 AND mirror_s <= 600.0')


def downgrade():
    op.drop_constraint('mirror_s_range', 'shot', type_='check')
    op.drop_column('shot', 'mirror_s')
