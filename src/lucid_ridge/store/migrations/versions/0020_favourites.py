"""Favourite and archived shots."""

import sqlalchemy as sa
from alembic import op
revision = '0020'
down_revision = '0019'
branch_labels = None
depends_on = None


def upgrade():
    for name in ('favourite', 'archived'):
        op.add_column('shot', sa.Column(name, sa.Boolean(), server_default='false', nullable=False))


def downgrade():
    for name in ('archived', 'favourite'):
        op.drop_column('shot', name)
