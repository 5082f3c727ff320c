"""Reads suppliers' files in a process of its own: a file that brings its reader down takes nothing else with it.

The process is kept warm, has a limit of memory, and is ended where a file takes too long. The next file gets another one.
"""

from __future__ import annotations

import atexit
import os
import pickle
import queue
import select
import subprocess
import sys
import time
from collections import deque
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import fields, replace
from functools import cache
from operator import attrgetter
from pathlib import Path
from typing import IO, Any, cast

from potrel.core.buy.price_list import ListKind, ListLine, PriceList
from potrel.core.kitchen.supply import ListForm
from potrel.core.sentences import Sentence, say
from potrel.formats.price_list import read_price_list
from potrel.formats.upload import BadFile

# A list of 50,000 lines takes some 8 s and 600 MB; what goes far beyond is none.
_PATIENCE = 90.0
_MOST_MEMORY = 2 * 2**30
_SIDE_BY_SIDE = 2
_HEAD = 8


class _Died(Exception):
    """The process is gone, or was ended because it took too long."""


class _Refused(Exception):
    """The file is refused, in words."""

    def __init__(self, said: Sentence) -> None:
        self.said = said
        super().__init__(said.english)


class Reader:
    """Reads files in processes of its own, two at most at once; they are started when they are first needed."""

    def __init__(self, patience: float = _PATIENCE, most_memory: int = _MOST_MEMORY) -> None:
        self._patience, self._most_memory = patience, most_memory
        # One of these for each that may read at once, and the processes that wait for a file. Both are safe wherever a reading
        # is given up.
        self._turns: queue.SimpleQueue[None] = queue.SimpleQueue()
        self._idle: deque[_Process] = deque()
        self._all: set[_Process] = set()
        for _ in range(_SIDE_BY_SIDE):
            self._turns.put(None)

    def warm(self) -> None:
        """Have one process ready, so that the first file does not wait for it."""
        if not self._idle:
            self._idle.append(self._started())

    def read(self, data: bytes, forms: Sequence[ListForm], kind: ListKind | None) -> Iterator[float | PriceList]:
        """What `read_price_list` yields for a file. BadFile where it is refused, or brings its reader down."""
        try:
            self._turns.get(timeout=self._patience)
        except queue.Empty:
            english = "too many files are read at once: try again in a moment"
            raise BadFile(say("readers_busy", english)) from None
        process, whole = self._waiting(), False
        try:
            yield from process.read(
                (data, [(form.heads, form.columns) for form in forms], kind), time.monotonic() + self._patience
            )
            whole = True
        except _Refused as error:
            whole = True
            raise BadFile(error.said) from None
        except _Died:
            english = "the file could not be read: it is broken, or far larger than it seems. Save its values anew"
            raise BadFile(say("reader_died", english)) from None
        finally:
            # One that was left in the middle of a file still works on that: it is of no use to the next.
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
                if process.is_alive():
                    return process
                self._all.discard(process)
                process.end()
        return self._started()

    def close(self) -> None:
        """End the processes, whatever they are at; another one is started for the next file."""
        while self._all:
            self._all.pop().end()

    def _started(self) -> _Process:
        process = _Process(self._most_memory)
        self._all.add(process)
        return process


class _Process:
    def __init__(self, most_memory: int) -> None:
        root = str(Path(__file__).parents[2])
        environ = {**os.environ, "PYTHONPATH": root}
        self._process = subprocess.Popen(
            [sys.executable, "-m", "potrel.deliveries.reading_apart", str(most_memory)],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environ, start_new_session=True,
        )  # fmt: skip
        self._input, self._output = cast("IO[bytes]", self._process.stdin), cast("IO[bytes]", self._process.stdout)

    def read(self, job: Any, until: float) -> Iterator[float | PriceList]:
        try:
            _write(self._input, job)
        except OSError:
            raise _Died from None
        while True:
            found = self._answer(until)
            if isinstance(found, Sentence):
                raise _Refused(found)
            if found is None:
                return
            yield _unpacked(found)

    def _answer(self, until: float) -> Any:
        try:
            size = int.from_bytes(self._wait(_HEAD, until))
            return pickle.loads(self._wait(size, until))  # noqa: S301 - written by our own code
        except (OSError, EOFError, ValueError):
            raise _Died from None

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

    def is_alive(self) -> bool:
        return self._process.poll() is None

    def end(self) -> None:
        self._process.kill()
        for pipe in (self._input, self._output):
            with suppress(OSError):
                pipe.close()
        self._process.wait()


_FIELDS = tuple(field.name for field in fields(ListLine))
_values = attrgetter(*_FIELDS)


def _packed(step: float | PriceList) -> Any:
    """A list with its lines as plain tuples, which are handed over in a third of the time that as many objects take."""
    if isinstance(step, float):
        return step
    return replace(step, lines=()), [_values(line) for line in step.lines]


def _unpacked(found: Any) -> float | PriceList:
    if isinstance(found, float):
        return found
    of: PriceList = found[0]
    return replace(of, lines=tuple(ListLine(*values) for values in found[1]))


def _write(pipe: IO[bytes], value: Any) -> None:
    data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
    pipe.write(len(data).to_bytes(_HEAD) + data)
    pipe.flush()


def _work(most_memory: int) -> None:
    """Read one file after the other, as they come in; ends with whoever started it."""
    import gc
    import resource

    # A file makes hundreds of thousands of objects and no cycles: what is garbage is looked for when the answer is out.
    gc.disable()
    resource.setrlimit(resource.RLIMIT_AS, (most_memory, most_memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    answers = os.fdopen(os.dup(1), "wb")
    # What a library prints is no answer.
    os.dup2(2, 1)
    while True:
        head = sys.stdin.buffer.read(_HEAD)
        if len(head) < _HEAD:
            return
        data, known, kind = pickle.loads(sys.stdin.buffer.read(int.from_bytes(head)))  # noqa: S301 - written by our own code
        try:
            for step in read_price_list(data, [ListForm(heads, columns) for heads, columns in known], kind):
                _write(answers, _packed(step))
            _write(answers, None)
        except BadFile as error:
            _write(answers, error.said)
        gc.collect()


@cache
def shared_reader() -> Reader:
    """The reader of this process."""
    reader = Reader()
    atexit.register(reader.close)
    return reader


if __name__ == "__main__":
    _work(int(sys.argv[1]))
