"""The bench scale: its lines, the simulated pan, and a link that is lost and found again."""

from __future__ import annotations

import socket
import threading
import time
import unittest
from collections.abc import Callable
from decimal import Decimal

from potrel.devices.scale import LOST, NONE, Reading, Scale, ScaleLost, read_line
from potrel.devices.simulated_scale import CAPACITY, Pan, simulated_scale


def wait_for(found: Callable[[], bool], what: str) -> None:
    for _ in range(3000):
        if found():
            return
        time.sleep(0.02)
    raise AssertionError(what)


class Lines(unittest.TestCase):
    def test_each_kind_of_line(self) -> None:
        for line, grams, steady, net in (
            ("1240.5 g net steady", "1240.5", True, True),
            ("-3 g gross moving", "-3", False, False),
            ("0 g gross steady", "0", True, False),
        ):
            reading = read_line(line)
            self.assertEqual(reading, Reading("live", Decimal(grams), steady, net))
        self.assertEqual(read_line("over"), Reading("over"))

    def test_what_tells_nothing_is_passed_over(self) -> None:
        for line in ("", "# a remark", "12 kg net steady", "12 g", "12,5 g net steady", "١٢ g net steady", "1e3 g net steady",
                     "9999999 g net steady", "over and out"):  # fmt: skip
            self.assertIsNone(read_line(line), line)


class Pans(unittest.TestCase):
    """The simulated pan, its clock given."""

    def lines(self, pan: Pan, seconds: float, start: float) -> list[Reading]:
        found = [read_line(pan.line(start + step / 10)) for step in range(1, int(seconds * 10) + 1)]
        return [reading for reading in found if reading is not None]

    def test_it_settles_before_it_is_steady(self) -> None:
        pan = Pan()
        self.lines(pan, 2, 0)
        pan.put(1240)
        readings = self.lines(pan, 4, 2)
        self.assertFalse(any(one.steady for one in readings[:5]))
        self.assertTrue(readings[-1].steady)
        for one in readings:
            if one.steady:
                self.assertAlmostEqual(float(one.grams or 0), 1240, delta=4)

    def test_it_trembles_and_drifts(self) -> None:
        pan = Pan()
        pan.put(500)
        shown = [float(one.grams or 0) for one in self.lines(pan, 60, 0)[50:]]
        self.assertGreater(len(set(shown)), 1)
        self.assertLess(max(shown) - min(shown), 8)

    def test_tare_counts_what_lies_there_as_nothing(self) -> None:
        pan = Pan()
        pan.put(380)
        self.lines(pan, 3, 0)
        pan.tare()
        pan.put(380 + 900)
        last = self.lines(pan, 3, 3)[-1]
        self.assertTrue(last.net and last.steady)
        self.assertAlmostEqual(float(last.grams or 0), 900, delta=5)
        pan.put(0)
        self.lines(pan, 3, 6)
        pan.tare()
        last = self.lines(pan, 3, 9)[-1]
        self.assertEqual((last.net, abs(float(last.grams or 0)) <= 3), (False, True))

    def test_too_much_shows_no_weight(self) -> None:
        pan = Pan()
        pan.put(CAPACITY + 500)
        self.assertEqual(self.lines(pan, 4, 0)[-1], Reading("over"))


class Links(unittest.TestCase):
    def test_without_a_scale(self) -> None:
        scale = Scale(None)
        self.assertEqual(scale.reading(), NONE)
        with self.assertRaisesRegex(ScaleLost, "type the weight"):
            scale.tare()

    def test_a_weight_comes_through_is_lost_and_comes_back(self) -> None:
        with simulated_scale() as bench:
            scale = Scale(bench.address)
            self.addCleanup(scale.close)
            bench.put(750)
            wait_for(lambda: scale.reading().steady and abs(float(scale.reading().grams or 0) - 750) <= 3, "no steady weight")
            self.assertTrue(scale.reading().simulated)
            bench.unplug(3600)
            wait_for(lambda: scale.reading() == LOST, "not lost")
            with self.assertRaises(ScaleLost):
                scale.tare()
            bench.plug_in()
            wait_for(lambda: scale.reading().state == "live", "not back")
            scale.tare()
            wait_for(lambda: scale.reading().net, "not tared")

    def test_a_scale_that_says_nothing_is_lost(self) -> None:
        now = [0.0]
        with socket.create_server(("127.0.0.1", 0)) as mute:
            said = threading.Event()

            def speak_once() -> None:
                line, _ = mute.accept()
                with line:
                    line.sendall(b"500 g gross steady\n" + b"x" * 5000)
                    said.wait(60)

            thread = threading.Thread(target=speak_once, daemon=True)
            thread.start()
            scale = Scale(f"127.0.0.1:{mute.getsockname()[1]}", clock=lambda: now[0])
            wait_for(lambda: scale.reading().state == "live", "not heard")
            now[0] += 2.5
            self.assertEqual(scale.reading(), LOST)
            said.set()
            scale.close()
            thread.join(5)

    def test_the_line_is_given_back_when_nobody_looks(self) -> None:
        now = [0.0]
        with simulated_scale() as bench:
            scale = Scale(bench.address, clock=lambda: now[0])
            wait_for(lambda: scale.reading().state == "live", "not heard")
            listening = next(thread for thread in threading.enumerate() if thread.name == "scale")
            now[0] += 60
            listening.join(60)
            self.assertFalse(listening.is_alive())
            scale.close()
