"""What elements and the ground are made of, graduated filters by kind and place, what long times cost on film."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0015'
down_revision = '0014'
branch_labels = None
depends_on = None

MATERIALS = (
    'fresh snow', 'old snow', 'dry sand', 'wet sand', 'light rock', 'dark or wet rock', 'lichen on rock', 'peat and heath', 'grass', 'broad leaves',
    'conifers', 'weathered wood', 'limewash', 'pale petals', 'deep red or blue petals', 'insect', 'foam', 'water', 'peat-brown water',
)
SHAPES = (
    'block', 'boulder', 'post', 'posts', 'tree', 'tower', 'ridge', 'skyline', 'water', 'shoreline', 'wall', 'path', 'stream', 'flower', 'insect',
)
BRACKETS = ('none', 'around', 'range', 'land and sky', 'highlights', 'frozen and long')
GRADATIONS = ('soft', 'medium', 'hard', 'reverse')


def listed(choices):
    return ', '.join(f"'{choice}'" for choice in choices)


def upgrade():
    op.add_column('element', sa.Column('material', sa.Text(), nullable=True))
    op.add_column('element', sa.Column('reflectance', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_element_material_choice'), 'element', f'material IN ({listed(MATERIALS)})')
    op.create_check_constraint(op.f('ck_element_reflectance_range'), 'element', 'reflectance >= 0.005 AND reflectance <= 1.0')
    op.drop_constraint(op.f('ck_element_shape_choice'), 'element')
    op.create_check_constraint(op.f('ck_element_shape_choice'), 'element', f"shape IN ({listed((*SHAPES, 'mushroom'))})")
    op.add_column('filter', sa.Column('gradation', sa.Text(), server_default='soft', nullable=False))
    op.alter_column('filter', 'gradation', server_default=None)
    op.create_check_constraint(op.f('ck_filter_gradation_choice'), 'filter', f'gradation IN ({listed(GRADATIONS)})')
    op.add_column('body', sa.Column('film_exponent', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_body_film_exponent_range'), 'body', 'film_exponent >= 1.0 AND film_exponent <= 2.0')
    op.add_column('shot', sa.Column('ground_material', sa.Text(), server_default='grass', nullable=False))
    op.alter_column('shot', 'ground_material', server_default=None)
    op.create_check_constraint(op.f('ck_shot_ground_material_choice'), 'shot', f'ground_material IN ({listed(MATERIALS)})')
    op.add_column('shot', sa.Column('bracket_count', sa.Integer(), server_default='3', nullable=False))
    op.alter_column('shot', 'bracket_count', server_default=None)
    op.create_check_constraint(op.f('ck_shot_bracket_count_range'), 'shot', 'bracket_count >= 2 AND bracket_count <= 15')
    op.drop_constraint(op.f('ck_shot_bracket_choice'), 'shot')
    op.create_check_constraint(op.f('ck_shot_bracket_choice'), 'shot', f'bracket IN ({listed(BRACKETS)})')
    op.add_column('shot', sa.Column('spots', postgresql.JSONB(), server_default='{"version": 1, "value": []}', nullable=False))
    op.add_column('shot', sa.Column('graduated_at', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_shot_graduated_at_range'), 'shot', 'graduated_at >= -1.0 AND graduated_at <= 2.0')
    op.add_column('shot', sa.Column('graduated_tilt_deg', sa.Double(), server_default='0', nullable=False))
    op.alter_column('shot', 'graduated_tilt_deg', server_default=None)
    op.create_check_constraint(op.f('ck_shot_graduated_tilt_deg_range'), 'shot', 'graduated_tilt_deg >= -90.0 AND graduated_tilt_deg <= 90.0')


def downgrade():
    op.execute("UPDATE shot SET bracket = 'range' WHERE bracket IN ('around', 'land and sky', 'frozen and long')")
    op.execute("UPDATE shot SET bracket = 'none' WHERE bracket = 'highlights'")
    op.drop_constraint(op.f('ck_shot_bracket_choice'), 'shot')
    op.create_check_constraint(op.f('ck_shot_bracket_choice'), 'shot', "bracket IN ('none', 'range')")
    op.drop_column('shot', 'bracket_count')
    op.drop_column('shot', 'spots')
    op.drop_column('shot', 'graduated_tilt_deg')
    op.drop_column('shot', 'graduated_at')
    op.drop_column('shot', 'ground_material')
    op.drop_column('body', 'film_exponent')
    op.drop_column('filter', 'gradation')
    op.execute("UPDATE element SET shape = 'flower' WHERE shape = 'mushroom'")
    op.drop_constraint(op.f('ck_element_shape_choice'), 'element')
    op.create_check_constraint(op.f('ck_element_shape_choice'), 'element', f'shape IN ({listed(SHAPES)})')
    op.drop_column('element', 'reflectance')
    op.drop_column('element', 'material')
