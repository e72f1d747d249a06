"""What the solver weighs of a shot: stakes, limits and a leaning."""

import sqlalchemy as sa
from alembic import op
revision = '0018'
down_revision = '0017'
branch_labels = None
depends_on = None

STAKES = ('must', 'strong wish', 'wish', 'free')
LEANINGS = ('even', 'few frames', 'sharp', 'clean', 'quick')


def upgrade():
    op.add_column('shot', sa.Column('leaning', sa.Text(), server_default='even', nullable=False))
    op.create_check_constraint(op.f('ck_shot_leaning_choice'), 'shot', "leaning IN ({})".format(', '.join(f"'{item}'" for item in LEANINGS)))
    op.alter_column('shot', 'leaning', server_default=None)
    op.add_column('shot', sa.Column('sharp_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_sharp_stake_choice'), 'shot', "sharp_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'sharp_stake', server_default=None)
    op.add_column('shot', sa.Column('motion_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_motion_stake_choice'), 'shot', "motion_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'motion_stake', server_default=None)
    op.add_column('shot', sa.Column('range_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_range_stake_choice'), 'shot', "range_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'range_stake', server_default=None)
    op.add_column('shot', sa.Column('most_iso', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_shot_most_iso_range'), 'shot', 'most_iso >= 1.0 AND most_iso <= 10000000.0')
    op.add_column('shot', sa.Column('noise_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_noise_stake_choice'), 'shot', "noise_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'noise_stake', server_default=None)
    op.add_column('shot', sa.Column('most_frames', sa.Integer(), nullable=True))
    op.create_check_constraint(op.f('ck_shot_most_frames_range'), 'shot', 'most_frames >= 1 AND most_frames <= 2000')
    op.add_column('shot', sa.Column('frames_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_frames_stake_choice'), 'shot', "frames_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'frames_stake', server_default=None)
    op.add_column('shot', sa.Column('most_min', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_shot_most_min_range'), 'shot', 'most_min > 0.0 AND most_min <= 1440.0')
    op.add_column('shot', sa.Column('minutes_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_minutes_stake_choice'), 'shot', "minutes_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'minutes_stake', server_default=None)
    op.add_column('shot', sa.Column('light_stake', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_light_stake_choice'), 'shot', "light_stake IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'light_stake', server_default=None)
    op.add_column('shot', sa.Column('keep_aperture', sa.Text(), server_default='free', nullable=False))
    op.create_check_constraint(op.f('ck_shot_keep_aperture_choice'), 'shot', "keep_aperture IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'keep_aperture', server_default=None)
    op.add_column('shot', sa.Column('keep_iso', sa.Text(), server_default='free', nullable=False))
    op.create_check_constraint(op.f('ck_shot_keep_iso_choice'), 'shot', "keep_iso IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'keep_iso', server_default=None)
    op.add_column('shot', sa.Column('keep_filters', sa.Text(), server_default='free', nullable=False))
    op.create_check_constraint(op.f('ck_shot_keep_filters_choice'), 'shot', "keep_filters IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'keep_filters', server_default=None)
    op.add_column('shot', sa.Column('keep_hold', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_keep_hold_choice'), 'shot', "keep_hold IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'keep_hold', server_default=None)
    op.add_column('shot', sa.Column('keep_start', sa.Text(), server_default='must', nullable=False))
    op.create_check_constraint(op.f('ck_shot_keep_start_choice'), 'shot', "keep_start IN ({})".format(', '.join(f"'{item}'" for item in STAKES)))
    op.alter_column('shot', 'keep_start', server_default=None)
    op.add_column('shot', sa.Column('within_min', sa.Double(), server_default='30', nullable=False))
    op.alter_column('shot', 'within_min', server_default=None)
    op.create_check_constraint(op.f('ck_shot_within_min_range'), 'shot', 'within_min >= 1.0 AND within_min <= 180.0')


def downgrade():
    for name in ('leaning', 'sharp_stake', 'motion_stake', 'range_stake', 'most_iso', 'noise_stake', 'most_frames', 'frames_stake', 'most_min', 'minutes_stake', 'light_stake', 'keep_aperture', 'keep_iso', 'keep_filters', 'keep_hold', 'keep_start', 'within_min'):
        op.drop_column('shot', name)
