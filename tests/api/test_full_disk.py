"""A disk that is full: said as that, in an answer that has begun already and at the first start too."""

from __future__ import annotations

import json
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

import psycopg

from potrel.demo import demo_lists
from potrel.postgres import Cluster, ClusterError
from tests.api.test_api import ApiTest
from tests.kitchens import DAY


class Upload(ApiTest):
    def test_it_is_said_in_the_last_line_of_what_is_being_read(self) -> None:
        (_, data), *_ = demo_lists(DAY)
        for error, words in (
            (psycopg.errors.DiskFull("could not extend file"), "disk of the database is full"),
            (psycopg.OperationalError("gone"), "database does not answer"),
        ):
            with self.subTest(words), patch("potrel.doing.lists.insert_price_list", side_effect=error):
                answer = self.send("POST", "/api/price-lists?name=x", data, "application/octet-stream")
                last = json.loads(answer.content.splitlines()[-1])
                self.assertEqual((last["number"], words in last["problem"]), (None, True), last)
        self.assertIsNone(json.loads(self.send("POST", "/api/price-lists?name=x", data, "application/octet-stream")
                                     .content.splitlines()[-1])["problem"])  # fmt: skip


class FirstStart(unittest.TestCase):
    def test_what_the_databases_own_program_says_is_said_in_our_words(self) -> None:
        failed = subprocess.CompletedProcess([], 1, "initdb: error: could not write: No space left on device", "")
        with tempfile.TemporaryDirectory() as folder, patch.object(Cluster, "_call", return_value=failed):
            with self.assertRaisesRegex(ClusterError, "the disk is full: make room"), Cluster(Path(folder)).running():
                pass
