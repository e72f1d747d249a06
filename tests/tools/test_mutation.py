"""Mutants: which changes are made of a module, and that each is one change of one line."""

from pathlib import Path

import mutation


def test_operators_comparisons_and_numbers_are_changed(tmp_path, monkeypatch):
    source = tmp_path / "rule.py"
    source.write_text(
        '"""Rule with a µ before its code."""\n\n\ndef area(width, height):\n    return width * height if width > 0 else 2.5\n'
    )
    monkeypatch.setattr(mutation, "ROOT", tmp_path)
    found = {(mutant.before, mutant.after) for mutant in mutation.mutants(source)}
    assert found == {("*", "/"), (">", ">="), ("0", "1"), ("2.5", "2.76")}


def test_a_mutant_replaces_its_own_columns_only(tmp_path, monkeypatch):
    source = tmp_path / "rule.py"
    source.write_text("LABEL, LIMIT = 'µm - mm', 1 - 3\n")
    monkeypatch.setattr(mutation, "ROOT", tmp_path)
    minus = next(mutant for mutant in mutation.mutants(source) if mutant.before == "-")
    line = source.read_text().split("\n")[0]
    assert line[: minus.begin] + minus.after + line[minus.end :] == "LABEL, LIMIT = 'µm - mm', 1 + 3"


def test_sentences_are_left_out(tmp_path):
    source = tmp_path / "wording.py"
    source.write_text("LIMIT = 1 + 2\n")
    assert list(mutation.mutants(source)) == []


def test_what_survived_is_found_again_after_an_edit():
    path = Path("src/rule.py")
    found = [mutation.Mutant(path, line, 4, 5, "+", "-") for line in (3, 9, 40)]
    said = f"killed   {found[0]} (2 s)\nSURVIVED src/rule.py:7: + → - (12 s)\nSURVIVED src/gone.py:7: + → - (12 s)\n"
    assert mutation.survivors_of(said, found) == [found[1]]
