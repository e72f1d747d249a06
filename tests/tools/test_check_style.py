"""The check of style finds house words and long calls, and leaves plain text alone."""

import pytest
from check_style import house_words, long_calls


@pytest.mark.parametrize(
    "line",
    ["Every so manieth row.", "Return what is sharp.", "The list is drawn anew.", "A time out with a card.", "as told"],
)
def test_house_words_are_found(line):
    assert len(list(house_words("a.py:1", line))) == 1


@pytest.mark.parametrize(
    "line", ["Return the nearest sharp distance.", "The clock is set out of step.", "It times out of habit."]
)
def test_plain_words_are_not(line):
    assert list(house_words("a.py:1", line)) == []


def test_a_call_with_eight_positional_arguments_is_found():
    assert list(long_calls("plan(1, 2, 3, 4, 5, 6, 7, 8)")) == [(1, "plan")]
    assert list(long_calls("plan(1, 2, 3, 4, 5, 6, 7, iso=8)")) == []
    assert list(long_calls("options(1, 2, 3, 4, 5, 6, 7, 8)")) == []
