"""What screens explain is what docs/glossary.md says."""

import re
from pathlib import Path

from lucid_ridge.core.facts.glossary import TERMS

ROOT = Path(__file__).resolve().parents[2]


def test_the_glossary_says_the_same_as_the_screens():
    written = dict(re.findall(r"^- \*\*(.+?)\*\*: (.+)$", (ROOT / "docs" / "glossary.md").read_text(), re.M))
    assert {term: written.get(term) for term in TERMS} == dict(TERMS)


def test_every_sentence_ends_and_none_explains_a_term_by_itself():
    for term, words in TERMS.items():
        assert words.endswith(".") and term not in words, term


def test_screens_name_only_known_terms():
    used = set()
    for path in (ROOT / "web" / "src").rglob("*.tsx"):
        used |= set(re.findall(r'\bterm="([^"]+)"', path.read_text()))
    assert len(used) >= 8
    assert used <= set(TERMS)
