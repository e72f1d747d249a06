"""One word for each thing: landscape and portrait orientation, dynamic range. Framings are kept with the version of their schema."""

import json

import sqlalchemy as sa
from alembic import op
revision = '0006'
down_revision = '0005'
branch_labels = None
depends_on = None

_NEW = {'lengthwise': 'landscape', 'upright': 'portrait'}
_OLD = {new: old for old, new in _NEW.items()}


def upgrade():
    op.drop_constraint('orientation_choice', 'shot', type_='check')
    _turn_orientations(_NEW)
    op.create_check_constraint('orientation_choice', 'shot', "orientation IN ('landscape', 'portrait')")
    op.drop_constraint('held_stops_range', 'body', type_='check')
    op.alter_column('body', 'held_stops', new_column_name='dynamic_range_stops')
    op.create_check_constraint('dynamic_range_stops_range', 'body', 'dynamic_range_stops >= 1.0 AND dynamic_range_stops <= 25.0')
    _rewrite_framings(lambda choices: {'version': 1, 'values': _turned(choices, _NEW)})
    _rewrite_journal(_row_forth)


def downgrade():
    _rewrite_journal(_row_back)
    _rewrite_framings(lambda choices: _turned(choices['values'], _OLD))
    op.drop_constraint('dynamic_range_stops_range', 'body', type_='check')
    op.alter_column('body', 'dynamic_range_stops', new_column_name='held_stops')
    op.create_check_constraint('held_stops_range', 'body', 'held_stops >= 1.0 AND held_stops <= 25.0')
    op.drop_constraint('orientation_choice', 'shot', type_='check')
    _turn_orientations(_OLD)
    op.create_check_constraint('orientation_choice', 'shot', "orientation IN ('lengthwise', 'upright')")


def _turn_orientations(words):
    for before, after in words.items():
        op.get_bind().execute(sa.text('UPDATE shot SET orientation = :after WHERE orientation = :before'), {'before': before, 'after': after})


def _turned(row, words):
    return {**row, 'orientation': words.get(row['orientation'], row['orientation'])} if 'orientation' in row else row


def _row_forth(table, row):
    if table == 'shot':
        return _turned(row, _NEW)
    if table == 'framing':
        return {**row, 'choices': {'version': 1, 'values': _turned(row['choices'], _NEW)}}
    return _renamed(row, 'held_stops', 'dynamic_range_stops') if table == 'body' else row


def _row_back(table, row):
    if table == 'shot':
        return _turned(row, _OLD)
    if table == 'framing':
        return {**row, 'choices': _turned(row['choices']['values'], _OLD)}
    return _renamed(row, 'dynamic_range_stops', 'held_stops') if table == 'body' else row


def _renamed(row, before, after):
    return {after if name == before else name: value for name, value in row.items()}


def _rewrite_framings(change):
    connection = op.get_bind()
    for row in connection.execute(sa.text('SELECT id, choices FROM framing')).all():
        values = {'id': row.id, 'choices': json.dumps(change(row.choices))}
        connection.execute(sa.text('UPDATE framing SET choices = CAST(:choices AS jsonb) WHERE id = :id'), values)


def _rewrite_journal(change):
    connection = op.get_bind()
    for entry in connection.execute(sa.text('SELECT id, changes FROM journal_entry')).all():
        changes = [
            {**item, **{side: change(item['table'], item[side]) for side in ('before', 'after') if item[side] is not None}}
            for item in entry.changes
        ]
        values = {'id': entry.id, 'changes': json.dumps(changes)}
        connection.execute(sa.text('UPDATE journal_entry SET changes = CAST(:changes AS jsonb) WHERE id = :id'), values)
