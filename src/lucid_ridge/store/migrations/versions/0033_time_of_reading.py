"""When a shot's meter reading was taken."""

import sqlalchemy as sa
from alembic import op

revision = '0033'
down_revision = '0032'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('shot', sa.Column('metered_at_utc', sa.DateTime(timezone=True), nullable=True))
    op.execute('UPDATE shot SET metered_at_utc = time_utc')


def downgrade():
    op.drop_column('shot', 'metered_at_utc')
