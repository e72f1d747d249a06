"""The columns of kit and places are those that the core declares: type, whether it may be missing, and default."""

import pytest
from sqlalchemy import inspect

from lucid_ridge.core.facts import accessory, filters, kit, place
from lucid_ridge.core.facts.declaring import facts_of
from lucid_ridge.store import kit as kept_kit
from lucid_ridge.store import places as kept_places
from lucid_ridge.store.declared import columns_of

PAIRS = (
    (kept_kit.Body, kit.Body),
    (kept_kit.Lens, kit.Lens),
    (kept_kit.Filter, filters.Filter),
    (kept_kit.Support, kit.Support),
    (kept_kit.Accessory, accessory.Accessory),
    (kept_places.Element, place.Element),
    (kept_places.Hazard, place.Hazard),
    (kept_places.Opening, place.Opening),
    (kept_places.Scouting, place.Scouting),
    (kept_places.SeasonNote, place.SeasonNote),
)
CASES = [(row, facts, name) for row, facts in PAIRS for name in facts_of(facts)]


@pytest.mark.parametrize(("row", "facts", "name"), CASES, ids=[f"{facts.__name__}.{name}" for _, facts, name in CASES])
def test_a_column_is_what_is_declared(row, facts, name):
    said, columns = facts_of(facts)[name], inspect(row).columns
    if name not in columns:
        pytest.fail(f"{row.__name__} keeps no {name}")
    column = columns[name]
    assert bool(column.nullable) == said.optional
    (declared,) = [item.column for item in columns_of(facts) if item.column.name == name]
    assert column.type.python_type == declared.type.python_type
    # A required value has no default.
    if not said.required and column.default is not None and column.default.is_scalar:
        assert column.default.arg == said.default


def test_enough_is_compared():
    assert len(CASES) > 80
