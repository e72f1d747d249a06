"""Who is let in by what ./start serves: by the key of this folder on loopback; beyond it with accounts, encrypted,
under names that are said.
"""

from __future__ import annotations

import argparse
import os
import secrets
import ssl
import subprocess
from dataclasses import dataclass, field
from pathlib import Path

import notebook
from console import ROOT, SetupError, say
from environment import PYTHON
from postgres import Cluster

_CODE = "import segno, sys; segno.make(sys.argv[1], error='m').terminal(compact=True, border=2)"


@dataclass(frozen=True)
class Door:
    """address: as it is opened in a browser, ending in a slash.

    arguments and environment: for the server. key: what the address must hold once; empty with accounts.
    """

    address: str
    arguments: list[str] = field(default_factory=list)
    environment: dict[str, str] = field(default_factory=dict)
    key: str = ""

    @property
    def way_in(self) -> str:
        """The address that lets a browser in."""
        return f"{self.address}#key={self.key}" if self.key else self.address


def key_of(local: Path, renew: bool = False) -> str:
    """Return the key of this folder's notebook, which its owner alone can read; made the first time.

    renew: another one, so that every browser must show it again.
    """
    path = local / "key"
    if renew:
        path.unlink(missing_ok=True)
    try:
        with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as made:
            made.write(secrets.token_urlsafe(24))
    except FileExistsError:
        pass
    key = path.read_text().strip()
    if len(key) < 20:
        # Left half made by a crash or a full disk: a short key is none.
        return key_of(local, renew=True)
    return key


def on_loopback(port: int, local: Path, renew: bool) -> Door:
    """Return the door on this machine's loopback, opened by the key."""
    key = key_of(local, renew)
    return Door(
        f"http://127.0.0.1:{port}/", ["--port", str(port)], {"LUCID_RIDGE_ACCESS": "key", "LUCID_RIDGE_KEY": key}, key
    )


def beyond(cluster: Cluster, options: argparse.Namespace, port: int) -> Door:
    """Return the door at an address of the network.

    Raises SetupError without encryption, without a name, or without anybody who could sign in.
    """
    check(options)
    if _accounts(cluster, "any", quiet=True) != 0:
        raise SetupError(
            "Beyond this machine nobody is let in without an account, and there is none yet. Make a link for "
            "yourself first:\n"
            f"./start --invite --own --name {options.name}   (--own gives it the notebook that is here now)"
        )
    more = ["--port", str(port), "--listen", options.listen]
    if options.certificate:
        more += ["--certificate", str(options.certificate), "--private-key", str(options.private_key)]
    environment = {"LUCID_RIDGE_ACCESS": "accounts", "LUCID_RIDGE_HOSTS": options.name}
    if options.behind_proxy:
        environment["LUCID_RIDGE_BEHIND_PROXY"] = "1"
    return Door(address(options, port), more, environment)


def check(options: argparse.Namespace) -> None:
    """Raise SetupError where what is said of serving beyond this machine does not suffice."""
    if not options.name:
        raise SetupError(
            "Say under which name browsers will open it: --name notebook.example.org (or the address itself)."
        )
    if options.behind_proxy:
        if options.listen not in ("127.0.0.1", "::1", "localhost"):
            raise SetupError(
                "Behind a proxy on this machine it listens on loopback: --listen 127.0.0.1. The proxy alone "
                "is reached from outside."
            )
        return
    if not (options.certificate and options.private_key):
        raise SetupError(
            "Beyond this machine it is served encrypted alone. Either give --certificate FILE and --private-key FILE,"
            " or let a proxy on this machine encrypt: --listen 127.0.0.1 --behind-proxy."
        )
    for path in (options.certificate, options.private_key):
        if not path.is_file():
            raise SetupError(f"There is no file {path}.")
    try:
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(options.certificate, options.private_key)
    except (ssl.SSLError, OSError) as error:
        raise SetupError(f"Certificate and key do not fit together or cannot be read: {error}") from error


def address(options: argparse.Namespace, port: int) -> str:
    """Return the address under which it is opened."""
    name = f"[{options.name}]" if ":" in options.name else options.name
    shown = "" if options.behind_proxy or port == 443 else f":{port}"
    return f"https://{name}{shown}/"


def invite(cluster: Cluster, options: argparse.Namespace, port: int) -> int:
    """Print a link that lets somebody in once."""
    asked = ["recover", options.recover] if options.recover else ["invite", *(["--own"] if options.own else [])]
    made = subprocess.run(
        [str(PYTHON), "-m", "lucid_ridge", "accounts", *asked],
        cwd=ROOT,
        env=notebook.environment(cluster),
        capture_output=True,
        text=True,
        check=False,
    )
    if made.returncode:
        raise SetupError(made.stderr.strip() or "No link could be made.")
    link = made.stdout.split()[-1]
    where = address(options, port) if options.name else "https://(the address it is served at)/"
    say(
        f"{'It sets a new password' if options.recover else 'It makes an account'}, once; hand it on as you "
        f"would a key:\n{where}{link}"
    )
    return 0


def as_code(text: str) -> None:
    """Print an address as a code that a phone reads."""
    subprocess.run([str(PYTHON), "-c", _CODE, text], check=False)


def _accounts(cluster: Cluster, *arguments: str, quiet: bool = False) -> int:
    return subprocess.run(
        [str(PYTHON), "-m", "lucid_ridge", "accounts", *arguments], cwd=ROOT, env=notebook.environment(cluster),
        stdout=subprocess.DEVNULL if quiet else None, check=False,
    ).returncode  # fmt: skip
