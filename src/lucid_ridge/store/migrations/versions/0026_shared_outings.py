"""A link tells several cards: those of an outing, or one."""

import sqlalchemy as sa
from alembic import op

revision = '0026'
down_revision = '0025'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('share', sa.Column('owner_id', sa.Integer(), nullable=True))
    op.add_column('share', sa.Column('outing_id', sa.Integer(), nullable=True))
    op.execute('update share set owner_id = shot.owner_id from field_card join shot on shot.id = field_card.shot_id where field_card.id = share.card_id')
    op.alter_column('share', 'owner_id', nullable=False)
    op.create_foreign_key(op.f('fk_share_owner_id'), 'share', 'photographer', ['owner_id'], ['id'], ondelete='CASCADE')
    op.create_foreign_key(op.f('fk_share_outing_id'), 'share', 'outing', ['outing_id'], ['id'], ondelete='CASCADE')
    op.create_index(op.f('ix_share_owner_id'), 'share', ['owner_id'])
    op.create_index(op.f('ix_share_outing_id'), 'share', ['outing_id'])
    op.create_table(
        'share_card',
        sa.Column('share_id', sa.Integer(), nullable=False),
        sa.Column('card_id', sa.Integer(), nullable=False),
        sa.Column('place', sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(['share_id'], ['share.id'], name=op.f('fk_share_card_share_id'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['card_id'], ['field_card.id'], name=op.f('fk_share_card_card_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('share_id', 'card_id', name=op.f('pk_share_card')),
    )
    op.create_index(op.f('ix_share_card_card_id'), 'share_card', ['card_id'])
    op.execute('insert into share_card (share_id, card_id, place) select id, card_id, 0 from share')
    op.drop_column('share', 'card_id')


def downgrade():
    op.add_column('share', sa.Column('card_id', sa.Integer(), nullable=True))
    # Links to outings have no place in what was before.
    op.execute('delete from share where outing_id is not null or id not in (select share_id from share_card)')
    op.execute('update share set card_id = share_card.card_id from share_card where share_card.share_id = share.id')
    op.alter_column('share', 'card_id', nullable=False)
    op.create_foreign_key(op.f('fk_share_card_id'), 'share', 'field_card', ['card_id'], ['id'], ondelete='CASCADE')
    op.create_index(op.f('ix_share_card_id'), 'share', ['card_id'])
    op.drop_table('share_card')
    op.drop_column('share', 'outing_id')
    op.drop_column('share', 'owner_id')
