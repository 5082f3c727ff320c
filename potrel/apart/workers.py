"""Processes that do one kind of work, kept warm for a while, each with a limit of memory and of time."""

from __future__ import annotations

import atexit
import logging
import os
import pickle
import queue
import select
import subprocess
import sys
import time
from collections import deque
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any, cast

from potrel.core.errors import PotrelError
from potrel.core.sentences import Sentence, say

# So many bytes say how long what follows is.
HEAD = 8
# A process that had nothing to do for so long [s] ends: what it needed memory for is seldom done.
IDLE = 300.0


class Died(Exception):
    """The process is gone, or was ended because it took too long."""


class _Refused(Exception):
    """What was asked is refused, in words."""

    def __init__(self, said: Sentence) -> None:
        self.said = said
        super().__init__(said.english)


@dataclass(frozen=True, slots=True)
class Job:
    """A kind of work: the function that does it ("module:name", a generator of answers), its bounds, and what is said of it.

    `patience` [s] is how long one piece may take, `most_memory` [bytes] what its process may take, `side_by_side` how many are
    done at once. What cannot be done is a `refusal`: `died` where it brings its process down.
    """

    does: str
    refusal: type[PotrelError]
    died: Sentence
    patience: float = 30.0
    most_memory: int = 2**30
    side_by_side: int = 2


class Workers:
    """Does the work of a job in processes of its own, which are started when they are first needed."""

    def __init__(self, job: Job) -> None:
        self._job = job
        # One of these for each that may work at once, and the processes that wait. Both are safe wherever work is given up.
        self._turns: queue.SimpleQueue[None] = queue.SimpleQueue()
        self._idle: deque[_Process] = deque()
        self._all: set[_Process] = set()
        for _ in range(job.side_by_side):
            self._turns.put(None)

    def warm(self) -> None:
        """Have one process ready, so that the first piece of work does not wait for it."""
        if not self._idle:
            self._idle.append(self._started())

    def one(self, *asked: Any) -> Any:
        """The last answer of a piece of work."""
        *_, last = self.work(*asked)
        return last

    def work(self, *asked: Any) -> Iterator[Any]:
        """The answers of a piece of work, one after the other. The job's refusal, also where it brings its process down."""
        job = self._job
        try:
            self._turns.get(timeout=job.patience)
        except queue.Empty:
            english = "too many files are read or made at once: try again in a moment"
            raise job.refusal(say("workers_busy", english)) from None
        process, whole = self._waiting(), False
        try:
            yield from process.work(asked, time.monotonic() + job.patience)
            whole = True
        except _Refused as error:
            whole = True
            raise job.refusal(error.said) from None
        except Died:
            raise job.refusal(job.died) from None
        finally:
            # One that was left in the middle of a piece still works on that: it is of no use to the next.
            if whole:
                self._idle.append(process)
            else:
                self._all.discard(process)
                process.end()
            self._turns.put(None)

    def _waiting(self) -> _Process:
        while self._idle:
            with suppress(IndexError):
                process = self._idle.pop()
                if process.is_awake():
                    return process
                self._all.discard(process)
                process.end()
        return self._started()

    def close(self) -> None:
        """End the processes, whatever they are at; another one is started for the next piece of work."""
        while self._all:
            self._all.pop().end()

    def _started(self) -> _Process:
        process = _Process(self._job.does, self._job.most_memory)
        self._all.add(process)
        return process


class _Process:
    def __init__(self, does: str, most_memory: int) -> None:
        root = str(Path(__file__).parents[2])
        environ = {**os.environ, "PYTHONPATH": root}
        self._process = subprocess.Popen(
            [sys.executable, "-m", "potrel.apart.worker", does, str(most_memory)],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environ, start_new_session=True,
        )  # fmt: skip
        self._input, self._output = cast("IO[bytes]", self._process.stdin), cast("IO[bytes]", self._process.stdout)
        self._since = time.monotonic()

    def work(self, asked: Any, until: float) -> Iterator[Any]:
        try:
            write(self._input, asked)
        except (OSError, ValueError):
            # A stop may have closed the pipe since it was chosen.
            raise Died from None
        while True:
            found = self._answer(until)
            if isinstance(found, Sentence):
                raise _Refused(found)
            if isinstance(found, str):
                logging.getLogger("potrel").error("a process apart was brought down: %s", found)
                raise Died
            if found is None:
                self._since = time.monotonic()
                return
            yield found[0]

    def _answer(self, until: float) -> Any:
        try:
            size = int.from_bytes(self._wait(HEAD, until))
            return pickle.loads(self._wait(size, until))  # noqa: S301 - written by our own code
        except (OSError, EOFError, ValueError):
            raise Died from None

    def _wait(self, size: int, until: float) -> bytes:
        data = bytearray()
        number = self._output.fileno()
        while len(data) < size:
            ready, _, _ = select.select([number], [], [], max(0.0, until - time.monotonic()))
            part = os.read(number, min(size - len(data), 1 << 20)) if ready else b""
            if not part:
                raise EOFError
            data += part
        return bytes(data)

    def is_awake(self) -> bool:
        """Whether it still waits for work: one that had none for long ends by itself, with all that it held."""
        return self._process.poll() is None and time.monotonic() - self._since < IDLE - 5

    def end(self) -> None:
        self._process.kill()
        for pipe in (self._input, self._output):
            with suppress(OSError):
                pipe.close()
        self._process.wait()


def write(pipe: IO[bytes], value: Any) -> None:
    """Hand something over, with how long it is in front of it."""
    data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
    pipe.write(len(data).to_bytes(HEAD) + data)
    pipe.flush()


_SHARED: dict[str, Workers] = {}


def shared(job: Job) -> Workers:
    """The workers of this process for a job."""
    found = _SHARED.get(job.does)
    if found is None:
        # Of two that come at once, one is kept; the other has started nothing yet.
        found = _SHARED.setdefault(job.does, Workers(job))
        atexit.register(found.close)
    return found


def close_all() -> None:
    """End what is at work, whatever it is at."""
    for one in _SHARED.values():
        one.close()
