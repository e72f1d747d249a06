"""What the commands say and do on machines that lack something."""

import os
import subprocess

import environment
import packages
import postgres
import pytest
from console import SetupError, run


def test_without_rights_the_exact_command_is_said(monkeypatch):
    monkeypatch.setattr(packages.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(packages.shutil, "which", lambda name: "/usr/bin/apt-get" if name == "apt-get" else None)
    with pytest.raises(SetupError, match="sudo apt-get update && sudo apt-get install -y postgresql chromium"):
        packages._install(["postgresql", "chromium"])


def test_without_apt_the_packages_are_named(monkeypatch):
    monkeypatch.setattr(packages.shutil, "which", lambda name: None)
    with pytest.raises(SetupError, match="no apt-get"):
        packages._install(["postgresql"])


def test_what_was_left_half_installed_is_finished_and_the_list_refreshed_first(monkeypatch):
    calls = []
    monkeypatch.setattr(packages.os, "geteuid", lambda: 0)
    monkeypatch.setattr(packages.shutil, "which", lambda name: f"/usr/bin/{name}")
    monkeypatch.setattr(packages, "run", lambda command: calls.append(" ".join(command)))
    packages._install(["postgresql"])
    assert calls[0].endswith("dpkg --configure -a")
    assert [call.split("apt-get ")[1].split()[0] for call in calls[1:]] == ["update", "install"]
    assert calls[2].endswith("postgresql")


def test_an_old_node_is_said(monkeypatch):
    monkeypatch.setattr(packages, "run", lambda command: subprocess.CompletedProcess(command, 0, stdout="v18.20.0\n"))
    with pytest.raises(SetupError, match=r"Node 20 .*v18\.20\.0"):
        packages.ensure()


def test_a_failing_program_shows_its_last_words():
    with pytest.raises(SetupError, match="the reason"):
        run(["sh", "-c", "echo the reason; exit 3"])


def test_stamps_follow_names_and_contents(tmp_path, monkeypatch):
    monkeypatch.setattr(environment, "ROOT", tmp_path)
    one, two = tmp_path / "one", tmp_path / "two"
    one.write_text("a")
    two.write_text("a")
    first = environment._digest([one])
    assert first == environment._digest([one])
    assert first != environment._digest([two])
    assert first != environment._digest([one], "3.12")
    one.write_text("b")
    assert first != environment._digest([one])


def test_the_applications_environment_is_free_of_libpqs_variables(monkeypatch):
    monkeypatch.setenv("PGHOST", "elsewhere")
    assert not [name for name in environment.application_environment("x") if name.startswith("PG")]


@pytest.mark.skipif(os.geteuid() != 0, reason="only root runs the server as another user")
def test_a_closed_folder_moves_the_data_outside(tmp_path, monkeypatch, capsys):
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    asked = []
    monkeypatch.setattr(postgres, "LOCAL", closed / ".local")
    monkeypatch.setattr(postgres.Path, "mkdir", lambda self, **options: asked.append(str(self)))
    assert str(postgres.application_data()).startswith("/var/lib/lucid-ridge/")
    assert "cannot reach this folder" in capsys.readouterr().out


def test_packages_that_lie_there_half_made_are_installed_anew(tmp_path, monkeypatch):
    web, calls = tmp_path / "web", []
    (web / "node_modules" / "half").mkdir(parents=True)
    for name in ("package.json", "package-lock.json"):
        (web / name).write_text("{}")

    def npm(command, cwd):
        calls.append(
            sorted(path.name for path in (cwd / "node_modules").glob("*")) if (cwd / "node_modules").exists() else []
        )
        if calls[-1]:
            raise SetupError("npm ci failed (190): ENOTEMPTY")
        (cwd / "node_modules").mkdir()

    monkeypatch.setattr(environment, "WEB", web)
    monkeypatch.setattr(environment, "ROOT", tmp_path)
    monkeypatch.setattr(environment, "run", npm)
    environment.ensure_web_packages()
    assert calls == [["half"], []]
    environment.ensure_web_packages()
    assert len(calls) == 2
    assert [path.name for path in web.iterdir() if path.name.startswith(".node")] == []


@pytest.fixture
def installing(monkeypatch):
    """What is run to install packages, and which of it fails; pip says what `said` holds."""
    calls, fails, said = [], [], [""]

    def run(command, **options):
        words = " ".join(str(part) for part in command)
        calls.append(words)
        if any(part in words for part in fails):
            raise SetupError(words)
        return subprocess.CompletedProcess(command, 0, stdout=said[0])

    monkeypatch.setattr(environment, "run", run)
    return calls, fails, said


def test_packages_are_installed_the_quick_way(installing):
    calls, _, said = installing
    said[0] = "global.extra-index-url='file:///somewhere'\n"
    environment._install(environment.ROOT / "requirements.lock")
    assert [("--require-hashes" in call, call.rpartition("/")[2]) for call in calls[1:]] == [
        (True, "requirements-installer.lock"),
        (True, "requirements.lock"),
    ]
    assert "/bin/uv pip install" in calls[2]


@pytest.mark.parametrize("failing", ["requirements-installer.lock", "/bin/uv pip"])
def test_where_the_quick_way_fails_pip_installs_them(installing, failing, capsys):
    calls, fails, _ = installing
    fails.append(failing)
    environment._install(environment.ROOT / "requirements.lock")
    assert (
        "-m pip install" in calls[-1] and "--require-hashes" in calls[-1] and calls[-1].endswith("/requirements.lock")
    )
    assert "by pip" in capsys.readouterr().out


def test_an_index_that_only_pip_knows_is_kept_to(installing):
    calls, _, said = installing
    said[0] = "global.index-url='https://packages.example/simple'\n"
    environment._install(environment.ROOT / "requirements.lock")
    assert len(calls) == 2 and "-m pip install" in calls[1]
