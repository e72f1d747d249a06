"""Countdowns of the field runner among its events."""

from alembic import op

revision = '0029'
down_revision = '0028'
branch_labels = None
depends_on = None

_KINDS = (
    'began', 'set out', 'arrived', 'ready', 'taken', 'skipped', 'again', 'late', 'reading', 'filter missing', 'wind', 'stands at', 'note',
    'photo', 'checked', 'packed', 'rating', 'waves', 'battery',
)
_COUNTDOWNS = ('countdown started', 'countdown stopped')
_LAST = ('ended', 'undone')


def upgrade():
    _kinds(*_KINDS, *_COUNTDOWNS, *_LAST)


def downgrade():
    op.execute("DELETE FROM field_event WHERE kind IN ('countdown started', 'countdown stopped')")
    _kinds(*_KINDS, *_LAST)


def _kinds(*kinds):
    op.drop_constraint(op.f('ck_field_event_kind_choice'), 'field_event', type_='check')
    listed = ', '.join(f"'{kind}'" for kind in kinds)
    op.create_check_constraint(op.f('ck_field_event_kind_choice'), 'field_event', f'kind IN ({listed})')
