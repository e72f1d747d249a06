"""Stored values of choices become neutral names; what the screens call them stands in core/labels.py."""

import json

import sqlalchemy as sa
from alembic import op

revision = '0031'
down_revision = '0030'
branch_labels = None
depends_on = None

# By enumeration: the former text and the new value, and all values before and after.
AccessoryKind = {
    'extension tube': 'extension_tube',
    'close-up lens': 'close_up_lens',
    'converter': 'converter',
    'reversing ring': 'reversing_ring',
    'bellows': 'bellows',
    'view camera bellows': 'view_camera_bellows',
    'rail': 'rail',
    'flash': 'flash',
    'LED light': 'led_light',
    'diffuser': 'diffuser',
    'background card': 'background_card',
}
CalibrationKind = {
    'filter cost': 'filter_cost',
    'light offset': 'light_offset',
    'look band': 'look_band',
    'hand held': 'hand_held',
    'water speed': 'water_speed',
    'set-up time': 'set_up_time',
    'walking time': 'walking_time',
    'filter change': 'filter_change',
    'series by hand': 'hand_series',
    'battery': 'battery',
}
FilterKind = {
    'neutral density': 'neutral_density',
    'polariser': 'polariser',
    'graduated': 'graduated',
}
Horizon = {
    'as typed': 'as_typed',
    'sea': 'sea',
    'lower land': 'land',
}
HazardKind = {
    'edge': 'edge',
    'tide': 'tide',
    'swell': 'swell',
    'slippery rock': 'slippery_rock',
    'loose rock': 'loose_rock',
    'river': 'river',
    'bog': 'bog',
    'avalanche': 'avalanche',
    'remoteness': 'remoteness',
    'heat': 'heat',
    'cold': 'cold',
}
OpeningDays = {
    'every day': 'every_day',
    'Monday to Friday': 'monday_to_friday',
    'Saturday and Sunday': 'weekend',
    'Monday': 'monday',
    'Tuesday': 'tuesday',
    'Wednesday': 'wednesday',
    'Thursday': 'thursday',
    'Friday': 'friday',
    'Saturday': 'saturday',
    'Sunday': 'sunday',
}
SeasonKind = {
    'leaf colour': 'leaf_colour',
    'flowering': 'flowering',
    'river flow': 'river_flow',
    'snow': 'snow',
    'ice': 'ice',
    'crowds': 'crowds',
    'other': 'other',
}
SignInOutcome = {
    'signed in': 'signed_in',
    'wrong name or password': 'wrong',
    'too many tries': 'too_many',
    'joined': 'joined',
    'password changed': 'password_changed',
    'password recovered': 'password_recovered',
    'signed out': 'signed_out',
    'signed out elsewhere': 'signed_out_elsewhere',
}
MovingKind = {
    'falls': 'falls',
    'surf': 'surf',
    'stream': 'stream',
    'ripples': 'ripples',
    'plants in the wind': 'plants',
    'people': 'people',
    'birds': 'birds',
    'boat': 'boat',
    'insect': 'insect',
}
Material = {
    'fresh snow': 'fresh_snow',
    'old snow': 'old_snow',
    'dry sand': 'dry_sand',
    'wet sand': 'wet_sand',
    'light rock': 'light_rock',
    'dark or wet rock': 'dark_rock',
    'lichen on rock': 'lichen',
    'peat and heath': 'peat',
    'grass': 'grass',
    'broad leaves': 'leaves',
    'conifers': 'conifers',
    'weathered wood': 'wood',
    'limewash': 'limewash',
    'pale petals': 'petals',
    'deep red or blue petals': 'dark_petals',
    'insect': 'insect',
    'foam': 'foam',
    'water': 'water',
    'peat-brown water': 'peat_water',
}
LightKind = {
    'low side light': 'low_side_light',
    'low back light': 'low_back_light',
    'low front light': 'low_front_light',
    'open shade': 'open_shade',
    'glow': 'glow',
    'blue hour': 'blue_hour',
    'moonlight': 'moonlight',
    'dark sky': 'dark_sky',
    'mist': 'mist',
}
Measure = {
    'low cloud': 'low_cloud',
    'cloud': 'cloud',
    'wind': 'wind',
    'gusts': 'gusts',
    'rain': 'rain',
    'fog': 'fog',
}
Hold = {
    'tripod': 'tripod',
    'bean bag': 'bean_bag',
    'hand': 'hand',
    'boat': 'boat',
}
BracketMode = {
    'none': 'none',
    'around': 'around',
    'range': 'range',
    'land and sky': 'land_and_sky',
    'highlights': 'highlights',
    'frozen and long': 'frozen_and_long',
}
Leaning = {
    'even': 'even',
    'few frames': 'few_frames',
    'sharp': 'sharp',
    'clean': 'clean',
    'quick': 'quick',
}
Stake = {
    'must': 'must',
    'strong wish': 'strong',
    'wish': 'wish',
    'free': 'free',
}
EventKind = {
    'began': 'began',
    'set out': 'set_out',
    'arrived': 'arrived',
    'ready': 'ready',
    'taken': 'taken',
    'skipped': 'skipped',
    'again': 'again',
    'late': 'late',
    'reading': 'reading',
    'filter missing': 'filter_missing',
    'wind': 'wind',
    'stands at': 'stands_at',
    'note': 'note',
    'photo': 'photo',
    'checked': 'checked',
    'packed': 'packed',
    'rating': 'rating',
    'waves': 'waves',
    'battery': 'battery',
    'countdown started': 'countdown_started',
    'countdown stopped': 'countdown_stopped',
    'ended': 'ended',
    'undone': 'undone',
}
GroupExposure = {
    'all exposures': 'all',
    'the main one': 'main',
    'the darkest': 'darkest',
    'the brightest': 'brightest',
    'the shortest': 'shortest',
    'a time of its own': 'own',
}
GroupFilters = {
    'as planned': 'planned',
    'without neutral density': 'no_density',
    'no filter': 'none',
    'chosen ones': 'chosen',
}
GroupFocus = {
    'all positions': 'all',
    'the nearest': 'nearest',
    'the middle one': 'middle',
    'the farthest': 'farthest',
    'one by its number': 'position',
    'on an element': 'element',
    'at a distance': 'distance',
}
GroupStart = {
    'at once': 'at_once',
    'at a clock time': 'clock',
    'at a moment': 'moment',
}
Moment = {
    'the light begins': 'light_begins',
    'the light ends': 'light_ends',
    'civil dawn': 'civil_dawn',
    'sunrise': 'sunrise',
    'the sun on the rim': 'sun_on_rim',
    'the sun behind the land': 'sun_behind_land',
    'sunset': 'sunset',
    'civil dusk': 'civil_dusk',
    'nautical dusk': 'nautical_dusk',
    'moonrise': 'moonrise',
    'moonset': 'moonset',
}
Role = {
    'whole picture': 'whole',
    'near': 'near',
    'middle': 'middle',
    'far': 'far',
    'whole stack': 'stack',
    'land': 'land',
    'sky': 'sky',
    'frozen': 'frozen',
    'long': 'long',
    'empty of people': 'empty',
    'panorama row': 'panorama_row',
    'dark frame': 'dark_frame',
    'test': 'test',
}
Together = {
    'as it is': 'alone',
    'stack': 'stack',
    'merge exposures': 'merge',
    'stitch': 'stitch',
    'blend': 'blend',
    'average': 'average',
    'choose the best': 'best',
}
PhaseKind = {
    'event': 'event',
    'filters': 'filters',
    'settle': 'settle',
    'flash': 'flash',
    'timer': 'timer',
    'exposure': 'exposure',
    'dark frame': 'dark_frame',
}
Exercise = {
    'counting stops': 'counting_stops',
    'time behind a filter': 'time_behind_filter',
    'the shutter for a look': 'shutter_for_look',
    'hyperfocal distance': 'hyperfocal_distance',
    'reading a histogram': 'histogram',
    'shutter ladder on moving water': 'shutter_ladder',
    'leaning in by a beat': 'leaning_in',
}
GroupKind = {
    'single': 'single',
    'burst': 'burst',
    'bracket': 'bracket',
    'stack or panorama': 'series',
}
WentWrong = {
    'came too late': 'late',
    'cloud in the way': 'cloud',
    'wind moved it': 'wind',
    'camera shake': 'shake',
    'focus missed': 'focus',
    'highlights clipped': 'clipped',
    'too dark': 'dark',
    'water not as wanted': 'water',
    'tide too high or low': 'tide',
    'something forgotten': 'forgotten',
    'people in the frame': 'people',
    'filter left on or off': 'filter',
}
Band = {'blue hour': 'blue_hour', 'golden hour': 'golden_hour'}

# Columns with a CHECK of their values.
_CHECKED = (
    ('accessory', 'kind', AccessoryKind),
    ('calibration', 'kind', CalibrationKind),
    ('filter', 'kind', FilterKind),
    ('location', 'horizon', Horizon),
    ('hazard', 'kind', HazardKind),
    ('opening', 'days', OpeningDays),
    ('season_note', 'kind', SeasonKind),
    ('sign_in_event', 'outcome', SignInOutcome),
    ('element', 'moving', MovingKind),
    ('element', 'material', Material),
    ('shot', 'wanted_light', LightKind),
    ('shot', 'plan_b_measure', Measure),
    ('shot', 'hold', Hold),
    ('shot', 'bracket', BracketMode),
    ('shot', 'ground_material', Material),
    ('shot', 'leaning', Leaning),
    ('shot', 'sharp_stake', Stake),
    ('shot', 'motion_stake', Stake),
    ('shot', 'range_stake', Stake),
    ('shot', 'noise_stake', Stake),
    ('shot', 'frames_stake', Stake),
    ('shot', 'minutes_stake', Stake),
    ('shot', 'light_stake', Stake),
    ('shot', 'keep_aperture', Stake),
    ('shot', 'keep_iso', Stake),
    ('shot', 'keep_filters', Stake),
    ('shot', 'keep_hold', Stake),
    ('shot', 'keep_start', Stake),
    ('field_event', 'kind', EventKind),
)
# Columns of plain text.
_TEXT = (
    ('log_entry', 'light_kind', {**Band, **LightKind}), ('log_frame', 'group_kind', GroupKind), ('practice_score', 'exercise', Exercise),
)
_KINDS = {**AccessoryKind, **CalibrationKind, **FilterKind, **HazardKind, **SeasonKind, **EventKind, **PhaseKind}
# Nested values: what a text stands for follows from the name it stands under.
_NESTED = {
    'kind': _KINDS, 'horizon': Horizon, 'days': OpeningDays, 'moving': MovingKind, 'material': Material, 'ground_material': Material,
    'wanted_light': LightKind, 'light_kind': {**Band, **LightKind}, 'plan_b_measure': Measure, 'hold': Hold, 'bracket': BracketMode,
    'leaning': Leaning, 'role': Role, 'focus': GroupFocus, 'exposure': GroupExposure, 'filters': GroupFilters, 'start': GroupStart,
    'start_moment': Moment, 'together': Together, 'how': Together, 'steps': Together, 'went_wrong': WentWrong, 'value': WentWrong,
    'exercise': Exercise, 'group_kind': GroupKind,
    **{name: Stake for _, name, values in _CHECKED if values is Stake},
}
_JSON = (
    ('journal_entry', 'changes'), ('framing', 'choices'), ('share', 'given'), ('field_card', 'content'), ('field_card', 'run'), ('log_entry', 'planned'),
    ('log_entry', 'went_wrong'), ('shot', 'frame_groups'), ('practice_score', 'said'),
)


def upgrade():
    _rename(lambda values: values)
    op.alter_column('location', 'horizon', server_default='as_typed')
    op.alter_column('journal_entry', 'hand', new_column_name='client_id')
    op.alter_column('photographer', 'surroundings', new_column_name='context_token')


def downgrade():
    _rename(lambda values: {new: former for former, new in values.items()})
    op.alter_column('location', 'horizon', server_default='as typed')
    op.alter_column('journal_entry', 'client_id', new_column_name='hand')
    op.alter_column('photographer', 'context_token', new_column_name='surroundings')


def _rename(turned):
    connection = op.get_bind()
    for table, column, values in _CHECKED:
        op.drop_constraint(op.f(f'ck_{table}_{column}_choice'), table, type_='check')
        _update(connection, table, column, turned(values))
        listed = ', '.join("'" + value.replace("'", "''") + "'" for value in turned(values).values())
        op.create_check_constraint(op.f(f'ck_{table}_{column}_choice'), table, f'{column} IN ({listed})')
    for table, column, values in _TEXT:
        _update(connection, table, column, turned(values))
    nested = {name: turned(values) for name, values in _NESTED.items()}
    for table, column in _JSON:
        for row in connection.execute(sa.text(f'SELECT id, {column} AS kept FROM {table} WHERE {column} IS NOT NULL')).all():
            kept = _renamed(row.kept, '', nested)
            if kept != row.kept:
                connection.execute(
                    sa.text(f'UPDATE {table} SET {column} = CAST(:kept AS jsonb) WHERE id = :id'), {'id': row.id, 'kept': json.dumps(kept)}
                )
    # What was worked out from them is worked out anew.
    op.execute('UPDATE shot_summary SET made_revision = -1')
    op.execute('DELETE FROM kept_outlook')
    op.execute('DELETE FROM log_digest')


def _update(connection, table, column, values):
    changed = {former: new for former, new in values.items() if former != new}
    if changed:
        cases = ' '.join(f'WHEN :f{at} THEN :n{at}' for at in range(len(changed)))
        names = {f'f{at}': former for at, former in enumerate(changed)} | {f'n{at}': new for at, new in enumerate(changed.values())}
        statement = sa.text(f'UPDATE {table} SET {column} = CASE {column} {cases} END WHERE {column} = ANY(:former)')
        connection.execute(statement, {**names, 'former': list(changed)})


def _renamed(value, name, nested):
    if isinstance(value, dict):
        return {key: _renamed(part, key, nested) for key, part in value.items()}
    if isinstance(value, list):
        return [_renamed(part, name, nested) for part in value]
    return nested.get(name, {}).get(value, value) if isinstance(value, str) else value
