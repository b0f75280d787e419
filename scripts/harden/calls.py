"""Calls by chance over the API's description, alone and one after another as its links say: no answer is the server's own error."""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from scripts.harden.application import ROOT, Maker, running

__all__ = ["calls"]


def calls(seconds: int) -> str:
    """The line of the table."""
    with running(ZYGON_RATES="off", ZYGON_CORES="2") as application, tempfile.TemporaryDirectory() as folder:
        maker = Maker(application.base)
        maker.copied("Brood box")
        cookies = "; ".join(f"{k}={v}" for k, v in maker.client.cookies.items())
        done = subprocess.run(
            [
                Path(sys.executable).parent / "st",
                "run",
                ROOT / "docs" / "openapi.json",
                "--url",
                application.base,
                "--phases",
                "coverage,fuzzing,stateful",
                "--checks",
                "not_a_server_error",
                "--workers",
                "2",
                "--max-time",
                str(seconds),
                "--continue-on-failure",
                "--exclude-operation-id",
                "sign_out",
                "--request-timeout",
                "60",
                *(x for k, v in {**maker.proof(), "Cookie": cookies}.items() for x in ("-H", f"{k}: {v}")),
            ],
            cwd=folder,
            capture_output=True,
            text=True,
            check=False,
        )
        errors = [
            line
            for line in application.log.read_text().splitlines()
            if '"status": 500' in line or ("failed" in line and '"level": "error"' in line)
        ]
    count = re.search(r"([\d,]+) generated", done.stdout)
    told = f"{count[1] if count else '?'} calls by chance over the API: {len(errors)} errors of the server's own"
    if errors or done.returncode not in (0, 1):
        (ROOT / "var").mkdir(exist_ok=True)
        (ROOT / "var" / "harden-calls.log").write_text(done.stdout + done.stderr + "\n".join(errors))
        told += "; see var/harden-calls.log"
    return told
