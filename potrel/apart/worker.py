"""A process that does one piece of work after the other, as they come in; it ends with whoever started it."""

from __future__ import annotations

import gc
import importlib
import os
import pickle
import resource
import select
import sys
import traceback

from potrel.apart.workers import HEAD, IDLE, write
from potrel.core.errors import PotrelError


def main(does: str, most_memory: int) -> None:
    """Do what the function "module:name" does, within so much memory [bytes]."""
    # A file makes hundreds of thousands of objects and no cycles: what is garbage is looked for when the answer is out.
    gc.disable()
    resource.setrlimit(resource.RLIMIT_AS, (most_memory, most_memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    answers = os.fdopen(os.dup(1), "wb")
    # What a library prints is no answer.
    os.dup2(2, 1)
    module, _, name = does.partition(":")
    function = getattr(importlib.import_module(module), name)
    work = sys.stdin.buffer
    while True:
        if not select.select([work.fileno()], [], [], IDLE)[0]:
            return
        head = work.read(HEAD)
        if len(head) < HEAD:
            return
        asked = pickle.loads(work.read(int.from_bytes(head)))  # noqa: S301 - written by our own code
        try:
            for answer in function(*asked):
                write(answers, (answer,))
            write(answers, None)
        except PotrelError as error:
            write(answers, error.said)
        except MemoryError:
            # That it may not take more is what its bound is for.
            raise
        except Exception:
            # What nobody foresaw ends the process too; whoever asked notes where it was.
            write(answers, traceback.format_exc())
            raise
        gc.collect()


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]))
