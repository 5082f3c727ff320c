"""A simulated bench scale: a loopback service that shows weights as a real one does, with all that makes weighing hard.

It trembles, drifts a little, settles slowly, tares, overloads at 15 kg, and can be unplugged.
"""

from __future__ import annotations

import math
import random
import socket
import socketserver
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from decimal import Decimal

CAPACITY = 15_000.0
# Invented, near what a cheap bench scale does: time to settle [s], trembling and drift [g], readings a second.
_SETTLES, _TREMBLES, _DRIFTS, _MOST_DRIFT = 0.22, 0.25, 0.01, 1.5
_PERIOD = 0.1
_STEADY_FOR = 5


class Pan:
    """What lies on the scale and what it shows. Time is given [s], so that a test need not wait."""

    def __init__(self, seed: int = 1) -> None:
        self._dice = random.Random(seed)  # noqa: S311 - a trembling pan, no secret
        self._load = self._shown = self._drift = self._tare = 0.0
        self._at: float | None = None
        self._last: deque[int] = deque(maxlen=_STEADY_FOR)
        self._net = False

    def put(self, grams: float) -> None:
        """Change what lies on the pan to so much."""
        self._load = max(0.0, grams)

    def tare(self) -> None:
        """Count what lies there as nothing; on an empty pan, show gross again."""
        self._tare = float(self._last[-1]) + self._tare if self._last else 0.0
        self._net = abs(self._tare) > 1
        if not self._net:
            self._tare = 0.0
        self._last.clear()

    def line(self, now: float) -> str:
        """The line that the scale sends at a time."""
        passed = 0.0 if self._at is None else max(0.0, now - self._at)
        self._at = now
        self._shown += (self._load - self._shown) * (1 - math.exp(-passed / _SETTLES))
        self._drift = max(-_MOST_DRIFT, min(_MOST_DRIFT, self._drift + self._dice.gauss(0, _DRIFTS)))
        if self._shown > CAPACITY:
            self._last.clear()
            return "over"
        weight = round(self._shown + self._drift + self._dice.gauss(0, _TREMBLES) - self._tare)
        self._last.append(weight)
        steady = len(self._last) == _STEADY_FOR and max(self._last) - min(self._last) <= 1
        return f"{Decimal(weight)} g {'net' if self._net else 'gross'} {'steady' if steady else 'moving'}"


class SimulatedScale:
    """The service: every client hears the same pan. Beside `tare` it takes `put GRAMS` and `unplug SECONDS`."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock, self._pan, self._lock = clock, Pan(), threading.Lock()
        self._dead_until = 0.0
        self.address = ""

    def put(self, grams: float) -> None:
        """Change what lies on the pan."""
        with self._lock:
            self._pan.put(grams)

    def unplug(self, seconds: float) -> None:
        """Cut every line, and answer nobody for so long."""
        self._dead_until = self._clock() + seconds

    def plug_in(self) -> None:
        """Answer again, at once."""
        self._dead_until = 0.0

    @property
    def plugged_in(self) -> bool:
        """Whether it answers."""
        return self._clock() >= self._dead_until

    def line(self) -> str:
        """The line of this moment."""
        with self._lock:
            return self._pan.line(self._clock())

    def obey(self, command: str) -> None:
        """Do what a line of a client says; what cannot be understood is ignored, as a scale does."""
        match command.split():
            case ["tare"]:
                with self._lock:
                    self._pan.tare()
            case ["put", grams]:
                with suppress(ValueError):
                    self.put(float(grams))
            case ["unplug", seconds]:
                with suppress(ValueError):
                    self.unplug(float(seconds))


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True
    scale: SimulatedScale


class _Client(socketserver.BaseRequestHandler):
    def handle(self) -> None:
        scale: SimulatedScale = self.server.scale  # type: ignore[attr-defined]
        line: socket.socket = self.request
        line.settimeout(_PERIOD)
        rest = b""
        with suppress(OSError):
            if scale.plugged_in:
                line.sendall(b"# simulated scale: takes tare, put GRAMS, unplug SECONDS\n")
            while scale.plugged_in:
                line.sendall(f"{scale.line()}\n".encode("ascii"))
                with suppress(TimeoutError):
                    data = line.recv(1024)
                    if not data:
                        return
                    *commands, rest = (rest + data).split(b"\n")
                    for command in commands:
                        scale.obey(command.decode("ascii", "replace").strip())


@contextmanager
def simulated_scale(port: int = 0) -> Iterator[SimulatedScale]:
    """A simulated scale on loopback while the block runs; its `address` is "host:port", `port` 0 takes any that is free."""
    scale = SimulatedScale()
    with _Server(("127.0.0.1", port), _Client) as server:
        server.scale = scale
        scale.address = f"127.0.0.1:{server.server_address[1]}"
        thread = threading.Thread(target=server.serve_forever, name="simulated scale", daemon=True)
        thread.start()
        try:
            yield scale
        finally:
            scale.unplug(1e9)
            server.shutdown()
            thread.join()
