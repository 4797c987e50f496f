"""Debian packages: installs what is missing, or prints the exact command."""

import os
import shutil
import subprocess
from collections.abc import Callable, Iterable, Mapping
from ctypes.util import find_library
from pathlib import Path

from ops.phases import PhaseFailed, call, phase

SERVE = {
    "postgresql": lambda: bool(list(Path("/usr/lib/postgresql").glob("*/bin/initdb"))),
    "libpango-1.0-0": lambda: find_library("pango-1.0") is not None,
    "libpangoft2-1.0-0": lambda: find_library("pangoft2-1.0") is not None,
    "libharfbuzz-subset0": lambda: find_library("harfbuzz-subset") is not None,
    "fonts-dejavu-core": lambda: Path("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf").exists(),
}
BALANCER = {"haproxy": lambda: Path("/usr/sbin/haproxy").exists()}
BROWSER = {"chromium": lambda: shutil.which("chromium") is not None}


def install_missing(wanted: Mapping[str, Callable[[], bool]]) -> None:
    """Install the packages whose check fails; never asks questions."""
    missing = [name for name, there in wanted.items() if not there()]
    if missing:
        with phase(f"Debian packages: {', '.join(missing)}"):
            _install(missing)


def _install(packages: Iterable[str]) -> None:
    command = ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *packages]
    become = [] if os.geteuid() == 0 else ["sudo", "-n"]
    by_hand = f"Run this once, then start again:\n    sudo {' '.join(command)}"
    if shutil.which("apt-get") is None:
        raise PhaseFailed(f"This is not Debian. Install {', '.join(packages)} another way.")
    if become and not _may_sudo():
        raise PhaseFailed(f"Packages are missing and this user may not install them. {by_hand}")
    if "postgresql" in packages and not become:
        _no_default_cluster()
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    call([*become, "apt-get", "update", "-qq"], todo=by_hand, env=env)
    call([*become, *command], todo=by_hand, env=env)


def _may_sudo() -> bool:
    if shutil.which("sudo") is None:
        return False
    return subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0


def _no_default_cluster() -> None:
    """Debian would start a cluster of its own on 5432; ours is private."""
    settings = Path("/etc/postgresql-common/createcluster.conf")
    if not settings.exists():
        settings.parent.mkdir(parents=True, exist_ok=True)
        settings.write_text("create_main_cluster = false\n", encoding="utf-8")
