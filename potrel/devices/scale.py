"""The interface to a bench scale: a stream of lines over TCP, as a serial line behind any serial-to-network box gives it.

docs/scale.md describes the lines. The link is held only while somebody asks for the weight, and is sought again by itself
when it is lost.
"""

from __future__ import annotations

import re
import socket
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from potrel.core.errors import PotrelError
from potrel.core.kitchen.kinds import Computed, Flag
from potrel.core.sentences import say

_LINE = re.compile(r"(-?\d{1,6}(?:\.\d{1,3})?) g (net|gross) (steady|moving)", re.ASCII)
_LONGEST_LINE = 200
# Nobody looks any more: the line is given back to whoever else may want it.
_IDLE = 5.0
# A scale that says nothing for so long [s] is lost, though its line may still stand.
_SILENT = 2.0
_AGAIN = 0.5


class ScaleLost(PotrelError):
    """A command for a scale that does not answer."""


@dataclass(frozen=True, slots=True)
class Reading:
    """What a scale shows. `grams` is None where it shows nothing to go by: none is set up, it is lost or overloaded."""

    state: Literal["none", "lost", "live", "over"]
    grams: Computed | None = None
    steady: Flag = False
    net: Flag = False
    simulated: Flag = False


NONE, LOST = Reading("none"), Reading("lost")


def read_line(line: str, simulated: bool = False) -> Reading | None:
    """The reading that a line tells; None for one that tells nothing (a remark, or half a line).

    >>> read_line("1240.5 g net steady")
    Reading(state='live', grams=Decimal('1240.5'), steady=True, net=True, simulated=False)
    """
    if line == "over":
        return Reading("over", simulated=simulated)
    found = _LINE.fullmatch(line)
    if found is None:
        return None
    return Reading("live", Decimal(found[1]), found[3] == "steady", found[2] == "net", simulated)


class Scale:
    """A bench scale at an address, "host:port"; None where the kitchen has none."""

    def __init__(self, address: str | None, clock: Callable[[], float] = time.monotonic) -> None:
        self.address = address
        self._clock = clock
        self._lock = threading.Lock()
        self._thread: threading.Thread | None = None
        self._line: socket.socket | None = None
        self._newest = LOST
        self._heard = self._asked = clock()
        self._closing = threading.Event()

    def reading(self) -> Reading:
        """What the scale shows now."""
        if self.address is None:
            return NONE
        with self._lock:
            self._asked = self._clock()
            if self._thread is None or not self._thread.is_alive():
                self._closing.clear()
                self._heard = self._clock()
                self._thread = threading.Thread(target=self._listen, name="scale", daemon=True)
                self._thread.start()
            if self._clock() - self._heard > _SILENT:
                self._newest = LOST
            return self._newest

    def tare(self) -> None:
        """Set what is on the scale to nothing. ScaleLost where it does not answer."""
        self.say("tare")

    def say(self, command: str) -> None:
        """Send a command. ScaleLost where the scale does not answer."""
        line = self._line
        try:
            if line is None:
                raise OSError
            line.sendall(f"{command}\n".encode("ascii"))
        except OSError:
            english = "the scale does not answer: look at its plug, or type the weight"
            raise ScaleLost(say("scale_silent", english)) from None

    def close(self) -> None:
        """Let the line go."""
        self._closing.set()
        if self._thread is not None:
            self._thread.join(_SILENT * 2)

    def _listen(self) -> None:
        while not self._done():
            try:
                self._hear()
            except OSError:
                self._newest = LOST
            finally:
                line, self._line = self._line, None
                if line is not None:
                    line.close()
            self._closing.wait(_AGAIN)
        self._newest = LOST

    def _done(self) -> bool:
        return self._closing.is_set() or self._clock() - self._asked > _IDLE

    def _hear(self) -> None:
        host, _, port = (self.address or "").rpartition(":")
        line = socket.create_connection((host, int(port)), timeout=_SILENT)
        line.settimeout(_AGAIN)
        self._line = line
        rest, simulated = b"", False
        while not self._done():
            try:
                data = line.recv(4096)
            except TimeoutError:
                continue
            if not data:
                raise ConnectionResetError
            *lines, rest = (rest + data).split(b"\n")
            # A line that never ends is no scale's.
            rest = rest[-_LONGEST_LINE:]
            for raw in lines:
                text = raw.decode("ascii", "replace").strip()
                simulated = simulated or text.startswith("# simulated")
                reading = read_line(text, simulated)
                if reading is not None:
                    self._newest, self._heard = reading, self._clock()


def checked_address(text: str) -> bool:
    """Whether a text is an address of a scale: a host and a port.

    >>> checked_address("127.0.0.1:4010"), checked_address("bench")
    (True, False)
    """
    host, _, port = text.rpartition(":")
    return bool(host) and port.isdecimal() and 1 <= int(port) <= 65535
