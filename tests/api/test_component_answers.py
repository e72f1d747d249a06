"""The answers that the front end's component tests are drawn from have the shape of what is sent now."""

import json
from pathlib import Path

import pytest
from component_answers import paths

ANSWERS = Path(__file__).resolve().parents[1] / "reference" / "answers"


def _shape(value):
    """The names in an answer, the elements of a list taken together; None of what may be missing."""
    if isinstance(value, dict):
        return {name: _shape(item) for name, item in value.items()}
    if isinstance(value, list):
        shapes = [_shape(item) for item in value if isinstance(item, dict)]
        return [{name: shape[name] for shape in shapes for name in shape}] if shapes else None
    return None


def _named(shape, path=""):
    if isinstance(shape, dict):
        for name, item in shape.items():
            yield f"{path}.{name}"
            yield from _named(item, f"{path}.{name}")
    elif isinstance(shape, list):
        yield from _named(shape[0], f"{path}[]")


@pytest.mark.parametrize("path", sorted(ANSWERS.glob("*.json")), ids=lambda path: path.stem)
def test_answers_are_what_is_sent(api, path):
    """What stands in one alone is at most in a part that may be empty; tools/component_answers.py writes them again."""
    kept, sent = (
        set(_named(_shape(item))) for item in (json.loads(path.read_text()), api.get(paths(api.get)[path.stem]))
    )
    assert len(kept & sent) > 5
    for name in kept ^ sent:
        parent = name.rpartition(".")[0]
        while parent and parent in kept and parent in sent:
            pytest.fail(f"{path.name}: {name} is {'no longer' if name in kept else 'newly'} sent")
