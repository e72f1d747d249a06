"""Filters of a colour, for black and white."""

from alembic import op

revision = '0032'
down_revision = '0031'
branch_labels = None
depends_on = None

KINDS = ('neutral_density', 'polariser', 'graduated')


def _choices(values):
    op.drop_constraint(op.f('ck_filter_kind_choice'), 'filter', type_='check')
    listed = ', '.join(f"'{item}'" for item in values)
    op.create_check_constraint(op.f('ck_filter_kind_choice'), 'filter', f'kind IN ({listed})')


def upgrade():
    _choices((*KINDS, 'colour'))


def downgrade():
    op.execute("UPDATE filter SET kind = 'polariser' WHERE kind = 'colour'")
    _choices(KINDS)
