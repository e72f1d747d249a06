"""Revisions of the notebook, whose hand wrote what, edits passed over, the notebook's own token, zooms with two widest apertures."""

import sqlalchemy as sa
from alembic import op
revision = '0005'
down_revision = '0004'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('photographer', sa.Column('revision', sa.BigInteger(), server_default='0', nullable=False))
    op.add_column('journal_entry', sa.Column('hand', sa.Text(), server_default='', nullable=False))
    op.add_column('journal_entry', sa.Column('revision', sa.BigInteger(), server_default='0', nullable=False))
    op.add_column('journal_entry', sa.Column('passed_over', sa.Boolean(), server_default='false', nullable=False))
    op.create_index('ix_journal_entry_owner_revision', 'journal_entry', ['owner_id', 'revision'])
    op.add_column('lens', sa.Column('f_number_min_long', sa.Double(), nullable=True))
    op.create_check_constraint('f_number_min_long_range', 'lens', 'f_number_min_long >= 0.5 and f_number_min_long <= 128.0')
    notebook = op.create_table(
        'notebook',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('token', sa.Text(), server_default=sa.text('gen_random_uuid()::text'), nullable=False),
        sa.PrimaryKeyConstraint('id', name='pk_notebook'),
    )
    op.bulk_insert(notebook, [{'id': 1}])


def downgrade():
    op.drop_table('notebook')
    op.drop_constraint('f_number_min_long_range', 'lens', type_='check')
    op.drop_column('lens', 'f_number_min_long')
    op.drop_index('ix_journal_entry_owner_revision', 'journal_entry')
    for name in ('passed_over', 'revision', 'hand'):
        op.drop_column('journal_entry', name)
    op.drop_column('photographer', 'revision')
