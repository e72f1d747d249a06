"""A shot's values by the names of their facts, as they travel: each in its group."""

import re

from lucid_ridge.core.facts.choices import group_of, path_of


def grouped(values):
    """Return values of a shot, said by name, each put into its group; what is no fact stays where it is."""
    result = {}
    for name, value in values.items():
        group = group_of(name)
        (result.setdefault(group, {}) if group else result)[name] = value
    return result


def on_the_wire(path, body):
    """Return the body of a request: grouped where it goes to a shot."""
    return grouped(body) if _is_shot(path) and isinstance(body, dict) else body


def field_on_the_wire(path, field):
    """Return how a refusal names a field: filters.0 of a shot is exposure.filters.0."""
    name, *rest = field.split(".")
    return ".".join([path_of(name), *rest]) if _is_shot(path) else field


def _is_shot(path):
    return re.fullmatch(r"(/api)?/shots/\d+", path) is not None
