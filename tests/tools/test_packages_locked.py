"""What is installed: locked with the digests of its files, and its licences listed."""

import re

import list_licences
import pytest
from console import ROOT
from list_licences import locked

USE, TESTS = ROOT / "requirements.txt", ROOT / "requirements-dev.txt"


@pytest.mark.parametrize("wanted", [USE, TESTS], ids=lambda path: path.stem)
def test_every_package_wanted_is_locked_at_its_version(wanted):
    # A list of packages is written as the lock is.
    pinned = locked(wanted)
    assert len(pinned) > 10
    assert pinned.items() <= locked(wanted.with_suffix(".lock")).items()


@pytest.mark.parametrize("wanted", [USE, TESTS], ids=lambda path: path.stem)
def test_every_locked_package_has_digests(wanted):
    entries = re.split(r"\n(?=[a-z0-9])", wanted.with_suffix(".lock").read_text().strip())
    assert len(entries) == len(locked(wanted.with_suffix(".lock"))) > 60
    assert [
        entry.splitlines()[0] for entry in entries if not re.search(r"--hash=sha256:[0-9a-f]{64}$", entry, re.M)
    ] == []


def test_what_installs_them_is_locked_too():
    lock = ROOT / "requirements-installer.lock"
    assert locked(ROOT / "requirements-installer.txt") == locked(lock)
    assert len(re.findall(r"--hash=sha256:[0-9a-f]{64}", lock.read_text())) > 5


def test_what_runs_is_locked_alike_for_use_and_for_tests():
    use, tests = (locked(wanted.with_suffix(".lock")) for wanted in (USE, TESTS))
    assert use.items() <= tests.items()


def test_the_list_of_licences_is_of_what_is_installed():
    page = list_licences.page()
    assert "not said" not in page
    assert page == list_licences.PAGE.read_text()
