"""The performances of the demo, measured once and shipped as a file; what is not in it is performed
anew, by the same means."""

import gzip
import json
import multiprocessing
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

from core.kinds.registry import read_figures
from core.sound import VERSION
from core.sound.figures import Figures
from lab.demo.perform_take import Take, performed

FILE = Path(__file__).parent / "takes.jsonl.gz"
_WORTH_A_POOL = 12


class Takes:
    """Figures by the key of their take.

    kernel: what measured them; anew: how many the book did not hold when they were asked for.
    """

    def __init__(self, book: dict[str, dict[str, Any]], kernel: str = VERSION) -> None:
        self._book = book
        self._used: set[str] = set()
        self.kernel = kernel
        self.anew = 0

    @classmethod
    def shipped(cls, file: Path = FILE) -> "Takes":
        """Those of the file; none where it is missing or was measured by another kernel."""
        if not file.exists():
            return cls({})
        with gzip.open(file, "rt", encoding="utf-8") as lines:
            head = json.loads(next(lines))
            book = dict(map(json.loads, lines))
        return cls(book) if head["kernel"] == VERSION else cls({})

    def perform(self, takes: Sequence[Take]) -> None:
        """Have these takes in the book; many that are missing are performed side by side."""
        missing = [take for take in takes if not self._holds(take)]
        self.anew += len(missing)
        for take, told in zip(missing, _all_performed(missing), strict=True):
            self._book[take.key] = told
        self._used |= {take.key for take in takes}

    def figures(self, takes: Sequence[Take]) -> list[Figures]:
        """What was measured in each take, in order."""
        self.perform(takes)
        return [_read(self._book[take.key]) for take in takes]

    def write(self, file: Path = FILE) -> None:
        """All that was asked for, in a fixed order and without the time of day."""
        head = {"kernel": self.kernel, "made by": "./reed takes"}
        lines = [head, *([key, self._book[key]] for key in sorted(self._used))]
        told = "\n".join(json.dumps(line, separators=(",", ":")) for line in lines)
        file.write_bytes(gzip.compress(told.encode(), mtime=0))

    def _holds(self, take: Take) -> bool:
        told = self._book.get(take.key)
        return told is not None and ("contour" in told or not take.contour)


def _all_performed(takes: Sequence[Take]) -> list[dict[str, Any]]:
    if len(takes) < _WORTH_A_POOL:
        return [_told(take) for take in takes]
    with ProcessPoolExecutor(mp_context=multiprocessing.get_context("spawn")) as pool:
        return list(pool.map(_told, takes, chunksize=4))


def _told(take: Take) -> dict[str, Any]:
    found = performed(take)
    return {**found.as_data(contour=take.contour), "room_db": found.room_db}


def _read(told: dict[str, Any]) -> Figures:
    return read_figures(told, room_db=told["room_db"])
