"""The ground at the frame's edge as something sharp, accessories close up, how the camera is held, stacks by hand, flash."""

import sqlalchemy as sa
from alembic import op
revision = '0014'
down_revision = '0013'
branch_labels = None
depends_on = None

KINDS = (
    'extension tube', 'close-up lens', 'converter', 'reversing ring', 'bellows', 'view camera bellows', 'rail', 'flash', 'LED light', 'diffuser',
    'background card',
)
HOLDS = ('tripod', 'bean bag', 'hand', 'boat')
FIGURES = {
    'length_mm': (0.1, 1000.0), 'dioptres': (0.1, 40.0), 'factor': (1.01, 3.0), 'shortest_mm': (0.0, 2000.0), 'longest_mm': (1.0, 2000.0),
    'travel_mm': (1.0, 2000.0), 'finest_mm': (0.0001, 10.0), 'guide_number_m': (1.0, 200.0), 'recycle_s': (0.0, 60.0), 'lux_at_1m': (1.0, 1000000.0),
    'loss_stops': (0.0, 6.0), 'width_mm': (10.0, 5000.0), 'reflectance': (0.01, 1.0),
}
# As they stand in shots that are there already: type, what is kept, whether it may be unsaid.
CHOICES = {
    'ground_sharp': (sa.Boolean(), sa.false(), False), 'hold': (sa.Text(), 'tripod', False), 'braced': (sa.Boolean(), sa.false(), False),
    'subject_moves': (sa.Boolean(), sa.false(), False), 'frames_per_s': (sa.Double(), None, True), 'hit_rate': (sa.Double(), None, True),
    'patience_s': (sa.Double(), None, True), 'flash_distance_m': (sa.Double(), None, True),
    'flash_shutter_s': (sa.Double(), '0.004921566601151848', False),
}
RANGES = {
    'patience_s': 'patience_s >= 1.0 AND patience_s <= 86400.0', 'frames_per_s': 'frames_per_s >= 0.2 AND frames_per_s <= 120.0',
    'flash_distance_m': 'flash_distance_m >= 0.01 AND flash_distance_m <= 20.0', 'flash_shutter_s': 'flash_shutter_s > 0.0 AND flash_shutter_s <= 60.0',
    'hit_rate': 'hit_rate > 0.0 AND hit_rate <= 1.0',
}


def listed(choices):
    return ', '.join(f"'{choice}'" for choice in choices)


def upgrade():
    op.create_table('accessory',
        sa.Column('id', sa.Integer(), nullable=False),
        sa.Column('owner_id', sa.Integer(), nullable=False),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('kind', sa.Text(), nullable=False),
        *(sa.Column(name, sa.Double(), nullable=True) for name in FIGURES),
        sa.CheckConstraint('length(btrim(name)) > 0', name=op.f('ck_accessory_name_not_blank')),
        sa.CheckConstraint(f'kind IN ({listed(KINDS)})', name=op.f('ck_accessory_kind_choice')),
        *(sa.CheckConstraint(f'{name} >= {low} AND {name} <= {high}', name=op.f(f'ck_accessory_{name}_range')) for name, (low, high) in FIGURES.items()),
        sa.CheckConstraint('shortest_mm <= longest_mm', name=op.f('ck_accessory_shortest_mm_upto_longest_mm')),
        sa.ForeignKeyConstraint(['owner_id'], ['photographer.id'], name=op.f('fk_accessory_owner_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id', name=op.f('pk_accessory')),
    )
    op.create_index(op.f('ix_accessory_owner_id'), 'accessory', ['owner_id'], unique=False)
    op.create_table('shot_accessory',
        sa.Column('shot_id', sa.Integer(), nullable=False),
        sa.Column('accessory_id', sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(['accessory_id'], ['accessory.id'], name=op.f('fk_shot_accessory_accessory_id'), ondelete='CASCADE'),
        sa.ForeignKeyConstraint(['shot_id'], ['shot.id'], name=op.f('fk_shot_accessory_shot_id'), ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('shot_id', 'accessory_id', name=op.f('pk_shot_accessory')),
    )
    op.create_index(op.f('ix_shot_accessory_accessory_id'), 'shot_accessory', ['accessory_id'], unique=False)
    for name, (kind, kept, optional) in CHOICES.items():
        op.add_column('shot', sa.Column(name, kind, server_default=kept, nullable=optional))
        if kept is not None:
            op.alter_column('shot', name, server_default=None)
    op.create_check_constraint(op.f('ck_shot_hold_choice'), 'shot', f'hold IN ({listed(HOLDS)})')
    for name, rule in RANGES.items():
        op.create_check_constraint(op.f(f'ck_shot_{name}_range'), 'shot', rule)


def downgrade():
    for name in CHOICES:
        op.drop_column('shot', name)
    op.drop_table('shot_accessory')
    op.drop_table('accessory')
