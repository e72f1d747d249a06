"""Groups of frames with their order, waits for filters and the turning head, and what batteries and cards hold."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0017'
down_revision = '0016'
branch_labels = None
depends_on = None


def upgrade():
    op.add_column('shot', sa.Column('frame_groups', postgresql.JSONB(), server_default='{"version": 1, "value": []}', nullable=False))
    op.add_column('shot', sa.Column('filter_change_s', sa.Double(), server_default='20', nullable=False))
    op.create_check_constraint(op.f('ck_shot_filter_change_s_range'), 'shot', 'filter_change_s >= 0.0 AND filter_change_s <= 600.0')
    op.add_column('shot', sa.Column('turn_s', sa.Double(), server_default='0', nullable=False))
    op.create_check_constraint(op.f('ck_shot_turn_s_range'), 'shot', 'turn_s >= 0.0 AND turn_s <= 600.0')
    op.add_column('shot', sa.Column('frame_order', sa.Text(), server_default='chosen', nullable=False))
    op.create_check_constraint(op.f('ck_shot_frame_order_choice'), 'shot', "frame_order IN ('chosen', 'pinned')")
    op.alter_column('shot', 'filter_change_s', server_default=None)
    op.alter_column('shot', 'turn_s', server_default=None)
    op.alter_column('shot', 'frame_order', server_default=None)
    op.add_column('body', sa.Column('battery_frames', sa.Integer(), nullable=True))
    op.create_check_constraint(op.f('ck_body_battery_frames_range'), 'body', 'battery_frames >= 10 AND battery_frames <= 100000')
    op.add_column('body', sa.Column('batteries', sa.Integer(), server_default='1', nullable=False))
    op.create_check_constraint(op.f('ck_body_batteries_range'), 'body', 'batteries >= 1 AND batteries <= 50')
    op.add_column('body', sa.Column('file_mb', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_body_file_mb_range'), 'body', 'file_mb >= 0.1 AND file_mb <= 5000.0')
    op.add_column('body', sa.Column('card_gb', sa.Double(), nullable=True))
    op.create_check_constraint(op.f('ck_body_card_gb_range'), 'body', 'card_gb >= 0.1 AND card_gb <= 100000.0')


def downgrade():
    for name in ('card_gb', 'file_mb', 'batteries', 'battery_frames'):
        op.drop_column('body', name)
    for name in ('frame_order', 'turn_s', 'filter_change_s', 'frame_groups'):
        op.drop_column('shot', name)
