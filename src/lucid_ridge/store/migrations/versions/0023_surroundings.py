"""A token of all that surrounds a photographer's shots, so that it need not be read anew for every dial that is turned."""

import sqlalchemy as sa
from alembic import op

revision = '0023'
down_revision = '0022'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('photographer', sa.Column('surroundings', sa.Text(), nullable=False, server_default=sa.text('gen_random_uuid()::text')))


def downgrade():
    op.drop_column('photographer', 'surroundings')
