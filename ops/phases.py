"""Progress in words: each phase says what it does, and when it fails which, why and what to do."""

import subprocess
import sys
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
RUN = ROOT / ".run"


class PhaseFailed(Exception):
    """A phase that could not be done, with what to do about it."""


@contextmanager
def phase(name: str) -> Iterator[None]:
    """Print the phase and how long it took."""
    print(f"  {name} …", end="", file=sys.stderr, flush=True)
    began = time.monotonic()
    try:
        yield
    except BaseException:
        print(" failed", file=sys.stderr, flush=True)
        raise
    print(f" {time.monotonic() - began:.1f} s", file=sys.stderr, flush=True)


def call(
    command: list[str],
    *,
    todo: str,
    env: Mapping[str, str] | None = None,
    cwd: Path = ROOT,
    feed: str | None = None,
) -> str:
    """Run a command quietly, `feed` as its standard input; PhaseFailed with its last lines and
    `todo` if it fails."""
    try:
        done = subprocess.run(
            command, cwd=cwd, env=env, text=True, capture_output=True, check=False, input=feed
        )
    except FileNotFoundError as error:
        raise PhaseFailed(f"{command[0]} is not there. {todo}") from error
    if done.returncode:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-12:])
        raise PhaseFailed(f"{' '.join(command[:2])} ended with {done.returncode}.\n{tail}\n{todo}")
    return done.stdout
