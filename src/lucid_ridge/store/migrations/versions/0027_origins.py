"""Rows of other notebooks are known again; links give what they tell to be copied, and tell locations."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0027'
down_revision = '0026'
branch_labels = None
depends_on = None


def upgrade():
    op.create_table(
        'origin',
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('notebook', sa.Text(), nullable=False),
        sa.Column('what', sa.Text(), nullable=False),
        sa.Column('their_id', sa.Integer(), nullable=False),
        sa.Column('our_id', sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_origin_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('owner_id', 'notebook', 'what', 'their_id', name=op.f('pk_origin')),
    )
    op.create_index('ix_origin_ours', 'origin', ['owner_id', 'what', 'our_id'])
    op.add_column('share', sa.Column('location_id', sa.Integer(), nullable=True))
    op.add_column('share', sa.Column('given', postgresql.JSONB(astext_type=sa.Text()), nullable=True))
    op.create_foreign_key(op.f('fk_share_location_id'), 'share', 'location', ['location_id'], ['id'], ondelete='CASCADE')
    op.create_index(op.f('ix_share_location_id'), 'share', ['location_id'])


def downgrade():
    # Links to locations have no place in what was before.
    op.execute('delete from share where location_id is not null')
    op.drop_column('share', 'given')
    op.drop_column('share', 'location_id')
    op.drop_table('origin')
