"""Where the camera stands beside its viewpoint, the guide of the frame, readings that are wanted so."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
revision = '0003'
down_revision = '0002'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('shot', sa.Column('camera_east_m', sa.Double(), server_default='0', nullable=False))
    op.add_column('shot', sa.Column('camera_north_m', sa.Double(), server_default='0', nullable=False))
    op.add_column('shot', sa.Column('guide', sa.Text(), server_default='thirds', nullable=False))
    op.add_column('shot', sa.Column('muted_readings', postgresql.JSONB(astext_type=sa.Text()), server_default='[]', nullable=False))
    op.create_check_constraint(op.f('ck_shot_camera_east_m_range'), 'shot', 'camera_east_m >= -1000.0 AND camera_east_m <= 1000.0')
    op.create_check_constraint(op.f('ck_shot_camera_north_m_range'), 'shot', 'camera_north_m >= -1000.0 AND camera_north_m <= 1000.0')
    op.create_check_constraint(op.f('ck_shot_guide_choice'), 'shot', "guide IN ('thirds', 'golden', 'centre', 'none')")


def downgrade() -> None:
    op.drop_constraint(op.f('ck_shot_camera_east_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_camera_north_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_guide_choice'), 'shot', type_='check')
    op.drop_column('shot', 'muted_readings')
    op.drop_column('shot', 'guide')
    op.drop_column('shot', 'camera_north_m')
    op.drop_column('shot', 'camera_east_m')
