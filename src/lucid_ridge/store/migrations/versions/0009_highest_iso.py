"""A body's highest ISO is bounded in the database as it always was in requests."""

from alembic import op
revision = '0009'
down_revision = '0008'
branch_labels = None
depends_on = None


def upgrade():
    op.drop_constraint('max_iso_range', 'body', type_='check')
    op.create_check_constraint('max_iso_range', 'body', 'max_iso >= 1.0 AND max_iso <= 1000000.0')


def downgrade():
    op.drop_constraint('max_iso_range', 'body', type_='check')
    op.create_check_constraint('max_iso_range', 'body', 'max_iso >= 1.0 AND max_iso <= 10000000.0')
