"""Where the camera stands beside its viewpoint, the guide and the crop of the frame, readings that are wanted so."""

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
    op.add_column('shot', sa.Column('crop_aspect', sa.Text(), nullable=True))
    op.add_column('shot', sa.Column('crop_focal_mm', sa.Double(), nullable=True))
    op.add_column('shot', sa.Column('guide', sa.Text(), server_default='thirds', nullable=False))
    op.add_column('shot', sa.Column('muted_readings', postgresql.JSONB(astext_type=sa.Text()), server_default='[]', nullable=False))
    op.create_check_constraint(op.f('ck_shot_camera_east_m_range'), 'shot', 'camera_east_m >= -1000.0 AND camera_east_m <= 1000.0')
    op.create_check_constraint(op.f('ck_shot_camera_north_m_range'), 'shot', 'camera_north_m >= -1000.0 AND camera_north_m <= 1000.0')
    op.create_check_constraint(op.f('ck_shot_crop_aspect_choice'), 'shot', "crop_aspect IN ('3:2', '4:3', '5:4', '1:1', '16:9', '65:24')")
    op.create_check_constraint(op.f('ck_shot_crop_focal_mm_range'), 'shot', 'crop_focal_mm >= 1.0 AND crop_focal_mm <= 6000.0')
    op.create_check_constraint(op.f('ck_shot_guide_choice'), 'shot', "guide IN ('thirds', 'golden', 'centre', 'none')")


def downgrade() -> None:
    op.drop_constraint(op.f('ck_shot_camera_east_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_camera_north_m_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_crop_aspect_choice'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_crop_focal_mm_range'), 'shot', type_='check')
    op.drop_constraint(op.f('ck_shot_guide_choice'), 'shot', type_='check')
    op.drop_column('shot', 'muted_readings')
    op.drop_column('shot', 'guide')
    op.drop_column('shot', 'crop_focal_mm')
    op.drop_column('shot', 'crop_aspect')
    op.drop_column('shot', 'camera_north_m')
    op.drop_column('shot', 'camera_east_m')
