"""What is installed: locked with the digests of its files, and its licences listed."""

import re

import list_licences
import lock_packages
import pytest
from console import ROOT

WANTED = sorted(lock_packages.LOCKS)


@pytest.mark.parametrize("wanted", WANTED)
def test_every_package_wanted_is_locked_at_its_version(wanted):
    pinned = dict(re.findall(r"^([\w.-]+)(?:\[[\w,]+\])?==(\S+)$", (ROOT / wanted).read_text(), re.M))
    assert len(pinned) > 10
    locked = lock_packages.locked(ROOT / lock_packages.LOCKS[wanted])
    assert {lock_packages.normal(name): version for name, version in pinned.items()}.items() <= locked.items()


@pytest.mark.parametrize("wanted", WANTED)
def test_every_locked_package_has_digests(wanted):
    entries = re.split(r"\n(?=[a-z0-9])", (ROOT / lock_packages.LOCKS[wanted]).read_text())[1:]
    assert entries
    without = [entry.splitlines()[0] for entry in entries if not re.search(r"--hash=sha256:[0-9a-f]{64}$", entry, re.M)]
    assert without == []


def test_what_runs_is_locked_alike_for_use_and_for_tests():
    use, tests = (lock_packages.locked(ROOT / lock_packages.LOCKS[name]) for name in ("requirements.txt", "requirements-dev.txt"))
    assert use.items() <= tests.items()


@pytest.mark.parametrize(
    ("filename", "is_of"),
    [
        ("argon2_cffi-25.1.0-py3-none-any.whl", True),
        ("argon2-cffi-25.1.0.tar.gz", True),
        ("argon2_cffi_bindings-25.1.0-cp39-abi3-linux.whl", False),
        ("argon2_cffi-25.1.0.post1-py3-none-any.whl", False),
        ("argon2_cffi-25.1.0-py3.11.egg", False),
    ],
)
def test_files_are_told_apart_by_name_and_version(filename, is_of):
    assert lock_packages._is_of(filename, "argon2-cffi", "25.1.0") is is_of


def test_the_list_of_licences_is_of_what_is_installed():
    page = list_licences.page()
    assert "not said" not in page
    assert page == list_licences.PAGE.read_text()
