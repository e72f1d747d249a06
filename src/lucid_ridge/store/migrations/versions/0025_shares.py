"""Links by which a field card is read by others, until a date."""

import sqlalchemy as sa
from alembic import op

revision = '0025'
down_revision = '0024'
branch_labels = None
depends_on = None


def upgrade():
    op.create_table(
        'share',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('card_id', sa.Integer(), nullable=False),
        sa.Column('token', sa.Text(), nullable=False),
        sa.Column('where_told', sa.Text(), nullable=False),
        sa.Column('made_at_utc', sa.DateTime(timezone=True), nullable=False),
        sa.Column('until_utc', sa.DateTime(timezone=True), nullable=False),
        sa.CheckConstraint("where_told IN ('exact', 'rough', 'hidden')", name=op.f('ck_share_where_told_choice')),
        sa.ForeignKeyConstraint(['card_id'], ['field_card.id'], name=op.f('fk_share_card_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_share')),
        sa.UniqueConstraint('token', name=op.f('uq_share_token')),
    )
    op.create_index(op.f('ix_share_card_id'), 'share', ['card_id'])


def downgrade():
    op.drop_table('share')
