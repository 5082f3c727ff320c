"""A real server over a home of its own, to be killed and started again."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

import httpx2

from tests.generated import ROOT


class Victim:
    """`./run start` over a home of its own."""

    def __init__(self, home: Path) -> None:
        self.home = home
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        self.address = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it, and wait until it answers."""
        environ = {**os.environ, "POTREL_HOME": str(self.home), "PYTHONPATH": str(ROOT)}
        command = [sys.executable, "-m", "potrel.cli", "start", "--port", str(self.port)]
        until = time.monotonic() + 60
        self._process = subprocess.Popen(command, env=environ, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, cwd=ROOT)
        while time.monotonic() < until:
            with suppress(httpx2.HTTPError):
                if httpx2.get(f"{self.address}/api/kitchen", timeout=20).status_code == 200:
                    return
            if self._process.poll() is not None:
                # The port of one that was just killed may be held for a moment.
                self._process = subprocess.Popen(
                    command, env=environ, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, cwd=ROOT
                )
            time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        """Kill the server as a power cut would; its database goes on, or is killed too."""
        assert self._process is not None
        self._process.kill()
        self._process.wait()

    def kill_database(self) -> None:
        """Kill the database's processes at once."""
        pid = int((self.home / "data" / "postmaster.pid").read_text().split()[0])
        os.kill(pid, signal.SIGKILL)

    def stop(self) -> None:
        """Stop it in peace."""
        if self._process is not None and self._process.poll() is None:
            self._process.terminate()
            self._process.wait(30)

    def memory(self) -> float:
        """The memory [MB] of the web process."""
        assert self._process is not None
        pages = int(Path(f"/proc/{self._process.pid}/statm").read_text().split()[1])
        return pages * os.sysconf("SC_PAGE_SIZE") / 1e6
