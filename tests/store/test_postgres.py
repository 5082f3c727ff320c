"""The private cluster: made, started, shared, stopped; its port, its passwords, its folder."""

from __future__ import annotations

import os
import shutil
import socket
import stat
import subprocess
import tempfile
import unittest
from pathlib import Path

import psycopg

from potrel.postgres import Cluster, ClusterError, cluster_folder, quick_folder


class PrivateCluster(unittest.TestCase):
    folder: Path

    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(tempfile.mkdtemp(prefix="potrel-cluster-", dir=quick_folder())) / "home"
        cls.addClassCleanup(shutil.rmtree, cls.folder.parent)
        cls.folder.parent.chmod(0o755)
        with Cluster(cls.folder, throw_away=True).running() as cluster:
            cluster.ensure_database("kitchen")

    def up(self) -> bool:
        return (self.folder / "data" / "postmaster.pid").exists()

    def test_stopped_by_the_last_that_leaves(self) -> None:
        first, second = Cluster(self.folder), Cluster(self.folder)
        with first.running():
            with second.running():
                self.assertTrue(self.up())
            self.assertTrue(self.up())
            with psycopg.connect(first.url("kitchen")) as connection:
                self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))
        self.assertFalse(self.up())

    def test_a_password_is_asked_for(self) -> None:
        with Cluster(self.folder).running() as cluster:
            wrong = cluster.url("kitchen").replace("potrel:", "potrel:not", 1)
            with self.assertRaises(psycopg.OperationalError):
                psycopg.connect(wrong, connect_timeout=5)
            with psycopg.connect(cluster.url("kitchen")) as connection:
                row = connection.execute("SELECT rolsuper FROM pg_roles WHERE rolname = current_user").fetchone()
                self.assertEqual(row, (False,))
                where = connection.execute("SHOW listen_addresses").fetchone()
                self.assertEqual(where, ("127.0.0.1",))

    def test_passwords_are_for_their_owner_only(self) -> None:
        for name in ("password", "owner-password"):
            self.assertEqual(stat.S_IMODE((self.folder / name).stat().st_mode), 0o600)
        self.assertFalse((self.folder / "initdb-password").exists())

    def test_the_port_is_remembered_and_given_up_when_taken(self) -> None:
        with Cluster(self.folder).running():
            port = int((self.folder / "port").read_text())
        with Cluster(self.folder).running():
            self.assertEqual(int((self.folder / "port").read_text()), port)
        with socket.socket() as other:
            other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            other.bind(("127.0.0.1", port))
            other.listen()
            with Cluster(self.folder).running():
                self.assertNotEqual(int((self.folder / "port").read_text()), port)

    def test_a_crash_leaves_nothing_that_blocks(self) -> None:
        with Cluster(self.folder).running() as cluster:
            pid = int((self.folder / "data" / "postmaster.pid").read_text().splitlines()[0])
            subprocess.run(["kill", "-KILL", str(pid)], check=True)
            with self.assertRaises(psycopg.OperationalError):
                while True:
                    psycopg.connect(cluster.url("kitchen"), connect_timeout=2).close()
        with Cluster(self.folder).running() as cluster, psycopg.connect(cluster.url("kitchen")) as connection:
            self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))

    def test_a_cluster_made_half_way_is_made_anew(self) -> None:
        folder = self.folder.parent / "half"
        (folder / "data").mkdir(parents=True)
        (folder / "data" / "rest").write_text("left behind")
        with Cluster(folder, throw_away=True).running() as cluster:
            cluster.ensure_database("kitchen")
            cluster.ensure_database("kitchen", fresh=True)
        self.assertTrue((folder / "data" / "PG_VERSION").exists())

    def test_what_the_server_said_is_told(self) -> None:
        folder = self.folder.parent / "broken"
        with Cluster(folder, throw_away=True).running():
            pass
        conf = folder / "data" / "postgresql.conf"
        conf.write_text(conf.read_text() + "no_such_setting = 1\n")
        with self.assertRaises(ClusterError) as caught, Cluster(folder).running():
            self.fail("it started")
        self.assertIn("pg_ctl failed", str(caught.exception))


class Folders(unittest.TestCase):
    @unittest.skipUnless(os.geteuid() == 0, "only root's server runs as another user")
    def test_a_home_that_keeps_the_server_out(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            closed = Path(folder) / "potrel"
            self.assertEqual(cluster_folder(closed, False), Path("/var/lib/potrel"))
            self.assertTrue(str(cluster_folder(closed, True)).startswith("/var/lib/potrel-"))
            Path(folder).chmod(0o755)
            self.assertEqual(cluster_folder(closed, True), closed)
