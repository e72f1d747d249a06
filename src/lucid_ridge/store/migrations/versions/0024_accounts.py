"""Accounts, where they are signed in, links that let someone in once, and the record of tries."""

import sqlalchemy as sa
from alembic import op

revision = '0024'
down_revision = '0023'
branch_labels = None
depends_on = None

OUTCOMES = ('signed in', 'wrong name or password', 'too many tries', 'joined', 'password changed', 'password recovered', 'signed out', 'signed out elsewhere')


def _instant(name, nullable=False):
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def upgrade():
    op.create_table(
        'account',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('password', sa.Text(), nullable=False),
        _instant('made_at_utc'),
        sa.Column('closed', sa.Boolean(), server_default='false', nullable=False),
        sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_account_name_not_blank')),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_account_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_account')),
        sa.UniqueConstraint('owner_id', name=op.f('uq_account_owner_id')),
    )
    op.create_index('uq_account_lower_name', 'account', [sa.text('lower(name)')], unique=True)
    op.create_table(
        'sign_in',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('account_id', sa.Integer(), nullable=False),
        sa.Column('token_digest', sa.Text(), nullable=False),
        _instant('began_at_utc'),
        _instant('seen_at_utc'),
        sa.Column('device', sa.Text(), server_default='', nullable=False),
        sa.ForeignKeyConstraint(['account_id'], ['account.id'], name=op.f('fk_sign_in_account_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_sign_in')),
        sa.UniqueConstraint('token_digest', name=op.f('uq_sign_in_token_digest')),
    )
    op.create_index(op.f('ix_sign_in_account_id'), 'sign_in', ['account_id'])
    op.create_table(
        'pass',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('token_digest', sa.Text(), nullable=False),
        sa.Column('account_id', sa.Integer(), nullable=True),
        sa.Column('notebook_of_id', sa.Integer(), nullable=True),
        _instant('until_utc'),
        _instant('used_at_utc', nullable=True),
        sa.ForeignKeyConstraint(['account_id'], ['account.id'], name=op.f('fk_pass_account_id'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['notebook_of_id'], ['photographer.id'], name=op.f('fk_pass_notebook_of_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_pass')),
        sa.UniqueConstraint('token_digest', name=op.f('uq_pass_token_digest')),
    )
    op.create_index(op.f('ix_pass_account_id'), 'pass', ['account_id'])
    op.create_index(op.f('ix_pass_notebook_of_id'), 'pass', ['notebook_of_id'])
    op.create_table(
        'sign_in_event',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('account_id', sa.Integer(), nullable=True),
        _instant('at_utc'),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('outcome', sa.Text(), nullable=False),
        sa.Column('address', sa.Text(), server_default='', nullable=False),
        sa.Column('device', sa.Text(), server_default='', nullable=False),
        sa.CheckConstraint('outcome IN (' + ', '.join(f"'{item}'" for item in OUTCOMES) + ')', name=op.f('ck_sign_in_event_outcome_choice')),
        sa.ForeignKeyConstraint(['account_id'], ['account.id'], name=op.f('fk_sign_in_event_account_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_sign_in_event')),
    )
    op.create_index(op.f('ix_sign_in_event_account_id'), 'sign_in_event', ['account_id'])
    op.create_index(op.f('ix_sign_in_event_at_utc'), 'sign_in_event', ['at_utc'])
    op.create_index('ix_sign_in_event_name_at', 'sign_in_event', ['name', 'at_utc'])


def downgrade():
    for name in ('sign_in_event', 'pass', 'sign_in', 'account'):
        op.drop_table(name)
