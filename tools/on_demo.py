"""Run scripts against a throw-away server with the demo: LUCID_RIDGE_ADDRESS and LUCID_RIDGE_DATABASE_URL say where it
is.
"""

from __future__ import annotations

import io
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from console import ROOT, SetupError, main_guard, run
from environment import PYTHON, application_environment, ensure_python, ensure_web
from packages import browser, ensure
from postgres import Cluster, alone
from start import answers, free_port


def main(scripts: list[str]) -> int:
    ensure(need_browser=True)
    with alone():
        ensure_python(development=True)
        ensure_web()
    scratch = Path(tempfile.mkdtemp(prefix="lucid-ridge-demo-"))
    scratch.chmod(0o711)
    cluster = Cluster(scratch / "data", durable=False)
    server = None
    try:
        cluster.create()
        cluster.start()
        cluster.create_database("demo")
        port = free_port()
        environment = application_environment(cluster.url("demo"))
        found = browser()
        if found is None:
            raise SetupError("Chromium and ChromeDriver are needed.")
        environment |= {
            "LUCID_RIDGE_ADDRESS": f"http://127.0.0.1:{port}",
            "LUCID_RIDGE_CHROMIUM": found[0],
            "LUCID_RIDGE_CHROMEDRIVER": found[1],
        }
        environment["PYTHONPATH"] += f":{ROOT / 'tests'}"
        run([PYTHON, "-m", "lucid_ridge", "prepare"], cwd=ROOT, env=environment)
        server = subprocess.Popen(
            [str(PYTHON), "-m", "lucid_ridge", "serve", "--port", str(port)], cwd=ROOT, env=environment
        )
        if not answers(f"http://127.0.0.1:{port}/", server):
            raise SetupError("The server did not answer.")
        for script in scripts:
            code = subprocess.run([str(PYTHON), script], cwd=ROOT, env=environment, check=False).returncode
            if code:
                return code
        return 0
    finally:
        if server is not None:
            server.terminate()
            server.wait()
        cluster.stop()
        shutil.rmtree(scratch, ignore_errors=True)


if __name__ == "__main__":
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(line_buffering=True)
    main_guard(main)
