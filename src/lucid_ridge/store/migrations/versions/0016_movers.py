"""What moves and what it should look like, filters that can be turned, kinds of film, from which focal length one takes a polariser."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0016'
down_revision = '0015'
branch_labels = None
depends_on = None

KINDS = ('falls', 'surf', 'stream', 'ripples', 'plants in the wind', 'people', 'birds', 'boat', 'insect')


def upgrade():
    op.add_column('element', sa.Column('moving', sa.Text(), nullable=True))
    op.create_check_constraint(op.f('ck_element_moving_choice'), 'element', 'moving IN ({})'.format(', '.join(f"'{kind}'" for kind in KINDS)))
    op.add_column('element', sa.Column('passing_per_min', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_element_passing_per_min_range'), 'element', 'passing_per_min >= 0.0 AND passing_per_min <= 600.0')
    op.add_column('shot', sa.Column('motion_wishes', postgresql.JSONB(), server_default='{"version": 1, "value": []}', nullable=False))
    op.add_column('filter', sa.Column('stops_max', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_filter_stops_max_range'), 'filter', 'stops_max >= 0.0 AND stops_max <= 25.0')
    op.add_column('shot_filter', sa.Column('set_stops', sa.Double(), nullable=True))
    op.add_column('photographer', sa.Column('polariser_from_mm', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_photographer_polariser_from_mm_range'), 'photographer', 'polariser_from_mm >= 8.0 AND polariser_from_mm <= 200.0')
    op.add_column('body', sa.Column('film', sa.Text(), nullable=True))
    op.create_check_constraint(op.f('ck_body_film_choice'), 'body', "film IN ('slide', 'negative')")


def downgrade():
    op.drop_column('body', 'film')
    op.drop_column('photographer', 'polariser_from_mm')
    op.drop_column('shot_filter', 'set_stops')
    op.drop_column('filter', 'stops_max')
    op.drop_column('shot', 'motion_wishes')
    op.drop_column('element', 'passing_per_min')
    op.drop_column('element', 'moving')
