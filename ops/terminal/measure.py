"""`./reed measure`: many sounds in one process, one JSON line each."""

import argparse
import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from core.errors import CoreError, SoundError
from core.formats.json_input import NotPlain, read_json
from core.kinds.live import measure_blocks
from core.kinds.registry import kinds, measured_task, target_of
from core.reference.values import A4_HIGHEST, A4_LOWEST, CONCERT_A4
from core.sound.reading import SoundReader, open_sound

_LONG_MIN = 5


def measure_one(job: dict[str, Any], a4_hz: float = 440.0) -> dict[str, Any]:
    """One job {"wav", "task", "target"} to its line; an error is part of the line."""
    wav, task, target = job.get("wav"), job.get("task", "hold"), job.get("target")
    line: dict[str, Any] = {"wav": wav, "task": task, "target": target, "error": None}
    try:
        if not (isinstance(wav, str) and isinstance(task, str) and isinstance(target, str | None)):
            raise SoundError("job_unreadable")
        kind = measured_task(task)
        aim = target_of(kind, target)
        with open_sound(Path(str(wav))) as sound:
            blocks = _with_progress(sound, str(wav))
            found = measure_blocks(blocks, sound.rate_hz, kind, target=aim, a4_hz=a4_hz)
        return {**line, **found.as_data(), "target": target}
    except CoreError as error:
        return {**line, "error": {"code": error.code, "message": str(error)}}
    except OSError as error:
        unread = SoundError("sound_unreadable", reason=error.strerror)
        return {**line, "error": {"code": unread.code, "message": str(unread)}}


def _with_progress(sound: SoundReader, name: str) -> Iterator[np.ndarray]:
    """The blocks of a sound; of a long one standard error tells how far it is, a line a minute."""
    minutes, had, told = sound.count / sound.rate_hz / 60, 0, 0
    for block in sound.blocks():
        had += len(block)
        done = int(had / sound.rate_hz / 60)
        if minutes > _LONG_MIN and done > told:
            told = done
            print(f"{name}: {done} of {minutes:.0f} min", file=sys.stderr, flush=True)
        yield block


def _jobs_of(text: str) -> list[dict[str, Any]]:
    """The jobs of a file; NotPlain for what is no list, a job that is no object fails by itself."""
    jobs = read_json(text)
    if not isinstance(jobs, list):
        raise NotPlain("a list of jobs is needed")
    return [job if isinstance(job, dict) else {} for job in jobs]


def _concert_pitch(text: str) -> float:
    hz = float(text)
    if not A4_LOWEST.number <= hz <= A4_HIGHEST.number:
        raise argparse.ArgumentTypeError(
            f"concert pitch lies between {A4_LOWEST.number:g} and {A4_HIGHEST.number:g} Hz"
        )
    return hz


def main(arguments: list[str] | None = None) -> int:
    """Print one line an input; exit code 2 if any line carries an error."""
    parser = argparse.ArgumentParser(
        prog="./reed measure", description="Measure sounds: one JSON object a line."
    )
    parser.add_argument("wav", nargs="*", help="WAV, FLAC or OGG files")
    parser.add_argument("--task", default="hold", help=", ".join(kinds()))
    parser.add_argument("--target", help='"B♭3", "C4 D4 E4", "-30 dB + 4 dB"')
    parser.add_argument(
        "--a4", type=_concert_pitch, default=CONCERT_A4.number, help="concert pitch in Hz"
    )
    parser.add_argument("--jobs", type=Path, help='file with a list of {"wav","task","target"}')
    parser.add_argument("--json", action="store_true", help="JSON Lines (always so)")
    given = parser.parse_args(arguments)
    jobs = [{"wav": wav, "task": given.task, "target": given.target} for wav in given.wav]
    if given.jobs:
        try:
            jobs += _jobs_of(given.jobs.read_text(encoding="utf-8-sig"))
        except (OSError, UnicodeDecodeError, NotPlain) as error:
            words = getattr(error, "words", None) or getattr(error, "strerror", None)
            print(f"{given.jobs}: {words or 'this is no text'}", file=sys.stderr)
            return 2
    if not jobs:
        parser.error("name a sound file or --jobs FILE.json")
    failed = False
    for job in jobs:
        line = measure_one(job, given.a4)
        failed |= line["error"] is not None
        print(json.dumps(line, ensure_ascii=False, allow_nan=False), flush=True)
    return 2 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
