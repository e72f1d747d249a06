"""Nested values say which version of their schema they have."""

from alembic import op
revision = '0012'
down_revision = '0011'
branch_labels = None
depends_on = None

COLUMNS = (('viewpoint', 'skyline'), ('viewpoint', 'standing'), ('element', 'skyline'), ('element', 'course'), ('walk_track', 'points'))


def upgrade():
    for table, column in COLUMNS:
        op.execute(f"UPDATE {table} SET {column} = jsonb_build_object('version', 1, 'value', {column}) WHERE {column} IS NOT NULL")
    op.alter_column('element', 'course', server_default='{"version": 1, "value": []}')


def downgrade():
    for table, column in COLUMNS:
        op.execute(f"UPDATE {table} SET {column} = {column} -> 'value' WHERE {column} IS NOT NULL")
    op.alter_column('element', 'course', server_default='[]')
