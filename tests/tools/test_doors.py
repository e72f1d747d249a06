"""Who is let in: the key of a folder, and what serving beyond this machine asks for.

The certificate is made by openssl, as one of one's own is.
"""

import argparse
import contextlib
import http.client
import io
import json
import os
import socket
import ssl
import stat
import subprocess
import urllib.request
from pathlib import Path

import doors
import pytest
import start
from console import SetupError
from notebook import DATABASE
from start import _parse, connects, free_port

from lucid_ridge import cli

SAID = {
    "listen": "0.0.0.0",
    "name": "notebook.example",
    "certificate": None,
    "private_key": None,
    "behind_proxy": False,
}


@pytest.fixture
def certificate(tmp_path):
    made = tmp_path / "c.pem", tmp_path / "k.pem"
    subprocess.run(
        [
            "openssl",
            "req",
            "-x509",
            "-newkey",
            "rsa:2048",
            "-nodes",
            "-days",
            "2",
            "-subj",
            "/CN=localhost",
            "-addext",
            "subjectAltName=DNS:localhost",
            "-out",
            made[0],
            "-keyout",
            made[1],
        ],
        check=True,
        capture_output=True,
    )
    return made


def test_the_key_is_its_owners_alone_and_lasts(tmp_path):
    key = doors.key_of(tmp_path)
    assert len(key) >= 32
    assert doors.key_of(tmp_path) == key
    assert stat.S_IMODE((tmp_path / "key").stat().st_mode) == 0o600
    other = doors.key_of(tmp_path, renew=True)
    assert other != key
    (tmp_path / "key").write_text("half")
    assert len(doors.key_of(tmp_path)) >= 32
    door = doors.on_loopback(8710, tmp_path, renew=False)
    assert door.way_in == f"http://127.0.0.1:8710/#key={door.key}"
    assert door.environment["LUCID_RIDGE_ACCESS"] == "key"


def test_beyond_this_machine_nothing_goes_unencrypted(tmp_path, certificate):
    def check(**said):
        doors.check(argparse.Namespace(**SAID | said))

    cert, key = certificate
    for said, words in (
        ({"name": None}, "--name"),
        ({}, "encrypted"),
        ({"certificate": cert}, "encrypted"),
        ({"certificate": cert, "private_key": tmp_path / "none"}, "no file"),
        ({"certificate": cert, "private_key": cert}, "do not fit"),
        ({"behind_proxy": True}, "loopback"),
    ):
        with pytest.raises(SetupError, match=words):
            check(**said)
    check(certificate=cert, private_key=key)
    check(listen="127.0.0.1", behind_proxy=True)


def test_what_is_said_on_the_command_line():
    told = _parse(["--listen", "0.0.0.0", "--name", "Club.Example", "--certificate", "c.pem", "--private-key", "k.pem"])
    assert told.name == "club.example"
    assert told.certificate.is_absolute()
    for wrong in (["--own"], ["--certificate", "c.pem"], ["--behind-proxy"]):
        with pytest.raises(SystemExit):
            _parse(wrong)


def test_addresses():
    def address(port, **said):
        return doors.address(argparse.Namespace(**SAID | said), port)

    assert address(8710) == "https://notebook.example:8710/"
    assert address(443) == "https://notebook.example/"
    assert address(8710, behind_proxy=True) == "https://notebook.example/"
    assert address(8710, name="2001:db8::1") == "https://[2001:db8::1]:8710/"


def test_served_with_certificate_and_accounts_from_nothing(made_cluster, certificate, capfd):
    """As a keeper does it: refused without anybody to let in; a link; serving; joining over TLS; recovery; closing."""
    cluster = made_cluster
    cluster.start()
    cluster.create_database(DATABASE)
    application = doors.notebook.environment(cluster)

    def command(*arguments):
        # What the command does, without a process that first takes seconds to start.
        said = io.StringIO()
        with pytest.MonkeyPatch.context() as patch, contextlib.redirect_stdout(said), contextlib.redirect_stderr(said):
            for name, value in application.items():
                patch.setenv(name, value)
            code = cli.main(list(arguments))
        return code, said.getvalue()

    prepared = [doors.PYTHON, "-m", "lucid_ridge", "prepare", "--no-demo"]
    assert subprocess.run(prepared, cwd=doors.ROOT, env=application, capture_output=True, check=False).returncode == 0
    port = free_port()
    options = argparse.Namespace(
        **SAID
        | {"listen": "127.0.0.1", "name": "localhost", "certificate": certificate[0], "private_key": certificate[1]}
    )
    with pytest.raises(SetupError, match="--invite --own"):
        doors.beyond(cluster, options, port)
    assert doors.invite(cluster, argparse.Namespace(**vars(options), recover=None, own=True), port) == 0
    link = capfd.readouterr().out.split()[-1]
    assert link.startswith(f"https://localhost:{port}/join#")
    door = doors.beyond(cluster, options, port)
    # Neither without accounts nor without encryption does the application itself serve there.
    for arguments, environment in ((door.arguments, {}), (door.arguments[:4], {"LUCID_RIDGE_ACCESS": "accounts"})):
        refused = subprocess.run(
            [doors.PYTHON, "-m", "lucid_ridge", "serve", *arguments],
            cwd=doors.ROOT,
            env=application | environment,
            capture_output=True,
            text=True,
            check=False,
            timeout=60,
        )
        assert refused.returncode == 1 and "alone" in refused.stderr
    server = subprocess.Popen(
        [doors.PYTHON, "-m", "lucid_ridge", "serve", *door.arguments],
        cwd=doors.ROOT,
        env=application | door.environment,
    )
    try:
        assert connects("127.0.0.1", port, server)
        opener = urllib.request.build_opener(
            urllib.request.ProxyHandler({}),
            urllib.request.HTTPSHandler(context=ssl.create_default_context(cafile=certificate[0])),
            urllib.request.HTTPCookieProcessor(),
        )

        def ask(path, body=None):
            request = urllib.request.Request(
                f"https://localhost:{port}/api{path}",
                json.dumps(body).encode() if body else None,
                {"Content-Type": "application/json", "Origin": f"https://localhost:{port}"},
            )
            with opener.open(request, timeout=30) as answer:
                return json.loads(answer.read()), answer.headers

        with pytest.raises(urllib.error.HTTPError) as shut:
            ask("/notebook")
        assert shut.value.code == 401
        told, headers = ask(
            "/passes", {"token": link.partition("#")[2], "name": "Ada", "password": "four short plain words"}
        )
        assert told["name"] == "Ada"
        assert headers["Set-Cookie"].startswith("__Host-lucid-ridge=")
        assert "max-age" in headers["Strict-Transport-Security"]
        assert ask("/notebook")[0]["shots"] == []
        # Clients that never finish, in greeting, head or body, hold nobody up; the server does not identify itself.
        with contextlib.ExitStack() as stack:
            _send_slowly(stack, port, certificate[0])
            for _ in range(12):
                told, headers = ask("/session")
                assert told["name"] == "Ada"
                assert "Server" not in headers
        assert command("accounts", "list")[1].startswith("Ada, since ")
        assert command("accounts", "recover", "ada")[1].startswith("join#")
        assert command("accounts", "recover", "nobody") == (1, "Nobody is called 'nobody'.\n")
        assert command("accounts", "invite", "--own")[0] == 1
        assert command("accounts", "close", "ADA") == (0, "Ada is closed.\n")
        with pytest.raises(urllib.error.HTTPError) as shut:
            ask("/notebook")
        assert shut.value.code == 401
        assert command("accounts", "reopen", "ADA")[0] == 0
        # Unencrypted nothing is to be had.
        with pytest.raises((OSError, urllib.error.URLError)):
            urllib.request.build_opener(urllib.request.ProxyHandler({})).open(
                f"http://localhost:{port}/", timeout=10
            ).read()
    finally:
        server.terminate()
        assert server.wait(30) in (0, -15)
    try:
        _behind_a_proxy(cluster, application, command)
    finally:
        cluster.stop()


def _behind_a_proxy(cluster, application, command):
    """Several processes: what one has let in the others let in. The proxy is played by the test."""
    port = free_port()
    door = doors.beyond(
        cluster,
        argparse.Namespace(**SAID | {"listen": "127.0.0.1", "name": "notebook.example", "behind_proxy": True}),
        port,
    )
    link = command("accounts", "invite")[1].strip()
    server = subprocess.Popen(
        [doors.PYTHON, "-m", "lucid_ridge", "serve", *door.arguments],
        cwd=doors.ROOT,
        env=application | door.environment,
    )
    try:
        assert connects("127.0.0.1", port, server)
        children = Path(f"/proc/{server.pid}/task/{server.pid}/children")
        cookie = ""

        def ask(path, body=None):
            said = {
                "Content-Type": "application/json",
                "Origin": "https://notebook.example",
                "Host": "notebook.example",
                "X-Forwarded-Proto": "https",
                "X-Forwarded-For": "203.0.113.7",
                "X-Forwarded-Host": "notebook.example",
                "Cookie": cookie,
            }
            connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
            connection.request("POST" if body else "GET", f"/api{path}", json.dumps(body) if body else None, said)
            answer = connection.getresponse()
            told = json.loads(answer.read())
            connection.close()
            assert answer.status in (200, 201), told
            return told, answer.headers

        _, headers = ask(
            "/passes", {"token": link.partition("#")[2], "name": "Bee", "password": "five short plain words here"}
        )
        cookie = headers["Set-Cookie"].partition(";")[0]
        assert cookie.startswith("__Host-lucid-ridge=")
        assert len(children.read_text().split()) == 2
        assert {ask("/session")[0]["name"] for _ in range(12)} == {"Bee"}
    finally:
        server.terminate()
        assert server.wait(30) in (0, -15)


def _trusting(certificate):
    return ssl.create_default_context(cafile=certificate)


def _send_slowly(stack, port, certificate):
    """Begin sixty requests of each kind and finish none: more than are worked on at once."""
    head = b"GET /api/health HTTP/1.1\r\nHost: localhost\r\nX-Slow: "
    body = b"PATCH /api/shots/1 HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{"
    for begun in (None, head, body):
        for _ in range(60):
            plain = stack.enter_context(socket.create_connection(("127.0.0.1", port)))
            if begun is not None:
                stack.enter_context(_trusting(certificate).wrap_socket(plain, server_hostname="localhost")).sendall(
                    begun
                )


def test_a_code_for_the_phone_is_printed(capfd):
    doors.as_code("https://notebook.example/")
    printed = capfd.readouterr().out
    assert "█" in printed
    assert os.linesep in printed


def test_the_address_is_printed_however_long_the_server_takes(monkeypatch, capsys):
    """A server that answers at the fifth try: it is waited for with a word, and not given up; one that has ended is."""
    tries = []

    class Loading:
        ends = None

        def poll(self):
            return self.ends

    def attempt():
        tries.append(1)
        if len(tries) < 5:
            raise ConnectionRefusedError

    monkeypatch.setattr(start, "SAY_EVERY_S", 0.15)
    assert start._until(attempt, Loading()) is True
    assert "is loading and has not answered" in capsys.readouterr().out
    ended = Loading()
    ended.ends = 1
    assert start._until(attempt, ended) is False
