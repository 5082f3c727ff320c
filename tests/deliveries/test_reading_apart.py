"""Files read in a process of their own: what brings that down, or never ends, is told in words, and the next file is read."""

from __future__ import annotations

import threading
import time
import unittest
from collections.abc import Iterator
from dataclasses import replace
from typing import Any
from unittest.mock import patch

from potrel.apart import workers
from potrel.apart.workers import Workers
from potrel.core.buy.price_list import Part, PriceList
from potrel.deliveries.reading_apart import READING, read_apart
from potrel.demo import demo_lists
from potrel.formats import upload
from potrel.formats.upload import BadFile
from tests.formats.lists import HEAD, changed_member, made_workbook, read
from tests.kitchens import DAY

GOOD = f"{HEAD}A1;Leeks;5 kg;11.40\n".encode()


def far_workbook() -> bytes:
    """A workbook of 1.5 kB for which a reader makes room of 400 GB."""
    sheet = (
        b'<worksheet><sheetData><row r="1"><c r="A1"><v>1</v></c><c r="XFD1048576"><v>3</v></c></row></sheetData></worksheet>'
    )
    return changed_member(made_workbook([["Article", "Price"], ["Leeks", 1]]), "xl/worksheets/sheet1.xml", sheet)


def reader(**bounds: Any) -> Workers:
    return Workers(replace(READING, **bounds))


def told(by: Workers, data: bytes) -> Iterator[Part | PriceList]:
    return read_apart(data, [], None, by)


class Apart(unittest.TestCase):
    def setUp(self) -> None:
        self.reader = reader(patience=20)
        self.addCleanup(self.reader.close)

    def read(self, data: bytes) -> PriceList:
        *_, last = told(self.reader, data)
        assert isinstance(last, PriceList)
        return last

    def refusal(self, data: bytes) -> str:
        with self.assertRaises(BadFile) as caught:
            self.read(data)
        return str(caught.exception)

    def test_it_reads_what_is_read_here(self) -> None:
        for name, data in demo_lists(DAY):
            with self.subTest(name):
                self.assertEqual(self.read(data), read(data))
        self.assertEqual(self.read(GOOD).lines[0].text, "Leeks")

    def test_a_list_of_many_parts_is_whole(self) -> None:
        many = HEAD.encode() + b"".join(b"A%d;Leeks %d;5 kg;11.40\n" % (place, place) for place in range(1700))
        parts = [step for step in told(self.reader, many) if isinstance(step, Part)]
        found = self.read(many)
        self.assertEqual(found, read(many))
        self.assertGreater(len([one for one in parts if one.lines]), 2)
        self.assertEqual(tuple(line for one in parts for line in one.lines), found.lines)
        self.assertEqual([one.done for one in parts], sorted(one.done for one in parts))

    def test_what_is_refused_here_is_refused_there_in_the_same_words(self) -> None:
        for data in (b"", b"%PDF-1.7", b"<Invoice>", b"no;table\n"):
            with self.subTest(data):
                try:
                    found = self.read(data)
                except BadFile as error:
                    with self.assertRaises(BadFile) as here:
                        read(data)
                    self.assertEqual(error.said, here.exception.said)
                else:
                    self.assertEqual(found, read(data))
        self.assertEqual(self.read(GOOD).lines[0].text, "Leeks")

    def test_where_work_goes_wrong_that_nobody_foresaw_is_noted(self) -> None:
        broken = reader(does="json:loads")
        self.addCleanup(broken.close)
        with self.assertLogs("potrel", "ERROR") as noted, self.assertRaises(BadFile):
            broken.one("{")
        self.assertIn("JSONDecodeError", noted.output[0])

    def test_a_file_that_ends_its_process_is_told_of_and_the_next_is_read(self) -> None:
        # Without the check of where its cells lie, which would refuse it before: the process runs on the same code.
        self.assertIn("something in XFD1048576", self.refusal(far_workbook()))
        roomy = reader(patience=20, most_memory=900 * 2**20)
        self.addCleanup(roomy.close)
        large = b"Article;Price\n" + b"L" * (upload.LARGEST_FILE - 20)
        tight = reader(patience=20, most_memory=140 * 2**20)
        self.addCleanup(tight.close)
        with self.assertRaises(BadFile) as caught:
            list(told(tight, large))
        self.assertIn(caught.exception.said.code, ("reader_died", "cell_too_long"))
        *_, found = told(roomy, GOOD)
        self.assertIsInstance(found, PriceList)

    def test_one_that_takes_too_long_is_ended(self) -> None:
        hasty = reader(patience=0.01)
        self.addCleanup(hasty.close)
        for _ in range(3):
            with self.assertRaises(BadFile) as caught:
                list(told(hasty, GOOD))
            self.assertEqual(caught.exception.said.code, "reader_died")

    def test_a_process_that_was_killed_is_replaced(self) -> None:
        self.read(GOOD)
        process = self.reader._idle[0]
        process._process.kill()
        process._process.wait()
        self.assertEqual(self.read(GOOD).lines[0].text, "Leeks")

    def test_a_stop_in_the_moment_before_a_file_is_handed_over_is_told_in_words(self) -> None:
        ended = self.reader._started()
        ended.end()
        with self.assertRaises(workers.Died):
            list(ended.work((GOOD, [], None), time.monotonic() + 5))

    def test_who_hangs_up_in_the_middle_leaves_nothing_to_the_next(self) -> None:
        many = HEAD.encode() + b"A1;Leeks;5 kg;11.40\n" * 3000
        for _ in range(3):
            next(iter(told(self.reader, many)))
        self.assertEqual(len(self.read(many).lines), 3000)

    def test_it_closes_in_the_middle_of_files_and_does_not_wait_for_them(self) -> None:
        many = HEAD.encode() + b"A1;Leeks;5 kg;11.40\n" * 3000
        half_read = [iter(told(self.reader, many)) for _ in range(2)]
        for one in half_read:
            next(one)
        self.reader.close()
        with self.assertRaises(BadFile):
            list(half_read[0])
        half_read.clear()
        self.assertEqual(self.read(GOOD).lines[0].text, "Leeks")

    def test_who_comes_third_is_told_to_wait(self) -> None:
        hasty = reader(patience=5)
        self.addCleanup(hasty.close)
        many = HEAD.encode() + b"A1;Leeks;5 kg;11.40\n" * 3000
        for _ in range(2):
            hasty._turns.get()
        with self.assertRaises(BadFile) as caught:
            list(told(hasty, many))
        self.assertEqual(caught.exception.said.code, "workers_busy")
        for _ in range(2):
            hasty._turns.put(None)
        *_, last = told(hasty, many)
        self.assertIsInstance(last, PriceList)

    def test_several_hands_at_once(self) -> None:
        found: list[int] = []
        threads = [threading.Thread(target=lambda: found.append(len(self.read(GOOD).lines))) for _ in range(8)]
        for one in threads:
            one.start()
        for one in threads:
            one.join()
        self.assertEqual(found, [1] * 8)

    def test_only_two_are_started(self) -> None:
        with patch.object(workers, "_Process", wraps=workers._Process) as started:
            self.test_several_hands_at_once()
        self.assertLessEqual(started.call_count, 2)
