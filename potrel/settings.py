"""What the environment sets: the folder of the private cluster, or the address of another database server."""

from __future__ import annotations

import os
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from potrel.core.errors import PotrelError
from potrel.core.sentences import say
from potrel.devices.scale import checked_address

_HOST = re.compile(r"[A-Za-z0-9._-]+(:[0-9]{1,5})?|\[[0-9A-Fa-f:.]+\](:[0-9]{1,5})?")


class BadSetting(PotrelError):
    """A setting of the environment that cannot be used, named with its value."""

    def __init__(self, key: str, value: str, mend: str) -> None:
        self.key = key
        super().__init__(say("bad_setting", "{key}={value}: {mend}", key=key, value=value, mend=mend))


@dataclass(frozen=True)
class Settings:
    """Where things are. `home_given` tells that the user chose the folder. The address is kept out of what prints."""

    home: Path
    home_given: bool
    database_url: str | None = field(default=None, repr=False)
    scale: str | None = None
    hosts: tuple[str, ...] = ()
    supplier_hosts: tuple[str, ...] = ()


def read_settings(environ: Mapping[str, str] = os.environ) -> Settings:
    """The settings of an environment; BadSetting names the key and what is wrong with its value."""
    home = environ.get("POTREL_HOME")
    if home is not None and not Path(home).is_absolute():
        raise BadSetting("POTREL_HOME", home or '""', "give the whole path of a folder, beginning with /")
    url = environ.get("POTREL_DATABASE_URL") or None
    if url is not None and not url.startswith(("postgresql://", "postgres://")):
        raise BadSetting("POTREL_DATABASE_URL", "(not shown)", "give an address that begins with postgresql://")
    scale = environ.get("POTREL_SCALE") or None
    if scale is not None and not checked_address(scale):
        raise BadSetting("POTREL_SCALE", scale, "give the host and port of the bench scale, such as 192.168.1.20:4001")
    return Settings(
        Path(home) if home else _default_home(environ), home is not None, url, scale, _hosts(environ, "POTREL_HOSTS"),
        _hosts(environ, "POTREL_SUPPLIER_HOSTS"),
    )  # fmt: skip


def _hosts(environ: Mapping[str, str], key: str) -> tuple[str, ...]:
    hosts = tuple(host.strip() for host in environ.get(key, "").split(",") if host.strip())
    for host in hosts:
        if not _HOST.fullmatch(host):
            raise BadSetting(key, host, "give names of hosts, with a comma between them, such as kitchen.local,till.local:8080")
    return hosts


def _default_home(environ: Mapping[str, str]) -> Path:
    data = environ.get("XDG_DATA_HOME")
    return (Path(data) if data else Path.home() / ".local" / "share") / "potrel"
