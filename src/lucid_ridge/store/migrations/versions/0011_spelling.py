"""How a photographer reads lengths, clock times and dates, and how fine the dials are."""

import sqlalchemy as sa
from alembic import op
revision = '0011'
down_revision = '0010'
branch_labels = None
depends_on = None

CHOICES = {
    'lengths': ('metres', 'feet'),
    'hours': ('24', '12'),
    'day_order': ('day_first', 'month_first'),
    'dial_steps': ('thirds', 'halves', 'whole'),
}


def upgrade():
    for name, choices in CHOICES.items():
        op.add_column('photographer', sa.Column(name, sa.Text(), server_default=choices[0], nullable=False))
        listed = ', '.join(f"'{choice}'" for choice in choices)
        op.create_check_constraint(f'{name}_choice', 'photographer', f'{name} IN ({listed})')


def downgrade():
    for name in CHOICES:
        op.drop_column('photographer', name)
